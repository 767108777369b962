import type Konva from 'konva';
import { useCallback, useMemo } from 'react';
import { Layer, Shape } from 'react-konva';
import type { Entity, MapDocument } from '@yesca/core';
import { showSize } from '../fields/arithmetic.ts';
import { useEditor } from '../state/editor.ts';
import { NOTHING } from '../state/selection.ts';
import { useShown } from '../state/shown.ts';
import { paneInUse } from '../state/last-pane.ts';
import { drawCutHeight, drawFigure, drawOverlay, drawSectionLine, drawTrail } from './draw-overlay.ts';
import { propsOf } from '../state/prop-solids.ts';
import {
  drawEntities,
  drawProps,
  drawRoomNames,
  drawSelected,
  drawSolids,
  drawWaiting,
  drawWires,
} from './draw-sheet.ts';
import { drawCells } from './draw-cells.ts';
import { useInks } from './inks.ts';
import { useToolOverlay } from './tool-overlay.ts';
import type { SheetView } from '../geometry/projection.ts';
import { useCamera } from '../state/camera.ts';
import { useDisplay } from '../state/display.ts';
import { usePointed } from '../state/pointed.ts';
import { useSight, useSightOptions, whyLine } from '../state/sight.ts';

const thingsIn = ({ entities }: MapDocument, ids: readonly string[]): Entity[] =>
  ids.flatMap((id) => entities.get(id) ?? []);

const raw = (context: Konva.Context): CanvasRenderingContext2D => context._context as CanvasRenderingContext2D;

/**
 * The layers of a drawing: below what stands still, solids and then things, above what a gesture changes or is picked. Apart from
 * the pane, so that a gesture draws the upper one anew and nothing else.
 */
export function SheetLayers({ view }: { view: SheetView }) {
  const inks = useInks();
  const { doc, still, live, propsStill, propsLive, thingsStill, thingsLive } = useShown(view.kind, paneInUse);
  const selection = useEditor((s) => s.selection);
  const { lines, marks } = useToolOverlay(doc, view);
  const guides = useEditor((s) => s.overlay.guides);
  const sizes = useEditor((s) => s.overlay.sizes);
  const trail = useEditor((s) => s.trail);
  const level = useCamera((s) => s.level);
  const cutHeight = useCamera((s) => s.cutHeight);
  const section = useCamera((s) => s.section);
  const figure = useDisplay((s) => s.figure);
  const crouching = useDisplay((s) => s.crouching);
  const reaches = useDisplay((s) => s.reaches);
  const pointed = usePointed((s) => s.id);
  const sight = useSight();
  const measure = useSightOptions((s) => s.measure);
  const { grid, module } = doc.settings;
  const drawStill = useCallback(
    (context: Konva.Context) => {
      const ctx = raw(context);
      ctx.fillStyle = inks.sheet;
      ctx.fillRect(0, 0, view.width, view.height);
      drawSolids(ctx, still, view, inks, grid);
      drawProps(ctx, propsStill, view, inks);
    },
    [still, propsStill, view, inks, grid],
  );
  const { entities: picked } = selection;
  // Apart from the solids: what is picked changes more often than they do.
  const rest = useMemo(() => thingsStill.filter((e) => !picked.has(e.id)), [thingsStill, picked]);
  const base = useEditor((s) => s.doc);
  const drawThings = useCallback(
    (context: Konva.Context) => {
      if (!sight.shown) drawEntities(raw(context), base, rest, view, inks, NOTHING, { all: reaches, pointed: null });
    },
    [sight.shown, base, rest, view, inks, reaches],
  );
  const drawLive = (context: Konva.Context) => {
    const ctx = raw(context);
    if (live.length) drawSolids(ctx, [live], view, inks, 0);
    drawProps(ctx, propsLive, view, inks);
    // Where cells are shown, things and tools would hide them.
    if (sight.shown) {
      drawCells(ctx, view, sight, measure, whyLine(sight), inks);
      if (trail) drawTrail(ctx, view, trail, inks);
      return;
    }
    drawRoomNames(ctx, doc, view, inks, level);
    drawWaiting(ctx, doc, view, inks);
    drawProps(ctx, propsOf(doc, selection.entities), view, inks, true);
    drawWires(ctx, doc, view, inks, selection);
    const above = [...thingsLive, ...thingsIn(doc, [...picked, ...(pointed === null ? [] : [pointed])])];
    drawEntities(ctx, doc, [...new Set(above)], view, inks, selection, { all: reaches, pointed });
    drawSelected(ctx, doc, view, inks, selection);
    if (view.kind === 'plan') drawSectionLine(ctx, view, section, inks);
    else drawCutHeight(ctx, view, level + cutHeight, inks);
    if (figure) drawFigure(ctx, view, [view.centre[0], view.centre[1], level], crouching, inks);
    if (trail) drawTrail(ctx, view, trail, inks);
    drawOverlay(ctx, view, { lines, marks, guides, sizes }, inks, (cm) => showSize(cm, module));
  };
  return (
    <>
      <Layer listening={false}>
        <Shape sceneFunc={drawStill} />
      </Layer>
      <Layer listening={false}>
        <Shape sceneFunc={drawThings} />
      </Layer>
      <Layer listening={false}>
        <Shape sceneFunc={drawLive} />
      </Layer>
    </>
  );
}
