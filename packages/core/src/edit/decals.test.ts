import { addBrushes } from './brushes.ts';
import { changeEntity, placeEntity } from './entities.ts';
import { boxSolid } from '../brush/index.ts';
import { decalOf, transformEntity } from '../entity/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { cross, dot, length, normalize, rotationAbout, scaling, type Vec3 } from '../math/index.ts';
import { dressSolid, type MaterialFacts } from '../surface/index.ts';
import { aimDecals, boxDecals, cutDecals, decalTurn, layCopies, layDecals, placeDecals } from './decals.ts';

const lookup = (name: string): MaterialFacts | undefined =>
  name === 'paint'
    ? {
        name,
        width: 512,
        height: 256,
        texelsPerCm: 2,
        solidity: 'seeThrough',
        regions: [{ name: 'sign', x: 0, y: 0, width: 100, height: 60 }],
      }
    : undefined;
const placed = (at: Vec3, normal: Vec3, more: object = {}): { doc: MapDocument; id: string } => {
  const { doc, made } = placeDecals(
    emptyMap('m'),
    [{ material: 'paint', region: 'sign', at, normal, ...more }],
    lookup,
  );
  return { doc, id: made.entities[0]! };
};
const decal = ({ doc, id }: { doc: MapDocument; id: string }) => decalOf(doc.entities.get(id)!)!;
const refused = (work: () => unknown): string => {
  try {
    work();
  } catch (error) {
    return (error as { code: string }).code;
  }
  return 'done';
};

test('it lies flat on whatever it is put on, upright on walls, its picture the right way round', () => {
  const ways: Vec3[] = [[1, 0, 0], [-1, 0, 0], [0, 1, 0], [0, -1, 0], [0, 0, 1], [0, 0, -1], [1, 2, 3], [-5, 1, 0.2]]; // prettier-ignore
  for (const normal of ways) {
    const { across, upward, through } = decal(placed([5, 6, 7], normal, { turn: 33 }));
    const n = normalize(normal);
    expect([length(across), length(upward)].map((l) => Math.round(l * 100))).toEqual([5000, 3000]);
    expect(dot(normalize(through), n)).toBeCloseTo(1, 5);
    // Across, upward and out of the surface are a right-handed frame: no mirror writing.
    expect(dot(normalize(cross(across, upward)), n)).toBeCloseTo(1, 5);
    expect(decalTurn({ across, upward, through })).toBeCloseTo(33, 1);
  }
  expect(normalize(decal(placed([0, 0, 0], [1, 1, 0])).upward)).toEqual([0, 0, 1]);
});

test('what cannot be placed is said: no such picture, no such region, no way, no size', () => {
  const wish = { material: 'paint', at: [0, 0, 0] as Vec3, normal: [0, 0, 1] as Vec3 };
  const place = (more: object) => refused(() => placeDecals(emptyMap('m'), [{ ...wish, ...more }], lookup));
  expect(place({ material: 'none' })).toBe('decal.material');
  expect(place({ region: 'none' })).toBe('decal.region');
  expect(place({ normal: [0, 0, 0] })).toBe('decal.normal');
  expect(place({ scale: 0 })).toBe('decal.size');
  expect(place({ at: [NaN, 0, 0] })).toBe('entity.place');
});

test('laid from surface to surface it rolls over the edge and comes back as it was; others go along', () => {
  const one = placed([0, 0, 50], [1, 0, 0], { turn: 20 });
  const two = placeDecals(one.doc, [{ material: 'paint', at: [0, 30, 50], normal: [1, 0, 0] }], lookup);
  const both = [one.id, two.made.entities[0]!];
  const floor = layDecals(two.doc, both, { at: [100, 0, 0], normal: [0, 0, 1] });
  expect(decal({ doc: floor, id: one.id }).through).toEqual([0, 0, 32]);
  expect(decal({ doc: floor, id: both[1]! }).at).toEqual([100, 30, 0]);
  const back = layDecals(floor, both, { at: [0, 0, 50], normal: [1, 0, 0] });
  for (const key of ['across', 'upward', 'through'] as const)
    decal(one)[key].forEach((c, k) => expect(decal({ doc: back, id: one.id })[key][k]).toBeCloseTo(c, 2));
  // Right over to the other side of a wall it stays upright; round an edge its box is as deep as is asked.
  const over = layDecals(one.doc, [one.id], { at: [0, 0, 50], normal: [-1, 0, 0], depth: 90 });
  expect(length(decal({ doc: over, id: one.id }).through)).toBeCloseTo(90, 2);
  expect(decal({ doc: over, id: one.id }).upward[2]).toBeCloseTo(decal(one).upward[2], 2);
  expect(refused(() => layDecals(one.doc, ['x'], { at: [0, 0, 0], normal: [0, 0, 1] }))).toBe('decal.unknown');
});

