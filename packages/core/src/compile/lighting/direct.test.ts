import fc from 'fast-check';
import { boxSolid, findFlaw, hullOf, type Brush } from '../../brush/index.ts';
import { addScaled, dot, hashRandom, normalize, OFF_SURFACE, rotation, type Vec3 } from '../../math/index.ts';
import { dressSolid, transformBrush } from '../../surface/index.ts';
import type { Surface } from '../structure/index.ts';
import { solidAt, makeTracer } from '../tracing/index.ts';
import { chartPoint, makeChart } from './charts.ts';
import { directLight } from './direct.ts';
import { sceneOf } from './direct-job.ts';
import { addDirect, makeLitScene, type Lights, type PointLight, type SunLight } from './lights.ts';
import { makeLuxels, samplePlace, type Luxels } from './luxels.ts';
import { makeOccluders } from './occluders.ts';
import { Openings } from './openings.ts';

/** The surface of a rectangle that is turned about its middle. */
function floorAt(at: Vec3, size: number, degrees: number): Surface {
  const turn = rotation(0, degrees, at);
  const brush = transformBrush(
    dressSolid(
      boxSolid({ min: [at[0] - size, at[1] - size, at[2] - 16], max: [at[0] + size, at[1] + size, at[2]] }),
      'f',
      'm',
    ),
    turn,
    true,
  );
  const face = brush.faces.find((f) => {
    const [a, b, c] = f.loop.map((i) => brush.vertices[i]!) as [Vec3, Vec3, Vec3];
    const n = normalOf(a, b, c);
    return dot(n, [0, Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]) > 0.5 || n[2] > 0.99;
  })!;
  const winding = face.loop.map((i) => brush.vertices[i]!);
  const normal = normalOf(winding[0]!, winding[1]!, winding[2]!);
  return { winding, plane: { normal, distance: dot(normal, winding[0]!) }, grain: 1 } as unknown as Surface;
}
const normalOf = (a: Vec3, b: Vec3, c: Vec3): Vec3 => {
  const [u, v] = [b.map((x, k) => x - a[k]!), c.map((x, k) => x - a[k]!)] as [number[], number[]];
  return normalize([u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!]);
};

/** Boxes, turned boxes and hulls over a floor, some of them in it, some touching one another, near a place. */
function clutter(seed: number, count: number, at: Vec3): Brush[] {
  const r = (i: number, k: number) => hashRandom(seed, i, k);
  return Array.from({ length: count }, (_, i): Brush | null => {
    const [x, y, z] = [at[0] + r(i, 1) * 500 - 250, at[1] + r(i, 2) * 500 - 250, at[2] + r(i, 3) * 150 - 20];
    if (i % 4 === 3) {
      const hull = hullOf(
        Array.from({ length: 12 }, (_, k): Vec3 => [
          x + r(i, k + 20) * 90,
          y + r(i, k + 40) * 90,
          z + r(i, k + 60) * 60,
        ]),
      );
      return findFlaw(hull) ? null : dressSolid(hull, `h${i}`, 'm');
    }
    const snap = (c: number) => (i % 4 === 0 ? Math.round(c / 16) * 16 : c);
    const min: Vec3 = [snap(x), snap(y), snap(z)];
    const size = (k: number) => snap(16 + r(i, k) * 70) || 16;
    const brush = dressSolid(
      boxSolid({ min, max: [min[0] + size(4), min[1] + size(5), min[2] + size(6) / 4] }),
      `b${i}`,
      'm',
    );
    return i % 4 === 2 ? transformBrush(brush, rotation((seed % 3) as 0, i * 23.7, min), true) : brush;
  }).filter((b) => b !== null);
}

/** The mean over a luxel's open places, each by a ray of its own. */
function byRays(luxels: Luxels, brushes: readonly Brush[], light: PointLight | SunLight): Float64Array {
  const { chart, width, height, samples, mask } = luxels;
  const scene = makeLitScene(brushes);
  const lights: Lights = {
    points: [],
    suns: light.type === 'parallel' ? [{ ...light, thing: 'sun' }] : [],
    evens: [],
    areas: [],
    ambient: [0, 0, 0],
  };
  const out = new Float64Array(width * height).fill(NaN);
  const sum = new Float64Array(3);
  for (let k = 0; k < out.length; k++) {
    if (!mask[k] || !Number.isNaN(luxels.beyond[k * 2]!)) continue;
    sum.fill(0);
    let n = 0;
    for (let bit = 0; bit < samples * samples; bit++) {
      if (!(mask[k]! & (1 << bit))) continue;
      const a = samplePlace(chart.s0, k % width, bit % samples, samples, chart.size);
      const b = samplePlace(chart.t0, Math.floor(k / width), Math.floor(bit / samples), samples, chart.size);
      addDirect(
        scene,
        lights,
        light.type === 'point' ? [light] : [],
        chartPoint(chart, a, b),
        chart.surface.plane.normal,
        sum,
      );
      n++;
    }
    out[k] = sum[0]! / n;
  }
  return out;
}

