import fc from 'fast-check';
import { boxSolid } from '../brush/index.ts';
import { addRoom, changeEntity, changeSettings, placeDecals, placeEntity, placeProps, rideOn } from '../edit/index.ts';
import { modelOf, propPose } from '../entity/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { addScaled, applyAffine, cross, dot, length, normalize, sub, type Vec3 } from '../math/index.ts';
import type { MaterialFacts } from '../surface/index.ts';
import { boxProp, meshOfSolids } from '../testing/props.ts';
import { DRESS, rectangle, roomSpec } from '../testing/rooms.ts';
import { buildLevel } from './build.ts';
import { NO_PROP_DECALS } from './level/prop-decals.ts';
import { decalsOnProps, modelsToRead, readLevel, type Level, type LevelMeshDecal } from './level/index.ts';

const CRATE = boxSolid({ min: [-60, -60, 0], max: [60, 60, 120] });
const props = (name: string) => (name === 'crate' ? boxProp(name, [-60, -60, 0], [60, 60, 120]) : undefined);
const MESH = meshOfSolids([CRATE]);
const meshes = (name: string) => (name === 'crate' ? MESH : undefined);
const materials = (name: string): MaterialFacts => ({
  name,
  width: 512,
  height: 512,
  texelsPerCm: 2,
  solidity: 'solid',
  regions: [{ name: 'sign', x: 128, y: 0, width: 128, height: 64 }],
});

/** A room of 8 × 8 m, off the origin, with a crate in its middle that is turned and as large as is said. */
function room(turn: number, scale = 1, from: Vec3 = [0, 0, 0]): { doc: MapDocument; crate: string } {
  const [x, y, z] = from;
  const empty = addRoom(emptyMap('room'), roomSpec(rectangle(x, y, 800, 800), { floor: z, ceiling: z + 400 }), DRESS);
  const doc = placeEntity(changeSettings(empty, { ambientLux: 1, skyNits: 0 }), 'spawn', [x + 60, y + 60, z], 0, 's');
  const at: Vec3 = [x + 400, y + 400, z];
  const placed = placeProps(doc, [{ model: 'crate', at, turn, scale }], props);
  return { doc: placed.doc, crate: placed.made.entities[0]! };
}
/** A sign of 64 × 32 cm on the crate’s side that looked east before it was turned. */
function signed({ doc, crate }: ReturnType<typeof room>, params: object = {}) {
  const thing = doc.entities.get(crate)!;
  const pose = propPose(modelOf(thing)!, thing.at, thing.turn);
  const [at, out] = [applyAffine(pose, [60, 0, 60]), applyAffine(pose, [61, 0, 60])];
  const normal = normalize(sub(out, at));
  const stuck = placeDecals(doc, [{ material: 'paint', region: 'sign', at, normal }], materials);
  const id = stuck.made.entities[0]!;
  return { doc: changeEntity(stuck.doc, id, { params: params as Record<string, never> }), crate, id, at, normal };
}
const built = (doc: MapDocument, known: typeof meshes | null = meshes): Level =>
  readLevel(
    buildLevel(doc, 'sketch', {}, { materials, props, meshes: known ?? undefined, direct: true, probes: false }).bytes,
  );
const corner = (list: readonly number[], k: number): Vec3 => list.slice(k * 3, k * 3 + 3) as unknown as Vec3;
const area = ({ index, position }: LevelMeshDecal): number => {
  let sum = 0;
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((n) => corner(position, index[t + n]!)) as [Vec3, Vec3, Vec3];
    sum += length(cross(sub(b, a), sub(c, a))) / 2;
  }
  return sum;
};

