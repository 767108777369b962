import { createNoise4D } from 'simplex-noise';
import { hashRandom } from '@yesca/core';

/** Sources of pattern for one material, all of which repeat without a seam over the unit square. */
export interface Pattern {
  /** Smooth noise from −1 to 1 with about `frequency` bumps across the square. */
  readonly noise: (u: number, v: number, frequency: number) => number;
  /** Several octaves of noise, −1 to 1. */
  readonly rough: (u: number, v: number, frequency: number, octaves?: number) => number;
  /** A repeatable number from 0 to 1 for whole numbers. */
  readonly pick: (...keys: number[]) => number;
  /** Rounded cells: distance to the nearest and second nearest of `n × n` scattered points, and the nearest one's number. */
  readonly cells: (u: number, v: number, n: number) => { near: number; second: number; id: number };
}

export function makePattern(seed: number): Pattern {
  let count = 0;
  const noise4 = createNoise4D(() => hashRandom(seed, count++));
  const noise: Pattern['noise'] = (u, v, frequency) => {
    // The square is rolled into a torus in four dimensions, on which noise has no seam.
    const r = frequency / (2 * Math.PI);
    const a = u * 2 * Math.PI;
    const b = v * 2 * Math.PI;
    return noise4(Math.cos(a) * r, Math.sin(a) * r, Math.cos(b) * r, Math.sin(b) * r);
  };
  const pick: Pattern['pick'] = (...keys) => hashRandom(seed + 7919, ...keys);
  return {
    noise,
    pick,
    rough: (u, v, frequency, octaves = 4) => {
      let sum = 0;
      let weight = 0;
      for (let o = 0, a = 1; o < octaves; o++, a *= 0.55) {
        sum += noise(u, v, frequency * 2 ** o) * a;
        weight += a;
      }
      return sum / weight;
    },
    cells: (u, v, n) => {
      let near = 9;
      let second = 9;
      let id = 0;
      const [cx, cy] = [Math.floor(u * n), Math.floor(v * n)];
      for (let y = cy - 1; y <= cy + 1; y++)
        for (let x = cx - 1; x <= cx + 1; x++) {
          const [wx, wy] = [(x + n) % n, (y + n) % n];
          const d = Math.hypot(x + 0.15 + 0.7 * pick(wx, wy, 1) - u * n, y + 0.15 + 0.7 * pick(wx, wy, 2) - v * n);
          if (d < near) [second, near, id] = [near, d, wy * n + wx];
          else if (d < second) second = d;
        }
      return { near, second, id };
    },
  };
}