/** So near a lamp that a few places would not tell a luxel's mean: those are told by their solid angle. */
function isNear({ chart, width }: Luxels, k: number, light: PointLight | SunLight): boolean {
  if (light.type !== 'point') return false;
  const [a, b] = [
    samplePlace(chart.s0, k % width, 0, 1, chart.size),
    samplePlace(chart.t0, Math.floor(k / width), 0, 1, chart.size),
  ];
  const p = chartPoint(chart, a, b);
  return Math.hypot(...p.map((c, i) => c - light.at[i]!)) < 9 * chart.size;
}

const luxelsOf = (surface: Surface, brushes: readonly Brush[], size: number, samples: number): Luxels => {
  const chart = makeChart(surface, size);
  return makeLuxels(chart, samples, new Openings(chart, makeOccluders(brushes)));
};

const seeds = fc.nat(1e6);
const count = fc.integer({ min: 0, max: 60 });
const degrees = fc.constantFrom(0, 0, 31, -12.5);
const places = fc.constantFrom<Vec3>([0, 0, 0], [-40_000, 7000, 300], [333.25, 90_000, -64]);

describe('light by tiles', () => {
  /** Of all luxels compared, how many differ, and how many were lit and dark. */
  const tally = { lit: 0, dark: 0, between: 0, differ: 0 };
  const compare = (luxels: Luxels, brushes: readonly Brush[], light: PointLight | SunLight) => {
    const strength = light.type === 'point' ? light.intensity[0] : light.illuminance[0];
    const tiles = directLight(luxels, sceneOf(brushes), light)?.share ?? new Float64Array(luxels.mask.length);
    const most = Math.max(...tiles) * strength;
    byRays(luxels, brushes, light).forEach((lux, k) => {
      if (Number.isNaN(lux) || isNear(luxels, k, light)) return;
      if (Math.abs(tiles[k]! * strength - lux) > 1.5e-3 * lux + 1e-6 * most + 2e-3) tally.differ++;
      tally[lux === 0 ? 'dark' : lux > 0.7 * most ? 'lit' : 'between']++;
    });
  };

  test('gives what a ray from each place gives: lamps and spots, among clutter, turned, far from the origin', () => {
    fc.assert(
      fc.property(seeds, count, degrees, places, fc.constantFrom(1, 2, 4), (seed, n, turn, at, samples) => {
        const r = (k: number) => hashRandom(seed, k, 99);
        const brushes = clutter(seed, n, at);
        const lamp: PointLight = {
          type: 'point',
          at: [at[0] + r(1) * 400 - 200, at[1] + r(2) * 400 - 200, at[2] + 5 + r(3) * 250],
          intensity: [300, 300, 300],
          ...(seed % 2
            ? { cone: { axis: normalize([r(4) - 0.5, r(5) - 0.5, -1]), inner: 0.9, outer: 0.5 + r(6) * 0.3 } }
            : {}),
        };
        const scene = makeTracer(brushes);
        if (solidAt(scene, lamp.at)) return;
        compare(luxelsOf(floorAt(at, 200, turn), brushes, 16, samples), brushes, lamp);
      }),
      { numRuns: 36 },
    );
    expect(tally.lit + tally.between).toBeGreaterThan(3000);
    expect(tally.dark).toBeGreaterThan(1000);
    // Rays that graze an edge to the last bit may fall either way.
    expect(tally.differ).toBeLessThan(tally.dark / 300);
  });

  test('and the sun, through skies of one brush or several, with what stands beyond them', () => {
    Object.assign(tally, { lit: 0, dark: 0, between: 0, differ: 0 });
    fc.assert(
      fc.property(seeds, count, degrees, fc.constantFrom(0, 1, 2, 4), (seed, n, turn, skies) => {
        const r = (k: number) => hashRandom(seed, k, 98);
        const roof = Array.from({ length: skies }, (_, i) => {
          const [x, y] = [(i % 2) * 300 - 300, Math.floor(i / 2) * 300 - 300];
          const box = dressSolid(
            boxSolid({ min: [x, y, 200], max: [x + 300, y + (skies < 3 ? 600 : 300), 216] }),
            `s${i}`,
            'm',
          );
          const faces = box.faces.map((f, k) => (k === i || r(k) > 0.3 ? { ...f, show: 'sky' as const } : f));
          return { ...box, faces };
        });
        const above = clutter(seed + 1, 8, [0, 0, 320]);
        // Some of them stand out through the sky.
        const across = clutter(seed + 2, 6, [0, 0, 130]).map((b) => ({ ...b, id: `x${b.id}` }));
        const brushes = [...clutter(seed, n, [0, 0, 0]), ...across, ...roof, ...above];
        const sun: SunLight = {
          type: 'parallel',
          towards: normalize([r(1) - 0.5, r(2) - 0.5, 0.1 + r(3)]),
          illuminance: [900, 900, 900],
        };
        compare(luxelsOf(floorAt([0, 0, 0], 200, turn), brushes, 16, 2), brushes, sun);
      }),
      { numRuns: 36 },
    );
    expect(tally.lit).toBeGreaterThan(1000);
    expect(tally.dark).toBeGreaterThan(1000);
    expect(tally.differ).toBeLessThan(tally.dark / 300);
  });

  test('is dark behind touching walls, even where a ray runs along their seam', () => {
    const half = (id: string, min: Vec3, max: Vec3) => dressSolid(boxSolid({ min, max }), id, 'm');
    const walls = [half('w', [-200, -16, 0], [0, 0, 200]), half('e', [0, -16, 0], [200, 0, 200])];
    const mitred = [
      dressSolid(hullOf([[-200, -16, 0], [-8, -16, 0], [8, 0, 0], [-200, 0, 0], [-200, -16, 200], [-8, -16, 200], [8, 0, 200], [-200, 0, 200]]), 'w', 'm'), // prettier-ignore
      dressSolid(hullOf([[-8, -16, 0], [200, -16, 0], [200, 0, 0], [8, 0, 0], [-8, -16, 200], [200, -16, 200], [200, 0, 200], [8, 0, 200]]), 'e', 'm'), // prettier-ignore
    ];
    const floor = { ...floorAt([0, 100, 0], 100, 0) };
    for (const [brushes, at] of [
      [walls, [0, -100, 100]],
      [mitred, [-92, -100, 100]],
    ] as [Brush[], Vec3][])
      for (const samples of [1, 2, 4])
        // On and off the lattice of samples: some run exactly along the seam.
        for (const size of [16, 8, 7.3]) {
          const luxels = luxelsOf(floor, brushes, size, samples);
          const light = directLight(luxels, sceneOf(brushes), { type: 'point', at, intensity: [1e5, 1e5, 1e5] });
          expect(light).toBeNull();
        }
  });

  test('passes walls of a quarter centimetre nowhere', () => {
    const thin = dressSolid(boxSolid({ min: [-200, 0, -20], max: [200, 0.25, 200] }), 'w', 'm');
    const luxels = luxelsOf(floorAt([0, 100.25, 0], 100, 0), [thin], 8, 4);
    for (const y of [-0.3, -5, -180])
      expect(
        directLight(luxels, sceneOf([thin]), { type: 'point', at: [3, y, 60], intensity: [1e5, 1e5, 1e5] }),
      ).toBeNull();
    const before = directLight(luxels, sceneOf([thin]), {
      type: 'point',
      at: [3, 0.6, 60],
      intensity: [1e5, 1e5, 1e5],
    });
    expect(before!.share.every((x, k) => luxels.mask[k] === 0 || !luxels.used[k] || x > 0)).toBe(true);
  });
});

