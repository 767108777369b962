import fc from 'fast-check';
import { boxSolid, type Solid } from '../../brush/index.ts';
import {
  addBrushes,
  addRoom,
  changeEntity,
  changeSettings,
  placeDecals,
  placeEntity,
  placeProps,
  rideOn,
} from '../../edit/index.ts';
import { modelOf, propPose } from '../../entity/index.ts';
import { emptyMap, type MapDocument } from '../../map/index.ts';
import { addScaled, applyAffine, dot, length, normalize, sub, type Affine, type Vec3 } from '../../math/index.ts';
import type { PropMesh } from '../../prop/index.ts';
import { dressSolid } from '../../surface/index.ts';
import { blackMaterials } from '../../testing/lit-rooms.ts';
import { boxProp, meshOfSolids } from '../../testing/props.ts';
import { DRESS, rectangle, roomSpec } from '../../testing/rooms.ts';
import { buildLevel } from '../build.ts';
import { layOutMesh } from './mesh-charts.ts';
import { chartOfProp, decalsOnProps, lightOnVertices, readLevel, type Level } from '../level/index.ts';

const BLOCK: Solid = boxSolid({ min: [-100, -50, 0], max: [100, 50, 150] });
const MESH = meshOfSolids([BLOCK]);
const props = (name: string) => (name === 'block' ? boxProp(name, [-100, -50, 0], [100, 50, 150]) : undefined);
const meshes = (name: string) => (name === 'block' ? MESH : undefined);
const FAR: Vec3 = [-30_000, 20_000, 700];
const off = ([x, y, z]: Vec3): Vec3 => [FAR[0] + x, FAR[1] + y, FAR[2] + z];
const LAMP = off([150, 120, 260]);

/** A hall of 8 m, far off, with a lamp behind a post. */
function hall(candela = 500, params: object = {}): MapDocument {
  const spec = roomSpec(rectangle(FAR[0], FAR[1], 800, 800), { floor: FAR[2], ceiling: FAR[2] + 400 });
  const empty = changeSettings(addRoom(emptyMap('hall'), spec, DRESS), { ambientLux: 0, skyNits: 0 });
  const doc = placeEntity(placeEntity(empty, 'spawn', off([700, 60, 0]), 0, 's'), 'pointLight', LAMP, 0, 'l');
  return changeEntity(doc, 'l', { params: { candela, color: '#ffffff', ...params } });
}
const POST = { min: off([230, 230, 0]), max: off([250, 250, 300]) };
const posted = (doc: MapDocument): MapDocument =>
  addBrushes(doc, [dressSolid(boxSolid(POST), 'post', 'm', { role: 'detail' })]);

interface Stand {
  readonly level: Level;
  readonly prop: number;
  readonly pose: Affine;
}
function stand(
  doc: MapDocument,
  turn: number,
  scale = 1,
  preset: 'sketch' | 'final' = 'sketch',
  change: object = {},
): Stand {
  const placed = placeProps(doc, [{ model: 'block', at: off([400, 400, 0]), turn, scale }], props);
  const id = placed.made.entities[0]!;
  const map = changeEntity(placed.doc, id, { params: { takes: 'chart', ...change } });
  const { bytes } = buildLevel(map, preset, {}, { props, meshes, materials: blackMaterials, direct: true });
  const level = readLevel(bytes);
  const thing = map.entities.get(id)!;
  return { level, prop: level.meta.props.indexOf(id), pose: propPose(modelOf(thing)!, thing.at, thing.turn) };
}

/** What is read of a picture of luxels, red of each, at a place of a layout. */
function read(light: Float32Array, width: number, u: number, v: number): number {
  const [i, j] = [Math.floor(u - 0.5), Math.floor(v - 0.5)];
  const [a, b] = [u - 0.5 - i, v - 0.5 - j];
  const at = (x: number, y: number, part: number) => (part > 1e-6 ? part * light[(y * width + x) * 3]! : 0);
  return at(i, j, (1 - a) * (1 - b)) + at(i + 1, j, a * (1 - b)) + at(i, j + 1, (1 - a) * b) + at(i + 1, j + 1, a * b);
}

