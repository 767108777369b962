import { cosSin, dominantAxis, dot, type Box, type SectionLine, type Vec3 } from '@yesca/core';

export type SheetKind = 'plan' | 'section';
type Axis = 0 | 1 | 2;

/** How a drawing looks at the map: which way runs across, up and away, and how they lie on screen. */
export interface SheetView {
  readonly kind: SheetKind;
  /** Unit directions: to the right on screen, up on screen, and away from the viewer. */
  readonly right: Vec3;
  readonly up: Vec3;
  readonly away: Vec3;
  /** The axes nearest to those directions. */
  readonly h: Axis;
  readonly v: Axis;
  readonly d: Axis;
  /** Whether those directions are axes: only then can boxes be drawn and resized by their sides. */
  readonly square: boolean;
  /** Where the drawing cuts, along `away`. */
  readonly cut: number;
  /** How far beyond the cut is drawn, cm. */
  readonly reach: number;
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
  readonly section: SectionLine;
}

/** A cut through the very face of a brush shows nothing clear; half a centimetre beside it does. */
const BESIDE = 0.5;

export function sheetView(kind: SheetKind, f: SheetFrame, width: number, height: number): SheetView {
  const { centre, zoom } = f;
  if (kind === 'plan')
    return {
      kind,
      right: [1, 0, 0],
      up: [0, 1, 0],
      away: [0, 0, -1],
      h: 0,
      v: 1,
      d: 2,
      square: true,
      cut: -(f.level + f.cutHeight + BESIDE),
      reach: Infinity,
      centre,
      zoom,
      width,
      height,
    };
  const [x, y] = cosSin(f.section.looks);
  const away: Vec3 = [x, y, 0];
  const right: Vec3 = [y, -x, 0];
  return {
    kind,
    right,
    up: [0, 0, 1],
    away,
    h: dominantAxis(right),
    v: 2,
    d: dominantAxis(away),
    square: x === 0 || y === 0,
    cut: x * f.section.at[0] + y * f.section.at[1] + BESIDE,
    reach: f.section.depth ?? Infinity,
    centre,
    zoom,
    width,
    height,
  };
}

/** A point of the plane that the drawing tools work on: the active level, or the section line. */
export const workingPoint = (kind: SheetKind, f: Pick<SheetFrame, 'level' | 'section'>): Vec3 =>
  kind === 'plan' ? [0, 0, f.level] : [f.section.at[0], f.section.at[1], 0];

/** Cm to the right and up on the drawing. */
export const acrossOf = (view: SheetView, p: Vec3): number => dot(p, view.right);
export const upOf = (view: SheetView, p: Vec3): number => dot(p, view.up);

export const toScreen = (view: SheetView, p: Vec3): [number, number] => [
  view.width / 2 + (acrossOf(view, p) - acrossOf(view, view.centre)) * view.zoom,
  view.height / 2 - (upOf(view, p) - upOf(view, view.centre)) * view.zoom,
];

/** The world point under a pixel, in the plane of the drawing that goes through a point. */
export function toWorld(view: SheetView, x: number, y: number, through: Vec3): Vec3 {
  const a = acrossOf(view, view.centre) + (x - view.width / 2) / view.zoom;
  const b = upOf(view, view.centre) - (y - view.height / 2) / view.zoom;
  const c = dot(through, view.away);
  const at = (i: Axis) => view.right[i] * a + view.up[i] * b + view.away[i] * c + 0;
  return [at(0), at(1), at(2)];
}

export const snapTo = (x: number, grid: number): number => Math.round(x / grid) * grid;
export const snapPoint = (p: Vec3, grid: number | null): Vec3 =>
  grid === null ? p : [snapTo(p[0], grid), snapTo(p[1], grid), snapTo(p[2], grid)];

/** How far beyond the cut (positive) or before it (negative) a point lies, cm. */
export const beyond = (view: SheetView, p: Vec3): number => dot(p, view.away) - view.cut;

/** From where to where a box reaches along a direction. */
export function spanAlong({ min, max }: Box, d: Vec3): [number, number] {
  let low = 0;
  let high = 0;
  for (let i = 0; i < 3; i++) {
    const a = min[i]! * d[i]!;
    const b = max[i]! * d[i]!;
    low += a < b ? a : b;
    high += a < b ? b : a;
  }
  return [low, high];
}

/** The centre of the Sheet moved so that what was at one pixel comes to another. */
export function slid(view: SheetView, dx: number, dy: number): Vec3 {
  const at = (i: Axis) => view.centre[i] - (view.right[i] * dx) / view.zoom + (view.up[i] * dy) / view.zoom;
  return [at(0), at(1), at(2)];
}

/** The frame zoomed by a factor with the point under a pixel staying where it is. */
export function zoomAt(view: SheetView, x: number, y: number, factor: number): { zoom: number; centre: Vec3 } {
  const zoom = Math.max(0.02, Math.min(16, view.zoom * factor));
  const before = toWorld(view, x, y, view.centre);
  const after = toWorld({ ...view, zoom }, x, y, view.centre);
  const at = (i: Axis) => view.centre[i] + before[i] - after[i];
  return { zoom, centre: [at(0), at(1), at(2)] };
}
