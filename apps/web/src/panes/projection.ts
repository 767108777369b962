import type { Vec3 } from '@yesca/core';

export type SheetKind = 'plan' | 'section';

/** How a drawing looks at the map: which axes run across, up and away, and how they lie on screen. */
export interface SheetView {
  readonly kind: SheetKind;
  /** Axis drawn to the right, axis drawn upward, axis looked along. */
  readonly h: 0 | 1 | 2;
  readonly v: 0 | 1 | 2;
  readonly d: 0 | 1 | 2;
  /** Faces are seen when their normal along `d` has this sign; what is beyond lies on the other side of the cut. */
  readonly facing: 1 | -1;
  /** Where the drawing cuts, along `d`. */
  readonly cut: number;
  readonly centre: Vec3;
  readonly zoom: number;
  readonly width: number;
  readonly height: number;
}

export interface SheetFrame {
  readonly centre: Vec3;
  readonly zoom: number;
  readonly cutHeight: number;
  readonly level: number;
  readonly sectionAt: number;
}

/** A cut through the very face of a brush shows nothing clear; half a centimetre beside it does. */
const BESIDE = 0.5;

export const sheetView = (kind: SheetKind, f: SheetFrame, width: number, height: number): SheetView =>
  kind === 'plan'
    ? {
        kind,
        h: 0,
        v: 1,
        d: 2,
        facing: 1,
        cut: f.level + f.cutHeight + BESIDE,
        centre: f.centre,
        zoom: f.zoom,
        width,
        height,
      }
    : { kind, h: 0, v: 2, d: 1, facing: -1, cut: f.sectionAt + BESIDE, centre: f.centre, zoom: f.zoom, width, height };

export const toScreen = (view: SheetView, p: Vec3): [number, number] => [
  view.width / 2 + (p[view.h] - view.centre[view.h]) * view.zoom,
  view.height / 2 - (p[view.v] - view.centre[view.v]) * view.zoom,
];

/** The world point under a pixel, at a depth along the view. */
export function toWorld(view: SheetView, x: number, y: number, depth: number): Vec3 {
  const out: [number, number, number] = [0, 0, 0];
  out[view.h] = view.centre[view.h] + (x - view.width / 2) / view.zoom;
  out[view.v] = view.centre[view.v] - (y - view.height / 2) / view.zoom;
  out[view.d] = depth;
  return out;
}

export const snapTo = (x: number, grid: number): number => Math.round(x / grid) * grid;
export const snapPoint = (p: Vec3, grid: number | null): Vec3 =>
  grid === null ? p : [snapTo(p[0], grid), snapTo(p[1], grid), snapTo(p[2], grid)];

/** How far in front of (negative) or beyond (positive) the cut a depth lies. */
export const beyond = (view: SheetView, depth: number): number => (view.cut - depth) * view.facing;

/** The frame zoomed by a factor with the point under a pixel staying where it is. */
export function zoomAt(
  view: SheetView,
  x: number,
  y: number,
  factor: number,
): { zoom: number; centre: [number, number, number] } {
  const zoom = Math.max(0.02, Math.min(16, view.zoom * factor));
  const before = toWorld(view, x, y, 0);
  const after = toWorld({ ...view, zoom }, x, y, 0);
  const centre: [number, number, number] = [...view.centre];
  centre[view.h] += before[view.h] - after[view.h];
  centre[view.v] += before[view.v] - after[view.v];
  return { zoom, centre };
}
