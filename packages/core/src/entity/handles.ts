import { add, bearing, cross, dot, length, normalize, scale, sub, wrapDegrees, type Vec3 } from '../math/index.ts';
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
  /** Whether a line joins it to the thing. */
  readonly line: boolean;
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
  return length(level) > 1e-3 ? normalize(level) : [1, 0, 0];
}
