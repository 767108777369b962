import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { boxSolid, brushPlanes, findFlaw, hullOf, type Brush } from '../../brush/index.ts';
import { hashRandom, normalize, rotation, type Vec3 } from '../../math/index.ts';
import { dressSolid, transformBrush } from '../../surface/index.ts';
import { kernelBytes } from '../../../../../scripts/kernel-bytes.ts';
import { kernelStarts } from './kernel-module.ts';
import { kernelRays } from './kernel.ts';
import { plainRays, type Rays } from './rays.ts';

test('the kernel’s bytes are those of its source; `npm run generate` makes them anew', async () => {
  const path = fileURLToPath(new URL('./kernel-bytes.generated.js', import.meta.url));
  expect(await kernelBytes()).toBe(readFileSync(path, 'utf8'));
});

test('the kernel starts here', () => {
  expect(kernelStarts()).toBe(true);
});

/** Where a ray is within a brush whose planes are pushed out by `grow`, as a range of parameters; null for nowhere. */
function within(brush: Brush, o: Vec3, d: Vec3, far: number, grow: number): number | null {
  let near = 0;
  let away = far;
  for (const { normal, distance } of brushPlanes(brush)) {
    const slope = normal[0] * d[0] + normal[1] * d[1] + normal[2] * d[2];
    const height = distance + grow - (normal[0] * o[0] + normal[1] * o[1] + normal[2] * o[2]);
    if (slope === 0 && height < 0) return null;
    if (slope > 0) away = Math.min(away, height / slope);
    if (slope < 0) near = Math.max(near, height / slope);
  }
  return near < away ? near : null;
}
const first = (brushes: readonly Brush[], o: Vec3, d: Vec3, far: number, grow: number): number =>
  brushes.reduce((least, b) => Math.min(least, within(b, o, d, far, grow) ?? Infinity), Infinity);

/** Boxes, turned boxes and hulls with many faces, overlapping, in a cube of some metres anywhere in the world. */
function scene(seed: number, count: number, at: Vec3): Brush[] {
  const r = (i: number, k: number) => hashRandom(seed, i, k);
  return Array.from({ length: count }, (_, i): Brush | null => {
    const [x, y, z] = [at[0] + r(i, 1) * 900, at[1] + r(i, 2) * 900, at[2] + r(i, 3) * 900];
    if (i % 3 === 2) {
      const hull = hullOf(
        Array.from({ length: 14 }, (_, k): Vec3 => [
          x + r(i, k + 20) * 130,
          y + r(i, k + 40) * 130,
          z + r(i, k + 60) * 130,
        ]),
      );
      return findFlaw(hull) ? null : dressSolid(hull, `h${i}`, 'm');
    }
    const box = boxSolid({ min: [x, y, z], max: [x + 2 + r(i, 4) * 90, y + 2 + r(i, 5) * 90, z + 0.5 + r(i, 6) * 60] });
    const brush = dressSolid(box, `b${i}`, 'm');
    return i % 3 === 0 ? brush : transformBrush(brush, rotation((i % 3) as 0, i * 17.3, [x, y, z]), true);
  }).filter((b) => b !== null);
}

const place = fc.constantFrom(0, -40_000, 90_000, 317.25);
const anywhere: fc.Arbitrary<Vec3> = fc.tuple(place, place, place);

