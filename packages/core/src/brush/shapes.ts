import {
  convexParts,
  crossesItself,
  outlineArea,
  straightened,
  type Box,
  type Point2,
  type Vec3,
} from '../math/index.ts';
import { archSolids } from './arch.ts';
import { BrushError } from './errors.ts';
import { boxSolid, extrude, prismSolid, wedgeSolid, type Heading } from './primitives.ts';
import { coneSolid, domeSolid, pipeSolids, spikeSolid, vaultSolids } from './round.ts';
import { stairSolids, turningStairSolids } from './stair.ts';
import type { Solid } from './types.ts';

export const SHAPE_KINDS = [
  'box', 'wedge', 'prism', 'cylinder', 'cone', 'dome', 'arch', 'pipe', 'spike', 'stair', 'turningStair', 'polygon',
] as const; // prettier-ignore
export type ShapeKind = (typeof SHAPE_KINDS)[number];

export type ShapeValue = number | string | boolean;

/** One number, choice or switch of a shape, as an interface asks for it. Lengths in cm, angles in degrees. */
export type ShapeParam =
  | { readonly key: string; readonly label: string; readonly tip: string; readonly type: 'length' | 'count' | 'angle' | 'part'; readonly initial: number; readonly min: number; readonly max: number }
  | { readonly key: string; readonly label: string; readonly tip: string; readonly type: 'choice'; readonly initial: string; readonly choices: readonly string[] }
  | { readonly key: string; readonly label: string; readonly tip: string; readonly type: 'switch'; readonly initial: boolean }; // prettier-ignore

export interface ShapeSpec {
  readonly kind: ShapeKind;
  readonly label: string;
  readonly params: readonly ShapeParam[];
}

const sides = (initial: number, min = 3): ShapeParam => ({ key: 'sides', label: 'Sides', tip: 'How many flat sides go round', type: 'count', initial, min, max: 64 }); // prettier-ignore
const heading = (label: string, tip: string): ShapeParam => ({ key: 'rises', label, tip, type: 'choice', initial: 'north', choices: ['north', 'east', 'south', 'west'] }); // prettier-ignore
const axis: ShapeParam = { key: 'axis', label: 'Axis', tip: 'The direction it stands or lies along', type: 'choice', initial: 'up', choices: ['up', 'east', 'north'] }; // prettier-ignore
const thickness = (initial: number, tip: string, min = 0.5): ShapeParam => ({ key: 'thickness', label: 'Thickness', tip, type: 'length', initial, min, max: 4096 }); // prettier-ignore
const steps: ShapeParam = { key: 'steps', label: 'Steps', tip: 'How many steps', type: 'count', initial: 8, min: 1, max: 200 }; // prettier-ignore
const solid: ShapeParam = { key: 'solid', label: 'Solid', tip: 'Solid underneath, or treads alone', type: 'switch', initial: true }; // prettier-ignore
const tread: ShapeParam = { key: 'tread', label: 'Tread', tip: 'Thickness of a tread when not solid', type: 'length', initial: 16, min: 0.5, max: 512 }; // prettier-ignore

/** The shapes that can be drawn, with what can be set on each. */
export const SHAPES: readonly ShapeSpec[] = [
  { kind: 'box', label: 'Box', params: [] },
  { kind: 'wedge', label: 'Wedge', params: [heading('Rises to', 'Where the slope is highest')] },
  { kind: 'prism', label: 'Prism', params: [sides(8), axis] },
  { kind: 'cylinder', label: 'Cylinder', params: [sides(16), axis] },
  {
    kind: 'cone',
    label: 'Cone',
    params: [
      sides(16),
      { key: 'top', label: 'Top', tip: 'What is left of the base at the top, 0 for a point', type: 'part', initial: 0, min: 0, max: 0.99 }, // prettier-ignore
      axis,
    ],
  },
  {
    kind: 'dome',
    label: 'Dome',
    params: [
      sides(16),
      { key: 'rings', label: 'Rings', tip: 'How many rings of faces from foot to top', type: 'count', initial: 4, min: 1, max: 16 }, // prettier-ignore
      thickness(0, 'Thickness of a hollow dome; 0 makes it solid', 0),
    ],
  },
  {
    kind: 'arch',
    label: 'Arch',
    params: [
      { key: 'segments', label: 'Segments', tip: 'How many straight pieces make the curve', type: 'count', initial: 8, min: 2, max: 32 }, // prettier-ignore
      thickness(32, 'Width of the legs and of the ring at the crown'),
      { key: 'rise', label: 'Rise', tip: 'Height of the curve; 0 makes a round arch', type: 'length', initial: 0, min: 0, max: 4096 }, // prettier-ignore
      { key: 'wall', label: 'Wall', tip: 'Fill the corners above the curve', type: 'switch', initial: true },
      { key: 'through', label: 'Through to', tip: 'Which way one walks through', type: 'choice', initial: 'north', choices: ['north', 'east'] }, // prettier-ignore
    ],
  },
  {
    kind: 'pipe',
    label: 'Pipe',
    params: [
      sides(16, 1),
      thickness(16, 'Thickness of the wall'),
      { key: 'angle', label: 'Angle', tip: 'How far it goes round; under 360 makes a curved wall', type: 'angle', initial: 360, min: 5, max: 360 }, // prettier-ignore
      { key: 'start', label: 'From', tip: 'Where a curved wall begins, counter-clockwise from east', type: 'angle', initial: 0, min: 0, max: 359 }, // prettier-ignore
      axis,
    ],
  },
  { kind: 'spike', label: 'Spike', params: [axis] },
  { kind: 'stair', label: 'Stair', params: [heading('Rises to', 'Which way one walks up'), steps, solid, tread] },
  {
    kind: 'turningStair',
    label: 'Turning stair',
    params: [
      heading('First to', 'Which way the first step is walked'),
      { key: 'turns', label: 'Turns', tip: 'Which way it turns going up', type: 'choice', initial: 'left', choices: ['left', 'right'] }, // prettier-ignore
      { ...steps, initial: 12 },
      { key: 'angle', label: 'Angle', tip: 'How far it turns', type: 'angle', initial: 180, min: 15, max: 1080 },
      { key: 'innerRadius', label: 'Eye', tip: 'Radius of the open middle', type: 'length', initial: 16, min: 0, max: 4096 }, // prettier-ignore
      solid,
      tread,
    ],
  },
  { kind: 'polygon', label: 'Polygon', params: [] },
];

