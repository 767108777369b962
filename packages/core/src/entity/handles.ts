import {
  add,
  applyAffine,
  bearing,
  cross,
  dot,
  length,
  normalize,
  rotationAbout,
  scale,
  sub,
  wrapDegrees,
  type Vec3,
} from '../math/index.ts';
import type { ParamValue } from '../params/index.ts';
import { facing } from './strokes.ts';

/** What moving a handle changes. */
export interface ThingChange {
  readonly turn?: number;
  readonly params?: Readonly<Record<string, ParamValue>>;
}

/** A point of a thing that can be dragged; each stands for something of it. */
export interface Handle {
  readonly id: string;
  readonly label: string;
  /** Where it is from the thing, cm. */
  readonly at: Vec3;
  /** Whether a line joins it to the thing, or to `from`. */
  readonly line: boolean;
  /** Where its line begins, from the thing, cm. Absent: at the thing. */
  readonly from?: Vec3;
  /** Dragged over the ground, as what only turns. Absent: in the plane that faces who drags it. */
  readonly level?: true;
  /** Its place is put on the grid. */
  readonly onGrid?: true;
  /** What dragging it there (from the thing, cm) changes. */
  readonly moved: (to: Vec3) => ThingChange;
}

/** Turns what stands upright: a point in front of it, `reach` cm away. */
export const facingHandle = (turn: number, reach: number): Handle => ({
  id: 'facing',
  label: 'Turn',
  at: scale(facing(turn), reach),
  line: true,
  level: true,
  moved: ([x, y]) => (Math.hypot(x, y) < 1e-6 ? {} : { turn: wrapDegrees(Math.round(bearing(x, y) * 1000) / 1000) }),
});

/** Drags the tip of a way that is a parameter. */
export const wayHandle = (key: string, label: string, tip: Vec3): Handle => ({
  id: key,
  label,
  at: tip,
  line: true,
  onGrid: true,
  moved: (to) =>
    length(to) < 1 ? {} : { params: { [key]: to.map((c) => Math.round(c * 1000) / 1000 + 0) as unknown as Vec3 } },
});

/** Opens and closes a cone about a way: a point on its rim, beside the tip. `full` is the whole angle in degrees. */
export function coneHandle(
  key: string,
  label: string,
  tip: Vec3,
  full: number,
  range: { readonly min: number; readonly max: number },
): Handle {
  const axis = normalize(tip);
  const reach = length(tip);
  // Beyond a right angle the rim would lie behind the lamp: it is then shown where the angle is, on a sphere.
  const half = (full * Math.PI) / 360;
  const side = sideOf(axis);
  return {
    id: key,
    label,
    at: add(scale(axis, Math.cos(half) * reach), scale(side, Math.sin(half) * reach)),
    line: false,
    moved: (to) => {
      const along = dot(to, axis);
      const off = length(sub(to, scale(axis, along)));
      if (off + Math.abs(along) < 1e-6) return {};
      const angle = (Math.atan2(off, along) * 360) / Math.PI;
      return { params: { [key]: Math.min(range.max, Math.max(range.min, Math.round(angle * 10) / 10)) } };
    },
  };
}

/** A unit vector across an axis, level where that can be. */
export function sideOf(axis: Vec3): Vec3 {
  const level = cross(axis, [0, 0, 1]);
  return normalize(length(level) > 1e-3 ? level : cross(axis, [0, 1, 0]));
}

/** Drags the tip of a way that begins at a point of a thing: the travel of a part from its middle. */
export const partHandle = (
  id: string,
  label: string,
  from: Vec3,
  way: Vec3,
  change: (way: Vec3) => ThingChange,
): Handle => ({
  id,
  label,
  at: add(from, way),
  line: true,
  from,
  onGrid: true,
  moved: (to) => change(sub(to, from).map((c) => Math.round(c * 1000) / 1000 + 0) as unknown as Vec3),
});

/** Drags a point round a line: by how many degrees it is turned from where it was drawn. */
export function turnHandle(
  id: string,
  label: string,
  hinge: Vec3,
  axis: Vec3,
  from: Vec3,
  degrees: number,
  change: (degrees: number) => ThingChange,
): Handle {
  const n = normalize(length(axis) > 1e-9 ? axis : [0, 0, 1]);
  const flat = (p: Vec3): Vec3 => {
    const d = sub(p, hinge);
    return sub(d, scale(n, dot(d, n)));
  };
  // A part whose middle lies on its hinge is turned by a point beside it.
  const arm = length(flat(from)) > 1 ? from : add(hinge, scale(sideOf(n), 40));
  return {
    id,
    label,
    at: applyAffine(rotationAbout(n, degrees, hinge), arm),
    line: false,
    moved: (to) => {
      const [a, b] = [flat(arm), flat(to)];
      if (length(b) < 1e-3) return {};
      const angle = (Math.atan2(dot(cross(a, b), n), dot(a, b)) * 180) / Math.PI;
      return change(Math.max(-180, Math.min(180, Math.round(angle * 10) / 10)));
    },
  };
}
