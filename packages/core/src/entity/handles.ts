import {
  add,
  applyAffine,
  arcTangent2,
  bearing,
  cosSinOf,
  cross,
  dot,
  hypot,
  length,
  normalize,
  rotationAbout,
  scale,
  sub,
  translation,
  type Vec3,
  wrapDegrees,
} from '../math/index.ts';
import type { ParamValue } from '../params/index.ts';
import type { Pose } from './motion.ts';
import { facing } from './strokes.ts';

/** What moving a handle changes. */
export interface ThingChange {
  readonly turn?: number;
  readonly params?: Readonly<Record<string, ParamValue>>;
}

/** What a handle measures: written beside it and typed while it is dragged. */
export interface Measure {
  readonly unit: 'cm' | '°';
  readonly now: number;
  /**
   * What typed numbers change: one is how far the way goes that is dragged (`to`, from the thing, cm), three are the way itself. Null: they
   * say nothing here.
   */
  readonly typed: (numbers: readonly number[], to: Vec3) => ThingChange | null;
  /** The part that goes along, where it is by then, and where it goes on to. Absent: nothing moves. */
  readonly carries?: Carried;
}

/** How a part of a thing moves with a handle. */
export interface Carried {
  readonly part: number;
  /** By an amount of the measure's unit. */
  readonly pose: (amount: number) => Pose;
  /** The straight way it goes, a unit vector. Absent: it turns. */
  readonly along?: Vec3;
  /** Walls may hide it: sliding into them is no mistake. */
  readonly hides?: true;
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
  readonly measure?: Measure;
}

/** Turns what stands upright: a point in front of it, `reach` cm away. */
export const facingHandle = (turn: number, reach: number): Handle => ({
  id: 'facing',
  label: 'Turn',
  at: scale(facing(turn), reach),
  line: true,
  level: true,
  moved: ([x, y]) => (hypot(x, y) < 1e-6 ? {} : { turn: wrapDegrees(Math.round(bearing(x, y) * 1000) / 1000) }),
  measure: {
    unit: '°',
    now: turn,
    typed: ([degrees]) => (degrees === undefined ? null : { turn: wrapDegrees(degrees) }),
  },
});

/** A place or way without what sums add, to a hundredth of a millimetre. */
export const rounded = (p: Vec3): Vec3 => p.map((c) => Math.round(c * 1000) / 1000 + 0) as unknown as Vec3;

/** The way that typed numbers mean: as far as one says where another one points, or as three say. */
function typedWay(numbers: readonly number[], towards: Vec3, before: Vec3): Vec3 | null {
  if (numbers.length === 3) return [numbers[0]!, numbers[1]!, numbers[2]!];
  const along = length(towards) < 1 ? before : towards;
  return numbers.length !== 1 || length(along) < 1e-6 ? null : rounded(scale(normalize(along), numbers[0]!));
}

/** Drags the tip of a way that is a parameter. */
export const wayHandle = (key: string, label: string, tip: Vec3): Handle => ({
  id: key,
  label,
  at: tip,
  line: true,
  onGrid: true,
  moved: (to) => (length(to) < 1 ? {} : { params: { [key]: rounded(to) } }),
  measure: {
    unit: 'cm',
    now: length(tip),
    typed: (numbers, to) => {
      const way = typedWay(numbers, to, tip);
      return way && { params: { [key]: way } };
    },
  },
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
  const [c, s] = cosSinOf(half);
  return {
    id: key,
    label,
    at: add(scale(axis, c * reach), scale(side, s * reach)),
    line: false,
    moved: (to) => {
      const along = dot(to, axis);
      const off = length(sub(to, scale(axis, along)));
      if (off + Math.abs(along) < 1e-6) return {};
      const angle = (arcTangent2(off, along) * 360) / Math.PI;
      return { params: { [key]: Math.min(range.max, Math.max(range.min, Math.round(angle * 10) / 10)) } };
    },
    measure: { unit: '°', now: full, typed: ([angle]) => (angle === undefined ? null : { params: { [key]: angle } }) },
  };
}

/** A unit vector across an axis, level where that can be. */
export function sideOf(axis: Vec3): Vec3 {
  const level = cross(axis, [0, 0, 1]);
  return normalize(length(level) > 1e-3 ? level : cross(axis, [0, 1, 0]));
}

/** Drags the tip of a way that begins at a point of a thing: the travel of a part from its middle. */
export function partHandle({
  from,
  way,
  change,
  start,
  part,
  hides,
  ...named
}: {
  readonly id: string;
  readonly label: string;
  readonly from: Vec3;
  readonly way: Vec3;
  readonly change: (way: Vec3) => ThingChange;
  /** Which part goes that way. Absent: none, a place is meant. */
  readonly part?: number;
  /** Where the part comes from, as a way too. Absent: from where it was drawn. */
  readonly start?: Vec3;
  /** Walls may hide it. */
  readonly hides?: true;
}): Handle {
  const before = start ?? [0, 0, 0];
  const goes = sub(way, before);
  const along = length(goes) < 1e-6 ? null : normalize(goes);
  return {
    ...named,
    at: add(from, way),
    line: true,
    from,
    onGrid: true,
    moved: (to) => change(rounded(sub(to, from))),
    measure: {
      unit: 'cm',
      now: length(goes),
      typed: (numbers, to) => {
        const typed = typedWay(numbers, sub(sub(to, from), before), goes);
        return typed && change(numbers.length === 3 ? typed : rounded(add(before, typed)));
      },
      ...(part === undefined || !along
        ? {}
        : {
            carries: {
              part,
              along,
              ...(hides ? { hides } : {}),
              pose: (amount) => translation(add(before, scale(along, amount))),
            },
          }),
    },
  };
}

/** Drags a point round a line: by how many degrees it is turned from where it was drawn. */
export function turnHandle({
  id,
  label,
  origin,
  hinge,
  axis,
  from,
  degrees,
  part,
  change,
}: {
  readonly id: string;
  readonly label: string;
  /** Where the thing is, in the world; the points below are from it. */
  readonly origin: Vec3;
  readonly hinge: Vec3;
  readonly axis: Vec3;
  /** A point of what is turned, where it was drawn. */
  readonly from: Vec3;
  readonly degrees: number;
  readonly part: number;
  readonly change: (degrees: number) => ThingChange;
}): Handle {
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
      const angle = (arcTangent2(dot(cross(a, b), n), dot(a, b)) * 180) / Math.PI;
      return change(Math.max(-180, Math.min(180, Math.round(angle * 10) / 10)));
    },
    measure: {
      unit: '°',
      now: degrees,
      typed: ([angle]) => (angle === undefined ? null : change(angle)),
      carries: { part, pose: (amount) => rotationAbout(n, amount, add(origin, hinge)) },
    },
  };
}
