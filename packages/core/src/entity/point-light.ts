import type { EntityKind } from './types.ts';

export const pointLight: EntityKind = {
  kind: 'pointLight',
  label: 'Point light',
  tip: 'Shines evenly all round from one point and fades with the square of the distance.',
  standsAt: 200,
  mustBeInside: true,
  params: {
    color: { label: 'Colour', tip: 'Colour of the light', type: 'color', initial: '#ffe9c9' },
    candela: {
      label: 'Strength',
      tip: 'Luminous intensity in candela: a candle is 1, a bright lamp 300',
      type: 'number',
      unit: 'cd',
      min: 0,
      max: 1_000_000,
      initial: 300,
    },
  },
};

/** The distance (cm) at which a point light gives 5 lux, the light of a dim corridor: drawn as its reach. */
export const lightReach = (candela: number): number => Math.sqrt(Math.max(0, candela) / 5) * 100;
