/** A rectangle of the screen, pixels. */
export interface Area {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

const meet = (a: Area, b: Area): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

/** Keeps words on a drawing clear of symbols and of each other: what is taken is remembered, and free places are told. */
export class Labels {
  private readonly taken: Area[] = [];

  take(area: Area): void {
    this.taken.push(area);
  }

  isFree(area: Area): boolean {
    return !this.taken.some((t) => meet(t, area));
  }

  /** The first of some places for the middle of a word that is free, now taken; null where none is. */
  place(places: Iterable<readonly [number, number]>, width: number, height: number): readonly [number, number] | null {
    for (const at of places) {
      const area = { x: at[0] - width / 2, y: at[1] - height / 2, width, height };
      if (!this.isFree(area)) continue;
      this.take(area);
      return at;
    }
    return null;
  }
}

/** Places round a middle, the nearest first: down and up, then to the sides, in steps, within some bounds. */
export function* placesAround(
  x: number,
  y: number,
  reachX: number,
  reachY: number,
): Generator<readonly [number, number]> {
  yield [x, y];
  for (let d = 14; d <= Math.max(reachX, reachY); d += 14) {
    if (d <= reachY) yield* [[x, y + d] as const, [x, y - d] as const];
    if (d <= reachX) yield* [[x + d, y] as const, [x - d, y] as const];
    if (d <= reachX && d <= reachY)
      yield* [
        [x + d, y + d],
        [x - d, y + d],
        [x + d, y - d],
        [x - d, y - d],
      ] as const;
  }
}

/** Moves words that stand over one another apart, from below upward; gives their heights in the order given. */
export function spreadDown(
  words: readonly { readonly x: number; readonly y: number; readonly width: number }[],
  line: number,
): number[] {
  const order = words.map((_, i) => i).sort((a, b) => words[b]!.y - words[a]!.y);
  const out = words.map((w) => w.y);
  order.forEach((i, k) => {
    for (const j of order.slice(0, k)) {
      const [a, b] = [words[i]!, words[j]!];
      if (a.x < b.x + b.width && b.x < a.x + a.width && Math.abs(out[i]! - out[j]!) < line) out[i] = out[j]! - line;
    }
  });
  return out;
}
