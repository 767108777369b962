import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Vec3 } from '@yesca/core';

export type ToolName = 'pick' | 'draw' | 'room' | 'paint' | 'place';
export type Shape = 'box' | 'wedge' | 'prism';
export type PaneName = 'plan' | 'section' | 'eye';

/** How the map is looked at and what the tools are set to. Kept in this browser. */
export interface ViewState {
  readonly tool: ToolName;
  readonly snap: boolean;
  /** Centre of the Sheet, cm; Plan and Section share x. */
  readonly centre: Vec3;
  /** Pixels a cm, shared by Plan and Section. */
  readonly zoom: number;
  /** Height of the plan's cut and of the level new things stand on. */
  readonly cutHeight: number;
  readonly level: number;
  /** Where the section line lies (y). */
  readonly sectionAt: number;
  readonly eyeMode: 'clay' | 'textured';
  /** Which pane fills the centre; null shows all three. */
  readonly full: PaneName | null;
  readonly drawer: 'register' | 'stock' | null;
  readonly particulars: boolean;
  readonly shape: Shape;
  readonly sides: number;
  readonly rises: 'east' | 'north' | 'west' | 'south';
  readonly height: number;
  readonly roomHeight: number;
  readonly wall: number;
  readonly open: boolean;
  readonly material: string;
  readonly paintWhole: boolean;
  readonly entityKind: string;
  readonly carry: boolean;
  set: (change: Partial<Omit<ViewState, 'set'>>) => void;
}

export const useView = create<ViewState>()(
  persist(
    (set) => ({
      tool: 'pick',
      snap: true,
      centre: [0, 0, 130],
      zoom: 0.5,
      cutHeight: 110,
      level: 0,
      sectionAt: 0,
      eyeMode: 'textured',
      full: null,
      drawer: 'register',
      particulars: true,
      shape: 'box',
      sides: 8,
      rises: 'north',
      height: 128,
      roomHeight: 272,
      wall: 16,
      open: false,
      material: 'limewash',
      paintWhole: false,
      entityKind: 'spawn',
      carry: true,
      set: (change) => set(change),
    }),
    {
      name: 'yesca-view',
      partialize: ({ snap, eyeMode, drawer, particulars, roomHeight, wall, material, carry }) => ({
        snap,
        eyeMode,
        drawer,
        particulars,
        roomHeight,
        wall,
        material,
        carry,
      }),
    },
  ),
);

/** Asks the Eye to move its camera: to look at a point, or to stand somewhere. */
export const useEyeRequest = create<{
  request: { at: Vec3; stand: boolean; turn?: number; count: number } | null;
  look: (at: Vec3, stand?: boolean, turn?: number) => void;
}>()((set, get) => ({
  request: null,
  look: (at, stand = false, turn) => set({ request: { at, stand, turn, count: (get().request?.count ?? 0) + 1 } }),
}));

/** Where the Eye's camera last was, to come back to after Play. */
export const eyeMemory: { mapId: string | null; at: Vec3; target: Vec3 } = {
  mapId: null,
  at: [0, 0, 0],
  target: [1, 0, 0],
};
