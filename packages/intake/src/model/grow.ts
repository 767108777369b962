import type { Vec3 } from '@yesca/core';
import { modelFile } from './tidy.ts';

/** A model as a prop is kept, so many times as large about its origin: its corners stay, the nodes over them grow. */
export async function growModel(glb: Uint8Array, by: number): Promise<Uint8Array> {
  const io = modelFile();
  const doc = await io.readBinary(glb);
  for (const scene of doc.getRoot().listScenes())
    for (const node of scene.listChildren()) {
      const [place, size] = [node.getTranslation(), node.getScale()];
      node.setTranslation([place[0] * by, place[1] * by, place[2] * by]);
      node.setScale([size[0] * by, size[1] * by, size[2] * by]);
    }
  return io.writeBinary(doc);
}

/** A model as a prop is kept, its origin at another place: cm, z up, as props are told. */
export async function shiftModel(glb: Uint8Array, [x, y, z]: Vec3): Promise<Uint8Array> {
  const io = modelFile();
  const doc = await io.readBinary(glb);
  for (const scene of doc.getRoot().listScenes())
    for (const node of scene.listChildren()) {
      const [a, b, c] = node.getTranslation();
      node.setTranslation([a - x / 100, b - z / 100, c + y / 100]);
    }
  return io.writeBinary(doc);
}
