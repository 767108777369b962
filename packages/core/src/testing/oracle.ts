import Module from 'manifold-3d';
import type { Solid } from '../brush/index.ts';

type Kernel = Awaited<ReturnType<typeof Module>>;
let kernel: Promise<Kernel> | undefined;

/** An independent geometry kernel, for tests only. */
export const oracle = (): Promise<Kernel> => (kernel ??= Module().then((k) => (k.setup(), k)));

/** A solid in the oracle's terms. Throws when the oracle does not take it for a closed surface. */
export async function oracleSolid({ vertices, loops }: Solid) {
  const { Manifold, Mesh } = await oracle();
  const triangles = loops.flatMap((loop) => loop.slice(2).flatMap((_, i) => [loop[0]!, loop[i + 1]!, loop[i + 2]!]));
  const solid = new Manifold(
    new Mesh({ numProp: 3, vertProperties: Float32Array.from(vertices.flat()), triVerts: Uint32Array.from(triangles) }),
  );
  if (solid.status() !== 'NoError') throw new Error(`the oracle refuses the solid: ${solid.status()}`);
  return solid;
}

export const oracleVolume = async (solid: Solid): Promise<number> => (await oracleSolid(solid)).volume();
