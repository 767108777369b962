import fc from 'fast-check';
import { boxSolid, prismSolid, type Brush } from '../../brush/index.ts';
import { addBrushes, addRoom, changeEntity, changeSettings, placeEntity } from '../../edit/index.ts';
import { linearColor } from '../../surface/index.ts';
import { emptyMap, type MapDocument } from '../../map/index.ts';
import { applyAffine, dot, invertAffine, rotation, windingArea, windingCentroid, type Vec3 } from '../../math/index.ts';
import { dressSolid, transformBrush, type MaterialFacts } from '../../surface/index.ts';
import { rectangle, roomSpec } from '../../testing/rooms.ts';
import { buildLevel, type BuildResult } from '../build.ts';
import type { Preset } from '../fineness.ts';
import type { Surface } from '../structure/index.ts';
import { clipRectangle } from './charts.ts';
import { LUX_SCALE } from './pages.ts';
import { unpackRgb9e5 } from './rgb9e5.ts';

/** A world of grey materials: `grey 186 glow 50` reflects as sRGB grey 186 and gives off 50 nits. */
const materials = (name: string): MaterialFacts | undefined => {
  const m = /^grey (\d+)(?: glow ([\d.]+))?$/.exec(name);
  if (!m) return undefined;
  const hex = Number(m[1]).toString(16).padStart(2, '0');
  const facts = { name, width: 512, height: 512, texelsPerCm: 2, solidity: 'solid' as const };
  return { ...facts, average: `#${hex}${hex}${hex}`, ...(m[2] ? { glow: Number(m[2]) } : {}) };
};
const reflects = (grey: number): number => linearColor(`#${grey.toString(16).padStart(2, '0').repeat(3)}`)[0];

const room = (wall: string, w = 400, d = 300, h = 250, ambientLux = 0): MapDocument =>
  placeEntity(
    changeSettings(
      addRoom(emptyMap('room'), roomSpec(rectangle(0, 0, w, d), { ceiling: h }), { floor: wall, wall, ceiling: wall }),
      { ambientLux },
    ),
    'spawn',
    [w / 2, d / 2, 0],
    0,
    's',
  );
const lamp = (doc: MapDocument, at: Vec3, candela: number): MapDocument =>
  changeEntity(placeEntity(doc, 'pointLight', at, 0, `l${doc.entities.size}`), `l${doc.entities.size}`, {
    params: { candela, color: '#ffffff' },
  });
const slab = (id: string, min: Vec3, max: Vec3, material: string): Brush =>
  dressSolid(boxSolid({ min, max }), id, material, { role: 'detail' });
/** The place of a brush's face that looks a way. */
const facing = (brush: Brush, way: Vec3): number =>
  brush.faces.findIndex((f) => {
    const [a, b, c] = f.loop.map((i) => brush.vertices[i]!) as [Vec3, Vec3, Vec3];
    const u = b.map((x, k) => x - a[k]!) as [number, number, number];
    const v = c.map((x, k) => x - a[k]!) as [number, number, number];
    const n: Vec3 = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    return dot(n, way) > 0.99 * Math.hypot(...n);
  });
const build = (doc: MapDocument, preset: Preset = 'review') => buildLevel(doc, preset, {}, { materials });

/** The lux of all luxels of a surface, each with how much of it is surface (cm²). */
function luxels({ lighting, structure }: BuildResult, surface: Surface): { lux: number; area: number }[] {
  const place = lighting.places[structure.surfaces.indexOf(surface)]!;
  const page = lighting.pages[place.page]!;
  const { chart } = place;
  const out: { lux: number; area: number }[] = [];
  for (let j = 0; j < chart.height; j++)
    for (let i = 0; i < chart.width; i++) {
      const [a, b] = [(chart.s0 + i) * chart.size, (chart.t0 + j) * chart.size];
      const part = clipRectangle(chart.outline, a, b, a + chart.size, b + chart.size);
      const area = part.reduce((sum, p, k) => {
        const q = part[(k + 1) % part.length]!;
        return sum + (p[0] * q[1] - q[0] * p[1]) / 2;
      }, 0);
      if (area < 1e-6) continue;
      out.push({ lux: unpackRgb9e5(page.texels[(place.y + j) * page.width + place.x + i]!)[1]! * LUX_SCALE, area });
    }
  return out;
}
const meanOf = (list: readonly { lux: number; area: number }[]): number =>
  list.reduce((n, l) => n + l.lux * l.area, 0) / list.reduce((n, l) => n + l.area, 0);
