import { NodeIO } from '@gltf-transform/core';
import { KHRLightsPunctual } from '@gltf-transform/extensions';
import { growModel, shiftModel } from '@yesca/intake';
import { readMesh } from '@yesca/intake/mesh';
import { readFileSync } from 'node:fs';
import { Matrix4, Mesh, Vector3, type BufferGeometry } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { PROPS } from './list.ts';

/** A model without its pictures, which are of no account here. */
async function bare(name: string): Promise<Uint8Array> {
  const io = new NodeIO().registerExtensions([KHRLightsPunctual]);
  const doc = await io.readBinary(
    new Uint8Array(readFileSync(new URL(`../../assets/props/${name}.glb`, import.meta.url))),
  );
  for (const texture of doc.getRoot().listTextures()) texture.dispose();
  return io.writeBinary(doc);
}

/** The vertices and normals of a model as the page draws it: what is drawn of it one after another, cm, z up. */
async function drawn(glb: Uint8Array): Promise<{ places: number[]; normals: number[] }> {
  const { scene } = await new GLTFLoader().parseAsync(new Uint8Array(glb).buffer, '');
  scene.updateMatrixWorld(true);
  const ours = new Matrix4().set(100, 0, 0, 0, 0, 0, -100, 0, 0, 100, 0, 0, 0, 0, 0, 1);
  const places: number[] = [];
  const normals: number[] = [];
  scene.traverse((o) => {
    if (!(o instanceof Mesh)) return;
    const geometry = o.geometry as BufferGeometry;
    const matrix = new Matrix4().multiplyMatrices(ours, o.matrixWorld);
    const [at, normal] = [geometry.getAttribute('position'), geometry.getAttribute('normal')];
    for (let k = 0; k < at.count; k++) {
      places.push(...new Vector3().fromBufferAttribute(at, k).applyMatrix4(matrix).toArray());
      normals.push(...new Vector3().fromBufferAttribute(normal, k).transformDirection(matrix).toArray());
    }
  });
  return { places, normals };
}

const near = (a: ArrayLike<number>, b: ArrayLike<number>, most: number): boolean =>
  a.length === b.length && Array.from(a).every((v, k) => Math.abs(v - b[k]!) <= most);

test('vertices that builds light are those that are drawn, in the same order, as the models were made, grown and moved', async () => {
  const loose = ['boat', 'lamp-post', 'cogwheel', 'crate'].filter((n) => PROPS.some((p) => p.name === n));
  const names = new Set([...loose, ...PROPS.filter((_, k) => k % 9 === 0).map((p) => p.name)]);
  for (const name of names) {
    const plain = await bare(name);
    for (const glb of [plain, await growModel(plain, 2.5), await shiftModel(plain, [12, -7, 30])]) {
      const [mesh, seen] = [await readMesh(glb), await drawn(glb)];
      expect(mesh.places.length).toBeGreaterThan(20);
      expect({ name, places: near(mesh.places, seen.places, 1e-3) }).toEqual({ name, places: true });
      expect({ name, normals: near(mesh.normals, seen.normals, 1e-3) }).toEqual({ name, normals: true });
    }
  }
});