test('the kernel meets what lies in its way, and that first, within a hundredth of a centimetre', () => {
  let hits = 0;
  let misses = 0;
  fc.assert(
    fc.property(fc.nat(1e6), fc.integer({ min: 0, max: 90 }), anywhere, (seed, count, at) => {
      const brushes = scene(seed, count, at);
      const rays = kernelRays(brushes)!;
      const list = new Float64Array(200 * 7);
      const hit = new Uint8Array(200);
      const solids = new Int32Array(200);
      const places = new Float64Array(200);
      for (let k = 0; k < 200; k++) {
        const r = (n: number) => hashRandom(seed, k, n + 100);
        const o = at.map((c, n) => c + r(n) * 1200 - 150);
        const d = normalize([r(4) - 0.5, r(5) - 0.5, r(6) - 0.5]);
        // Some along an axis, where two parts of the direction are 0.
        const way = k % 5 === 0 ? [0, 1, 2].map((n) => (n === k % 3 ? (k % 2 ? 1 : -1) : 0)) : d;
        list.set([...o, ...way, 50 + r(7) * 1500], k * 7);
      }
      rays.anyHits(list, 200, hit);
      rays.firstHits(list, 200, solids, places);
      for (let k = 0; k < 200; k++) {
        const [ox, oy, oz, dx, dy, dz, far] = list.subarray(k * 7, k * 7 + 7) as unknown as [
          number,
          number,
          number,
          number,
          number,
          number,
          number,
        ];
        const [o, d]: [Vec3, Vec3] = [
          [ox, oy, oz],
          [dx, dy, dz],
        ];
        const [sooner, later] = [first(brushes, o, d, far, 0.01), first(brushes, o, d, far, -0.01)];
        if (later < Infinity) expect(hit[k]).toBe(1);
        if (sooner === Infinity) expect(hit[k]).toBe(0);
        hits += later < Infinity ? 1 : 0;
        misses += sooner === Infinity ? 1 : 0;
        expect(rays.anyHit(ox, oy, oz, dx, dy, dz, far)).toBe(hit[k] === 1);
        expect(rays.firstHit(ox, oy, oz, dx, dy, dz, far)).toBe(solids[k]);
        expect(solids[k]! >= 0).toBe(hit[k] === 1);
        if (solids[k]! < 0) continue;
        expect(places[k]).toBe(rays.lastHitAt());
        expect(places[k]).toBeGreaterThan(sooner - 0.01);
        expect(places[k]).toBeLessThan(later + 0.01);
        // It is that very solid that is entered there.
        expect(within(brushes[solids[k]!]!, o, d, places[k]! + 0.02, 0.01)).not.toBeNull();
      }
    }),
    // The first of them is full of solids, whatever the others draw.
    { numRuns: 25, examples: [[1, 90, [0, 0, 0]]] },
  );
  expect(Math.min(hits, misses)).toBeGreaterThan(20);
});

test('plain rays answer as the kernel does, ray by ray and together', () => {
  const brushes = scene(5, 60, [0, 0, 0]);
  const [kernel, plain] = [kernelRays(brushes)!, plainRays(brushes)];
  const list = Float64Array.from({ length: 500 * 7 }, (_, i) =>
    i % 7 < 3 ? hashRandom(i, 1) * 1000 : i % 7 < 6 ? hashRandom(i, 2) - 0.5 : 900,
  );
  const answer = (rays: Rays) => {
    const hit = new Uint8Array(500);
    const solids = new Int32Array(500);
    const at = new Float64Array(500);
    rays.anyHits(list, 500, hit);
    rays.firstHits(list, 500, solids, at);
    return { hit: [...hit], met: [...solids].map((s) => s >= 0), at: [...at] };
  };
  const [a, b] = [answer(kernel), answer(plain)];
  expect(a.hit).toEqual(b.hit);
  expect(a.met).toEqual(b.met);
  a.at.forEach((t, i) => expect(Math.abs(t - b.at[i]!)).toBeLessThan(0.01));
});

test('a box that is only touched is not met, one that is started in is met at once', () => {
  const brushes = [dressSolid(boxSolid({ min: [0, 0, 0], max: [10, 10, 10] }), 'b', 'm')];
  for (const rays of [kernelRays(brushes)!, plainRays(brushes)]) {
    expect(rays.anyHit(-5, 10.01, 5, 1, 0, 0, 100)).toBe(false);
    expect(rays.anyHit(-5, 9.99, 5, 1, 0, 0, 100)).toBe(true);
    expect(rays.anyHit(-5, 5, 5, 1, 0, 0, 4.99)).toBe(false);
    expect(rays.firstHit(5, 5, 5, 0, 0, 1, 100)).toBe(0);
    expect(rays.lastHitAt()).toBe(0);
    expect(rays.firstHit(5, 5, 50, 0, 0, -2, 100)).toBe(0);
    expect(rays.lastHitAt()).toBeCloseTo(20, 5);
  }
});
