import { boxSolid, type Brush } from '../../brush/index.ts';
import { addBrushes, changeEntity, changeSettings, placeEntity } from '../../edit/index.ts';
import type { MapDocument } from '../../map/index.ts';
import { rotation, type Affine, type Vec3 } from '../../math/index.ts';
import { dressSolid, transformBrush } from '../../surface/index.ts';
import { blackMaterials } from '../../testing/lit-rooms.ts';
import { oneRoom } from '../../testing/rooms.ts';
import { buildLevel, type BuildResult } from '../build.ts';
import { brightness, layerColors, lightPlace, luxAt, mixLayers } from '../level/index.ts';

const WHITE = '#ffffff';
const AMBIENT = 4;

/** The even light of a room is 4 lux, but for regions: boxes that are turned about the room's middle. */
function room(
  regions: readonly { id: string; min: Vec3; max: Vec3; lux: number; edge: number }[],
  degrees = 0,
): MapDocument {
  let doc = changeSettings(oneRoom(), { ambientLux: AMBIENT, ambientColor: WHITE });
  doc = placeEntity(doc, 'spawn', [200, 150, 0], 0, 'spawn');
  for (const { id, min, max, lux, edge } of regions) {
    doc = placeEntity(doc, 'evenLight', [0, 0, 0], 0, id);
    doc = changeEntity(doc, id, { params: { lux, edge, color: WHITE } });
    doc = unowned(doc, id);
    const box = transformBrush(
      dressSolid(boxSolid({ min, max }), `${id}-box`, 'm', { role: 'zone' }),
      turn(degrees),
      true,
    )!;
    doc = addBrushes(doc, [{ ...box, owner: { id } } as Brush]);
  }
  return doc;
}
/** Without the brushes of a thing. */
const unowned = (doc: MapDocument, id: string): MapDocument => ({
  ...doc,
  brushes: new Map([...doc.brushes].filter(([, b]) => b.owner?.id !== id)),
});
const turn = (degrees: number): Affine => rotation(2, degrees, [200, 150, 0]);
const placed = (degrees: number, [x, y, z]: Vec3): Vec3 => {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return [200 + (x - 200) * c - (y - 150) * s, 150 + (x - 200) * s + (y - 150) * c, z];
};

const build = (doc: MapDocument, ledger = false): BuildResult => buildLevel(doc, 'review', {}, { ledger });
function lux({ level }: BuildResult, p: Vec3, texels = level.lightTexels): number {
  const place = lightPlace(level, [...level.surfaceMaterial.keys()], p)!;
  return brightness(luxAt(level.meta.pages, texels, place));
}

test('within a region the even light is its own, beyond it goes over into that of the map, however it is turned', () => {
  for (const degrees of [0, 27]) {
    const built = build(room([{ id: 'z', min: [100, 100, -10], max: [200, 200, 100], lux: 20, edge: 80 }], degrees));
    const at = (x: number, y: number) => lux(built, placed(degrees, [x, y, 0]));
    expect(at(150, 150)).toBeCloseTo(20, 1);
    expect(at(320, 150)).toBeCloseTo(AMBIENT, 1);
    // Straight beyond a side: the cubic of the share of the way that is left.
    for (const way of [20, 40, 60]) {
      const t = 1 - way / 80;
      const share = t * t * (3 - 2 * t);
      expect(Math.abs(at(200 + way, 150) - (AMBIENT + (20 - AMBIENT) * share))).toBeLessThan(0.25);
    }
  }
});

test('probes have the even light of where they are: of a region, of the map, and what lies between at its edge', () => {
  const box = { min: [100, 100, -10], max: [200, 200, 100] } as const;
  const doc = room([{ id: 'z', min: box.min, max: box.max, lux: 20, edge: 80 }]);
  const { level } = buildLevel(doc, 'review', {}, { materials: blackMaterials });
  const count = level.probePlace.length / 3;
  const each = level.probeLight.length / count;
  const probes = Array.from({ length: count }, (_, n) => ({
    p: [0, 1, 2].map((k) => level.probePlace[n * 3 + k]! * level.meta.probeStep),
    // The first of its harmonics is the mean of what comes from all sides.
    mean: level.probeLight[n * each]!,
  }));
  const beyond = (p: readonly number[]) => p.map((c, k) => Math.max(box.min[k]! - c, 0, c - box.max[k]!));
  const far = probes.find(({ p }) => Math.max(...beyond(p)) > 100)!;
  let between = 0;
  for (const { p, mean } of probes) {
    const off = beyond(p);
    // Straight beyond a side, or within.
    if (off.filter((d) => d > 0).length > 1) continue;
    const t = Math.max(0, 1 - Math.max(...off) / 80);
    if (t > 0 && t < 1) between++;
    const wanted = AMBIENT + (20 - AMBIENT) * t * t * (3 - 2 * t);
    expect(Math.abs((AMBIENT * mean) / far.mean - wanted)).toBeLessThan(0.01 * wanted);
  }
  expect(between).toBeGreaterThan(3);
});

test('a hard edge is hard, a region of no light is dark, and over each other the later one counts', () => {
  const built = build(
    room([
      { id: 'a', min: [0, 0, -10], max: [200, 300, 300], lux: 30, edge: 0 },
      { id: 'b', min: [0, 0, -10], max: [100, 300, 300], lux: 0, edge: 0 },
    ]),
  );
  expect(lux(built, [50, 150, 0])).toBeLessThan(0.01);
  expect(lux(built, [150, 150, 0])).toBeCloseTo(30, 1);
  expect(lux(built, [250, 150, 0])).toBeCloseTo(AMBIENT, 1);
});

test('its strength follows in the ledger as if it were built so, with that of the map', () => {
  const regions = [
    { id: 'a', min: [0, 0, -10], max: [200, 300, 300], lux: 30, edge: 40 },
    { id: 'b', min: [100, 100, -10], max: [300, 200, 300], lux: 9, edge: 60 },
  ] as const;
  const doc = room(regions as never);
  const built = build(doc, true);
  const { layers } = built.ledger!;
  // Each has its share of the surface, and all of it together is that of the room.
  const sum = layers.reduce((n, l) => n + l.flux, 0);
  expect(sum).toBeCloseTo(2 * 5.12 * 3.84 + 2 * 2.72 * (5.12 + 3.84), 1);
  const now = changeSettings(changeEntity(doc, 'b', { params: { lux: 2, color: '#ff8080' } }), { ambientLux: 11 });
  const mix = mixLayers(built.level.meta.pages, new Uint32Array(built.level.lightTexels.length), layers);
  mix.shine(layerColors(layers, now, () => undefined));
  const rebuilt = build(now);
  for (const p of [
    [50, 50, 0],
    [210, 150, 0],
    [240, 210, 0],
    [390, 290, 0],
  ] as Vec3[])
    expect(lux(built, p, mix.texels) / lux(rebuilt, p)).toBeCloseTo(1, 2);
});

test('without brushes it changes nothing', () => {
  const doc = unowned(placeEntity(room([]), 'evenLight', [9, 9, 9], 0, 'z'), 'z');
  expect(lux(build(doc), [150, 150, 0])).toBeCloseTo(AMBIENT, 1);
});