/** Places in the middles of triangles and about them, in the map, with the way that they face and the light that is seen there. */
function* seen({ level, prop, pose }: Stand, shares = new Map<string, number>()) {
  const light = lightOnVertices(level, prop, shares)!;
  const { width, corners } = chartOfProp(level, prop)!;
  const of = (list: Float32Array, k: number) => [...list.subarray(k * 3, k * 3 + 3)] as unknown as Vec3;
  const origin = applyAffine(pose, [0, 0, 0]);
  for (let t = 0; t < MESH.index.length; t += 3)
    for (let a = 1; a < 12; a++)
      for (let b = 1; a + b < 12; b++) {
        const parts = [a / 12, b / 12, 1 - (a + b) / 12];
        const own = parts.reduce<Vec3>(
          (sum, s, k) => addScaled(sum, of(MESH.places, MESH.index[t + k]!), s),
          [0, 0, 0],
        );
        const [u, v] = [0, 1].map((c) => parts.reduce((sum, s, k) => sum + s * corners[(t + k) * 2 + c]!, 0)) as [
          number,
          number,
        ];
        const normal = normalize(sub(applyAffine(pose, of(MESH.normals, MESH.index[t]!)), origin));
        // Its foot lies in the floor, where nobody sees it.
        if (normal[2] < -0.5) continue;
        yield { p: applyAffine(pose, own), normal, lux: read(light, width, u, v) };
      }
}
const due = (p: Vec3, normal: Vec3, candela = 500): number => {
  const d = sub(LAMP, p);
  return (candela * 10_000 * Math.max(0, dot(normalize(d), normal))) / dot(d, d);
};
/** How far a way to the lamp keeps from the post, below zero through it: by places along it. */
function clearOf(p: Vec3): number {
  let least = Infinity;
  for (let k = 0; k <= 400; k++) {
    const q = addScaled(p, sub(LAMP, p), k / 400);
    const out = [0, 1, 2].map((c) => Math.max(POST.min[c]! - q[c]!, q[c]! - POST.max[c]!));
    least = Math.min(least, Math.max(...out));
  }
  return least;
}

test('a block at any turn and size is lit all over as the inverse square and the cosine say, far from the origin', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 359 }), fc.double({ min: 0.5, max: 1.5, noNaN: true }), (turn, scale) => {
      let bright = 0;
      for (const { p, normal, lux } of seen(stand(hall(), turn, scale))) {
        const want = due(p, normal);
        // Light that grazes a side changes fast along it.
        expect(Math.abs(lux - want)).toBeLessThan(Math.max(2.5, want * 0.06));
        if (want > 20) bright++;
      }
      expect(bright).toBeGreaterThan(50);
    }),
    { numRuns: 4 },
  );
});

test('the shadow of a post falls across its sides where lines to the lamp say, as fine as the build is', () => {
  let [lit, shaded] = [0, 0];
  for (const { p, normal, lux } of seen(stand(posted(hall()), 37, 1, 'final'))) {
    const want = due(p, normal);
    if (want < 5) continue;
    const clear = clearOf(p);
    // A luxel of 4 cm and its neighbour, as wide as they lie behind the post.
    if (clear > 3) {
      expect(Math.abs(lux / want - 1)).toBeLessThan(0.08);
      lit++;
    } else if (clear < -4) {
      expect(lux).toBeLessThan(want * 0.02);
      shaded++;
    }
  }
  expect(lit).toBeGreaterThan(40);
  expect(shaded).toBeGreaterThan(10);
});

test('lamps that play switches add theirs, and take it away again', () => {
  const stood = stand(hall(500, { lit: false }), 20);
  const off = [...seen(stood)];
  const on = [...seen(stood, new Map([['l', 0.5]]))];
  expect(Math.max(...off.map((s) => s.lux))).toBeLessThan(0.5);
  let bright = 0;
  for (const { p, normal, lux } of on) {
    expect(Math.abs(lux - due(p, normal) / 2)).toBeLessThan(Math.max(2.5, due(p, normal) * 0.03));
    if (lux > 10) bright++;
  }
  expect(bright).toBeGreaterThan(50);
});

