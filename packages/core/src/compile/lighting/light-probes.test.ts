import { boxSolid } from '../../brush/index.ts';
import { addBrushes, addRoom, changeEntity, changeSettings, openDoorway, placeEntity } from '../../edit/index.ts';
import { emptyMap, type MapDocument } from '../../map/index.ts';
import { dot, harmonics, HARMONICS, irradianceOf, normalize, type Vec3 } from '../../math/index.ts';
import { dressSolid, type MaterialFacts } from '../../surface/index.ts';
import { blackMaterials } from '../../testing/lit-rooms.ts';
import { DRESS, rectangle, roomSpec } from '../../testing/rooms.ts';
import { buildLevel } from '../build.ts';
import { makeLevelProbes, readLevel, writeLevel, type Level } from '../level/index.ts';

const halls = (): MapDocument => {
  // A dark room beside a bright one, with a wall of 16 cm between and a doorway at its north end.
  let doc = addRoom(emptyMap('halls'), roomSpec(rectangle(0, 0, 800, 800), { ceiling: 400 }), DRESS, 'a');
  doc = addRoom(doc, roomSpec(rectangle(816, 0, 800, 800), { ceiling: 400 }), DRESS, 'b');
  doc = changeSettings(doc, { ambientLux: 0 });
  return placeEntity(doc, 'spawn', [400, 400, 0], 0, 's');
};
const lamp = (doc: MapDocument, params: object = {}): MapDocument =>
  changeEntity(placeEntity(doc, 'pointLight', [400, 400, 200], 0, 'l'), 'l', {
    params: { candela: 200, color: '#ffffff', ...params },
  });
const nobody = (): undefined => undefined;
const level = (
  doc: MapDocument,
  materials: ((name: string) => MaterialFacts | undefined) | undefined = blackMaterials,
): Level => buildLevel(doc, 'review', {}, { materials }).level;
const ALL = new Map<string, number>();
const FOUR: readonly Vec3[] = [[0, 0, 1], [0, 0, -1], [1, 0, 0], [0, -1, 0]]; // prettier-ignore
function falls(on: Level, p: Vec3, normal: Vec3, shares = ALL): number {
  const light = new Float32Array(27);
  if (!makeLevelProbes(on).lightAt(p, shares, light)) throw new Error('nothing is known there');
  return irradianceOf(light, normal, 1, 3);
}

/** Directions evenly over the sphere. */
const SPHERE = Array.from({ length: 20_000 }, (_, k): Vec3 => {
  const z = 1 - (2 * k + 1) / 20_000;
  const r = Math.sqrt(1 - z * z);
  return [r * Math.cos(2.399963229728653 * k), r * Math.sin(2.399963229728653 * k), z];
});

test('harmonics are of length one and square to each other, and give the light on a surface under a smooth sky', () => {
  const values = SPHERE.map((d) => {
    const out = new Float64Array(HARMONICS);
    harmonics(...d, out);
    return out;
  });
  const each = (4 * Math.PI) / SPHERE.length;
  for (let a = 0; a < HARMONICS; a++)
    for (let b = 0; b <= a; b++)
      expect(values.reduce((sum, v) => sum + v[a]! * v[b]!, 0) * each).toBeCloseTo(a === b ? 1 : 0, 3);
  // A sky that is brighter towards one side: its light is the sum over all directions times the cosine.
  const side = normalize([2, -1, 3]);
  const sky = (d: Vec3) => 10 * (1 + dot(d, side)) ** 2;
  const light = Array.from(
    { length: HARMONICS },
    (_, k) => SPHERE.reduce((sum, d, i) => sum + sky(d) * values[i]![k]!, 0) * each,
  );
  for (const n of [side, [0, 0, 1], normalize([-1, 2, 0.3]), normalize([-2, 1, -3])] as Vec3[]) {
    const expected = SPHERE.reduce((sum, d) => sum + sky(d) * Math.max(0, dot(d, n)), 0) * each;
    expect(Math.abs(irradianceOf(light, n) / expected - 1)).toBeLessThan(0.01);
  }
});

test('beside a bright room it is dark, though one brush is the floor of both, another the ceiling', () => {
  const slab = (id: string, min: Vec3, max: Vec3) => dressSolid(boxSolid({ min, max }), id, 'limewash');
  const brushes = [
    slab('floor', [-16, -16, -16], [1632, 816, 0]),
    slab('ceiling', [-16, -16, 400], [1632, 816, 416]),
    slab('south', [-16, -16, 0], [1632, 0, 400]),
    slab('north', [-16, 800, 0], [1632, 816, 400]),
    slab('west', [-16, 0, 0], [0, 800, 400]),
    slab('east', [1616, 0, 0], [1632, 800, 400]),
    slab('between', [800, 0, 0], [816, 800, 400]),
  ];
  for (const x of [400, 1216]) {
    let doc = changeSettings(addBrushes(emptyMap('halls'), brushes), { ambientLux: 0 });
    for (const at of [400, 1216]) doc = placeEntity(doc, 'spawn', [at, 100, 0], 0, `s${at}`);
    doc = changeEntity(placeEntity(doc, 'pointLight', [x, 400, 200], 0, 'l'), 'l', { params: { candela: 200 } });
    const on = buildLevel(doc, 'sketch', {}, { materials: nobody }).level;
    for (const z of [64, 192, 320])
      for (const normal of FOUR) {
        expect(falls(on, [1616 - x, 400, z], normal)).toBe(0);
        expect(falls(on, [x, 300, z], normal)).toBeGreaterThan(1);
      }
  }
});

