import fc from 'fast-check';
import { boxSolid, brushPlanes, faceWinding, type Brush } from '../brush/index.ts';
import { decalOf } from '../entity/index.ts';
import {
  decalOnBrush,
  emptyMap,
  parseMap,
  readyDecalOf,
  writeMap,
  type FaceDecal,
  type MapDocument,
} from '../map/index.ts';
import { distance, dot, rotationAbout, windingArea, windingCentroid, type Vec3 } from '../math/index.ts';
import { dressSolid, texelAt, transformBrush, worldFrame, type MaterialFacts } from '../surface/index.ts';
import { addBrushes, removePicked } from './brushes.ts';
import { cutDecals, placeDecals } from './decals.ts';
import { changeEntity, placeEntity } from './entities.ts';
import { groupPicked } from './groups.ts';
import { giveParts } from './owning.ts';
import { addLayer, moveToLayer } from './sheets.ts';
import { decalsToPatches, isPatch, patchesToDecals } from './patches.ts';

const sheet: MaterialFacts = {
  name: 'signs',
  width: 512,
  height: 256,
  texelsPerCm: 4,
  solidity: 'cutOut',
  regions: [
    { name: 'arrow', x: 64, y: 32, width: 128, height: 64 },
    { name: 'board', x: 256, y: 0, width: 256, height: 256 },
  ],
};
const materials = (name: string) => (name === 'signs' ? sheet : undefined);
const block = (id: string, min: Vec3, max: Vec3): Brush =>
  dressSolid(boxSolid({ min, max }), id, 'limewash', { role: 'structure' });
const wall = block('wall', [0, -300, 0], [40, 300, 300]);
const onWall = (doc: MapDocument, more: object = {}) => {
  const { doc: out, made } = placeDecals(
    doc,
    [{ material: 'signs', region: 'arrow', at: [40, 20, 150], normal: [1, 0, 0], ...more }],
    materials,
  );
  return { doc: out, id: made.entities[0]! };
};
const piecesOf = (doc: MapDocument, id: string, of: readonly Brush[]): FaceDecal[] => {
  const ready = readyDecalOf(doc.entities.get(id)!, materials)!;
  return of.flatMap((b) => decalOnBrush(ready, b, materials));
};
const total = (pieces: readonly { winding: readonly Vec3[] }[]) =>
  pieces.reduce((sum, p) => sum + windingArea(p.winding), 0);
const frontOf = (b: Brush) => {
  const k = b.faces.findIndex((f) => f.show === undefined);
  return { face: b.faces[k]!, winding: faceWinding(b, k), normal: brushPlanes(b)[k]!.normal };
};
/** How a place that patches show differs from what decals showed there, in texels; null where only one of both is there. */
const frontsOf = (doc: MapDocument, ids: Iterable<string>) => [...ids].map((id) => frontOf(doc.brushes.get(id)!));

