import { boxSolid, type Brush } from '../brush/index.ts';
import { findingsOf } from '../analyse/index.ts';
import { fixFinding } from '../checks/index.ts';
import { addBrushes, changeEntity, changeSettings, placeEntity, placeProps } from '../edit/index.ts';
import { sceneryOf, withoutScenery, type MapDocument } from '../map/index.ts';
import { hashRandom, length, sub, type Vec3 } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { blackMaterials as materials, litRooms } from '../testing/lit-rooms.ts';
import { boxProp } from '../testing/props.ts';
import { buildLevel } from './build.ts';
import {
  lightOnVertices,
  lightPlace,
  luxAt,
  makeLevelProbes,
  readLevel,
  sceneryEye,
  sceneryLevel,
  writeLevel,
} from './index.ts';

const slab = (id: string, min: Vec3, max: Vec3, extra: Partial<Brush> = {}) =>
  dressSolid(boxSolid({ min, max }), id, 'brick', extra);

const candela = 500;
/** Where the scenery lies: far from the rooms that see it. */
const AT: Vec3 = [9000, -7000, 400];
const put = ([x, y, z]: Vec3): Vec3 => [x + AT[0], y + AT[1], z + AT[2]];

/** The brushes of a scenery: ground with a tower, and the box that marks it. */
const parts = (owner: string): Brush[] => [
  slab('ground', put([-200, -200, 0]), put([200, 200, 10])),
  slab('tower', put([100, 100, 10]), put([120, 120, 90])),
  slab('mark', put([-200, -200, 0]), put([200, 200, 200]), { role: 'zone', owner: { id: owner } }),
];

/** Two rooms, one with the sky for its ceiling, and a scenery lit by a lamp of its own. */
function seen(): MapDocument {
  const doc = changeSettings(litRooms(), { ambientLux: 0, skyNits: 0 });
  const entities = new Map(doc.entities);
  entities.delete('sun');
  let out: MapDocument = { ...doc, entities };
  out = placeEntity(out, 'scenery', put([0, 0, 10]), 0, 'far');
  out = changeEntity(out, 'far', { params: { scale: 20, stands: 'spawn' } });
  out = placeEntity(out, 'pointLight', put([0, 0, 110]), 0, 'beacon');
  out = changeEntity(out, 'beacon', { params: { candela, color: '#ffffff' } });
  return addBrushes(out, parts('far'));
}

const doc = seen();
const codes = (of: MapDocument) => findingsOf(of, materials).findings.map((f) => f.code);
const { level, report, bytes } = buildLevel(doc, 'sketch', {}, { materials, direct: true });

test('the map is built as if its scenery were not there, and the scenery lies in the level as one of its own', () => {
  const without = buildLevel(withoutScenery(doc), 'sketch', {}, { materials, direct: true });
  expect(writeLevel({ ...level, scenery: new Uint8Array(0), meta: { ...level.meta, scenery: null } })).toEqual(
    without.bytes,
  );
  expect(report.sealed).toBe(true);
  expect(level.meta.colliders).not.toContain('ground');
  expect(level.meta.entities.map((e) => e.id)).not.toContain('beacon');
  expect(level.meta.regions).toEqual(without.level.meta.regions);
  const far = sceneryLevel(readLevel(bytes))!;
  expect(far.meta.entities.map((e) => e.id)).toEqual(['beacon']);
  expect(report.messages.map((m) => m.code)).toContain('build.scenery');
});

test('its ground is lit by its own lamp, as the inverse square and the cosine say', () => {
  const far = sceneryLevel(buildLevel(doc, 'final', {}, { materials, direct: true }).level)!;
  const ground = Array.from({ length: far.surfaceMaterial.length }, (_, s) => s);
  let asked = 0;
  for (let k = 0; k < 300; k++) {
    const p = put([hashRandom(k, 1) * 300 - 150, hashRandom(k, 2) * 300 - 150, 10]);
    // Beside the tower and in its shadow light is another matter.
    if (p[0] > AT[0] + 40 && p[1] > AT[1] + 40) continue;
    const to = sub(put([0, 0, 110]), p);
    const due = (candela * 1e4 * (to[2] / length(to))) / length(to) ** 2;
    const lux = luxAt(far.meta.pages, far.lightTexels, lightPlace(far, ground, p)!);
    expect(Math.abs(lux[1] / due - 1)).toBeLessThan(0.05);
    asked++;
  }
  expect(asked).toBeGreaterThan(100);
});