test('in a black room a lamp gives what faces it I/d², as far as nine coefficients can tell, and what turns away next to nothing', () => {
  const on = level(lamp(halls()));
  // Of light from one direction the first orders keep 17/16 of what faces it, and a sixteenth of what looks away.
  for (const p of [
    [640, 384, 256],
    [128, 512, 128],
  ] as Vec3[]) {
    const way: Vec3 = [400 - p[0], 400 - p[1], 200 - p[2]];
    const expected = (200 * 10_000) / dot(way, way);
    expect(falls(on, p, normalize(way)) / expected).toBeCloseTo(17 / 16, 2);
    expect(falls(on, p, normalize([-way[0], -way[1], -way[2]])) / expected).toBeCloseTo(1 / 16, 2);
  }
  // Between probes it is nearly as it would be there.
  const p: Vec3 = [150, 610, 110];
  const way: Vec3 = [400 - p[0], 400 - p[1], 200 - p[2]];
  expect(Math.abs(falls(on, p, normalize(way)) / ((200 * 10_000) / dot(way, way)) - 1)).toBeLessThan(0.25);
});

test('even light comes from all sides, and walls give back theirs of it', () => {
  const doc = changeSettings(halls(), { ambientLux: 10, ambientColor: '#ffffff' });
  // Walls of nobody knows what give back half.
  const on = level(doc, nobody);
  for (const n of [[0, 0, 1], [0, 0, -1], [1, 0, 0], normalize([1, 2, -1])] as Vec3[])
    expect(Math.abs(falls(on, [300, 500, 150], n) / 15 - 1)).toBeLessThan(0.03);
});

test('no light goes through a wall, however near one stands to it; through a doorway it does', () => {
  const shut = level(lamp(halls()));
  expect(falls(shut, [806 - 20, 400, 100], [-1, 0, 0])).toBeGreaterThan(2);
  // The other room is not even reached by the flood: nothing is known there. With a spawn in it, it is dark.
  const both = level(placeEntity(lamp(halls()), 'spawn', [1200, 400, 0], 0, 's2'));
  for (const x of [818, 830, 880, 1000]) expect(falls(both, [x, 400, 100], [-1, 0, 0])).toBe(0);
  const open = level(openDoorway(lamp(halls()), 'a', 'b', { width: 200, height: 260, sill: 0 }, 'door'));
  expect(falls(open, [1000, 400, 150], [-1, 0, 0])).toBeGreaterThan(1);
});

test('a lamp that play can switch adds its light as it shines', () => {
  const on = level(lamp(halls(), { lit: false }));
  const p: Vec3 = [640, 384, 256];
  const n = normalize([400 - p[0], 400 - p[1], 200 - p[2]]);
  expect(falls(on, p, n)).toBe(0);
  const lit = falls(level(lamp(halls())), p, n);
  for (const share of [1, 0.25, 3]) expect(falls(on, p, n, new Map([['l', share]])) / lit).toBeCloseTo(share, 3);
});

test('probes are written with a level, are denser where light changes, and are not too many in a hall of 200 m', () => {
  const on = level(lamp(halls()));
  const read = readLevel(writeLevel(on));
  expect(read.probeLight).toEqual(on.probeLight);
  const odd = (l: Level) => l.probePlace.filter((c) => c % 2 !== 0).length;
  const flat = level(changeSettings(halls(), { ambientLux: 10 }), nobody);
  expect(odd(on)).toBeGreaterThan(odd(flat));
  let huge = addRoom(emptyMap('huge'), roomSpec(rectangle(0, 0, 20_000, 20_000), { ceiling: 600 }), DRESS, 'a');
  huge = placeEntity(huge, 'spawn', [400, 400, 0], 0, 's');
  const { level: large } = buildLevel(huge, 'sketch', {}, { direct: true });
  expect(large.probePlace.length / 3).toBeGreaterThan(500);
  expect(large.probePlace.length / 3).toBeLessThan(30_000);
  expect(buildLevel(lamp(halls()), 'sketch', {}, { direct: true, probes: false }).level.probeLight).toHaveLength(0);
});

test('maps that leak, hold nothing, or have thousands of lamps are built as well', () => {
  const direct = (doc: MapDocument) => buildLevel(doc, 'sketch', {}, { direct: true }).level;
  expect(direct(emptyMap('nothing')).probeLight).toHaveLength(0);
  const whole = lamp(halls());
  const leaking = { ...whole, brushes: new Map([...whole.brushes].filter(([, b]) => b.room?.part.kind !== 'ceiling')) };
  const open = direct(leaking);
  expect(open.meta.sealed).toBe(false);
  expect(open.probePlace.length / 3).toBeGreaterThan(10);
  expect(open.probePlace.length / 3).toBeLessThan(30_000);
  let many = halls();
  const entities = new Map(many.entities);
  for (let k = 0; k < 1000; k++) {
    const at: Vec3 = [20 + (k % 40) * 19, 20 + Math.floor(k / 40) * 30, 390];
    const params = { candela: 1.5, color: '#ffffff' };
    entities.set(`k${k}`, { id: `k${k}`, kind: 'pointLight', at, turn: 0, params });
  }
  many = { ...many, entities };
  const on = direct(many);
  // As a panel of as many candela, seen from its middle below: between what it gives if it were a point, and half of that.
  const up = falls(on, [384, 384, 128], [0, 0, 1]);
  const point = (1000 * 1.5 * 10_000) / 262 ** 2;
  expect(up).toBeLessThan(1.1 * point);
  expect(up).toBeGreaterThan(0.3 * point);
});
