import { addRoom, changeEntity, changeSettings, openDoorway, placeEntity, setReflection } from '../../edit/index.ts';
import { Cancelled } from '../../jobs/index.ts';
import { emptyMap, type MapDocument } from '../../map/index.ts';
import { dot, type Vec3 } from '../../math/index.ts';
import type { MaterialFacts } from '../../surface/index.ts';
import { DRESS, rectangle, roomSpec } from '../../testing/rooms.ts';
import { buildLevel } from '../build.ts';
import { readLevel, writeLevel, type Level } from '../level/index.ts';
import type { LightFinder } from './light-finder.ts';
import { octahedralDirection, octahedralMeasure, octahedralPlace } from './octahedral.ts';
import { LUX_SCALE } from './pages.ts';
import { BLOCK, BLOCKS_ACROSS, NO_REFLECTION, roughened, SQUARES, traceReflections } from './reflections.ts';
import { unpackRgb9e5 } from './rgb9e5.ts';

const facts = { width: 64, height: 64, texelsPerCm: 1, solidity: 'solid', average: '#000000' } as const;
/** Black, but for what is named: as bright as it says, in white. */
const glowing =
  (nits: Readonly<Record<string, number>>) =>
  (name: string): MaterialFacts =>
    nits[name] ? { ...facts, name, average: '#ffffff', glow: nits[name] } : { ...facts, name };

const dark = (doc: MapDocument): MapDocument =>
  placeEntity(changeSettings(doc, { ambientLux: 0 }), 'spawn', [100, 100, 0], 0, 's');
const hall = (): MapDocument =>
  dark(addRoom(emptyMap('hall'), roomSpec(rectangle(0, 0, 800, 600), { ceiling: 300 }), DRESS, 'a'));
const probe = (doc: MapDocument, at: Vec3, id: string): MapDocument => placeEntity(doc, 'reflectionProbe', at, 0, id);

/** What a level's probe sees along a direction, nits: the nearest texel of a square. */
function seen(level: Level, n: number, square: number, way: Vec3): number {
  const { x, y, edge } = SQUARES[square]!;
  const [u, v] = octahedralPlace(way).map((c) => Math.min(edge - 1, Math.floor(c * edge))) as [number, number];
  const column = (n % BLOCKS_ACROSS) * BLOCK.width + x + u;
  const row = Math.floor(n / BLOCKS_ACROSS) * BLOCK.height + y + v;
  const texel = level.reflectionTexels[row * level.meta.reflections.width + column]!;
  return (unpackRgb9e5(texel)[1] * LUX_SCALE) / Math.PI;
}

test('in a room that glows alike all over everything is as bright, however rough what looks at it', () => {
  const all = { [DRESS.floor]: 50, [DRESS.wall]: 50, [DRESS.ceiling]: 50 };
  const { level } = buildLevel(
    probe(hall(), [333, 217, 120], 'p'),
    'sketch',
    {},
    { materials: glowing(all), direct: true },
  );
  const { width, height } = level.meta.reflections;
  expect([width, height]).toEqual([BLOCK.width, BLOCK.height]);
  // What it gives off, and 95 parts of a hundred of as much that falls on it.
  for (let k = 0; k < SQUARES.length; k++)
    for (let n = 0; n < 200; n++) {
      const way = octahedralDirection((n * 0.61803) % 1, (n * 0.7548) % 1);
      expect(Math.abs(seen(level, 0, k, way) / (50 * 1.95) - 1)).toBeLessThan(0.01);
    }
});

test('a ceiling that glows is seen above the edge of the walls, and not below', () => {
  const { level } = buildLevel(
    probe(hall(), [400, 300, 100], 'p'),
    'sketch',
    {},
    { materials: glowing({ [DRESS.ceiling]: 80 }), direct: true },
  );
  const read = readLevel(writeLevel(level));
  for (let j = 0; j < 32; j++)
    for (let i = 0; i < 32; i++) {
      const way = octahedralDirection((i + 0.5) / 32, (j + 0.5) / 32);
      const t = 200 / way[2];
      const [x, y] = [400 + way[0] * t, 300 + way[1] * t];
      // Texels that the edge of the ceiling runs through see a part of it.
      if (way[2] > 0.05 && x > 60 && x < 740 && y > 60 && y < 540) expect(seen(read, 0, 0, way) / 80).toBeCloseTo(1, 1);
      if (way[2] < -0.1 || x < -200 || x > 1000) expect(seen(read, 0, 0, way)).toBeLessThan(0.5);
    }
  // The rougher, the more of it is seen where it is not, and the less where it is.
  const up: Vec3 = [0.01, 0.01, 1];
  const aside: Vec3 = [1, 0.01, -0.2];
  for (let k = 1; k < SQUARES.length; k++) {
    expect(seen(read, 0, k, up)).toBeLessThanOrEqual(seen(read, 0, k - 1, up) + 1);
    expect(seen(read, 0, k, aside)).toBeGreaterThanOrEqual(seen(read, 0, k - 1, aside) - 0.5);
  }
});

