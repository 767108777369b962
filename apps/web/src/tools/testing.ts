import { addBrushes, boxSolid, dressSolid, emptyMap, type MapDocument, type Vec3 } from '@yesca/core';
import {
  sheetView,
  snapPoint,
  toScreen,
  toWorld,
  workingPoint,
  type SheetKind,
  type SheetView,
} from '../geometry/projection.ts';
import { hitSheet } from '../geometry/sheet-geometry.ts';
import { useEditor } from '../state/editor.ts';
import { thingsOf } from '../state/selection.ts';
import { pointerTool } from './index.ts';

import type { PanePointer } from './tool.ts';
import { useCamera } from '../state/camera.ts';
import { useCurrent } from '../state/current.ts';
import { useWork } from '../state/work.ts';
import { useCutOptions } from './cut.ts';
import { useDrawOptions } from './draw.ts';
import { usePaintOptions } from './paint.ts';
import { usePickOptions } from './pick/options.ts';
import { usePlaceOptions } from './place-options.ts';
import { useReshapeOptions } from './reshape.ts';
import { useRoomOptions } from './room.ts';

// What the tests of the tools share: a pointer over a drawing at known world places, without a browser.

export const editor = () => useEditor.getState();
export const view = (kind: SheetKind): SheetView =>
  sheetView(kind, { ...useCamera.getState(), centre: [0, 0, 0], zoom: 1 }, 2000, 2000);

export interface Keys {
  readonly shift?: boolean;
  readonly ctrl?: boolean;
  readonly alt?: boolean;
}

/** A pointer over a drawing, at a world place across and up. */
export function pointer(kind: SheetKind, h: number, v: number, keys: Keys = {}): PanePointer {
  const w = view(kind);
  const p: [number, number, number] = [0, 0, 0];
  p[w.h] = h;
  p[w.v] = v;
  const [x, y] = toScreen(w, p);
  const raw = toWorld(w, x, y, workingPoint(kind, useCamera.getState()));
  const grid = useWork.getState().snap ? editor().doc.settings.grid : null;
  return {
    pane: kind,
    raw,
    snapped: snapPoint(raw, grid),
    hits: hitSheet(editor().doc, w, raw),
    view: w,
    x,
    y,
    shift: false,
    ctrl: false,
    alt: false,
    ...keys,
  };
}

export const click = (h: number, v: number, keys?: Keys, kind: SheetKind = 'plan') => {
  pointerTool().down(pointer(kind, h, v, keys));
  pointerTool().up(pointer(kind, h, v, keys));
};
export const drag = (
  from: readonly [number, number],
  to: readonly [number, number],
  keys?: Keys,
  kind: SheetKind = 'plan',
) => {
  pointerTool().down(pointer(kind, ...from, keys));
  pointerTool().move(pointer(kind, (from[0] + to[0]) / 2, (from[1] + to[1]) / 2, keys));
  pointerTool().move(pointer(kind, ...to, keys));
  pointerTool().up(pointer(kind, ...to, keys));
};
export const crate = (id: string, at: Vec3, size = 64) =>
  dressSolid(boxSolid({ min: at, max: [at[0] + size, at[1] + size, at[2] + size] }), id, 'limewash', {
    role: 'detail',
  });
export const start = (): MapDocument => addBrushes(emptyMap('t'), [crate('a', [0, 0, 0]), crate('b', [200, 0, 0])]);
export const ids = () => thingsOf(editor().selection).map((t) => t.id);
export const loose = () => [...editor().doc.brushes.values()].filter((b) => !b.room);

/** Two crates, and the tools as they are at first. */
export function resetTools(): void {
  editor().load('map', 1, start());
  useCurrent.setState({ tool: 'pick', material: 'slate', pivot: null });
  useCamera.setState({ level: 0, cutHeight: 110, section: { at: [0, 32], looks: 90 } });
  useWork.setState(useWork.getInitialState());
  usePickOptions.setState(usePickOptions.getInitialState());
  useDrawOptions.setState(useDrawOptions.getInitialState());
  useRoomOptions.setState(useRoomOptions.getInitialState());
  useCutOptions.setState(useCutOptions.getInitialState());
  useReshapeOptions.setState(useReshapeOptions.getInitialState());
  usePaintOptions.setState(usePaintOptions.getInitialState());
  usePlaceOptions.setState(usePlaceOptions.getInitialState());
  pointerTool().cancel();
}
