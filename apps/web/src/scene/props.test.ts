/** @jest-environment jsdom */
import { BoxGeometry, Color, Matrix4, Vector3, type DataTexture, type InstancedMesh, type ShaderMaterial } from 'three';
import { translation, type Affine } from '@yesca/core';
import type { PropPiece } from './prop-models.ts';
import { makeProps, type PlacedProp } from './props.ts';

const piece = (): PropPiece => ({
  geometry: new BoxGeometry(10, 10, 10),
  picture: null,
  color: new Color(),
  glow: new Color(),
  cut: 0,
  doubleSided: false,
});
const at = (thing: string, x: number, model = 'crate', places = 1): PlacedProp => ({
  thing,
  model,
  picture: null,
  pose: translation([x, 0, 0]) as Affine,
  box: { min: [-5, -5, -5], max: [5, 5, 5] },
  litAt: Array.from({ length: places }, () => [x, 0, 0] as const),
});

/** What is drawn: of each mesh the places along x, in their order. */
async function drawing() {
  const models = new Map<string, readonly PropPiece[]>();
  const asked: string[] = [];
  const scene = makeProps({}, undefined, ({ model }) => {
    asked.push(model);
    if (!models.has(model)) models.set(model, [piece()]);
    return Promise.resolve(models.get(model)!);
  });
  const drawn = async () => {
    await Promise.resolve();
    await Promise.resolve();
    return scene.group.children
      .map((child) => {
        const mesh = child as InstancedMesh;
        const m = new Matrix4();
        return Array.from({ length: mesh.count }, (_, k) => {
          mesh.getMatrixAt(k, m);
          return new Vector3().setFromMatrixPosition(m).x;
        });
      })
      .filter((places) => places.length > 0);
  };
  return { scene, drawn, asked };
}

test('props of one model are drawn at once; one that moves does so, and all others stay', async () => {
  const { scene, drawn, asked } = await drawing();
  const all = [at('a', 1), at('b', 2), at('c', 3, 'barrel'), at('d', 4)];
  scene.show(all);
  expect(await drawn()).toEqual([[1, 2, 4], [3]]);
  const [a, , c, d] = all as [PlacedProp, PlacedProp, PlacedProp, PlacedProp];
  scene.show([a, at('b', 20), c, d]);
  expect(await drawn()).toEqual([[1, 20, 4], [3]]);
  scene.show([at('a', 10), at('b', 20), at('c', 30, 'barrel'), d]);
  expect(await drawn()).toEqual([[10, 20, 4], [30]]);
  expect(asked).toEqual(['crate', 'barrel']);
});

test('one that becomes another model, is lit at more places, goes or comes, is drawn with its like', async () => {
  const { scene, drawn } = await drawing();
  const [a, b, c] = [at('a', 1), at('b', 2), at('c', 3, 'barrel')];
  scene.show([a, b, c]);
  await drawn();
  scene.show([a, at('b', 2, 'barrel'), c]);
  expect(await drawn()).toEqual([[1], [2, 3]]);
  scene.show([a, at('b', 2, 'crate', 8), c]);
  expect(await drawn()).toEqual([[1], [3], [2]]);
  // Others in the same number are not those that were there.
  scene.show([at('e', 5), b, c]);
  expect(await drawn()).toEqual([[5, 2], [3]]);
  scene.show([b, at('e', 5), c]);
  expect(await drawn()).toEqual([[2, 5], [3]]);
  scene.show([c]);
  expect(await drawn()).toEqual([[3]]);
  scene.show([]);
  expect(await drawn()).toEqual([]);
});

test('what moved is lit as its thing is, and goes on being lit so', async () => {
  const { scene, drawn } = await drawing();
  scene.show([at('a', 1), at('b', 2)]);
  await drawn();
  const light = (mesh: InstancedMesh, k: number): number => {
    const { uniforms } = mesh.material as ShaderMaterial;
    const { data } = (uniforms.coefficients!.value as DataTexture).image;
    return data![k * 9 * 4]!;
  };
  const mesh = scene.group.children[0] as InstancedMesh;
  scene.light('b', new Float32Array(27).fill(7));
  expect([light(mesh, 0), light(mesh, 1)]).toEqual([74, 7]);
  scene.show([at('a', 1), at('b', 9)]);
  expect([light(mesh, 0), light(mesh, 1)]).toEqual([74, 7]);
  scene.unlit();
  expect(light(mesh, 1)).toBe(74);
});
