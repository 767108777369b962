import { type Box, cosSin, hypot, type Point2, type Vec3 } from '../math/index.ts';
import { BrushError } from './errors.ts';
import { hullOf } from './hull.ts';
import { checkExtent } from './primitives.ts';
import { checkThickness } from './round.ts';
import { assertValid } from './solid.ts';
import type { Solid } from './types.ts';

/** Points of an arch from its left springing over the crown to the right one: `across` from −half to half, `up` from the springing. */
export function archCurve(half: number, rise: number, segments: number): Point2[] {
  if (!Number.isInteger(segments) || segments < 2 || segments > 32)
    throw new BrushError('brush.segments', 'An arch has 2 to 32 segments. Type a whole number in that range.');
  return Array.from({ length: segments + 1 }, (_, i) => {
    const [c, s] = cosSin(180 - (180 * i) / segments);
    return [half * c, rise * s];
  });
}

/** The convex pieces that fill the rectangle above an arch, one a segment, in the coordinates of {@link archCurve}. */
export function spandrels(curve: readonly Point2[], top: number): Point2[][] {
  return curve.slice(1).map((b, i) => {
    const a = curve[i]!;
    const outline: Point2[] = [a, b, [b[0], top], [a[0], top]];
    // Where the crown touches the top a piece is a triangle.
    return outline.filter(
      (p, k) => k === 0 || outline.slice(0, k).every((q) => hypot(p[0] - q[0], p[1] - q[1]) > 0.01),
    );
  });
}

export interface ArchOptions {
  readonly segments: number;
  /** Width of the legs and of the ring at the crown, cm. */
  readonly thickness: number;
  /** Height of the curve over its springing, cm; 0 makes a round arch where there is height for it. */
  readonly rise: number;
  /** Fills up the corners above the curve to the box. */
  readonly wall: boolean;
  /** Which way one walks through. */
  readonly through: 'north' | 'east';
}

/** An arch that fills a box: two legs, and one piece a segment of its curve. */
export function archSolids(box: Box, { segments, thickness, rise, wall, through }: ArchOptions): Solid[] {
  checkExtent(box);
  const across = through === 'north' ? 0 : 1;
  const along = 1 - across;
  const half = (box.max[across]! - box.min[across]!) / 2;
  const centre = (box.max[across]! + box.min[across]!) / 2;
  const height = box.max[2] - box.min[2];
  checkThickness(thickness, Math.min(half, height));
  const inside = half - thickness;
  const curveRise = rise > 0 ? rise : Math.min(inside, height - thickness);
  const spring = height - thickness - curveRise;
  if (spring < -1e-9)
    throw new BrushError('brush.rise', 'The curve rises higher than the arch is. Type a smaller rise or thickness.');
  const piece = (outline: readonly Point2[]): Solid => {
    const point = (s: number, z: number, d: number): Vec3 => {
      const p: [number, number, number] = [0, 0, z];
      p[across] = s;
      p[along] = d;
      return p;
    };
    const solid = hullOf(
      [box.min[along]!, box.max[along]!].flatMap((d) =>
        outline.map(([s, z]) => point(exact(centre + s, box, across), exactUp(box.min[2] + z, box), d)),
      ),
    );
    assertValid(solid);
    return solid;
  };
  const curve = archCurve(inside, curveRise, segments).map(([s, z]): Point2 => [s, z + spring]);
  const legTop = wall ? height : spring;
  const legs =
    legTop > 0.01
      ? [-1, 1].map((side): Point2[] => [
          [side * half, 0],
          [side * inside, 0],
          [side * inside, legTop],
          [side * half, legTop],
        ])
      : [];
  const outer = archCurve(half, curveRise + thickness, segments).map(([s, z]): Point2 => [s, z + spring]);
  const crown = wall
    ? spandrels(curve, height)
    : curve.slice(1).map((b, i): Point2[] => [curve[i]!, b, outer[i + 1]!, outer[i]!]);
  return [...legs, ...crown].map(piece);
}

/** Rounding must not carry a corner off the box. */
const exact = (value: number, box: Box, axis: 0 | 1): number =>
  Math.abs(value - box.min[axis]) < 1e-9
    ? box.min[axis]
    : Math.abs(value - box.max[axis]) < 1e-9
      ? box.max[axis]
      : value;
const exactUp = (value: number, box: Box): number => (Math.abs(value - box.max[2]) < 1e-9 ? box.max[2] : value);
