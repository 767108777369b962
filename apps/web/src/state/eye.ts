import { create } from 'zustand';
import type { Vec3 } from '@yesca/core';

/** Asks the Eye to move its camera: to look at a point, to stand somewhere, or to take up a saved view. */
export const useEyeRequest = create<{
  request: { at: Vec3; stand: boolean; turn?: number; towards?: Vec3; count: number } | null;
  look: (at: Vec3, stand?: boolean, turn?: number) => void;
  face: (at: Vec3, towards: Vec3) => void;
}>()((set, get) => {
  const count = () => (get().request?.count ?? 0) + 1;
  return {
    request: null,
    look: (at, stand = false, turn) => set({ request: { at, stand, turn, count: count() } }),
    face: (at, towards) => set({ request: { at, stand: true, towards, count: count() } }),
  };
});

/** Where the Eye's camera last was, to come back to after Play. */
export const eyeMemory: { mapId: string | null; at: Vec3; target: Vec3 } = {
  mapId: null,
  at: [0, 0, 0],
  target: [1, 0, 0],
};
