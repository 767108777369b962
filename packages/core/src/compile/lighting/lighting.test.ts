import fc from 'fast-check';
import { boxSolid, brushPlanes, findFlaw, hullOf, wedgeSolid } from '../../brush/index.ts';
import { addBrushes, addRoom, changeEntity, changeSettings, placeEntity } from '../../edit/index.ts';
import { lightTint, linearColor } from '../../surface/index.ts';
import { emptyMap, type MapDocument } from '../../map/index.ts';
import { applyAffine, dot, hashRandom, normalize, rotation, sub, type Vec3 } from '../../math/index.ts';
import { dressSolid, transformBrush } from '../../surface/index.ts';
import { DRESS, rectangle, roomSpec } from '../../testing/rooms.ts';
import { toLinear } from '../../surface/color.ts';
import { buildLevel as buildWhole } from '../build.ts';
import type { Preset } from '../fineness.ts';
import type { Lighting } from './lighting.ts';
import { lightAt, LUX_SCALE } from './pages.ts';
import { packRgb9e5, unpackRgb9e5 } from './rgb9e5.ts';
import { anyHit, enterBrush, firstHit, makeTracer, solidAt } from '../tracing/index.ts';

const WHITE = '#ffffff';

/** Direct light alone has closed forms. */
const buildLevel = (doc: MapDocument, preset: Preset) => buildWhole(doc, preset, {}, { direct: true });

/** A hall of 1000 × 1000 × 500 cm without ambient light. */
const hall = (open = false): MapDocument =>
  changeSettings(addRoom(emptyMap('hall'), roomSpec(rectangle(0, 0, 1000, 1000), { ceiling: 500, open }), DRESS), {
    ambientLux: 0,
  });
const lamp = (doc: MapDocument, at: Vec3, candela: number): MapDocument =>
  changeEntity(placeEntity(doc, 'pointLight', at, 0, `l${doc.entities.size}`), `l${doc.entities.size}`, {
    params: { candela, color: WHITE },
  });
const inside = (doc: MapDocument): MapDocument => placeEntity(doc, 'spawn', [500, 500, 0], 0, 's');

/** Reads the lightmap of a surface at a world point, without filtering: the lux of its luxel. */
function luxAt(result: ReturnType<typeof buildLevel>, p: Vec3, normal: Vec3): number {
  const { lighting, structure } = result;
  const i = structure.surfaces.findIndex(
    (s) =>
      dot(s.plane.normal, normal) > 0.999 &&
      Math.abs(dot(s.plane.normal, p) - s.plane.distance) < 0.5 &&
      contains(s.winding, normal, p),
  );
  return luxOf(lighting, i, p);
}

function contains(winding: readonly Vec3[], normal: Vec3, p: Vec3): boolean {
  return winding.every((a, i) => {
    const b = winding[(i + 1) % winding.length]!;
    const e = sub(b, a);
    const c: Vec3 = [
      e[1] * (p[2] - a[2]) - e[2] * (p[1] - a[1]),
      e[2] * (p[0] - a[0]) - e[0] * (p[2] - a[2]),
      e[0] * (p[1] - a[1]) - e[1] * (p[0] - a[0]),
    ];
    return dot(c, normal) >= -1e-6;
  });
}

function luxOf(lighting: Lighting, surface: number, p: Vec3, channel = 1): number {
  const place = lighting.places[surface]!;
  const { chart } = place;
  const x = place.x + Math.floor(dot(p, chart.s) / chart.size) - chart.s0;
  const y = place.y + Math.floor(dot(p, chart.t) / chart.size) - chart.t0;
  const page = lighting.pages[place.page]!;
  return unpackRgb9e5(page.texels[y * page.width + x]!)[channel]! * LUX_SCALE;
}

/** The middle of the luxel a point lies in. */
const middle = (c: number, size: number): number => (Math.floor(c / size) + 0.5) * size;

