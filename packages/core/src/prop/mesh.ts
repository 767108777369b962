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