export const shapeSpec = (kind: ShapeKind): ShapeSpec => SHAPES.find((s) => s.kind === kind)!;

/** A shape by its numbers: the box it fills, its parameters, and the outline of a free polygon. */
export interface ShapeRecipe {
  readonly kind: ShapeKind;
  readonly box: Box;
  readonly params: Readonly<Record<string, ShapeValue>>;
  readonly outline?: readonly Point2[];
}

/** The parameters of a shape with what is missing filled in. */
export function shapeParams(kind: ShapeKind, given: Readonly<Record<string, ShapeValue>>): Record<string, ShapeValue> {
  return Object.fromEntries(
    shapeSpec(kind).params.map((p) => {
      const value = given[p.key];
      const fits = typeof value === typeof p.initial && (p.type !== 'choice' || p.choices.includes(value as string));
      return [p.key, fits ? value! : p.initial];
    }),
  );
}

/**
 * The convex solids of a shape; together they fill its box to all six sides. Throws a {@link BrushError} that names what
 * to change when the numbers make no valid brush.
 */
export function shapeSolids({ kind, box, params: given, outline }: ShapeRecipe): Solid[] {
  const p = shapeParams(kind, given);
  const num = (key: string) => p[key] as number;
  const body = { solid: p.solid as boolean, tread: num('tread') };
  switch (kind) {
    case 'box':
      return [boxSolid(box)];
    case 'wedge':
      return [wedgeSolid(box, p.rises as Heading)];
    case 'prism':
    case 'cylinder':
      return lying(box, p.axis as Axis, (b) => [prismSolid(b, num('sides'))]);
    case 'cone':
      return lying(box, p.axis as Axis, (b) => [coneSolid(b, num('sides'), num('top'))]);
    case 'dome':
      return num('thickness') > 0
        ? vaultSolids(box, num('sides'), num('rings'), num('thickness'))
        : [domeSolid(box, num('sides'), num('rings'))];
    case 'arch':
      return archSolids(box, { segments: num('segments'), thickness: num('thickness'), rise: num('rise'), wall: p.wall as boolean, through: p.through as 'north' }); // prettier-ignore
    case 'pipe':
      return lying(box, p.axis as Axis, (b) => pipeSolids(b, num('sides'), num('thickness'), num('angle'), num('start'))); // prettier-ignore
    case 'spike':
      return lying(box, p.axis as Axis, (b) => [spikeSolid(b)]);
    case 'stair':
      return stairSolids(box, p.rises as Heading, num('steps'), body);
    case 'turningStair':
      return turningStairSolids(box, { ...body, steps: num('steps'), innerRadius: num('innerRadius'), angle: num('angle'), turns: p.turns as 'left', rises: p.rises as Heading }); // prettier-ignore
    case 'polygon':
      return polygonSolids(outline ?? [], box.min[2], box.max[2]);
  }
}

/** Upright solids over a free outline, split into convex parts where it is concave. */
export function polygonSolids(outline: readonly Point2[], bottom: number, top: number): Solid[] {
  const tidy = straightened(outline);
  if (tidy.length < 3 || Math.abs(outlineArea(tidy)) < 1)
    throw new BrushError(
      'brush.outline',
      'The outline needs at least three corners and some area. Click further apart.',
    );
  if (crossesItself(tidy))
    throw new BrushError('brush.outline', 'The outline crosses itself. Click its corners in order.');
  if (outlineArea(tidy) < 0) tidy.reverse();
  return convexParts(tidy).map((part) => extrude(part, bottom, top));
}

type Axis = 'up' | 'east' | 'north';

/** Makes a shape standing upright in a turned box and lays it along an axis: coordinates change places in a ring, so nothing is rounded. */
function lying(box: Box, axis: Axis, make: (box: Box) => Solid[]): Solid[] {
  if (axis === 'up') return make(box);
  // Which coordinate of the world becomes each coordinate of the upright shape.
  const from: [0 | 1 | 2, 0 | 1 | 2, 0 | 1 | 2] = axis === 'east' ? [1, 2, 0] : [2, 0, 1];
  const turned = (v: Vec3): Vec3 => [v[from[0]], v[from[1]], v[from[2]]];
  const back = (v: Vec3): Vec3 => {
    const out: [number, number, number] = [0, 0, 0];
    from.forEach((world, local) => (out[world] = v[local]!));
    return out;
  };
  return make({ min: turned(box.min), max: turned(box.max) }).map(({ vertices, loops }) => ({
    vertices: vertices.map(back),
    loops,
  }));
}