describe('a spot light', () => {
  /** Smooth between the two half angles, by their cosines: what the catalogue promises. */
  const edge = (cos: number, inner: number, outer: number): number => {
    const t = Math.min(1, Math.max(0, (cos - Math.cos(outer)) / (Math.cos(inner) - Math.cos(outer))));
    return t * t * (3 - 2 * t);
  };
  test('gives I·cosθ/d² within its cone, fades at the soft edge and leaves the rest dark', () => {
    const at: Vec3 = [500, 500, 400];
    const params = { candela: 900, color: WHITE, cone: 70, soft: 0.4, aim: [60, 0, -200] as Vec3 };
    const doc = changeEntity(placeEntity(inside(hall()), 'spotLight', at, 0, 'spot'), 'spot', { params });
    const result = buildLevel(doc, 'final');
    const axis = normalize(params.aim);
    const half = (35 * Math.PI) / 180;
    const seen = { lit: 0, soft: 0, dark: 0 };
    for (let x = 60; x < 960; x += 75)
      for (let y = 60; y < 960; y += 75) {
        const p: Vec3 = [middle(x, 8), middle(y, 8), 0];
        const way = sub(p, at);
        const d = Math.hypot(...way);
        const share = edge(dot(way, axis) / d, half * 0.6, half);
        const expected = (900 * (at[2] / d) * share) / (d / 100) ** 2;
        const lux = luxAt(result, p, [0, 0, 1]);
        if (share === 0) expect(lux).toBeLessThan(1);
        else if (share === 1) expect(Math.abs(lux - expected) / expected).toBeLessThan(0.01);
        // Within the soft edge a luxel is the mean over its square.
        else expect(Math.abs(lux - expected)).toBeLessThan(0.5);
        seen[share === 0 ? 'dark' : share === 1 ? 'lit' : 'soft']++;
      }
    expect(Math.min(seen.lit, seen.soft, seen.dark)).toBeGreaterThan(5);
  });
});

describe('a point light', () => {
  test('gives I·cosθ/d² on a floor', () => {
    const result = buildLevel(lamp(inside(hall()), [500, 500, 300], 900), 'final');
    for (const [x, y] of [
      [500, 500],
      [620, 500],
      [800, 300],
      [100, 900],
    ] as const) {
      const p: Vec3 = [middle(x, 8), middle(y, 8), 0];
      const d2 = ((p[0] - 500) ** 2 + (p[1] - 500) ** 2 + 300 ** 2) / 10_000;
      const expected = (900 * 3) / d2 ** 1.5;
      expect(Math.abs(luxAt(result, p, [0, 0, 1]) / expected - 1)).toBeLessThan(0.01);
    }
  });

  test('that ends somewhere is whole near it, less beyond half of the way, and nothing from there on', () => {
    let doc = lamp(inside(hall()), [500, 500, 20], 900);
    const id = [...doc.entities.values()].find((e) => e.kind === 'pointLight')!.id;
    doc = changeEntity(doc, id, { params: { ends: 300 } });
    const result = buildLevel(doc, 'final');
    for (const x of [580, 620, 700, 760, 790, 812, 900]) {
      const p: Vec3 = [middle(x, 8), middle(500, 8), 0];
      const d2 = (p[0] - 500) ** 2 + (p[1] - 500) ** 2 + 20 ** 2;
      const share = d2 < 300 ** 2 ? (1 - (d2 / 300 ** 2) ** 2) ** 2 : 0;
      const expected = ((900 * 20) / d2 ** 1.5) * 10_000 * share;
      expect(Math.abs(luxAt(result, p, [0, 0, 1]) - expected)).toBeLessThan(0.02 * expected + 0.001);
    }
  });

  test('throws the shadow of a slab where geometry says', () => {
    // A slab from x = 400 to 450 at height 100, lamp at height 200 over x = 300: the shadow reaches from 500 to 600.
    const slab = dressSolid(boxSolid({ min: [400, 100, 99], max: [450, 900, 100] }), 'slab', 'slate', {
      role: 'detail',
    });
    const result = buildLevel(lamp(inside(addBrushes(hall(), [slab])), [300, 500, 200], 900), 'final');
    const lit = (x: number) => luxAt(result, [x, 500, 0], [0, 0, 1]) > 1;
    // Edges by similar triangles: 300 + (400 − 300)·200/101 = 498 near the lower edge, 300 + 150·200/100 = 600 at the upper.
    expect([480, 490].map(lit)).toEqual([true, true]);
    expect([508, 540, 590].map(lit)).toEqual([false, false, false]);
    expect([612, 640].map(lit)).toEqual([true, true]);
  });

  test('goes through what sight goes through', () => {
    const net = dressSolid(boxSolid({ min: [400, 100, 99], max: [450, 900, 100] }), 'net', 'slate', {
      role: 'detail',
      stops: [],
    });
    const lux = (doc: MapDocument) => luxAt(buildLevel(doc, 'review'), [540, 500, 0], [0, 0, 1]);
    const open = lamp(inside(hall()), [300, 500, 200], 900);
    expect(lux(addBrushes(open, [net]))).toBeCloseTo(lux(open), 6);
  });

  test('lights nothing behind a wall', () => {
    const wall = dressSolid(boxSolid({ min: [600, 0, 0], max: [616, 1000, 500] }), 'wall', 'slate');
    const doc = placeEntity(lamp(inside(addBrushes(hall(), [wall])), [300, 500, 200], 900), 'spawn', [800, 500, 0]);
    const result = buildLevel(doc, 'review');
    expect(luxAt(result, [800, 500, 0], [0, 0, 1])).toBe(0);
    expect(luxAt(result, [400, 500, 0], [0, 0, 1])).toBeGreaterThan(10);
  });
});

