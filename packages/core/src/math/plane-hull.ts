import { orient2d } from 'robust-predicates';

/**
 * The outermost of points in a plane, counter-clockwise (Andrew, Another Efficient Algorithm for Convex Hulls, 1979). Exactly: of points that
 * are nearly in line one that lies farthest out must not go for one between.
 */
export function planeHull<T extends { readonly x: number; readonly y: number }>(points: readonly T[]): T[] {
  const sorted = [...points].sort((a, b) => a.x - b.x || a.y - b.y);
  const chain = (list: readonly T[]): T[] => {
    const out: T[] = [];
    for (const c of list) {
      for (; out.length >= 2; out.pop()) {
        const [a, b] = [out[out.length - 2]!, out[out.length - 1]!];
        if (orient2d(a.x, a.y, b.x, b.y, c.x, c.y) < 0) break;
      }
      out.push(c);
    }
    return out.slice(0, -1);
  };
  return [...chain(sorted), ...chain(sorted.reverse())];
}
