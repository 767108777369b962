import { shapeParams, type ShapeKind, type ShapeValue } from '@yesca/core';
import { keptStore } from './kept.ts';

/** What each shape was last set to. */
export const useShapes = keptStore<Readonly<Partial<Record<ShapeKind, Readonly<Record<string, ShapeValue>>>>>>(
  'shapes',
  {},
  [],
);
export const shapeNow = (shape: ShapeKind): Record<string, ShapeValue> =>
  shapeParams(shape, useShapes.getState()[shape] ?? {});
