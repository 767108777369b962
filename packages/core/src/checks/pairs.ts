import { brushBounds, type Brush } from '../brush/index.ts';
import { boxesOverlap } from '../math/index.ts';

/** Edge of the squares by which near brushes are found, cm. */
const BUCKET = 512;

/** Pairs of brushes whose bounds come within `reach` (cm) of each other, each once. */
export function* nearPairs(brushes: readonly Brush[], reach: number): Generator<[Brush, Brush]> {
  const buckets = new Map<string, number[]>();
  const spread = (b: Brush, visit: (key: string) => void) => {
    const { min, max } = brushBounds(b);
    for (let x = Math.floor((min[0] - reach) / BUCKET); x <= Math.floor((max[0] + reach) / BUCKET); x++)
      for (let y = Math.floor((min[1] - reach) / BUCKET); y <= Math.floor((max[1] + reach) / BUCKET); y++)
        visit(`${x},${y}`);
  };
  for (let i = 0; i < brushes.length; i++) {
    const near = new Set<number>();
    spread(brushes[i]!, (key) => {
      const list = buckets.get(key) ?? [];
      list.forEach((j) => near.add(j));
      list.push(i);
      buckets.set(key, list);
    });
    for (const j of near)
      if (boxesOverlap(brushBounds(brushes[i]!), brushBounds(brushes[j]!), -reach)) yield [brushes[j]!, brushes[i]!];
  }
}
