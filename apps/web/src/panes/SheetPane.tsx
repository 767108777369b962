import './pane.css';
import { useElementSize, useMergedRef } from '@mantine/hooks';
import { useMantineColorScheme } from '@mantine/core';
import type Konva from 'konva';
import { useEffect, useMemo, useRef, type PointerEvent as ReactPointerEvent } from 'react';
import { Layer, Shape, Stage } from 'react-konva';
import { pickedBounds } from '@yesca/core';
import { lastPane } from '../commands/commands.ts';
import { shownDocument, useEditor } from '../state/editor.ts';
import { asPicked } from '../state/selection.ts';
import { useView } from '../state/view.ts';
import { activeTool } from '../tools/index.ts';
import type { PanePointer } from '../tools/tool.ts';
import { drawCutLine, drawHandles, drawOverlay, drawTrail } from './draw-overlay.ts';
import { drawEntities, drawRoomNames, drawSelected, drawSolids } from './draw-sheet.ts';
import { readInks } from './inks.ts';
import { sheetView, snapPoint, snapTo, toScreen, toWorld, zoomAt, type SheetKind } from './projection.ts';
import { hitSheet } from './sheet-geometry.ts';

type Drag = { readonly kind: 'pan'; x: number; y: number } | { readonly kind: 'tool' } | { readonly kind: 'line' };

const raw = (context: Konva.Context): CanvasRenderingContext2D => context._context as CanvasRenderingContext2D;