describe('the sun', () => {
  const sunny = (height: number, doc = hall(true)) =>
    changeEntity(placeEntity(inside(doc), 'sun', [0, 0, 0], 0, 'sun'), 'sun', {
      params: { lux: 1000, height, color: WHITE },
    });

  test('gives E·sin(height) on a floor that sees it, and nothing in the shadow of the wall', () => {
    const result = buildLevel(sunny(45), 'review');
    // From the east at 45°, the wall of 500 cm shades everything east of x = 500.
    expect(luxAt(result, [200, 500, 0], [0, 0, 1])).toBeCloseTo(1000 * Math.SQRT1_2, -1);
    expect(luxAt(result, [480, 500, 0], [0, 0, 1])).toBeGreaterThan(600);
    expect(luxAt(result, [520, 500, 0], [0, 0, 1])).toBe(0);
    expect(luxAt(result, [0, 500, 250], [1, 0, 0])).toBeCloseTo(1000 * Math.SQRT1_2, -1);
  });

  test('has its colour on every floor that it slants onto', () => {
    const color = '#ff8040';
    const doc = changeEntity(sunny(30), 'sun', { params: { lux: 1000, height: 30, color } });
    const { lighting, structure } = buildLevel(doc, 'review');
    const floor = structure.surfaces.findIndex(
      (s) => s.plane.normal[2] > 0.999 && s.plane.distance === 0 && contains(s.winding, [0, 0, 1], [100, 500, 0]),
    );
    // The parts of a colour in light follow the published curve; together they give the illuminance.
    const parts = [0, 1, 2].map((c) => luxOf(lighting, floor, [100, 500, 0], c));
    const wanted = [255, 128, 64].map((c) => toLinear(c / 255));
    const k = parts[0]! / wanted[0]!;
    expect(k).toBeGreaterThan(100);
    parts.forEach((x, c) => expect(x / (k * wanted[c]!)).toBeCloseTo(1, 1));
  });

  test('does not come through a closed ceiling', () => {
    const result = buildLevel(sunny(80, hall(false)), 'sketch');
    expect(luxAt(result, [500, 500, 0], [0, 0, 1])).toBe(0);
  });
});

