import type { MapSummary } from '@yesca/contract';
import { materialCounts, pictureCounts, type MapDocument } from '@yesca/core';

/** What is kept of a map beside it: for its card, and for who asks what it uses. */
export const summaryOf = (doc: MapDocument): MapSummary => ({
  brushes: doc.brushes.size,
  entities: doc.entities.size,
  materials: Object.fromEntries(materialCounts(doc)),
  pictures: Object.fromEntries(pictureCounts(doc)),
});
