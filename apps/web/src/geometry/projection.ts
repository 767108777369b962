import {
  acrossOf,
  dominantAxis,
  dot,
  planView,
  sectionView,
  upOf,
  type DrawingView,
  type SectionLine,
  type Vec3,
} from '@yesca/core';

export type SheetKind = 'plan' | 'section';
type Axis = 0 | 1 | 2;

/** How a drawing looks at the map: which way runs across, up and away, and how they lie on screen. */
export interface SheetView extends DrawingView {
  readonly kind: SheetKind;
  /** The axes nearest to those directions. */
  readonly h: Axis;
  readonly v: Axis;
  readonly d: Axis;
  /** Whether those directions are axes: only then can boxes be drawn and resized by their sides. */
  readonly square: boolean;
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

export function sheetView(kind: SheetKind, f: SheetFrame, width: number, height: number): SheetView {
  const { centre, zoom } = f;
  const looks = kind === 'plan' ? planView(f.level + f.cutHeight) : sectionView(f.section);
  const { right, up, away } = looks;
  return {
    ...looks,
    kind,
    h: dominantAxis(right),
    v: dominantAxis(up),
    d: dominantAxis(away),
    square: [right, up, away].every((d) => d.filter((c) => c !== 0).length === 1),
    centre,
    zoom,
    width,
    height,
  };
}

/** A point of the plane that the drawing tools work on: the active level, or the section line. */
export const workingPoint = (kind: SheetKind, f: Pick<SheetFrame, 'level' | 'section'>): Vec3 =>
  kind === 'plan' ? [0, 0, f.level] : [f.section.at[0], f.section.at[1], 0];

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