const surfacesOf = ({ structure }: BuildResult, brush: string, way: Vec3): Surface[] =>
  structure.surfaces.filter((s) => s.brush === brush && dot(s.plane.normal, way) > 0.99);
const meanOn = (result: BuildResult, brush: string, way: Vec3): number =>
  meanOf(surfacesOf(result, brush, way).flatMap((s) => luxels(result, s)));

describe('a white furnace', () => {
  // All surfaces give off as much and reflect as much: everywhere there falls E = π·L / (1 − ρ), whatever the shape.
  for (const grey of [124, 243])
    test(`gives π·L/(1 − ρ) everywhere, for grey ${grey}`, () => {
      const wall = `grey ${grey} glow 10`;
      const clutter = [
        slab('lath', [40, 50, 0], [42, 100, 90], wall),
        slab('sliver', [80, 20, 40], [150, 20.5, 41], wall),
        transformBrush(slab('turned', [90, 70, 0], [130, 110, 50], wall), rotation(2, 27, [110, 90, 0]), true),
      ];
      const result = build(addBrushes(room(wall, 160, 140, 112), clutter));
      const expected = (Math.PI * 10) / (1 - reflects(grey));
      const all = result.structure.surfaces.flatMap((s) => luxels(result, s));
      expect(Math.min(...all.map((l) => l.lux)) / expected).toBeGreaterThan(0.95);
      expect(Math.max(...all.map((l) => l.lux)) / expected).toBeLessThan(1.05);
      expect(Math.abs(meanOf(all) / expected - 1)).toBeLessThan(0.01);
    });

  test('half of which glows keeps what it gives off: as much is absorbed', () => {
    const doc = addBrushes(room('grey 188'), [slab('lit', [150, 100, 60], [250, 200, 90], 'grey 0 glow 100')]);
    const result = build(doc);
    let absorbed = 0;
    let given = 0;
    for (const s of result.structure.surfaces) {
      const area = windingArea(s.winding) / 10_000;
      absorbed += meanOf(luxels(result, s)) * area * (1 - (s.material === 'grey 188' ? reflects(188) : 0));
      if (s.material !== 'grey 188') given += area * Math.PI * 100;
    }
    expect(absorbed / given).toBeGreaterThan(0.98);
    expect(absorbed / given).toBeLessThan(1.02);
  });
});

describe('what two squares exchange', () => {
  const between = (...squares: Brush[]) => build(addBrushes(room('grey 0', 240, 240, 240), squares), 'final');
  const glowing = 'grey 0 glow 100';
  const low = slab('low', [80, 80, 60], [160, 160, 60.25], 'grey 0');
  const up = {
    ...low,
    faces: low.faces.map((f, i) => (i === facing(low, [0, 0, 1]) ? { ...f, material: glowing } : f)),
  };

  test('is 0.19982 of it when they face each other an edge apart', () => {
    const result = between(up, slab('high', [80, 80, 140.25], [160, 160, 140.5], 'grey 0'));
    expect(Math.abs(meanOn(result, 'high', [0, 0, -1]) / (100 * Math.PI) / 0.19982 - 1)).toBeLessThan(0.01);
    // Nothing falls on the other's back.
    expect(meanOn(result, 'high', [0, 0, 1])).toBe(0);
  });

  test('is 0.20004 when they share an edge at a right angle', () => {
    const result = between(up, slab('wall', [79.75, 80, 60.25], [80, 160, 140.25], 'grey 0'));
    expect(Math.abs(meanOn(result, 'wall', [1, 0, 0]) / (100 * Math.PI) / 0.20004 - 1)).toBeLessThan(0.01);
  });
});