test('its props are lit by its own lamp at their vertices and in their middle, and those of the map are not among them', () => {
  const props = (name: string) => boxProp(name, [-4, -4, 0], [4, 4, 8]);
  const [x, y, z] = [60, 0, 10];
  const put2 = (of: MapDocument, at: Vec3) => {
    const { doc: out, made } = placeProps(of, [{ model: 'crate', at }], props);
    return { doc: out, id: made.entities[0]! };
  };
  const here = put2(doc, doc.entities.get('spawn')!.at);
  const middle = put2(here.doc, put([x, y, z]));
  const corners = put2(middle.doc, put([y, x, z]));
  const all = changeEntity(corners.doc, corners.id, { params: { takes: 'vertices' } });
  // One vertex, that looks up from the top.
  const top = {
    places: Float32Array.of(0, 0, 8),
    normals: Float32Array.of(0, 0, 1),
    index: new Uint32Array(0),
  };
  const made = buildLevel(all, 'sketch', {}, { materials, props, meshes: () => top, direct: true });
  expect(made.level.meta.props).toEqual([here.id]);
  const far = sceneryLevel(readLevel(made.bytes))!;
  expect(far.meta.props).toEqual([middle.id, corners.id].sort());
  const to = sub([0, 0, 110], [x, y, z + 8]);
  const due = (candela * 1e4 * (to[2] / length(to))) / length(to) ** 2;
  const [lux] = lightOnVertices(far, far.meta.props.indexOf(corners.id), new Map())!;
  expect(Math.abs(lux! / due - 1)).toBeLessThan(0.03);
  // From every side about as much comes as from the one lamp: it is found between probes that lie nearly as far apart as that is away.
  const light = new Float32Array(27);
  expect(makeLevelProbes(far).lightAt(put([x, y, z + 12]), new Map(), light)).toBe(true);
  const way = sub([0, 0, 110], [x, y, z + 12]);
  const even = (candela * 1e4) / length(way) ** 2 / Math.sqrt(4 * Math.PI);
  expect(light[0]! / even).toBeGreaterThan(0.5);
  expect(light[0]! / even).toBeLessThan(2);
});

test('who goes about in the map sees it from places that lie closer together by its scale', () => {
  const scenery = level.meta.scenery!;
  const spawn = doc.entities.get('spawn')!.at;
  expect(sceneryEye(scenery, spawn)).toEqual(put([0, 0, 10]));
  for (let k = 0; k < 50; k++) {
    const p: Vec3 = [hashRandom(k, 3) * 900, hashRandom(k, 4) * 300, hashRandom(k, 5) * 300];
    const eye = sceneryEye(scenery, p);
    // A point of the scenery is seen in the direction of what it stands for, twenty times as far away and as large.
    const point = put([100, 100, 90]);
    const stands = sub(point, put([0, 0, 10])).map((c, i) => c * 20 + spawn[i]!) as unknown as Vec3;
    const [a, b] = [sub(point, eye), sub(stands, p)];
    a.forEach((c, i) => expect(c * 20).toBeCloseTo(b[i]!, 6));
  }
});

describe('what is found wrong with a scenery', () => {
  const scenery = (of: MapDocument) => codes(of).filter((c) => c.startsWith('scenery.'));
  const moved = (id: string, at: Vec3): MapDocument => changeEntity(doc, id, { at });

  test('nothing with one that is as it should be; what is in it is not held to the rules of the map', () => {
    expect(scenery(doc)).toEqual([]);
    expect(findingsOf(doc, materials).sealing).toBe('sealed');
    expect(codes(doc)).toEqual(codes(withoutScenery(doc)));
    // A thing of it that is wrong in itself is told all the same.
    const nowhere = placeEntity(doc, 'teleporter', put([50, -50, 10]), 0, 'gone');
    expect(codes(nowhere).filter((c) => c === 'check.thing').length).toBeGreaterThan(0);
  });

  test('a spawn in it, its sign in a solid, brushes half way out, no sky, a second one', () => {
    expect(scenery(moved('spawn', put([50, 50, 10])))).toContain('scenery.spawn');
    expect(scenery(moved('far', put([110, 110, 40])))).toEqual(['scenery.blind']);
    expect(scenery(addBrushes(doc, [slab('half', put([150, 0, 10]), put([260, 20, 40]))]))).toEqual([
      'scenery.crossed',
    ]);
    const brushes = new Map(
      [...doc.brushes].map(([id, b]) => [id, { ...b, faces: b.faces.map(({ show: _, ...f }) => f) }] as const),
    );
    expect(scenery({ ...doc, brushes })).toEqual(['scenery.unseen']);
    const second = placeEntity(doc, 'scenery', [-9000, 0, 0], 0, 'other');
    const two = addBrushes(second, [
      slab('m2', [-9000, 0, 0], [-8900, 100, 100], { role: 'zone', owner: { id: 'other' } }),
    ]);
    expect(scenery(two)).toEqual(['scenery.second']);
    const finding = findingsOf(two, materials).findings.find((f) => f.code === 'scenery.second')!;
    const fixed = fixFinding(two, finding);
    expect([fixed.entities.has('other'), fixed.brushes.has('m2'), fixed.brushes.has('mark')]).toEqual([
      false,
      false,
      true,
    ]);
  });

  test('one without a region is told so, and the map is built as it is', () => {
    const bare = placeEntity(withoutScenery(doc), 'scenery', [0, 0, 0], 0, 'bare');
    expect(sceneryOf(bare)).toBeNull();
    expect(codes(bare)).toContain('check.thing');
    expect(buildLevel(bare, 'sketch', {}, { materials, direct: true }).level.meta.scenery).toBeNull();
  });
});
