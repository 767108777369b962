import { cross, dot, planeFromLoop, sub, type Vec3 } from '../../math/index.ts';
import type { Sight } from './sight.ts';

/** A straight line, from one end to the other. */
export type SightLine = readonly [Vec3, Vec3];

const lineAt = (numbers: Float32Array, i: number): SightLine => [
  [numbers[i * 6]!, numbers[i * 6 + 1]!, numbers[i * 6 + 2]!],
  [numbers[i * 6 + 3]!, numbers[i * 6 + 4]!, numbers[i * 6 + 5]!],
];

/** The line that proves that two cells see one another, from the first to the second; null when none is known. */
export function witnessOf(
  { witnessPair, witnessLine }: Pick<Sight, 'witnessPair' | 'witnessLine'>,
  a: number,
  b: number,
): SightLine | null {
  const [low, high] = [Math.min(a, b), Math.max(a, b)];
  for (let i = 0; i < witnessPair.length / 2; i++)
    if (witnessPair[i * 2] === low && witnessPair[i * 2 + 1] === high) {
      const line = lineAt(witnessLine, i);
      return a === low ? line : [line[1], line[0]];
    }
  return null;
}

/** The longest clear lines that are known, the longest first. */
export const longLinesOf = ({ sightLine }: Pick<Sight, 'sightLine'>): SightLine[] =>
  Array.from({ length: sightLine.length / 6 }, (_, i) => lineAt(sightLine, i));

/** The outline of a portal. */
export const portalOutline = (
  { portalFirst, portalPoint }: Pick<Sight, 'portalFirst' | 'portalPoint'>,
  portal: number,
): Vec3[] =>
  Array.from({ length: portalFirst[portal + 1]! - portalFirst[portal]! }, (_, i) => {
    const k = (portalFirst[portal]! + i) * 3;
    return [portalPoint[k]!, portalPoint[k + 1]!, portalPoint[k + 2]!];
  });

/** A line through an edge of a portal passes it (cm, as outlines are 32-bit floats). */
const RIM = 0.1;

/** The portals that a line goes through, in their order along it. */
export function portalsOn(sight: Pick<Sight, 'portalFirst' | 'portalPoint'>, [a, b]: SightLine): number[] {
  const d = sub(b, a);
  const met: { portal: number; t: number }[] = [];
  for (let portal = 0; portal + 1 < sight.portalFirst.length; portal++) {
    const outline = portalOutline(sight, portal);
    const plane = planeFromLoop(outline);
    if (!plane) continue;
    const speed = dot(plane.normal, d);
    if (Math.abs(speed) < 1e-9) continue;
    const t = (plane.distance - dot(plane.normal, a)) / speed;
    if (t < 0 || t > 1) continue;
    const at: Vec3 = [a[0] + d[0] * t, a[1] + d[1] * t, a[2] + d[2] * t];
    const inside = outline.every((p, i) => {
      const edge = sub(outline[(i + 1) % outline.length]!, p);
      return dot(cross(edge, sub(at, p)), plane.normal) > -RIM * Math.sqrt(dot(edge, edge));
    });
    if (inside) met.push({ portal, t });
  }
  return met.sort((p, q) => p.t - q.t).map(({ portal }) => portal);
}
