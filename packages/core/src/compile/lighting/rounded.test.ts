import { shapeSolids, type Brush } from '../../brush/index.ts';
import { addBrushes, addRoom, changeEntity, changeSettings, placeEntity } from '../../edit/index.ts';
import { emptyMap, type MapDocument } from '../../map/index.ts';
import { dot, normalize, sub, type Vec3 } from '../../math/index.ts';
import { dressSolid } from '../../surface/index.ts';
import { blackMaterials } from '../../testing/lit-rooms.ts';
import { DRESS, rectangle, roomSpec } from '../../testing/rooms.ts';
import { buildLevel, type BuildResult } from '../build.ts';
import { brightness, lightPlace, luxAt, WHOLE_GAIN } from '../level/index.ts';

const LAMP: Vec3 = [700, 500, 150];

/** A dark room with a lamp, and something in its middle. */
function room(things: readonly Brush[], ambientLux = 0): MapDocument {
  let doc = addRoom(emptyMap('room'), roomSpec(rectangle(0, 0, 1000, 1000), { ceiling: 400 }), DRESS);
  doc = placeEntity(changeSettings(doc, { ambientLux }), 'spawn', [100, 100, 0], 0, 's');
  doc = changeEntity(placeEntity(doc, 'pointLight', LAMP, 0, 'l'), 'l', { params: { candela: 400, color: '#ffffff' } });
  return addBrushes(doc, things);
}
const shape = (kind: 'cylinder' | 'dome' | 'box', sides: number): Brush[] =>
  shapeSolids({
    kind,
    box: { min: [420, 420, 20], max: [580, 580, 280] },
    params: kind === 'box' ? {} : { sides },
  }).map((solid, i) => dressSolid(solid, `t${i}`, 'm', { role: 'detail' }));
const build = (doc: MapDocument) =>
  buildLevel(doc, 'review', {}, { materials: blackMaterials, direct: true, probes: false });

/** The light of a surface at a place, and how much brighter its nearest corner is. */
function faceAt({ level, structure }: BuildResult, surface: number, p: Vec3): { lux: number; gain: number } {
  const place = lightPlace(level, [surface], p)!;
  let [best, gain] = [Infinity, 0];
  for (let k = level.surfaceIndexFirst[surface]!; k < level.surfaceIndexFirst[surface + 1]!; k++) {
    const v = level.index[k]!;
    const d = Math.hypot(...[0, 1, 2].map((c) => level.position[v * 3 + c]! - p[c]!));
    if (d < best) [best, gain] = [d, level.gain[v]! / WHOLE_GAIN];
  }
  expect(structure.surfaces[surface]).toBeDefined();
  return { lux: brightness(luxAt(level.meta.pages, level.lightTexels, place)), gain };
}

test('on a column light runs on over the edges, and is about that of a round one where the lamp shines on it', () => {
  for (const sides of [12, 16]) {
    const built = build(room(shape('cylinder', sides)));
    const { surfaces } = built.structure;
    let [met, worstFlat, off] = [0, 1, 0];
    surfaces.forEach((a, i) => {
      surfaces.forEach((b, j) => {
        if (j <= i || a.brush !== 't0' || b.brush !== 't0') return;
        const across = dot(a.plane.normal, b.plane.normal);
        if (across > 0.9999 || across < 0.766) return;
        // The upper end of the edge that they share, and a little below it.
        const shared = a.winding.filter((p) => b.winding.some((q) => Math.hypot(...sub(p, q)) < 0.01));
        const top = shared.find((p) => p[2] > 279);
        if (!top) return;
        const p: Vec3 = [top[0], top[1], 278];
        const round = normalize([p[0] - 500, p[1] - 500, 0]);
        const way = sub(LAMP, p);
        const cos = dot(round, normalize(way));
        if (cos < 0.25) return;
        const [one, two] = [faceAt(built, i, p), faceAt(built, j, p)];
        const truth = (400 * 10_000 * cos) / dot(way, way);
        worstFlat = Math.min(worstFlat, one.lux / two.lux, two.lux / one.lux);
        expect(Math.abs((one.lux * one.gain) / (two.lux * two.gain) - 1)).toBeLessThan(0.2);
        off += Math.abs((one.lux * one.gain) / (two.lux * two.gain) - 1);
        expect(Math.abs((one.lux * one.gain) / truth - 1)).toBeLessThan(0.2);
        met++;
      });
    });
    expect(met).toBeGreaterThan(3);
    expect(off / met).toBeLessThan(0.1);
    // The yardstick sees the edges that were there.
    expect(worstFlat).toBeLessThan(0.75);
  }
});

test('a dome is round all over; boxes, ramps, and what nothing tells the light of stay flat', () => {
  const some = (things: readonly Brush[], lit = true) => {
    const doc = room(things);
    const { level } = build(lit ? doc : changeEntity(doc, 'l', { params: { candela: 0 } }));
    return level.gain.filter((g) => g !== WHOLE_GAIN).length;
  };
  expect(some(shape('dome', 16))).toBeGreaterThan(40);
  expect(some(shape('box', 4))).toBe(0);
  expect(some(shape('cylinder', 6))).toBe(0);
  expect(some(shape('cylinder', 12), false)).toBe(0);
  const ramp = shapeSolids({ kind: 'wedge', box: { min: [420, 420, 0], max: [780, 580, 90] }, params: {} });
  expect(some(ramp.map((solid, i) => dressSolid(solid, `r${i}`, 'm', { role: 'structure' })))).toBe(0);
});

test('in even light nothing is brighter than it was', () => {
  const doc = changeEntity(room(shape('cylinder', 16), 20), 'l', { params: { candela: 0 } });
  for (const g of build(doc).level.gain) expect(Math.abs(g / WHOLE_GAIN - 1)).toBeLessThan(0.02);
});