test('what two discs exchange that face each other on one axis is what their radii and the gap tell', () => {
  const disc = (id: string, radius: number, z: number): Brush =>
    dressSolid(
      prismSolid({ min: [120 - radius, 120 - radius, z], max: [120 + radius, 120 + radius, z + 0.25] }, 24),
      id,
      'grey 0',
      { role: 'detail' },
    );
  for (const [r1, r2, gap] of [
    [40, 64, 48],
    [72, 36, 90],
  ] as const) {
    const low = disc('low', r1, 40);
    const up = facing(low, [0, 0, 1]);
    const faces = low.faces.map((f, i) => (i === up ? { ...f, material: 'grey 0 glow 100' } : f));
    const result = build(
      addBrushes(room('grey 0', 240, 240, 240), [{ ...low, faces }, disc('high', r2, 40.25 + gap)]),
      'final',
    );
    const area = (id: string, way: Vec3) =>
      surfacesOf(result, id, way).reduce((sum, s) => sum + windingArea(s.winding), 0);
    // As discs of the polygons' areas. (Two parallel coaxial discs: Howell, A Catalog of Radiation Heat Transfer Configuration Factors, C-41.)
    const [a1, a2] = [area('low', [0, 0, 1]), area('high', [0, 0, -1])];
    const x = 1 + (1 + a2 / (Math.PI * gap ** 2)) / (a1 / (Math.PI * gap ** 2));
    const factor = (x - Math.sqrt(x ** 2 - (4 * a2) / a1)) / 2;
    const falls = meanOn(result, 'high', [0, 0, -1]);
    expect(Math.abs((falls * a2) / (a1 * factor * 100 * Math.PI) - 1)).toBeLessThan(0.01);
  }
});

describe('a lamp in a room', () => {
  test('is absorbed whole: what falls on all surfaces, less what they reflect, is 4π·I', () => {
    for (const at of [
      [200, 150, 125],
      // So near the ceiling that most of it falls on a hand's breadth.
      [130, 90, 244],
    ] as Vec3[]) {
      const result = build(lamp(room('grey 188'), at, 100));
      const absorbed = result.structure.surfaces.reduce(
        (sum, s) => sum + ((meanOf(luxels(result, s)) * windingArea(s.winding)) / 10_000) * (1 - reflects(188)),
        0,
      );
      expect(absorbed / (4 * Math.PI * 100)).toBeGreaterThan(0.985);
      expect(absorbed / (4 * Math.PI * 100)).toBeLessThan(1.015);
      expect(result.lighting.left.at(-1)).toBeLessThan(0.01);
    }
  });

  test('brings nothing behind a wall of a quarter centimetre, nor under what stands on the floor', () => {
    const doc = addBrushes(lamp(room('grey 188'), [100, 150, 120], 500), [
      { ...slab('wall', [200, 0, 0], [200.25, 300, 250], 'grey 188'), role: 'structure' },
    ]);
    const other = placeEntity(doc, 'spawn', [300, 150, 0], 0, 't');
    for (const preset of ['sketch', 'review'] as const) {
      const result = build(other, preset);
      const dark = result.structure.surfaces.filter((s) => s.winding.every((p) => p[0] >= 200.2));
      expect(dark.length).toBeGreaterThan(3);
      for (const s of dark) for (const { lux } of luxels(result, s)) expect(lux).toBe(0);
    }
  });

  test('tints what it bounces off', () => {
    const colored = (name: string): MaterialFacts | undefined =>
      name === 'red' ? { ...materials('grey 0')!, name, average: '#ff0000' } : materials(name);
    const doc = addBrushes(lamp(room('grey 0'), [60, 150, 120], 500), [slab('panel', [0, 0, 0], [2, 300, 250], 'red')]);
    const result = buildLevel(doc, 'review', {}, { materials: colored });
    const far = result.structure.surfaces.find((s) => s.plane.normal[0] < -0.99 && s.plane.distance < -300)!;
    const place = result.lighting.places[result.structure.surfaces.indexOf(far)]!;
    const page = result.lighting.pages[place.page]!;
    const bare = build(lamp(room('grey 0'), [60, 150, 120], 500));
    const before =
      bare.lighting.places[
        bare.structure.surfaces.findIndex((s) => s.plane.normal[0] < -0.99 && s.plane.distance < -300)
      ]!;
    const at = (p: typeof place, r: BuildResult) =>
      unpackRgb9e5(r.lighting.pages[p.page]!.texels[(p.y + 5) * r.lighting.pages[p.page]!.width + p.x + 5]!);
    expect(page).toBeDefined();
    const [more, less] = [at(place, result), at(before, bare)];
    expect(more[0]!).toBeGreaterThan(1.1 * less[0]!);
    expect(more[2]!).toBeCloseTo(less[2]!, 2);
  });
});

