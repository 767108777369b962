import { initialValues, DRAWING_OPTIONS, type DrawingOptions } from '@yesca/core';
import { create } from 'zustand';

/** How the last drawing was saved, for the next one. */
export const useDrawingOptions = create<{ readonly options: DrawingOptions }>()(() => ({
  options: initialValues(DRAWING_OPTIONS) as DrawingOptions,
}));