test('sizes and turns are set where it lies, natural size first; too small a one is refused', () => {
  const one = placed([0, 0, 0], [0, 1, 0]);
  const set = (box: object) => decal({ doc: boxDecals(one.doc, [one.id], box, lookup), id: one.id });
  expect([length(set({ width: 12 }).across), length(set({ depth: 7 }).through)].map(Math.round)).toEqual([12, 7]);
  expect(decalTurn(set({ turn: 200 }))).toBeCloseTo(200, 1);
  const small = boxDecals(one.doc, [one.id], { width: 3, height: 3 }, lookup);
  const natural = decal({ doc: boxDecals(small, [one.id], { natural: true, height: 9 }, lookup), id: one.id });
  expect([length(natural.across), length(natural.upward)].map(Math.round)).toEqual([50, 9]);
  expect(set({ flip: true }).across).toEqual(decal(one).across.map((c) => -c + 0));
  for (const width of [0, -4, NaN]) expect(refused(() => set({ width }))).toBe('decal.size');
});

test('turned, mirrored and stretched with what it lies on, its box is exactly what that makes of it', () => {
  const { doc, id } = placed([10, 20, 30], [0, 0, 1]);
  const turned = decalOf(transformEntity(doc.entities.get(id)!, rotationAbout(normalize([1, 2, 3]), 71, [0, 0, 0])))!;
  expect(
    [length(turned.across), length(turned.upward), length(turned.through)].map((l) => Math.round(l * 1e4)),
  ).toEqual([500_000, 300_000, 320_000]);
  const wide = decalOf(transformEntity(doc.entities.get(id)!, scaling([3, 1, 1], [0, 0, 0])))!;
  expect([wide.across, wide.upward]).toEqual([
    [150, 0, 0],
    [0, 30, 0],
  ]);
});

test('what is cut out lies in the picture, does not cross itself, leaves something, and has no more tints than corners', () => {
  const { doc, id } = placed([0, 0, 0], [0, 0, 1]);
  const cut = (outline: [number, number][] | undefined, inks?: { color: string; opacity: number }[]) =>
    refused(() => cutDecals(doc, [id], outline, inks));
  const triangle: [number, number][] = [[0, 0], [1, 0], [0, 1]]; // prettier-ignore
  const ink = { color: '#ff8800', opacity: 0.5 };
  expect(cut(triangle, [ink])).toBe('done');
  expect(cut([[0, 0], [1.1, 0], [0, 1]])).toBe('decal.outline'); // prettier-ignore
  expect(cut([[0, 0], [1, 1], [1, 0], [0, 1]])).toBe('decal.outline'); // prettier-ignore
  expect(cut([[0, 0], [1, 0], [0.5, 0]])).toBe('decal.outline'); // prettier-ignore
  expect(cut(triangle, [ink, ink, ink, ink])).toBe('decal.inks');
  expect(cut(triangle, [{ ...ink, opacity: 2 }])).toBe('entity.param');
  const whole = cutDecals(cutDecals(doc, [id], triangle, [ink]), [id], undefined, undefined);
  expect([decal({ doc: whole, id }).outline, decal({ doc: whole, id }).inks]).toEqual([[], []]);
});

test('among what is picked decals fall on the rest; without a rest, or a decal, that is said', () => {
  const one = placed([0, 0, 0], [0, 0, 1]);
  const slab = dressSolid(boxSolid({ min: [0, 0, 0], max: [9, 9, 9] }), 'slab', 'oak');
  const doc = addBrushes(one.doc, [slab]);
  const aimed = aimDecals(doc, { entities: new Set([one.id]), brushes: new Set(['slab']) });
  expect([decal({ doc: aimed, id: one.id }).targets, decal({ doc: aimed, id: one.id }).brushes]).toEqual([
    'chosen',
    ['slab'],
  ]);
  expect(refused(() => aimDecals(doc, { entities: new Set([one.id]) }))).toBe('decal.targets');
  expect(refused(() => aimDecals(doc, { brushes: new Set(['slab']) }))).toBe('decal.targets');
  expect(refused(() => changeEntity(doc, one.id, { params: { targets: 'nobody' } }))).toBe('entity.param');
});

test('copies are laid where they are wanted, in order, and the first ones stay; what is no decal is not copied', () => {
  const first = placeDecals(
    emptyMap('m'),
    [
      { material: 'paint', at: [0, 0, 0], normal: [0, 0, 1] },
      { material: 'paint', at: [50, 0, 0], normal: [0, 0, 1] },
    ],
    lookup,
  );
  const [a, b] = first.made.entities as [string, string];
  const doc = placeEntity(first.doc, 'spawn', [0, 0, 0], 0, 's');
  const { doc: laid, made } = layCopies(doc, [b, a, 's'], { at: [0, 0, 100], normal: [0, 0, 1] });
  expect(made.entities).toHaveLength(2);
  expect(laid.entities.size).toBe(5);
  const at = (id: string) => laid.entities.get(id)!.at;
  expect([at(a), at(b)]).toEqual([doc.entities.get(a)!.at, doc.entities.get(b)!.at]);
  // The one that was taken hold of lies where the pointer is, the other as far from it as before.
  expect(made.entities.map(at)).toEqual([
    [0, 0, 100],
    [-50, 0, 100],
  ]);
});
