import type Konva from 'konva';
import { useCallback, useMemo } from 'react';
import { Layer, Shape } from 'react-konva';
import { showSize } from '../fields/arithmetic.ts';
import { useEditor } from '../state/editor.ts';
import { asPicked, isSized } from '../state/selection.ts';
import { useShown } from '../state/shown.ts';
import { paneInUse } from '../state/last-pane.ts';
import { usePointed, useView } from '../state/view.ts';
import { transformBox } from '../geometry/own-axes.ts';
import { thingHandles } from '../tools/thing-handles.ts';
import { reshapeHandles, useReshape } from '../tools/reshape.ts';
import {
  drawCutHeight,
  drawFigure,
  drawHandles,
  drawOverlay,
  drawPivot,
  drawSectionLine,
  drawThingHandles,
  drawTrail,
} from './draw-overlay.ts';
import { drawEntities, drawRoomNames, drawSelected, drawSolids, drawWaiting } from './draw-sheet.ts';
import { useInks } from './inks.ts';
import type { SheetView } from '../geometry/projection.ts';

const raw = (context: Konva.Context): CanvasRenderingContext2D => context._context as CanvasRenderingContext2D;

/**
 * The two layers of a drawing: below what stands still, above what a gesture changes. Apart from the pane, so that a
 * gesture draws the upper one anew and nothing else.
 */
export function SheetLayers({ view }: { view: SheetView }) {
  const inks = useInks();
  const { doc, still, live } = useShown(view.kind, paneInUse);
  const selection = useEditor((s) => s.selection);
  const overlay = useEditor((s) => s.overlay);
  const trail = useEditor((s) => s.trail);
  const settled = useEditor((s) => s.draft === null);
  const tool = useView((s) => s.tool);
  const level = useView((s) => s.level);
  const cutHeight = useView((s) => s.cutHeight);
  const section = useView((s) => s.section);
  const figure = useView((s) => s.figure);
  const crouching = useView((s) => s.crouching);
  const pivot = useView((s) => s.pivot);
  const reaches = useView((s) => s.reaches);
  const pointed = usePointed((s) => s.id);
  const handles = useView((s) => s.handles);
  const chosen = useReshape((s) => s.chosen);
  const ownAxes = useView((s) => s.axes === 'own');
  const box =
    tool === 'pick' && settled && view.square
      ? transformBox(doc, asPicked(selection), ownAxes && view.kind === 'plan')
      : null;
  const own = useMemo(() => (tool === 'pick' ? thingHandles(doc, selection, view) : []), [tool, doc, selection, view]);
  const { grid, module } = doc.settings;
  const marks = useMemo(
    () => (tool === 'reshape' ? reshapeHandles(doc, selection, handles, chosen) : undefined),
    [tool, doc, selection, handles, chosen],
  );
  const drawStill = useCallback(
    (context: Konva.Context) => {
      const ctx = raw(context);
      ctx.fillStyle = inks.sheet;
      ctx.fillRect(0, 0, view.width, view.height);
      drawSolids(ctx, still, view, inks, grid);
    },
    [still, view, inks, grid],
  );
  const drawLive = (context: Konva.Context) => {
    const ctx = raw(context);
    if (live.length) drawSolids(ctx, [live], view, inks, 0);
    drawRoomNames(ctx, doc, view, inks, level);
    drawWaiting(ctx, doc, view, inks);
    drawEntities(ctx, doc, view, inks, selection, { all: reaches, pointed });
    drawSelected(ctx, doc, view, inks, selection);
    if (view.kind === 'plan') drawSectionLine(ctx, view, section, inks);
    else drawCutHeight(ctx, view, level + cutHeight, inks);
    if (figure) drawFigure(ctx, view, [view.centre[0], view.centre[1], level], crouching, inks);
    if (trail) drawTrail(ctx, view, trail, inks);
    if (own.length) drawThingHandles(ctx, view, own, inks);
    if (pivot && tool === 'pick') drawPivot(ctx, view, pivot, inks);
    if (box) drawHandles(ctx, view, box, inks, isSized(selection));
    drawOverlay(ctx, view, marks ? { ...overlay, marks } : overlay, inks, (cm) => showSize(cm, module));
  };
  return (
    <>
      <Layer listening={false}>
        <Shape sceneFunc={drawStill} />
      </Layer>
      <Layer listening={false}>
        <Shape sceneFunc={drawLive} />
      </Layer>
    </>
  );
}
