import { readFile } from 'node:fs/promises';
import { normalize, type PropMesh, type Vec3 } from '@yesca/core';
import { modelFile } from './io.ts';
import { moved, turned, upright } from './spaces.ts';
import { cornersOf } from './triangles.ts';

/**
 * The vertices of a model as a prop is kept, in the order in which its file has them (what is drawn of it comes in the same), and the triangles
 * between them. Rejects what is no model.
 */
export async function readMesh(glb: Uint8Array): Promise<PropMesh> {
  const root = (await modelFile().readBinary(glb)).getRoot();
  const places: number[] = [];
  const normals: number[] = [];
  const index: number[] = [];
  (root.getDefaultScene() ?? root.listScenes()[0])?.traverse((node) => {
    const matrix = node.getWorldMatrix();
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const [position, normal] = [primitive.getAttribute('POSITION'), primitive.getAttribute('NORMAL')];
      const corners = cornersOf(primitive);
      if (!position || !corners) continue;
      const first = places.length / 3;
      for (const corner of corners) index.push(first + corner);
      for (let k = 0; k < position.getCount(); k++) {
        places.push(...upright(moved(matrix, position.getElement(k, []) as unknown as Vec3)));
        const way = (normal?.getElement(k, []) ?? [0, 1, 0]) as unknown as Vec3;
        normals.push(...normalize(upright(turned(matrix, way, 1))));
      }
    }
  });
  return { places: Float32Array.from(places), normals: Float32Array.from(normals), index: Uint32Array.from(index) };
}

/** The vertices of props of some names, from where their models lie. Those that cannot be read are left out. */
export async function readMeshes(
  names: readonly string[],
  fileOf: (name: string) => string | undefined,
): Promise<ReadonlyMap<string, PropMesh>> {
  const out = new Map<string, PropMesh>();
  for (const name of names) {
    const file = fileOf(name);
    const mesh =
      file &&
      (await readFile(file)
        .then(readMesh)
        .catch(() => null));
    if (mesh) out.set(name, mesh);
  }
  return out;
}