test('a sign on a crate at any turn, size and place lies on its side, as large as it is, and no face of the room shows it', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 359 }),
      fc.double({ min: 0.6, max: 1.6, noNaN: true }),
      fc.constantFrom<Vec3>([0, 0, 0], [30_000, -20_000, 500]),
      (turn, scale, from) => {
        const { doc, crate, id, at, normal } = signed(room(turn, scale, from));
        const level = built(doc);
        expect(level.decalIndex).toHaveLength(0);
        const [piece, ...more] = decalsOnProps(level)!;
        expect(more).toEqual([]);
        expect(piece).toMatchObject({ prop: crate, decal: id });
        // Places are kept as numbers of 24 bits.
        expect(Math.abs(area(piece!) - 64 * 32)).toBeLessThan(from[0] === 0 ? 0.5 : 4);
        for (let k = 0; k * 3 < piece!.position.length; k++) {
          const p = corner(piece!.position, k);
          expect(Math.abs(dot(sub(p, at), normal))).toBeLessThan(0.01);
          expect(length(sub(corner(piece!.normal, k), normal))).toBeLessThan(1e-5);
          const [u, v] = [piece!.texel[k * 2]!, piece!.texel[k * 2 + 1]!];
          expect(u).toBeGreaterThan(127.99);
          expect(u).toBeLessThan(256.01);
          expect(v).toBeGreaterThan(-0.01);
          expect(v).toBeLessThan(64.01);
          // Of the vertices that it lies between it is made, by its shares of them.
          const thing = doc.entities.get(crate)!;
          const pose = propPose(modelOf(thing)!, thing.at, thing.turn);
          const between = [0, 1, 2].reduce<Vec3>(
            (sum, n) => {
              const vertex = piece!.vertex[k * 3 + n]!;
              const place = applyAffine(pose, corner([...MESH.places], vertex));
              return addScaled(sum, place, piece!.share[k * 3 + n]!);
            },
            [0, 0, 0],
          );
          expect(length(sub(between, p))).toBeLessThan(0.02);
        }
      },
    ),
    { numRuns: 8 },
  );
});

test('several decals on several props keep their order, and each piece its own corners', () => {
  const { doc, crate } = room(0);
  const second = placeProps(doc, [{ model: 'crate', at: [400, 600, 0] }], props);
  const over = signed({ doc: second.doc, crate }, { order: 3 });
  const under = signed({ doc: over.doc, crate }, { order: -1, opacity: 0.5 });
  const other = signed({ doc: under.doc, crate: second.made.entities[0]! });
  const found = decalsOnProps(built(other.doc))!;
  expect(found.map(({ prop, decal }) => [prop, decal])).toEqual([
    [crate, under.id],
    [second.made.entities[0], other.id],
    [crate, over.id],
  ]);
  for (const piece of found) expect(area(piece)).toBeCloseTo(64 * 32, 1);
  expect(found.map(({ ink }) => ink[3])).toEqual([0.5, 1, 1]);
  expect(found[1]!.position.filter((_, k) => k % 3 === 1).every((y) => y > 500)).toBe(true);
});

test('what falls on brushes only, on what was chosen elsewhere, or rides on something else, is on no prop', () => {
  const plain = room(30);
  for (const params of [{ targets: 'brushes' }, { targets: 'chosen', brushes: [], things: [] }]) {
    const { doc } = signed(plain, params);
    expect(decalsOnProps(built(doc))).toEqual([]);
  }
  const chosen = signed(plain, { targets: 'chosen', brushes: [], things: [plain.crate] });
  expect(decalsOnProps(built(chosen.doc))).toHaveLength(1);
  const { doc, id } = signed(plain);
  const mover = placeEntity(doc, 'mover', [200, 200, 50], 0, 'm');
  expect(decalsOnProps(built(rideOn(mover, [id], 'm')))).toEqual([]);
  // On a prop that rides with it it is.
  const both = rideOn(mover, [id, plain.crate], 'm');
  expect(decalsOnProps(built(both))).toMatchObject([{ decal: id, prop: plain.crate }]);
});

test('where nobody knows what props look like it is left to be found, and told of nothing else', () => {
  const { doc } = signed(room(0));
  expect(decalsOnProps(built(doc, null))).toBeNull();
  expect(decalsOnProps({ ...built(doc), ...NO_PROP_DECALS })).toBeNull();
  expect(decalsOnProps(built(room(0).doc))).toEqual([]);
});

test('a build reads of all models those alone that a decal may fall on, and those that are lit at their vertices', () => {
  const { doc, crate } = signed(room(45));
  expect(modelsToRead(doc, props, materials)).toEqual(['crate']);
  expect(modelsToRead(room(45).doc, props, materials)).toEqual([]);
  const away = changeEntity(doc, crate, { at: [700, 700, 0] });
  expect(modelsToRead(away, props, materials)).toEqual([]);
  expect(modelsToRead(changeEntity(away, crate, { params: { takes: 'vertices' } }), props, materials)).toEqual([
    'crate',
  ]);
});

test('triangles of decals on props count for those who see the prop', () => {
  const crate = room(0);
  const [without, { doc }] = [built(crate.doc), signed(crate)];
  const level = built(doc);
  const more = level.propDecalIndex.length / 3;
  expect(more).toBeGreaterThan(1);
  const cell = level.propCell[0]!;
  expect(level.cellTriangles[cell]! - without.cellTriangles[cell]!).toBe(more);
});
