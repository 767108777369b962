import { create } from 'zustand';
import type { SectionLine, Vec3 } from '@yesca/core';

/** What the drawings look at. */
export interface Camera {
  /** Centre of the Sheet, cm; Plan and Section share x. */
  readonly centre: Vec3;
  /** Pixels a cm, shared by Plan and Section. */
  readonly zoom: number;
  /** Height of the plan's cut above the level new things stand on. */
  readonly cutHeight: number;
  readonly level: number;
  /** Where the Section cuts and which way it looks. */
  readonly section: SectionLine;
}

export const useCamera = create<Camera>()(() => ({
  centre: [0, 0, 130],
  zoom: 0.5,
  cutHeight: 110,
  level: 0,
  section: { at: [0, 0], looks: 90 },
}));