test('ambient light is even, in lux', () => {
  const result = buildLevel(changeSettings(inside(hall()), { ambientLux: 8, ambientColor: WHITE }), 'sketch');
  for (const p of [
    [100, 100, 0],
    [900, 500, 0],
  ] as Vec3[])
    expect(luxAt(result, p, [0, 0, 1])).toBeCloseTo(8, 1);
});

test('luxels inside a solid take light from where a clear way leads to them, never through a wall', () => {
  // A thick block on the floor between a bright and a dark half.
  const block = dressSolid(boxSolid({ min: [480, 0, 0], max: [560, 1000, 500] }), 'block', 'slate', { role: 'detail' });
  const result = buildLevel(lamp(inside(addBrushes(hall(), [block])), [200, 500, 250], 2000), 'review');
  expect(result.lighting.repaired).toBeGreaterThan(0);
  expect(luxAt(result, [570, 500, 0], [0, 0, 1])).toBeLessThan(0.5);
  expect(luxAt(result, [470, 500, 0], [0, 0, 1])).toBeGreaterThan(20);
});

describe('colours', () => {
  test('a light’s strength is its luminance whatever its colour', () => {
    for (const hex of ['#ffffff', '#ff8800', '#2040ff']) {
      const [r, g, b] = lightTint(hex);
      expect(0.2126 * r + 0.7152 * g + 0.0722 * b).toBeCloseTo(1, 9);
    }
    expect(linearColor('#ff0000')).toEqual([1, 0, 0]);
    expect(linearColor('#bcbcbc')[0]).toBeCloseTo(0.5, 2);
    expect(linearColor('nonsense')).toEqual([0, 0, 0]);
  });

  test('packing loses less than a 512th of the brightest channel', () => {
    const channel = fc.double({ min: 0, max: 60000, noNaN: true });
    fc.assert(
      fc.property(channel, channel, channel, (r, g, b) => {
        const top = Math.max(r, g, b);
        unpackRgb9e5(packRgb9e5(r, g, b)).forEach((c, i) =>
          expect(Math.abs(c - [r, g, b][i]!)).toBeLessThanOrEqual(top / 512 + 1e-6),
        );
      }),
    );
    expect(unpackRgb9e5(packRgb9e5(-5, 0, NaN))).toEqual([0, 0, 0]);
  });
});

