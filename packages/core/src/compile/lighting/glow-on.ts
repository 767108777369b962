import {
  arcTangent2,
  clipBehind,
  cross,
  dot,
  length,
  lerp,
  sub,
  windingCentroid,
  type Vec3,
  type Winding,
} from '../../math/index.ts';

/**
 * The light of a face that glows with one nit on what lies at a place and faces along a unit vector, lux, nothing being in the way (Lambert,
 * Photometria, 1760), and where on it to look whether anything is. Null where the place lies behind it, or it behind the place.
 */
export function glowOn(
  p: Vec3,
  normal: Vec3,
  { winding, normal: facing }: { readonly winding: Winding; readonly normal: Vec3 },
): { readonly lux: number; readonly places: readonly Vec3[] } | null {
  if (dot(facing, sub(p, winding[0]!)) <= 0) return null;
  const before = clipBehind(winding, { normal: [-normal[0], -normal[1], -normal[2]], distance: -dot(normal, p) });
  if (!before) return null;
  const ways = before.map((v) => sub(v, p));
  let sum = 0;
  ways.forEach((a, k) => {
    const b = ways[(k + 1) % ways.length]!;
    const turn = cross(a, b);
    const sine = length(turn);
    if (sine > 0) sum += (dot(turn, normal) / sine) * arcTangent2(sine, dot(a, b));
  });
  const middle = windingCentroid(before);
  // A small face is seen or not; of a large one its parts.
  return { lux: Math.abs(sum) / 2, places: [middle, ...before.slice(0, 4).map((v) => lerp(middle, v, 0.6))] };
}
