import { defineKind } from '../kind.ts';
import { coloured, dimReach, ends, extent, size, strength, tinted, tintOf } from '../lamps.ts';
import { rays, star } from '../strokes.ts';
import { lampActions, lampBehaviour, lampSignals, switching } from '../switching.ts';

export const LAMP_KIND = 'pointLight';

export const pointLight = defineKind({
  kind: LAMP_KIND,
  label: 'Point light',
  help: 'Shines evenly all round from one point and fades with the square of the distance.',
  family: 'Light',
  strength: 'candela',
  standsAt: 200,
  floods: true,
  params: {
    ...coloured('#ffe9c9', 'Colour of the light'),
    candela: strength(300),
    size,
    ends,
    ...switching,
  },
  presets: [
    { label: 'Candle', values: { candela: 1, kelvin: 1900, size: 2 } },
    { label: 'Oil lamp', values: { candela: 10, kelvin: 2000, size: 5 } },
    { label: 'Lantern', values: { candela: 40, kelvin: 2200, size: 14 } },
    { label: 'Filament lamp', values: { candela: 70, kelvin: 2700, size: 6 } },
    { label: 'Globe lamp', values: { candela: 150, kelvin: 3000, size: 30 } },
    { label: 'Work lamp', values: { candela: 600, kelvin: 5000, size: 20 } },
    { label: 'Open fire', values: { candela: 120, kelvin: 1800, size: 60 } },
  ],
  signals: lampSignals,
  actions: lampActions,
  behaviour: lampBehaviour,
  symbol: () => [{ circle: 4.5, fill: 'paper' }, ...rays(8, 6.5, 9.5)],
  mark: () => star(12),
  reach: ({ values }) => [{ sphere: dimReach(values) }],
  light: ({ at, values }) => ({
    type: 'point',
    at,
    intensity: tinted(tintOf(values), values.candela),
    ...extent(values),
  }),
});