test('a decal and its patch show the same texels over the same area, on faces turned at random, and turn back into each other', () => {
  const angle = fc.double({ min: 0, max: 360, noNaN: true });
  const axis = fc
    .tuple(...([0, 1, 2] as const).map(() => fc.double({ min: -1, max: 1, noNaN: true })))
    .filter((v) => Math.hypot(...v) > 0.2) as unknown as fc.Arbitrary<Vec3>;
  fc.assert(
    fc.property(
      axis,
      angle,
      angle,
      fc.constantFrom('', 'arrow', 'board'),
      fc.boolean(),
      (about, by, turn, region, cut) => {
        const turned = transformBrush(wall, rotationAbout(about, by, [4000, 0, 200]), true);
        const k = brushPlanes(wall).findIndex((p) => p.normal[0] === 1);
        const { normal } = brushPlanes(turned)[k]!;
        const at = windingCentroid(faceWinding(turned, k));
        const { doc: laid, id } = onWall(addBrushes(emptyMap('m'), [turned]), { region, at, normal, turn });
        const doc = cut ? cutDecals(laid, [id], [[0.1, 0.2], [0.9, 0.1], [0.6, 0.8]], undefined) : laid; // prettier-ignore
        const before = piecesOf(doc, id, [turned]);
        const { doc: patched, brushes } = decalsToPatches(doc, [id], materials);
        const fronts = frontsOf(patched, brushes);
        expect(patched.entities.has(id)).toBe(false);
        expect(fronts).toHaveLength(before.length);
        expect(Math.abs(total(fronts) - total(before))).toBeLessThan(0.01 * (1 + total(before)));
        for (const { winding, texels } of before)
          winding.forEach((p, i) => {
            const near = fronts.find((f) => f.winding.some((q) => distance(p, q) < 0.6))!;
            const [u, v] = texelAt(near.face.frame, p);
            expect(Math.hypot(u - texels[i]![0], v - texels[i]![1])).toBeLessThan(0.05);
          });
        expect([...brushes].every((b) => isPatch(patched.brushes.get(b)!))).toBe(true);
        const { doc: back, made } = patchesToDecals(patched, [...brushes], materials);
        expect([...back.brushes.keys()]).toEqual([turned.id]);
        const again = made.entities.flatMap((e) => piecesOf(back, e, [turned]));
        expect(Math.abs(total(again) - total(before))).toBeLessThan(0.01 * (1 + total(before)));
        const all = again.flatMap(({ winding, texels }) => winding.map((p, i) => ({ p, texel: texels[i]! })));
        for (const { winding, texels } of before)
          winding.forEach((p, i) => {
            const same = all.find((other) => distance(other.p, p) < 0.05)!;
            expect(Math.hypot(same.texel[0] - texels[i]![0], same.texel[1] - texels[i]![1])).toBeLessThan(0.2);
          });
      },
    ),
  );
});

test('round a corner there is a patch on each wall, grouped; none where another solid hides it', () => {
  const other = block('other', [40, 40, 0], [300, 200, 300]);
  const doc = addBrushes(emptyMap('m'), [wall, other]);
  const { doc: laid, id } = onWall(doc, { at: [40, 40, 150], normal: [1, -1, 0], width: 60, height: 30, depth: 80 });
  const { doc: patched, brushes } = decalsToPatches(laid, [id], materials);
  const normals = frontsOf(patched, brushes).map((f) => f.normal.map((c) => Math.round(c) + 0));
  expect(normals.sort()).toEqual(
    [
      [0, -1, 0],
      [1, 0, 0],
    ].sort(),
  );
  const groups = new Set([...brushes].map((b) => patched.brushes.get(b)!.group));
  expect([...groups][0]).toBeDefined();
  expect(groups.size).toBe(1);
  // The part of the wall that lies behind the other one shows nothing.
  for (const f of frontsOf(patched, brushes)) expect(windingCentroid(f.winding)[1]).toBeLessThan(40.6);
});

test('a patch stands a little out of its wall, in the way of nobody and of no light, and rides where the wall does', () => {
  const moving = giveParts(placeEntity(addBrushes(emptyMap('m'), [wall]), 'mover', [0, 0, 0], 0, 'm'), 'm', 0, {
    brushes: ['wall'],
  });
  const { doc, id } = onWall(moving);
  const { doc: patched, brushes } = decalsToPatches(doc, [id], materials);
  const patch = patched.brushes.get([...brushes][0]!)!;
  expect(patch).toMatchObject({ role: 'detail', stops: [], shadow: false, owner: { id: 'm' } });
  const xs = patch.vertices.map((v) => v[0]);
  expect([Math.min(...xs), Math.max(...xs)]).toEqual([40, 40.5]);
  const { doc: back, made } = patchesToDecals(patched, [patch.id], materials);
  const again = back.entities.get(made.entities[0]!)!;
  expect(again.carrier).toEqual({ id: 'm' });
  const [was, is] = [decalOf(doc.entities.get(id)!)!, decalOf(again)!];
  expect(is).toMatchObject({ region: 'arrow', outline: [] });
  (['at', 'across', 'upward'] as const).forEach((key) => expect(distance(was[key], is[key])).toBeLessThan(1e-3));
});

