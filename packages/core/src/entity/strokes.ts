import { cosSin, hypot, type Vec3 } from '../math/index.ts';

/** A point of a symbol: to the right and up from where the thing is, in pixels at the usual size. */
export type SymbolPoint = readonly [number, number];

/** How a drawing looks at a thing: which world directions run right and up on it, and the thing's number among its kind. */
export interface SymbolView {
  readonly right: Vec3;
  readonly up: Vec3;
  readonly number: number;
}

/** One stroke of a symbol, drawn in order. What is filled with paper hides what lies under it. */
export type Stroke =
  | { readonly line: readonly SymbolPoint[]; readonly closed?: boolean; readonly fill?: 'paper' | 'ink' }
  | { readonly circle: number; readonly at?: SymbolPoint; readonly fill?: 'paper' | 'ink' }
  | { readonly text: string; readonly at: SymbolPoint };

/** Lines in space from where the thing is, cm: how it is marked in the Eye. */
export type SpaceLine = readonly Vec3[];

/** How far something reaches, from where it is, cm: all round, or along lines. */
export type Reach = { readonly sphere: number } | { readonly line: SpaceLine };

/** A direction in space as a drawing shows it: to the right and up, shorter where it points towards the viewer. */
export const seenFrom = ({ right, up }: SymbolView, d: Vec3): SymbolPoint => [
  d[0] * right[0] + d[1] * right[1] + d[2] * right[2],
  d[0] * up[0] + d[1] * up[1] + d[2] * up[2],
];

/** The level direction of a turn. */
export const facing = (turn: number): Vec3 => {
  const [c, s] = cosSin(turn);
  return [c, s, 0];
};

/** Points round a circle, the first one again at the end. */
export const round = (steps: number, point: (cos: number, sin: number) => Vec3): Vec3[] =>
  Array.from({ length: steps + 1 }, (_, k) => {
    const [c, s] = cosSin((360 * (k % steps)) / steps);
    return point(c, s);
  });

/** Short lines all round, from one distance to another. */
export const rays = (count: number, from: number, to: number): Stroke[] =>
  Array.from({ length: count }, (_, k): Stroke => {
    const [c, s] = cosSin((360 * k) / count);
    return {
      line: [
        [c * from, s * from],
        [c * to, s * to],
      ],
    };
  });

/** An arrow along a direction of the drawing, from one distance to another; none where it points at the viewer. */
export function arrow([x, y]: SymbolPoint, from: number, to: number): Stroke[] {
  const l = hypot(x, y);
  if (l < 1e-6) return [];
  const [c, s] = [x / l, y / l];
  const barb = (side: 1 | -1): SymbolPoint => [c * (to - 6) - s * side * 3.6, s * (to - 6) + c * side * 3.6];
  return [
    {
      line: [
        [c * from, s * from],
        [c * to, s * to],
      ],
    },
    { line: [barb(1), [c * to, s * to], barb(-1)] },
  ];
}

/** A star of lines in space: a lamp that has no body. */
export const star = (r: number): SpaceLine[] =>
  ([[1, 0, 0], [0, 1, 0], [0, 0, 1], [0.7, 0.7, 0], [0.7, -0.7, 0], [0, 0.7, 0.7], [0, 0.7, -0.7], [0.7, 0, 0.7], [0.7, 0, -0.7]] as const) // prettier-ignore
    .map(([x, y, z]) => [
      [-x * r, -y * r, -z * r],
      [x * r, y * r, z * r],
    ]);