test('roughened squares are what sampled microfacets send', () => {
  const edge = 32;
  const source = new Float64Array(edge * edge * 3);
  // A bright patch about one direction, on a dim gradient.
  const bright = (way: Vec3) => (dot(way, [0.6, 0, 0.8]) > 0.9 ? 30 : 0) + 1 + way[1];
  for (let k = 0; k < edge * edge; k++)
    source.fill(
      bright(octahedralDirection(((k % edge) + 0.5) / edge, (Math.floor(k / edge) + 0.5) / edge)),
      k * 3,
      k * 3 + 3,
    );
  for (const roughness of [0.5, 0.75, 1]) {
    const out = roughened(source, edge, 8, roughness);
    const a = roughness ** 2;
    for (const k of [27, 36, 44, 50]) {
      const n = octahedralDirection(((k % 8) + 0.5) / 8, (Math.floor(k / 8) + 0.5) / 8);
      // Half vectors by the distribution of Trowbridge and Reitz about n, light mirrored at each.
      const s: Vec3 = Math.abs(n[0]) < 0.9 ? [0, n[2], -n[1]] : [n[2], 0, -n[0]];
      const long = Math.hypot(...s);
      const right: Vec3 = [s[0] / long, s[1] / long, s[2] / long];
      const up: Vec3 = [
        n[1] * right[2] - n[2] * right[1],
        n[2] * right[0] - n[0] * right[2],
        n[0] * right[1] - n[1] * right[0],
      ];
      let [sum, all] = [0, 0];
      const COUNT = 40_000;
      for (let i = 0; i < COUNT; i++) {
        const u = (i + 0.5) / COUNT;
        const turn = 2 * Math.PI * ((i * 0.61803398875) % 1);
        const cos2 = (1 - u) / (1 + (a * a - 1) * u);
        const [cos, sin] = [Math.sqrt(cos2), Math.sqrt(1 - cos2)];
        const h = n.map((c, d) => c * cos + (right[d]! * Math.cos(turn) + up[d]! * Math.sin(turn)) * sin);
        const l = h.map((c, d) => 2 * cos * c - n[d]!) as unknown as Vec3;
        const weight = dot(l, n);
        if (weight <= 0) continue;
        all += weight;
        sum += weight * bright(l);
      }
      expect(Math.abs(out[k * 3]! - sum / all)).toBeLessThan(0.07 * (sum / all) + 0.1);
    }
  }
});

test('all directions are counted once by the weights of the squares', () => {
  let sum = 0;
  for (let k = 0; k < 1024; k++)
    sum += octahedralMeasure(((k % 32) + 0.5) / 32, (Math.floor(k / 32) + 0.5) / 32) / 1024;
  expect(Math.abs(sum / (4 * Math.PI) - 1)).toBeLessThan(0.01);
});

