export { Labels, placesAround, spreadDown } from './labels.ts';
export { isDrawnAsIs, symbolBounds, symbolOf, thingNumbers, type SymbolBounds } from './things.ts';
export {
  batchFor,
  cutOutline,
  drawnBrush,
  drawnBrushes,
  pathOf,
  propOutline,
  sheetContents,
  silhouette,
  type DrawnBrush,
  type DrawnOutline,
  type FaceBatch,
  type PropOutline,
  type SheetContents,
} from './solids.ts';
export { acrossOf, beyond, planView, sectionView, spanAlong, upOf, type DrawingView } from './view.ts';
export { roomNames, waitingOutlines } from './words.ts';
export { DRAWING_OPTIONS, drawingSvg, type Drawing, type DrawingOptions } from './drawing-svg.ts';
export { looksTo, type DrawingOf } from './svg-frame.ts';
