import type { Box } from '../math/index.ts';

/** A prop as it is drawn: its corners, one after another as its file has them. Its own space: cm, z up, the pivot at the origin. */
export interface PropMesh {
  /** 3 a corner */
  readonly places: Float32Array;
  /** Which way it faces there, one long. 3 a corner */
  readonly normals: Float32Array;
  /** Corners of triangles, counter-clockwise from the front. */
  readonly index: Uint32Array;
}

/** The corners of the props of some names; undefined of those that are not known. */
export type MeshLookup = (name: string) => PropMesh | undefined;

const boxes = new WeakMap<PropMesh, Box>();

/** What a mesh fills in its own space; found once. */
export function meshBounds(mesh: PropMesh): Box {
  let box = boxes.get(mesh);
  if (!box) {
    const [min, max] = [
      [Infinity, Infinity, Infinity],
      [-Infinity, -Infinity, -Infinity],
    ];
    mesh.places.forEach((c, k) => {
      min[k % 3] = Math.min(min[k % 3]!, c);
      max[k % 3] = Math.max(max[k % 3]!, c);
    });
    boxes.set(mesh, (box = { min, max } as unknown as Box));
  }
  return box;
}
