import { defineKind } from '../kind.ts';
import { coloured, dimReach, size, strength, tinted, tintOf } from '../lamps.ts';
import { rays, star } from '../strokes.ts';
import { lampActions, lampBehaviour, lampSignals, switching } from '../switching.ts';

export const pointLight = defineKind({
  kind: 'pointLight',
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
    ...switching,
  },
  signals: lampSignals,
  actions: lampActions,
  behaviour: lampBehaviour,
  symbol: () => [{ circle: 4.5, fill: 'paper' }, ...rays(8, 6.5, 9.5)],
  mark: () => star(12),
  reach: ({ values }) => [{ sphere: dimReach(values.candela) }],
  light: ({ at, values }) => ({
    type: 'point',
    at,
    intensity: tinted(tintOf(values), values.candela),
    ...(values.size > 0 && { radius: values.size / 2 }),
  }),
});
