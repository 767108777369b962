import fc from 'fast-check';
import { boxSolid, brushPlanes, hullOf, type Brush } from '../../brush/index.ts';
import { add, cross, dot, hashRandom, length, normalize, rotation, scale, sub, type Vec3 } from '../../math/index.ts';
import { dressSolid, transformBrush } from '../../surface/index.ts';
import { rowLight } from './face-light.ts';
import { makeOccluders, stopsSegment } from './occluders.ts';
import { Unshaded } from './unshaded.ts';

/** Boxes, turned boxes and hulls of points between a place and a face above it, some touching or one in another. */
function solids(seed: number, far: number): Brush[] {
  const r = (i: number, k: number) => hashRandom(seed, i, k);
  return Array.from({ length: 7 }, (_, i): Brush | null => {
    const at: Vec3 = [far + (r(i, 0) - 0.5) * 240, far + (r(i, 1) - 0.5) * 240, far + 20 + r(i, 2) * 150];
    const size = (k: number) => 10 + r(i, k) * 60;
    if (i % 3 === 2) {
      const points = Array.from({ length: 9 }, (_, n): Vec3 => [
        at[0] + r(n, 20 + i) * 80,
        at[1] + r(n, 30 + i) * 80,
        at[2] + r(n, 40 + i) * 50,
      ]);
      const hull = hullOf(points);
      return hull ? dressSolid(hull, `h${i}`, 'm') : null;
    }
    const snap = (c: number) => (i === 0 ? Math.round(c / 16) * 16 : c);
    const min: Vec3 = [snap(at[0]), snap(at[1]), snap(at[2])];
    const max: Vec3 = [min[0] + snap(size(3) + 16), min[1] + snap(size(4) + 16), min[2] + snap(size(5) / 2 + 16)];
    const box = dressSolid(boxSolid({ min, max }), `b${i}`, 'm');
    // One that shares a face with the first.
    if (i === 1) {
      const beside = boxSolid({ min: [max[0], min[1], min[2]], max: [max[0] + 40, max[1], max[2]] });
      return dressSolid(beside, 'beside', 'm');
    }
    return i % 3 === 1 ? transformBrush(box, rotation((seed % 3) as 0, i * 31.7 + seed, min), true) : box;
  }).filter((b) => b !== null);
}

/** A face of so many cm above a place, looking down, turned. */
function faceAbove([x, y, z]: Vec3, degrees: number): Vec3[] {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return [
    [-90, -60],
    [-90, 60],
    [90, 60],
    [90, -60],
  ].map(([a, b]): Vec3 => [x + a! * c - b! * s, y + a! * s + b! * c, z + 220]);
}

const UP: Vec3 = [0, 0, 1];

test('what is seen of a face past solids is what rays see of it, whatever stands between', () => {
  fc.assert(
    fc.property(fc.nat(2000), fc.constantFrom(0, 0, 30_000), fc.integer({ min: 0, max: 89 }), (seed, far, turn) => {
      const brushes = solids(seed, far);
      const all = makeOccluders(brushes);
      const unshaded = new Unshaded(all);
      const p: Vec3 = [far + (hashRandom(seed, 1, 99) - 0.5) * 100, far, far];
      if (brushes.some((b) => brushPlanes(b).every(({ normal, distance }) => dot(normal, p) <= distance + 0.1))) return;
      const face = faceAbove([far, far, far], turn);
      const list = Int32Array.from(brushes, (_, i) => i);
      const got = unshaded.sum(p, [face], list, 0, list.length, (row, from, to) => rowLight(row, from, to, p, UP));
      const whole = unshaded.sum(p, [face], list, 0, 0, (row, from, to) => rowLight(row, from, to, p, UP));
      // A grid of rays over the face.
      const n = 90;
      const [u, v] = [sub(face[1]!, face[0]!), sub(face[3]!, face[0]!)];
      const down = normalize(cross(v, u));
      const area = (length(u) * length(v)) / (n * n);
      let seen = 0;
      for (let i = 0; i < n; i++)
        for (let j = 0; j < n; j++) {
          const q = add(face[0]!, add(scale(u, (i + 0.5) / n), scale(v, (j + 0.5) / n)));
          const [dx, dy, dz] = sub(q, p);
          if (brushes.some((_, k) => stopsSegment(all, k, p[0], p[1], p[2], dx, dy, dz, 1))) continue;
          const d2 = dx * dx + dy * dy + dz * dz;
          seen += (dz * Math.abs(dot(down, [dx, dy, dz])) * area) / (d2 * d2);
        }
      expect(Math.abs(got - seen)).toBeLessThan(0.015 * whole);
    }),
    { numRuns: 60, seed: 5 },
  );
});

test('a solid that hides a face hides all of it; one beside or behind it hides nothing', () => {
  const p: Vec3 = [0, 0, 0];
  const face = faceAbove(p, 20);
  const sum = (min: Vec3, max: Vec3): number => {
    const brushes = [dressSolid(boxSolid({ min, max }), 'b', 'm')];
    const all = makeOccluders(brushes);
    return new Unshaded(all).sum(p, [face], Int32Array.of(0), 0, 1, (row, from, to) => rowLight(row, from, to, p, UP));
  };
  const whole = sum([0, 0, -50], [10, 10, -40]);
  expect(whole).toBeGreaterThan(0.1);
  expect(sum([-80, -80, 100], [80, 80, 110])).toBe(0);
  expect(sum([-300, -300, 230], [300, 300, 260])).toBeCloseTo(whole, 12);
  expect(sum([150, -50, 50], [180, 50, 90])).toBeCloseTo(whole, 12);
  // Half of it: the plane of the solid's side runs through the place.
  expect(sum([0, -400, 100], [400, 400, 110])).toBeCloseTo(whole / 2, 2);
});