/** Plan or Section: a drawing of the map, and the place where the drawing tools work. */
export function SheetPane({
  kind,
  onMenu,
}: {
  kind: SheetKind;
  onMenu?: (p: PanePointer, x: number, y: number) => void;
}) {
  const ref = useRef<HTMLDivElement>(null);
  const { ref: measure, width, height } = useElementSize();
  const merged = useMergedRef(ref, measure);
  const { colorScheme } = useMantineColorScheme();
  const doc = useEditor(shownDocument);
  const selection = useEditor((s) => s.selection);
  const overlay = useEditor((s) => s.overlay);
  const trail = useEditor((s) => s.trail);
  const settled = useEditor((s) => s.draft === null);
  const frame = useView();
  const drag = useRef<Drag | null>(null);
  const stage = useRef<Konva.Stage>(null);
  const view = useMemo(
    () => sheetView(kind, frame, Math.max(1, width), Math.max(1, height)),
    [kind, frame, width, height],
  );
  const inks = useMemo(() => {
    // The scheme decides which colours the variables hold.
    void colorScheme;
    return readInks(document.documentElement);
  }, [colorScheme]);
  const box = frame.tool === 'pick' && settled ? pickedBounds(doc, asPicked(selection)) : null;

  const pointerAt = (event: {
    clientX: number;
    clientY: number;
    shiftKey: boolean;
    ctrlKey: boolean;
    metaKey: boolean;
    altKey: boolean;
  }): PanePointer => {
    const bounds = ref.current!.getBoundingClientRect();
    const x = event.clientX - bounds.left;
    const y = event.clientY - bounds.top;
    const depth = kind === 'plan' ? frame.level : frame.sectionAt;
    const at = toWorld(view, x, y, depth);
    const { doc: base } = useEditor.getState();
    const grid = frame.snap ? base.settings.grid : null;
    return {
      pane: kind,
      raw: at,
      snapped: snapPoint(at, grid),
      hits: hitSheet(base, view, at),
      view,
      x,
      y,
      shift: event.shiftKey,
      ctrl: event.ctrlKey || event.metaKey,
      alt: event.altKey,
    };
  };

  const lineY = toScreen(view, kind === 'plan' ? [0, frame.sectionAt, 0] : [0, 0, frame.level + frame.cutHeight])[1];
  const onLine = (p: PanePointer) => Math.abs(p.y - lineY) < 6 && (p.x < 24 || p.x > width - 24);

  const down = (event: ReactPointerEvent) => {
    lastPane.kind = kind;
    ref.current!.focus({ preventScroll: true });
    if (event.button === 1 || (event.button === 0 && spaceHeld))
      drag.current = { kind: 'pan', x: event.clientX, y: event.clientY };
    else if (event.button === 0) {
      const p = pointerAt(event);
      if (onLine(p)) drag.current = { kind: 'line' };
      else {
        drag.current = { kind: 'tool' };
        activeTool().down(p);
      }
    } else return;
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const move = (event: ReactPointerEvent) => {
    const d = drag.current;
    if (d?.kind === 'pan') {
      const centre: [number, number, number] = [...useView.getState().centre];
      centre[view.h] -= (event.clientX - d.x) / view.zoom;
      centre[view.v] += (event.clientY - d.y) / view.zoom;
      d.x = event.clientX;
      d.y = event.clientY;
      frame.set({ centre });
      return;
    }
    const p = pointerAt(event);
    if (d?.kind === 'line') {
      const grid = frame.snap ? useEditor.getState().doc.settings.grid : 1;
      if (kind === 'plan') frame.set({ sectionAt: snapTo(p.raw[1], grid) });
      else frame.set({ cutHeight: Math.max(8, snapTo(p.raw[2] - frame.level, grid)) });
      return;
    }
    activeTool().move(p);
    ref.current!.style.cursor = onLine(p) ? 'ns-resize' : activeTool().cursor(p);
  };
  const up = (event: ReactPointerEvent) => {
    const d = drag.current;
    drag.current = null;
    if (d?.kind === 'tool') activeTool().up(pointerAt(event));
  };

  useEffect(() => {
    const element = ref.current!;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const v = sheetView(kind, useView.getState(), element.clientWidth, element.clientHeight);
      const bounds = element.getBoundingClientRect();
      useView
        .getState()
        .set(zoomAt(v, event.clientX - bounds.left, event.clientY - bounds.top, Math.exp(-event.deltaY * 0.0015)));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [kind, ref]);

  return (
    <div
      ref={merged}
      className="pane sheet-pane"
      data-pane={kind}
      tabIndex={-1}
      data-view={JSON.stringify({ centre: view.centre, zoom: view.zoom })}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onContextMenu={(event) => {
        event.preventDefault();
        onMenu?.(pointerAt(event), event.clientX, event.clientY);
      }}
    >
      <Stage ref={stage} width={width} height={height} listening={false}>
        <Layer listening={false}>
          <Shape
            sceneFunc={(context) => {
              const ctx = raw(context);
              ctx.fillStyle = inks.sheet;
              ctx.fillRect(0, 0, width, height);
              drawSolids(ctx, doc, view, inks, doc.settings.grid);
              drawRoomNames(ctx, doc, view, inks, frame.level);
              drawEntities(ctx, doc, view, inks, selection);
            }}
          />
        </Layer>
        <Layer listening={false}>
          <Shape
            sceneFunc={(context) => {
              const ctx = raw(context);
              drawSelected(ctx, doc, view, inks, selection);
              if (kind === 'plan') drawCutLine(ctx, view, frame.sectionAt, 'section', inks);
              else
                drawCutLine(
                  ctx,
                  view,
                  frame.level + frame.cutHeight,
                  `plan cut ${Math.round(frame.level + frame.cutHeight)}`,
                  inks,
                );
              if (trail) drawTrail(ctx, view, trail, inks);
              if (box) drawHandles(ctx, view, box, inks);
              drawOverlay(ctx, view, overlay, inks);
            }}
          />
        </Layer>
      </Stage>
      <span className="pane-name">
        {kind === 'plan'
          ? `Plan · cut at ${Math.round(frame.level + frame.cutHeight)}`
          : `Section · looking north at ${Math.round(frame.sectionAt)}`}
      </span>
    </div>
  );
}

/** Space held: the left button pans. */
let spaceHeld = false;
window.addEventListener('keydown', (e) => (spaceHeld = e.code === 'Space' ? true : spaceHeld));
window.addEventListener('keyup', (e) => (spaceHeld = e.code === 'Space' ? false : spaceHeld));
