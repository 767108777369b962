import {
  convexParts,
  crossesItself,
  outlineArea,
  straightened,
  type Box,
  type Point2,
  type Vec3,
} from '../math/index.ts';
import { params, type ParamSpecs } from '../params/index.ts';
import { archSolids } from './arch.ts';
import { BrushError } from './errors.ts';
import { boxSolid, extrude, prismSolid, wedgeSolid, type Heading } from './primitives.ts';
import { coneSolid, domeSolid, pipeSolids, spikeSolid, vaultSolids } from './round.ts';
import { stairSolids, turningStairSolids } from './stair.ts';
import type { Solid } from './types.ts';

export const SHAPE_KINDS = [
  'box',
  'wedge',
  'prism',
  'cylinder',
  'cone',
  'dome',
  'arch',
  'pipe',
  'spike',
  'stair',
  'turningStair',
  'polygon',
] as const;
export type ShapeKind = (typeof SHAPE_KINDS)[number];

export type ShapeValue = number | string | boolean;

export interface ShapeSpec {
  readonly kind: ShapeKind;
  readonly label: string;
  readonly params: ParamSpecs;
}

const { angle, choice, integer, length, part, yesNo } = params;

const sides = (initial: number, min = 3) =>
  integer(initial, { label: 'Sides', help: 'How many flat sides go round', min, max: 64 });
const HEADINGS = ['north', 'east', 'south', 'west'] as const;
const rises = (label: string, help: string) => choice(HEADINGS, 'north', { label, help });
const axis = choice(['up', 'east', 'north'], 'up', { label: 'Axis', help: 'The direction it stands or lies along' });
const thickness = (initial: number, help: string, min = 0.5) =>
  length(initial, { label: 'Thickness', help, min, max: 4096 });
const steps = (initial: number) => integer(initial, { label: 'Steps', help: 'How many steps', min: 1, max: 200 });
const body = {
  solid: yesNo(true, { label: 'Solid', help: 'Solid underneath, or treads alone' }),
  tread: length(16, {
    label: 'Tread',
    help: 'Thickness of a tread when not solid',
    min: 0.5,
    max: 512,
    shownWhen: (values) => !values.solid,
  }),
};

/** The shapes that can be drawn, with what can be set on each. */
export const SHAPES: readonly ShapeSpec[] = [
  { kind: 'box', label: 'Box', params: {} },
  { kind: 'wedge', label: 'Wedge', params: { rises: rises('Rises to', 'Where the slope is highest') } },
  { kind: 'prism', label: 'Prism', params: { sides: sides(8), axis } },
  { kind: 'cylinder', label: 'Cylinder', params: { sides: sides(16), axis } },
  {
    kind: 'cone',
    label: 'Cone',
    params: {
      sides: sides(16),
      top: part(0, { label: 'Top', help: 'What is left of the base at the top, 0 for a point', max: 0.99 }),
      axis,
    },
  },
  {
    kind: 'dome',
    label: 'Dome',
    params: {
      sides: sides(16),
      rings: integer(4, { label: 'Rings', help: 'How many rings of faces from foot to top', min: 1, max: 16 }),
      thickness: thickness(0, 'Thickness of a hollow dome; 0 makes it solid', 0),
    },
  },
  {
    kind: 'arch',
    label: 'Arch',
    params: {
      segments: integer(8, { label: 'Segments', help: 'How many straight pieces make the curve', min: 2, max: 32 }),
      thickness: thickness(32, 'Width of the legs and of the ring at the crown'),
      rise: length(0, { label: 'Rise', help: 'Height of the curve; 0 makes a round arch', max: 4096 }),
      wall: yesNo(true, { label: 'Wall', help: 'Fill the corners above the curve' }),
      through: choice(['north', 'east'], 'north', { label: 'Through to', help: 'Which way one walks through' }),
    },
  },
  {
    kind: 'pipe',
    label: 'Pipe',
    params: {
      sides: sides(16, 1),
      thickness: thickness(16, 'Thickness of the wall'),
      angle: angle(360, { label: 'Angle', help: 'How far it goes round; under 360 makes a curved wall', min: 5 }),
      start: angle(0, {
        label: 'From',
        help: 'Where a curved wall begins, counter-clockwise from east',
        max: 359,
        shownWhen: (values) => values.angle !== 360,
      }),
      axis,
    },
  },
  { kind: 'spike', label: 'Spike', params: { axis } },
  {
    kind: 'stair',
    label: 'Stair',
    params: { rises: rises('Rises to', 'Which way one walks up'), steps: steps(8), ...body },
  },
  {
    kind: 'turningStair',
    label: 'Turning stair',
    params: {
      rises: rises('First to', 'Which way the first step is walked'),
      turns: choice(['left', 'right'], 'left', { label: 'Turns', help: 'Which way it turns going up' }),
      steps: steps(12),
      angle: angle(180, { label: 'Angle', help: 'How far it turns', min: 15, max: 1080 }),
      innerRadius: length(16, { label: 'Eye', help: 'Radius of the open middle', max: 4096 }),
      ...body,
    },
  },
  { kind: 'polygon', label: 'Polygon', params: {} },
];

export const shapeSpec = (kind: ShapeKind): ShapeSpec => SHAPES.find((s) => s.kind === kind)!;

/** A shape by its numbers: the box it fills, its parameters, and the outline of a free polygon. */
export interface ShapeRecipe {
  readonly kind: ShapeKind;
  readonly box: Box;
  readonly params: Readonly<Record<string, ShapeValue>>;
  readonly outline?: readonly Point2[];
}

/** The parameters of a shape with what is missing filled in, and what is of another type or no choice left out. */
export function shapeParams(kind: ShapeKind, given: Readonly<Record<string, ShapeValue>>): Record<string, ShapeValue> {
  return Object.fromEntries(
    Object.entries(shapeSpec(kind).params).map(([key, spec]) => {
      const value = given[key];
      const initial = spec.initial as ShapeValue;
      const fits =
        typeof value === typeof initial && (spec.type !== 'choice' || spec.choices.includes(value as string));
      return [key, fits ? value! : initial];
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
  const filled = { solid: p.solid as boolean, tread: num('tread') };
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
      return archSolids(box, {
        segments: num('segments'),
        thickness: num('thickness'),
        rise: num('rise'),
        wall: p.wall as boolean,
        through: p.through as 'north',
      });
    case 'pipe':
      return lying(box, p.axis as Axis, (b) =>
        pipeSolids(b, num('sides'), num('thickness'), num('angle'), num('start')),
      );
    case 'spike':
      return lying(box, p.axis as Axis, (b) => [spikeSolid(b)]);
    case 'stair':
      return stairSolids(box, p.rises as Heading, num('steps'), filled);
    case 'turningStair':
      return turningStairSolids(box, {
        ...filled,
        steps: num('steps'),
        innerRadius: num('innerRadius'),
        angle: num('angle'),
        turns: p.turns as 'left',
        rises: p.rises as Heading,
      });
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
