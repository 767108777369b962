import { BoxGeometry, CylinderGeometry } from 'three';
import {
  composeAffine,
  decalOnMesh,
  dot,
  length,
  readyDecal,
  rotation,
  translation,
  windingArea,
  type Decal,
  type Vec3,
} from '@yesca/core';
import { makeCutProps, type FallingDecal } from './cut-props.ts';
import type { PropDecal } from './prop-decals.ts';
import { meshOf } from './prop-meshes.ts';
import { plainDecal as decal } from './testing.ts';
import type { PropPiece } from './prop-models.ts';
import type { PlacedProp } from './props.ts';

const FACTS = { width: 512, height: 512 };

function cut(geometry: BoxGeometry | CylinderGeometry, pose = translation([0, 0, 0]), more: Partial<Decal> = {}) {
  const found = decalOnMesh(readyDecal(decal(more), FACTS)!, pose, meshOf([{ geometry }]))!;
  const at = (list: readonly number[], k: number): Vec3 => list.slice(k * 3, k * 3 + 3) as unknown as Vec3;
  const triangles = Array.from({ length: found.index.length / 3 }, (_, t) =>
    [0, 1, 2].map((c) => at(found.position, found.index[t * 3 + c]!)),
  );
  return {
    area: triangles.reduce((sum, t) => sum + windingArea(t), 0),
    places: Array.from({ length: found.position.length / 3 }, (_, k) => at(found.position, k)),
    normals: Array.from({ length: found.normal.length / 3 }, (_, k) => at(found.normal, k)),
  };
}

test('a box shows a decal on the side that looks its way, as large as it is, wherever it stands', () => {
  const { area, places, normals } = cut(new BoxGeometry(50, 50, 50));
  expect(area).toBeCloseTo(800, 6);
  for (const p of places) expect(p[0]).toBeCloseTo(-25, 9);
  for (const n of normals) expect(n).toEqual([-1, 0, 0]);
  const far = translation([9000, -400, 70]);
  expect(cut(new BoxGeometry(50, 50, 50), far, { at: [9000, -400, 70] }).area).toBeCloseTo(800, 6);
});

test('a box that is turned to its edge shows it on both sides of that, each stretched by its slope', () => {
  const turned = composeAffine(translation([0, 0, 0]), rotation(2, 45, [0, 0, 0]));
  const { area, places } = cut(new BoxGeometry(50, 50, 50), turned, { through: [-80, 0, 0] });
  expect(area).toBeCloseTo(800 * Math.SQRT2, 6);
  expect(Math.min(...places.map((p) => p[0]))).toBeCloseTo(-25 * Math.SQRT2, 6);
});

test('on what is round it looks as the round thing does, not as its flat pieces', () => {
  // three's cylinder stands along y: it is laid along z.
  const { places, normals } = cut(new CylinderGeometry(30, 30, 60, 12).rotateX(Math.PI / 2));
  normals.forEach((n, k) => {
    expect(length(n)).toBeCloseTo(1, 9);
    const [x, y] = places[k]!;
    const out = Math.hypot(x, y);
    // Between corners the way runs evenly, as it is drawn: within a degree of the true round.
    expect(dot(n, [x / out, y / out, 0])).toBeGreaterThan(0.9995);
  });
  expect(new Set(normals.map((n) => n[1].toFixed(3))).size).toBeGreaterThan(4);
});

test('decals keep their order over all props, and while one prop moves all others keep their cuts', async () => {
  const box = new BoxGeometry(50, 50, 50);
  const pieces = [{ geometry: box }] as unknown as readonly PropPiece[];
  const placed = (thing: string, y: number): PlacedProp => ({
    thing,
    model: 'crate',
    picture: null,
    pose: translation([0, y, 0]),
    box: { min: [-25, -25, -25], max: [25, 25, 25] },
    litAt: [],
  });
  const falling = (material: string, y: number, on?: string): FallingDecal => ({
    ready: readyDecal(decal({ material, at: [-25, y, 0] }), FACTS)!,
    takes: ({ thing }) => on === undefined || on === thing,
  });
  const stuck: (readonly PropDecal[])[] = [];
  const cuts = makeCutProps({ stick: (all) => stuck.push(all) }, undefined, () => Promise.resolve(pieces));
  const told = () => stuck.at(-1)!.map(({ prop, material }) => `${material} on ${prop.thing}`);
  const decals = [falling('under', 200), falling('over', 0), falling('one', 200, 'a'), falling('over', 200)];
  const [a, b] = [placed('a', 0), placed('b', 200)];
  cuts.show([a, b], decals);
  expect(told()).toEqual([]);
  await Promise.resolve();
  await Promise.resolve();
  expect(told()).toEqual(['under on b', 'over on a', 'over on b']);
  const before = stuck.at(-1)!;
  // The same decals in another list: one that falls anew would lose all that was cut.
  cuts.show(
    [placed('a', 10), b],
    decals.map((d) => ({ ...d })),
  );
  expect(told()).toEqual(['under on b', 'over on a', 'over on b']);
  expect(stuck.at(-1)![0]!.cut).toBe(before[0]!.cut);
  expect(stuck.at(-1)![2]!.cut).toBe(before[2]!.cut);
  expect(stuck.at(-1)![1]!.cut).not.toBe(before[1]!.cut);
  cuts.show([placed('a', 205), b], decals);
  expect(told()).toEqual(['under on a', 'under on b', 'one on a', 'over on a', 'over on b']);
  // While one decal is another, all others keep their cuts.
  cuts.show([a, b], decals);
  const still = stuck.at(-1)!;
  cuts.show([a, b], [falling('under', 190), ...decals.slice(1)]);
  expect(told()).toEqual(['under on b', 'over on a', 'over on b']);
  expect(stuck.at(-1)!.map(({ cut }, k) => cut === still[k]!.cut)).toEqual([false, true, true]);
  cuts.show([a, b], decals.slice(1));
  expect(told()).toEqual(['over on a', 'over on b']);
  cuts.show([a, b], []);
  expect(told()).toEqual([]);
});

test('what lies outside its box shows nothing', () => {
  expect(
    decalOnMesh(
      readyDecal(decal({ at: [500, 0, 0] }), FACTS)!,
      translation([0, 0, 0]),
      meshOf([{ geometry: new BoxGeometry(50, 50, 50) }]),
    ),
  ).toBeNull();
});