describe('surfaces show', () => {
  const rooms = (): MapDocument => {
    let doc = addRoom(emptyMap('two'), roomSpec(rectangle(0, 0, 600, 600), { ceiling: 300 }), DRESS, 'a');
    doc = addRoom(doc, roomSpec(rectangle(616, 0, 600, 600), { ceiling: 300 }), DRESS, 'b');
    doc = dark(openDoorway(doc, 'a', 'b', { width: 120, height: 210, sill: 0 }));
    return probe(probe(doc, [300, 300, 160], 'pa'), [900, 300, 160], 'pb');
  };
  const build = (doc: MapDocument) => {
    const { level, structure } = buildLevel(doc, 'sketch', {}, { materials: glowing({}), direct: true });
    const thingOf = (s: number) =>
      level.surfaceReflection[s] === NO_REFLECTION
        ? null
        : level.meta.reflections.places[level.surfaceReflection[s]!]!.thing;
    return { level, structure, thingOf };
  };

  test('the probe of their own room, though another is nearer', () => {
    // In the second room it stands right behind the wall.
    const doc = changeEntity(rooms(), 'pb', { at: [640, 300, 160] });
    const { structure, thingOf } = build(doc);
    let count = 0;
    structure.surfaces.forEach((s, k) => {
      const x = s.winding.reduce((sum, p) => sum + p[0], 0) / s.winding.length;
      if (x > 20 && x < 590) expect(thingOf(k)).toBe('pa');
      if (x > 630) expect(thingOf(k)).toBe('pb');
      count += Number(thingOf(k) !== null);
    });
    expect(count).toBeGreaterThan(10);
  });

  test('the one that was chosen for a face, and the nearest again when that is gone', () => {
    const doc = rooms();
    const floor = [...doc.brushes.values()].find((b) => b.room?.id === 'a' && b.room.part.kind === 'floor')!;
    const face = floor.faces[0]!.id;
    const all = floor.faces.map((f) => ({ brush: floor.id, face: f.id }));
    const chosen = setReflection(doc, all, 'pb');
    const of = (d: MapDocument) => {
      const { structure, thingOf } = build(d);
      return structure.surfaces.flatMap((s, k) => (s.brush === floor.id ? [thingOf(k)] : []));
    };
    expect(new Set(of(doc))).toEqual(new Set(['pa']));
    expect(new Set(of(chosen))).toEqual(new Set(['pb']));
    expect(() => setReflection(doc, [{ brush: floor.id, face }], 's')).toThrow('no reflection probe');
    expect(setReflection(chosen, all, null).brushes.get(floor.id)).toEqual(floor);
  });

  test('none where there is none, and a probe in a wall is none', () => {
    const doc = dark(addRoom(emptyMap('one'), roomSpec(rectangle(0, 0, 600, 600)), DRESS, 'a'));
    const none = build(doc);
    expect(none.level.reflectionTexels.length).toBe(0);
    expect(none.level.surfaceReflection.every((n) => n === NO_REFLECTION)).toBe(true);
    expect(build(probe(doc, [-8, 300, 100], 'w')).level.meta.reflections.places).toEqual([]);
  });
});

test('a dark shiny floor below something glaring is told, one that is rough or bright is not', () => {
  const told = (floor: Partial<MaterialFacts>, nits: number) => {
    const materials = (name: string): MaterialFacts =>
      name === DRESS.floor
        ? { ...facts, name, average: '#101010', roughness: 0.08, ...floor }
        : glowing({ [DRESS.ceiling]: nits })(name);
    const doc = probe(hall(), [400, 300, 160], 'p');
    return buildLevel(doc, 'sketch', {}, { materials }).report.messages.filter((m) => m.code === 'build.glare');
  };
  expect(told({}, 500)).toMatchObject([{ entities: ['p'], severity: 'info' }]);
  expect(told({ roughness: 0.8 }, 500)).toEqual([]);
  expect(told({ average: '#808080' }, 500)).toEqual([]);
  expect(told({}, 5)).toEqual([]);
});

test('places lie in rows of a picture, and looking around from them can be cancelled', () => {
  const { structure } = buildLevel(hall(), 'sketch', {}, { materials: glowing({}), direct: true, probes: false });
  const places = Array.from({ length: 39 }, (_, k) => ({ thing: `r${k}`, at: [100 + k * 10, 100, 150] as Vec3 }));
  const look = (_: Vec3, ways: Float64Array) => new Float64Array(ways.length).fill(16 / Math.PI);
  const finder = () => ({ isOpen: () => true, look, sees: () => true }) as unknown as LightFinder;
  const traced = traceReflections(structure, places, finder);
  expect([traced.places.length, traced.width, traced.height]).toEqual([39, 16 * BLOCK.width, 3 * BLOCK.height]);
  // Every texel of every square is there, its border too, and nothing is written beyond the last block.
  const lit = traced.texels.filter((t) => t !== 0).length;
  expect(lit).toBe(39 * SQUARES.reduce((n, { edge }) => n + (edge + 2) ** 2, 0));
  expect(() => traceReflections(structure, places, finder, { signal: { aborted: true } })).toThrow(Cancelled);
});
