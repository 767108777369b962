import { addRoom, changeEntity, changeSettings, placeEntity } from '../../edit/index.ts';
import { emptyMap, type MapDocument } from '../../map/index.ts';
import { dot, length, normalize, sub, type Vec3 } from '../../math/index.ts';
import { blackMaterials } from '../../testing/lit-rooms.ts';
import { DRESS, rectangle, roomSpec } from '../../testing/rooms.ts';
import { buildLevel } from '../build.ts';
import { chartPoint } from './charts.ts';
import { packDirection, unpackDirection } from './directions.ts';

const hall = (lamps: readonly Vec3[], lux = 0, params: object = {}): MapDocument => {
  let doc = addRoom(emptyMap('hall'), roomSpec(rectangle(0, 0, 800, 600), { ceiling: 300 }), DRESS, 'a');
  doc = changeSettings(doc, { ambientLux: lux });
  doc = placeEntity(doc, 'spawn', [100, 100, 0], 0, 's');
  lamps.forEach((at, k) => {
    doc = placeEntity(doc, 'pointLight', at, 0, `l${k}`);
    doc = changeEntity(doc, `l${k}`, { params: { candela: 100, color: '#ffffff', size: 0, ...params } });
  });
  return doc;
};

/** Of each luxel of all surfaces where it is, its normal, and the direction of its light. */
function* luxels(doc: MapDocument): Generator<{ at: Vec3; normal: Vec3; way: Vec3 }> {
  const { lighting, structure } = buildLevel(doc, 'review', {}, { materials: blackMaterials });
  for (const [s, place] of lighting.places.entries()) {
    if (!place) continue;
    const { chart } = place;
    const page = lighting.pages[place.page]!;
    for (let j = 0; j < chart.height; j++)
      for (let i = 0; i < chart.width; i++)
        yield {
          at: chartPoint(chart, (chart.s0 + i + 0.5) * chart.size, (chart.t0 + j + 0.5) * chart.size),
          normal: structure.surfaces[s]!.plane.normal,
          way: unpackDirection(page.ways[(place.y + j) * page.width + place.x + i]!),
        };
  }
}

test('the light of one lamp comes from it, on all sides of a room', () => {
  const lamp: Vec3 = [310, 220, 170];
  let count = 0;
  for (const { at, way } of luxels(hall([lamp]))) {
    // Half of a byte's step each way.
    expect(length(way)).toBeGreaterThan(0.985);
    expect(dot(way, normalize(sub(lamp, at)))).toBeGreaterThan(0.985);
    count++;
  }
  expect(count).toBeGreaterThan(5000);
});

test('between two lamps it comes from their middle, and is the shorter the farther apart they are', () => {
  let count = 0;
  for (const { at, normal, way } of luxels(
    hall([
      [300, 300, 150],
      [500, 300, 150],
    ]),
  )) {
    if (normal[2] < 0.9 || Math.abs(at[0] - 400) > 9 || Math.abs(at[1] - 300) > 9) continue;
    const cos = 150 / Math.hypot(100, 150);
    expect(way[2]).toBeCloseTo(cos, 1);
    expect(Math.hypot(way[0], way[1])).toBeLessThan(0.1);
    count++;
  }
  expect(count).toBeGreaterThan(0);
});

test('even light has no direction, and takes its share of what has', () => {
  for (const { way } of luxels(hall([], 10))) expect(length(way)).toBe(0);
  const lamp: Vec3 = [400, 300, 200];
  for (const { at, normal, way } of luxels(hall([lamp], 10))) {
    const to = sub(lamp, at);
    const lux = (100 * 10_000 * dot(normalize(to), normal)) / dot(to, to);
    if (lux < 1) continue;
    expect(Math.abs(length(way) - lux / (lux + 10))).toBeLessThan(0.05);
  }
});

test('light of any colour counts as bright as it looks: a lamp of so many candela takes the same share', () => {
  const lamp: Vec3 = [400, 300, 200];
  for (const color of ['#ff0000', '#00ff00', '#0000ff'])
    for (const { at, normal, way } of luxels(hall([lamp], 10, { color }))) {
      const to = sub(lamp, at);
      const lux = (100 * 10_000 * dot(normalize(to), normal)) / dot(to, to);
      if (lux < 1) continue;
      expect(Math.abs(length(way) - lux / (lux + 10))).toBeLessThan(0.05);
    }
});

test('a direction keeps its length and way to a hundredth in four bytes', () => {
  for (const v of [
    [0, 0, 0],
    [1, 0, 0],
    [-0.6, 0.48, 0.64],
    [0.1, -0.2, 0.05],
  ] as Vec3[])
    unpackDirection(packDirection(v)).forEach((c, k) => expect(Math.abs(c - v[k]!)).toBeLessThan(0.005));
});
