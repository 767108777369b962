import { cosSin, type Vec3 } from '../math/index.ts';
import type { Entity, EntityKind } from './types.ts';

export const sun: EntityKind = {
  kind: 'sun',
  label: 'Sun',
  tip: 'Parallel light that comes in through faces that show the sky. Its place in the map does not matter.',
  standsAt: 150,
  mustBeInside: false,
  params: {
    color: { label: 'Colour', tip: 'Colour of the sunlight', type: 'color', initial: '#fff1d6' },
    lux: {
      label: 'Strength',
      tip: 'Illuminance in lux on a surface that faces the sun',
      type: 'number',
      unit: 'lx',
      min: 0,
      max: 1_000_000,
      initial: 400,
    },
    height: {
      label: 'Height',
      tip: 'Degrees of the sun above the horizon',
      type: 'number',
      unit: '°',
      min: 1,
      max: 90,
      initial: 50,
    },
  },
};

/** Unit vector towards the sun: `turn` is the compass direction it stands in (0 east, counter-clockwise). */
export function sunDirection(entity: Entity): Vec3 {
  const [c, s] = cosSin(entity.turn);
  const [ch, sh] = cosSin(Number(entity.params.height ?? 50));
  return [c * ch, s * ch, sh];
}
