import type { Plane } from '../../math/index.ts';

/** Planes whose normals differ by less than this, and their distances by less than ten times as much (cm), are one. */
const SAME = 1e-3;

/** Numbers planes: the same number for planes that are the same but for rounding. */
export class PlaneTable {
  private readonly planes: Plane[] = [];
  private readonly buckets = new Map<string, number[]>();

  get count(): number {
    return this.planes.length;
  }

  /** The number of a plane, or −1 when none like it was added. */
  find(plane: Plane): number {
    for (const key of keysNear(plane))
      for (const i of this.buckets.get(key) ?? []) if (isSame(this.planes[i]!, plane)) return i;
    return -1;
  }

  add(plane: Plane): number {
    const known = this.find(plane);
    if (known >= 0) return known;
    const own = this.planes.push(plane) - 1;
    const key = keysOf(plane, 0)[0]!;
    const bucket = this.buckets.get(key);
    if (bucket) bucket.push(own);
    else this.buckets.set(key, [own]);
    return own;
  }
}

const isSame = (a: Plane, b: Plane): boolean =>
  a.normal.every((c, k) => Math.abs(c - b.normal[k]!) < SAME) && Math.abs(a.distance - b.distance) < 10 * SAME;

/** The buckets of planes that may be the same. */
const keysNear = (plane: Plane): string[] => keysOf(plane, 1);

/** Buckets are so wide that only what lies near their borders has more than one. */
function keysOf({ normal, distance }: Plane, reach: number): string[] {
  let keys = [''];
  for (const [value, width, near] of [
    [normal[0], 0.05, SAME],
    [normal[1], 0.05, SAME],
    [normal[2], 0.05, SAME],
    [distance, 1, 10 * SAME],
  ] as const) {
    const low = Math.floor((value - reach * near + 0.013 * width) / width);
    const high = Math.floor((value + reach * near + 0.013 * width) / width);
    keys = keys.flatMap((k) => (low === high ? [`${k} ${low}`] : [`${k} ${low}`, `${k} ${high}`]));
  }
  return keys;
}