describe('the ray tracer', () => {
  const shapes = [
    ...Array.from({ length: 60 }, (_, i) => {
      const [x, y, z] = [hashRandom(i, 1) * 900, hashRandom(i, 2) * 900, hashRandom(i, 3) * 900];
      const solid =
        i % 4 === 0
          ? wedgeSolid({ min: [x, y, z], max: [x + 80, y + 60, z + 40] }, 'north')
          : boxSolid({ min: [x, y, z], max: [x + 20 + hashRandom(i, 4) * 90, y + 50, z + 30] });
      const brush = dressSolid(solid, `b${i}`, 'm');
      return i % 3 === 0 ? transformBrush(brush, rotation((i % 2) as 0, i * 17, [x, y, z]), true) : brush;
    }),
    ...Array.from({ length: 10 }, (_, i) =>
      hullOf(
        Array.from({ length: 12 }, (_, k): Vec3 => [
          500 + hashRandom(i, k, 1) * 100,
          i * 90 + hashRandom(i, k, 2) * 80,
          hashRandom(i, k, 3) * 500,
        ]),
      ),
    )
      .filter((s) => findFlaw(s) === null)
      .map((s, i) => dressSolid(s, `h${i}`, 'm')),
  ];
  const tracer = makeTracer(shapes);

  test('agrees with trying every brush, for any ray', () => {
    let hits = 0;
    for (let k = 0; k < 4000; k++) {
      const o: Vec3 = [hashRandom(k, 5) * 1200 - 100, hashRandom(k, 6) * 1200 - 100, hashRandom(k, 7) * 1200 - 100];
      const d = normalize([hashRandom(k, 8) - 0.5, hashRandom(k, 9) - 0.5, hashRandom(k, 10) - 0.5]);
      const far = 100 + hashRandom(k, 11) * 1500;
      const each = shapes.map((b) => enterBrush(b, o, d, far)).filter((h) => h !== null);
      expect(anyHit(tracer, ...o, ...d, far)).toBe(each.length > 0);
      const first = firstHit(tracer, o, d, far);
      expect(first?.at ?? -1).toBeCloseTo(each.length ? Math.min(...each.map((h) => h.at)) : -1, 9);
      if (each.length) hits++;
    }
    expect(hits).toBeGreaterThan(300);
  });

  test('holds for rays along the axes and along faces', () => {
    const one = makeTracer([dressSolid(boxSolid({ min: [0, 0, 0], max: [10, 10, 10] }), 'b', 'm')]);
    expect(anyHit(one, 5, 5, 50, 0, 0, -1, 100)).toBe(true);
    expect(anyHit(one, 5, 5, 50, 0, 0, 1, 100)).toBe(false);
    expect(anyHit(one, -5, 5, 5, 1, 0, 0, 4)).toBe(false);
    expect(anyHit(one, 5, 5, 10.05, 1, 0, 0, 100)).toBe(false);
    expect(anyHit(makeTracer([]), 0, 0, 0, 1, 0, 0, 9)).toBe(false);
  });

  test('finds the solid at a point', () => {
    const one = makeTracer([dressSolid(boxSolid({ min: [0, 0, 0], max: [10, 10, 10] }), 'b', 'm')]);
    expect(solidAt(one, [5, 5, 5])?.id).toBe('b');
    expect(solidAt(one, [5, 5, 10.5])).toBeNull();
  });

  test('finds it among turned boxes, wedges and hulls as trying every brush does, deeper than asked for', () => {
    let found = 0;
    for (let k = 0; k < 6000; k++) {
      // Near the solids' corners and middles: anywhere else most places are empty.
      const brush = shapes[k % shapes.length]!;
      const v = brush.vertices[k % brush.vertices.length]!;
      const p = v.map((c, i) => c + (hashRandom(k, i, 71) - 0.5) * 50) as unknown as Vec3;
      const depth = (k % 3) * 2;
      const within = shapes.filter((b) =>
        brushPlanes(b).every((plane) => dot(plane.normal, p) - plane.distance < -depth),
      );
      const solid = solidAt(tracer, p, depth);
      expect(solid === null ? within.length : within.includes(solid)).toBe(solid === null ? 0 : true);
      if (solid) found++;
    }
    expect(found).toBeGreaterThan(300);
  });
});

/** The light of a surface at a place as a renderer filters it: between the four luxels around it. */
function filtered(result: ReturnType<typeof buildLevel>, brush: string, p: Vec3, normal: Vec3): number {
  const { lighting, structure } = result;
  const i = structure.surfaces.findIndex(
    (s) => s.brush === brush && dot(s.plane.normal, normal) > 0.999 && contains(s.winding, normal, p),
  );
  const place = lighting.places[i]!;
  const page = lighting.pages[place.page]!;
  const [u, v] = lightAt(place, p, lighting.pages);
  const [x, y] = [u * page.width - 0.5, v * page.height - 0.5];
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const at = (a: number, b: number) => unpackRgb9e5(page.texels[b * page.width + a]!)[1]! * LUX_SCALE;
  const [fx, fy] = [x - x0, y - y0];
  return (
    (at(x0, y0) * (1 - fx) + at(x0 + 1, y0) * fx) * (1 - fy) +
    (at(x0, y0 + 1) * (1 - fx) + at(x0 + 1, y0 + 1) * fx) * fy
  );
}