test('patches stay in the group and on the layer of their decal, and decals in those of their patch', () => {
  const other = block('other', [40, 40, 0], [300, 200, 300]);
  const plain = addLayer(addBrushes(emptyMap('m'), [wall, other]), 'Signs', 'l');
  for (const wide of [20, 60]) {
    const { doc: laid, id } = onWall(plain, {
      at: [40, 40, 150],
      normal: [1, -1, 0],
      width: wide,
      height: 30,
      depth: 80,
    });
    const lamp = placeEntity(moveToLayer(laid, { entities: new Set([id]) }, 'l'), 'pointLight', [90, 0, 200], 0, 'p');
    const doc = groupPicked(lamp, { entities: new Set([id, 'p']) }, 'Lit sign', 'g');
    const { doc: patched, brushes } = decalsToPatches(doc, [id], materials);
    const patches = [...brushes].map((b) => patched.brushes.get(b)!);
    expect(patches).toHaveLength(2);
    for (const b of patches) {
      expect(b.layer).toBe('l');
      expect(b.group === 'g' || patched.groups.get(b.group!)!.parent === 'g').toBe(true);
    }
    expect(patched.entities.get('p')!.group).toBe('g');
    const { doc: back, made } = patchesToDecals(patched, [...brushes], materials);
    for (const e of made.entities) expect(back.entities.get(e)).toMatchObject({ layer: 'l', group: patches[0]!.group });
    for (const d of [patched, back]) expect(parseMap(writeMap(d)).groups).toEqual(d.groups);
    // On one wall alone it is one patch, in the very group.
    const one = decalsToPatches(removePicked(doc, { brushes: new Set(['other']) }), [id], materials);
    expect([...one.brushes].map((b) => one.doc.brushes.get(b)!.group)).toEqual(['g']);
  }
});

test('what cannot be turned is refused with what to do, and what is lost is said', () => {
  const { doc, id } = onWall(addBrushes(emptyMap('m'), [wall]));
  const tinted = changeEntity(doc, id, { params: { tint: '#ff0000', opacity: 0.5 } });
  expect(decalsToPatches(doc, [id], materials).said).toBe('');
  expect(decalsToPatches(tinted, [id], materials).said).toMatch(/tints and their opacity did not go along/);
  expect(() => decalsToPatches(removePicked(doc, { brushes: new Set(['wall']) }), [id], materials)).toThrow(
    'falls on no brush',
  );
  expect(() => decalsToPatches(doc, [id], () => undefined)).toThrow('falls on no brush');
  expect(() => decalsToPatches(doc, [], materials)).toThrow('Select a decal');
  expect(() => patchesToDecals(doc, ['wall'], materials)).toThrow('one face is seen');
  expect(() => patchesToDecals(doc, [], materials)).toThrow('Select one or more brushes');
  const { doc: patched, brushes } = decalsToPatches(doc, [id], materials);
  const [patch] = [...brushes].map((b) => patched.brushes.get(b)!);
  // Its picture laid so small that it repeats.
  const { normal } = frontOf(patch!);
  const fine = { u: worldFrame(normal, 40).u, v: worldFrame(normal, 40).v };
  const faces = patch!.faces.map((f) => (f.show ? f : { ...f, frame: fine }));
  const repeating = { ...patched, brushes: new Map(patched.brushes).set(patch!.id, { ...patch!, faces }) };
  expect(() => patchesToDecals(repeating, [patch!.id], materials)).toThrow('Fit the picture');
  expect(dot(normal, [1, 0, 0])).toBeCloseTo(1, 9);
});