test('props of one model and size share their layout; others have their own, and those lit otherwise none', () => {
  const wishes = [
    [200, 200, 1, 'chart'],
    [600, 200, 1, 'chart'],
    [200, 600, 1.4, 'chart'],
    [600, 600, 1, 'vertices'],
    [420, 420, 1, 'middle'],
  ] as const;
  let doc = hall();
  const ids: string[] = [];
  for (const [x, y, scale, takes] of wishes) {
    const placed = placeProps(doc, [{ model: 'block', at: off([x, y, 0]), scale }], props);
    ids.push(placed.made.entities[0]!);
    doc = changeEntity(placed.doc, ids.at(-1)!, { params: { takes } });
  }
  const { bytes } = buildLevel(doc, 'sketch', {}, { props, meshes, materials: blackMaterials, direct: true });
  const level = readLevel(bytes);
  const charts = ids.map((id) => chartOfProp(level, level.meta.props.indexOf(id)));
  expect(charts.map((c) => c && c.number >= 0)).toEqual([true, true, true, null, null]);
  expect(charts[1]!.number).toBe(charts[0]!.number);
  expect(charts[2]!.number).not.toBe(charts[0]!.number);
  // Half as wide as luxels on walls, which a sketch has 32 cm wide: as many as the sides need, and few more.
  const sides = 2 * (200 * 100 + 200 * 150 + 100 * 150);
  for (const [k, scale] of [
    [0, 1],
    [2, 1.4],
  ] as const) {
    const { width, height, corners } = charts[k]!;
    expect(corners).toHaveLength(MESH.index.length * 2);
    expect(corners).toEqual(layOutMesh(MESH, 16 / scale, 8192)!.corners);
    expect(width * height).toBeGreaterThan((sides * scale * scale) / 16 ** 2);
    expect(width * height).toBeLessThan((2 * sides * scale * scale) / 16 ** 2);
  }
  ids.forEach((id, k) => {
    const light = lightOnVertices(level, level.meta.props.indexOf(id), new Map());
    const chart = charts[k];
    expect(light?.length ?? 0).toBe(chart ? chart.width * chart.height * 3 : k === 3 ? MESH.places.length : 0);
  });
});

test('a decal on it tells where it lies in the layout: what is read there is the light of the block', () => {
  const placed = placeProps(hall(), [{ model: 'block', at: off([400, 400, 0]), turn: 25 }], props);
  const id = placed.made.entities[0]!;
  const map = changeEntity(placed.doc, id, { params: { takes: 'chart' } });
  const thing = map.entities.get(id)!;
  const pose = propPose(modelOf(thing)!, thing.at, thing.turn);
  const [at, out] = [applyAffine(pose, [0, -50, 80]), applyAffine(pose, [0, -51, 80])];
  const signs = [{ material: 'm', at, normal: normalize(sub(out, at)), width: 90, height: 60 }];
  const materials = (name: string) => ({ ...blackMaterials(name), width: 64, height: 64 });
  const { doc } = placeDecals(map, signs, materials);
  const { bytes } = buildLevel(doc, 'final', {}, { props, meshes, materials, direct: true });
  const level = readLevel(bytes);
  const prop = level.meta.props.indexOf(id);
  const [sign, ...more] = decalsOnProps(level)!;
  expect(more).toEqual([]);
  const { width } = chartOfProp(level, prop)!;
  const light = lightOnVertices(level, prop, new Map())!;
  for (let k = 0; k * 3 < sign!.position.length; k++) {
    const p = sign!.position.slice(k * 3, k * 3 + 3) as unknown as Vec3;
    const lux = read(light, width, sign!.chart[k * 2]!, sign!.chart[k * 2 + 1]!);
    expect(Math.abs(lux / due(p, signs[0]!.normal) - 1)).toBeLessThan(0.05);
    expect(length(sub(p, at))).toBeLessThan(60);
  }
});

test('where nobody knows the model, where it is all splinters, and on what moves, it has no layout', () => {
  const placed = placeProps(hall(), [{ model: 'block', at: off([400, 400, 0]) }], props);
  const id = placed.made.entities[0]!;
  const map = changeEntity(placed.doc, id, { params: { takes: 'chart' } });
  const lit = (doc: MapDocument, known?: (name: string) => PropMesh | undefined) => {
    const wishes = { props, meshes: known, materials: blackMaterials, direct: true };
    const level = readLevel(buildLevel(doc, 'sketch', {}, wishes).bytes);
    const prop = level.meta.props.indexOf(id);
    return [chartOfProp(level, prop)?.width ?? 0, lightOnVertices(level, prop, new Map())?.length ?? 0];
  };
  expect(lit(map, meshes)[0]).toBeGreaterThan(10);
  expect(lit(map)).toEqual([0, 0]);
  const mover = placeEntity(map, 'mover', off([400, 400, 60]), 0, 'm');
  expect(lit(rideOn(mover, [id], 'm'), meshes)).toEqual([0, 0]);
  // Of what cannot be laid out the vertices are lit.
  const splinters = meshOfSolids(
    Array.from({ length: 360 }, (_, k) =>
      boxSolid({ min: [k / 4 - 99, k % 90, 0], max: [k / 4 - 98.7, (k % 90) + 0.3, 0.3] }),
    ),
  );
  // Those that look no way are dark at once.
  const dark = { ...splinters, normals: new Float32Array(splinters.normals.length) };
  expect(lit(map, () => dark)).toEqual([0, splinters.places.length]);
});