test('what bounces counts as many times as the map asks: with twice of it there is the direct light, and twice the rest', () => {
  const doc = lamp(room('grey 186'), [200, 150, 200], 200);
  const mean = (map: MapDocument) => {
    const { lighting } = buildLevel(map, 'sketch', {}, { materials, probes: false });
    const lit = lighting.pages.flatMap((p) => [...p.texels]).map((t) => unpackRgb9e5(t)[1]!);
    return lit.reduce((sum, l) => sum + l, 0) / lit.length;
  };
  const [none, once, twice] = [0, undefined, 2].map((bounced) =>
    mean(bounced === undefined ? doc : changeSettings(doc, { bounced })),
  );
  expect(once!).toBeGreaterThan(1.2 * none!);
  expect((twice! - none!) / (once! - none!)).toBeCloseTo(2, 2);
});

test('behind a wall that stands anywhere on the floor it is dark, however thin the wall and however all of it is turned', () => {
  const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  fc.assert(
    fc.property(number(150, 450), number(0.5, 70), number(0, 360), fc.boolean(), (x, thick, degrees, east) => {
      const [w, d, h] = [620, 300, 250];
      const wall = (id: string, min: Vec3, max: Vec3) => dressSolid(boxSolid({ min, max }), id, 'grey 243');
      const turn = rotation(2, degrees, [3000, -500, 0]);
      const brushes = [
        wall('floor', [-16, -16, -16], [w + 16, d + 16, 0]),
        wall('ceiling', [-16, -16, h], [w + 16, d + 16, h + 16]),
        wall('south', [-16, -16, 0], [w + 16, 0, h]),
        wall('north', [-16, d, 0], [w + 16, d + 16, h]),
        wall('west', [-16, 0, 0], [0, d, h]),
        wall('east', [w, 0, 0], [w + 16, d, h]),
        wall('between', [x, 0, 0], [x + thick, d, h]),
      ].map((b) => transformBrush(b, turn, true));
      const at = (p: Vec3) => applyAffine(turn, p);
      let doc = changeSettings(addBrushes(emptyMap('halls'), brushes), { ambientLux: 0 });
      for (const [id, of] of [
        ['s', 60],
        ['t', w - 30],
      ] as const)
        doc = placeEntity(doc, 'spawn', at([of, 200, 0]), 0, id);
      const result = build(lamp(doc, at([east ? w - 40 : 60, 100, 120]), 2000), 'sketch');
      let lit = 0;
      for (const surface of result.structure.surfaces) {
        const here = applyAffine(invertAffine(turn)!, windingCentroid(surface.winding))[0];
        // The faces of the wall itself lie on its borders.
        const isEast = Math.abs(here - x) < 0.1 ? false : Math.abs(here - x - thick) < 0.1 ? true : here > x;
        const most = Math.max(...luxels(result, surface).map((l) => l.lux));
        if (isEast === east) lit++;
        else expect(most).toBe(0);
      }
      expect(lit).toBeGreaterThan(4);
    }),
    { numRuns: 12 },
  );
});

test('plates as small as one patch, each alone in its plane, give back what falls on them: squares an edge apart exchange 0.19982', () => {
  const pairs = Array.from({ length: 24 }, (_, k): [Brush, Brush] => {
    const [x, y, z] = [80 + 64 * (k % 6), 48 + 64 * Math.floor(k / 6), 60 + k];
    const plate = (id: string, z: number, grey: number) =>
      slab(`${id}${k}`, [x, y, z], [x + 16, y + 16, z + 0.25], `grey ${grey}`);
    return [plate('low', z, 243), plate('high', z + 16.25, 0)];
  });
  // The lamp stands so flat that no upper plate throws a shadow on a lower one, and above the undersides.
  const doc = lamp(room('grey 0', 900, 320, 400), [800, 160, 380], 20_000);
  const result = build(addBrushes(doc, pairs.flat()), 'final');
  const exchanged = pairs.map(
    ([low, high]) => meanOn(result, high.id, [0, 0, -1]) / (reflects(243) * meanOn(result, low.id, [0, 0, 1])),
  );
  // 64 links a patch: what one pair exchanges is off by a quarter, all of them by a twentieth.
  expect(exchanged.reduce((a, b) => a + b) / pairs.length / 0.19982).toBeGreaterThan(0.85);
  expect(exchanged.reduce((a, b) => a + b) / pairs.length / 0.19982).toBeLessThan(1.15);
});
