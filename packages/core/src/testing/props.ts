import { boxSolid } from '../brush/index.ts';
import type { Vec3 } from '../math/index.ts';
import type { PropFacts } from '../prop/index.ts';

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

/** A crate of 64, standing on its pivot. */
export const CRATE = boxProp('crate', [-32, -32, 0], [32, 32, 64]);
export const crateAlone = (name: string): PropFacts | undefined => (name === 'crate' ? CRATE : undefined);