describe('what filtering shows', () => {
  const truth = (from: Vec3, candela: number, p: Vec3, n: Vec3): number => {
    const d = sub(from, p).map((c) => c / 100) as unknown as Vec3;
    return (candela * dot(d, n)) / Math.hypot(...d) ** 3;
  };

  test('on a face that a lamp nearly lies in the plane of is right, though it is dark there', () => {
    const table = dressSolid(boxSolid({ min: [200, 200, 0], max: [800, 800, 100] }), 'table', 'slate', {
      role: 'detail',
    });
    for (const above of [0.3, 0.8, 2]) {
      const at: Vec3 = [96, 500, 100 + above];
      const result = buildLevel(lamp(inside(addBrushes(hall(), [table])), at, 20_000), 'final');
      for (const x of [300, 404, 620, 780]) {
        const p: Vec3 = [middle(x, 8), middle(500, 8), 100];
        expect(Math.abs(filtered(result, 'table', p, [0, 0, 1]) / truth(at, 20_000, p, [0, 0, 1]) - 1)).toBeLessThan(
          0.01,
        );
      }
    }
  });

  test('runs on over the seams of flush tiles, on and off the lattice, turned too', () => {
    const at: Vec3 = [430, 380, 240];
    for (const [degrees, seam] of [
      [0, 448],
      [0, 461],
      [27, 461],
      [45, 480],
    ] as const) {
      const turn = rotation(2, degrees, [500, 500, 0]);
      const tile = (id: string, from: number, to: number) =>
        transformBrush(
          dressSolid(boxSolid({ min: [from, 300, 0], max: [to, 700, 60] }), id, id, { role: 'detail' }),
          turn,
          true,
        );
      const doc = addBrushes(hall(), [tile('slate', 300, seam), tile('oak-plank', seam, 700)]);
      const result = buildLevel(lamp(inside(doc), at, 900), 'review');
      for (let y = 312; y < 690; y += 21) {
        const p = applyAffine(turn, [seam, y, 60]);
        const [a, b] = ['slate', 'oak-plank'].map((id) => filtered(result, id, p, [0, 0, 1]));
        expect(Math.abs(a! / b! - 1)).toBeLessThan(0.004);
        expect(Math.abs(a! / truth(at, 900, p, [0, 0, 1]) - 1)).toBeLessThan(0.01);
      }
    }
  });

  test('in corners, at edges and on narrow faces keeps to the closed form', () => {
    const at: Vec3 = [300, 420, 260];
    const lath = dressSolid(boxSolid({ min: [500, 600, 0], max: [505, 900, 90] }), 'lath', 'slate', { role: 'detail' });
    const result = buildLevel(lamp(inside(addBrushes(hall(), [lath])), at, 900), 'review');
    const floor = [...result.structure.surfaces].find((s) => s.plane.normal[2] === 1 && s.plane.distance === 0)!.brush;
    for (const [x, y] of [
      [2, 2],
      [3, 500],
      [998, 4],
      [700, 997],
      [250, 1],
    ] as const)
      expect(
        Math.abs(filtered(result, floor, [x, y, 0], [0, 0, 1]) / truth(at, 900, [x, y, 0], [0, 0, 1]) - 1),
      ).toBeLessThan(0.02);
    for (const z of [1, 30, 60, 89])
      expect(
        Math.abs(filtered(result, 'lath', [500, 700, z], [-1, 0, 0]) / truth(at, 900, [500, 700, z], [-1, 0, 0]) - 1),
      ).toBeLessThan(0.02);
  });

  test('never brings light through a wall, however coarse the luxels', () => {
    const wall = dressSolid(boxSolid({ min: [600, 0, 0], max: [604, 1000, 500] }), 'wall', 'slate');
    const doc = placeEntity(lamp(inside(addBrushes(hall(), [wall])), [590, 500, 60], 5000), 'spawn', [800, 500, 0]);
    const result = buildLevel(doc, 'sketch');
    const dark = result.structure.surfaces.flatMap((s, i) => (s.winding.every((p) => p[0] >= 603.9) ? [i] : []));
    expect(dark.length).toBeGreaterThan(3);
    for (const i of dark) {
      const place = result.lighting.places[i]!;
      const page = result.lighting.pages[place.page]!;
      for (let y = -1; y <= place.chart.height; y++)
        for (let x = -1; x <= place.chart.width; x++)
          expect(unpackRgb9e5(page.texels[(place.y + y) * page.width + place.x + x]!)[1]).toBe(0);
    }
  });
});
