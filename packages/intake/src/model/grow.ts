import type { Node } from '@gltf-transform/core';
import type { Vec3 } from '@yesca/core';
import { modelFile } from './io.ts';
import { inMetres } from './spaces.ts';

/** A model as a prop is kept, each of the nodes over it placed anew: its corners stay. */
async function placed(glb: Uint8Array, place: (node: Node) => void): Promise<Uint8Array> {
  const io = modelFile();
  const doc = await io.readBinary(glb);
  for (const scene of doc.getRoot().listScenes()) scene.listChildren().forEach(place);
  return io.writeBinary(doc);
}

/** A model as a prop is kept, so many times as large about its origin. */
export const growModel = (glb: Uint8Array, by: number): Promise<Uint8Array> =>
  placed(glb, (node) => {
    const [place, size] = [node.getTranslation(), node.getScale()];
    node.setTranslation([place[0] * by, place[1] * by, place[2] * by]);
    node.setScale([size[0] * by, size[1] * by, size[2] * by]);
  });

/** A model as a prop is kept, its origin at another place: cm, z up, as props are told. */
export function shiftModel(glb: Uint8Array, to: Vec3): Promise<Uint8Array> {
  const [x, y, z] = inMetres(to);
  return placed(glb, (node) => {
    const [a, b, c] = node.getTranslation();
    node.setTranslation([a - x, b - y, c - z]);
  });
}
