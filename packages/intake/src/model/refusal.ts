/** A model that cannot become a prop: a code, and a sentence that says what to do. */
export class ModelRefusal extends Error {
  override name = 'ModelRefusal';
  readonly code: string;

  constructor(code: string, message: string) {
    super(message);
    this.code = code;
  }
}

/** What a model may have at most. */
export const MODEL_LIMITS = {
  /** Bytes of all its files together. */
  bytes: 64 * 1024 * 1024,
  triangles: 100_000,
  nodes: 10_000,
  textures: 32,
  /** Texels along an edge of a picture, as it comes and as it is kept. */
  edge: 4096,
  kept: 1024,
  /** Of a mesh with more triangles than this no convex parts are looked for. */
  cut: 6000,
} as const;
