import { lightTint } from '../color.ts';
import { defineKind } from '../kind.ts';
import { dimReach, strength, tinted } from '../lamps.ts';
import { params } from '../../params/index.ts';
import { rays, star } from '../strokes.ts';
import { lampActions, lampBehaviour, lampSignals, switching } from '../switching.ts';

export const pointLight = defineKind({
  kind: 'pointLight',
  label: 'Point light',
  help: 'Shines evenly all round from one point and fades with the square of the distance.',
  family: 'Light',
  standsAt: 200,
  floods: true,
  params: {
    color: params.color('#ffe9c9', { label: 'Colour', help: 'Colour of the light' }),
    candela: strength(300),
    ...switching,
  },
  signals: lampSignals,
  actions: lampActions,
  behaviour: lampBehaviour,
  symbol: () => [{ circle: 4.5, fill: 'paper' }, ...rays(8, 6.5, 9.5)],
  mark: () => star(12),
  reach: ({ values }) => [{ sphere: dimReach(values.candela) }],
  light: ({ at, values }) => ({ type: 'point', at, intensity: tinted(lightTint(values.color), values.candela) }),
});
