import type { Brush } from '../brush/index.ts';
import { locate, makeRays, type Structure } from '../compile/index.ts';
import { hashRandom, type Vec3 } from '../math/index.ts';

/** A clear line between two points of the inside, and the cells they lie in. */
export interface ClearLine {
  readonly from: number;
  readonly to: number;
  readonly a: Vec3;
  readonly b: Vec3;
}

/**
 * Random lines between points of the inside that no structure crosses. Half of the points lie next to a portal's edge or a
 * cell's corner, where what is seen through cracks is seen from.
 */
export function clearLines(brushes: readonly Brush[], structure: Structure, lines: number, salt = 0): ClearLine[] {
  const rays = makeRays(brushes.filter((b) => b.role === 'structure'));
  const cells = structure.cells.map((c, i) => ({ ...c, i })).filter((c) => c.inside);
  const inner = structure.portals.filter((p) => structure.cells[p.a]!.inside && structure.cells[p.b]!.inside);
  const cellOf = (p: Vec3): number => {
    const cell = locate(structure.blocks, p);
    return typeof cell === 'number' && structure.cells[cell]!.inside ? cell : -1;
  };
  const point = (k: number, s: number): Vec3 => {
    if (inner.length && hashRandom(k, s, 1) < 0.5) {
      const { winding, plane } = inner[Math.floor(hashRandom(k, s, 2) * inner.length)]!;
      const i = Math.floor(hashRandom(k, s, 3) * winding.length);
      const [p, q] = [winding[i]!, winding[(i + 1) % winding.length]!];
      const t = hashRandom(k, s, 4);
      const middle = winding.reduce((m, w) => m.map((c, x) => c + w[x]! / winding.length) as unknown as Vec3, [
        0, 0, 0,
      ] as Vec3);
      const pull = 0.002 + 0.1 * hashRandom(k, s, 5) ** 2;
      const off = (hashRandom(k, s, 6) - 0.5) * 4;
      return p.map((c, x) => {
        const on = c + (q[x]! - c) * t;
        return on + (middle[x]! - on) * pull + plane.normal[x]! * off;
      }) as unknown as Vec3;
    }
    const { bounds } = cells[Math.floor(hashRandom(k, s, 7) * cells.length)]!;
    return bounds.min.map(
      (low, x) => low + (bounds.max[x]! - low) * (0.001 + 0.998 * hashRandom(k, s, 8 + x)),
    ) as unknown as Vec3;
  };
  const out: ClearLine[] = [];
  for (let k = 0; k < lines; k++) {
    const [a, b] = [point(k, salt + 11), point(k, salt + 29)];
    const [from, to] = [cellOf(a), cellOf(b)];
    if (from < 0 || to < 0) continue;
    if (!rays.anyHit(...a, b[0] - a[0], b[1] - a[1], b[2] - a[2], 1)) out.push({ from, to, a, b });
  }
  return out;
}