test('a luxel near a lamp has its mean, however near: by many small squares', () => {
  const luxels = luxelsOf(floorAt([0, 0, 0], 40, 0), [], 8, 2);
  const { chart, width } = luxels;
  for (const at of [
    [3, 5, 2],
    [0, 0, 7],
    [-21, 13, 0.5],
  ] as Vec3[]) {
    const { share } = directLight(luxels, sceneOf([]), { type: 'point', at, intensity: [1, 1, 1] })!;
    share.forEach((lux, k) => {
      const [a, b] = [
        samplePlace(chart.s0, k % width, 0, 1, 8) - at[0],
        samplePlace(chart.t0, Math.floor(k / width), 0, 1, 8) - at[1],
      ];
      // As many as the light changes quickly; far away few.
      const N = Math.hypot(a, b) < 12 ? 400 : 24;
      let sum = 0;
      for (let v = 0; v < N; v++)
        for (let u = 0; u < N; u++) {
          const [a, b] = [
            (chart.s0 + (k % width) - 1 + (u + 0.5) / N) * 8,
            (chart.t0 + Math.floor(k / width) - 1 + (v + 0.5) / N) * 8,
          ];
          const p = chartPoint(chart, a, b);
          sum += at[2] / ((p[0] - at[0]) ** 2 + (p[1] - at[1]) ** 2 + at[2] ** 2) ** 1.5;
        }
      if (luxels.used[k]) expect(Math.abs(lux / ((sum / N ** 2) * 10_000) - 1)).toBeLessThan(0.004);
    });
  }
});

test('nothing is open within a solid', () => {
  let inside = 0;
  fc.assert(
    fc.property(seeds, degrees, (seed, turn) => {
      const brushes = clutter(seed, 25, [0, 0, 0]);
      const luxels = luxelsOf(floorAt([0, 0, 0], 120, turn), brushes, 16, 2);
      const { chart, mask, width } = luxels;
      const tracer = makeTracer(brushes);
      mask.forEach((bits, k) => {
        for (let bit = 0; bit < 4; bit++) {
          const a = samplePlace(chart.s0, k % width, bit % 2, 2, 16);
          const b = samplePlace(chart.t0, Math.floor(k / width), bit >> 1, 2, 16);
          const solid = solidAt(tracer, addScaled(chartPoint(chart, a, b), chart.surface.plane.normal, OFF_SURFACE));
          if (solid) inside++;
          if (bits & (1 << bit)) expect(solid).toBeNull();
        }
      });
    }),
    { numRuns: 25 },
  );
  expect(inside).toBeGreaterThan(20);
});
