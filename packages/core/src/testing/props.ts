import { boxSolid, type Solid } from '../brush/index.ts';
import { cross, normalize, sub, type Vec3 } from '../math/index.ts';
import type { PropFacts, PropMesh } from '../prop/index.ts';

/** What is known of a prop that is a box. */
export const boxProp = (name: string, min: Vec3, max: Vec3, more: Partial<PropFacts> = {}): PropFacts => ({
  name,
  label: name[0]!.toUpperCase() + name.slice(1),
  bounds: { min, max },
  triangles: 12,
  collision: 'box',
  hulls: [boxSolid({ min, max })],
  substance: 'wood',
  lights: [],
  ...more,
});

/** Solids of four-sided faces as they would be drawn: each face has corners of its own, which look out. */
export function meshOfSolids(solids: readonly Solid[]): PropMesh {
  const [places, normals, index]: [number[], number[], number[]] = [[], [], []];
  for (const { vertices, loops } of solids)
    for (const loop of loops) {
      const [a, b, c, d] = loop.map((i) => vertices[i]!) as [Vec3, Vec3, Vec3, Vec3];
      const first = places.length / 3;
      places.push(...a, ...b, ...c, ...d);
      for (let k = 0; k < 4; k++) normals.push(...normalize(cross(sub(b, a), sub(d, a))));
      index.push(first, first + 1, first + 2, first, first + 2, first + 3);
    }
  return { places: Float32Array.from(places), normals: Float32Array.from(normals), index: Uint32Array.from(index) };
}

/** A crate of 64, standing on its pivot. */
export const CRATE = boxProp('crate', [-32, -32, 0], [32, 32, 64]);
export const crateAlone = (name: string): PropFacts | undefined => (name === 'crate' ? CRATE : undefined);
