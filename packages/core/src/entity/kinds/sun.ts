import { cosSin, type Vec3 } from '../../math/index.ts';
import { params } from '../../params/index.ts';
import { facingHandle } from '../handles.ts';
import { compass, defineKind } from '../kind.ts';
import { coloured, tinted, tintOf } from '../lamps.ts';
import { arrow, seenFrom, star } from '../strokes.ts';
import { lampActions, lampBehaviour, lampSignals, switching } from '../switching.ts';

/** Unit vector towards the sun: `turn` is the compass direction it stands in (0 east, counter-clockwise). */
function sunDirection(turn: number, height: number): Vec3 {
  const [c, s] = cosSin(turn);
  const [ch, sh] = cosSin(height);
  return [c * ch, s * ch, sh];
}

export const sun = defineKind({
  kind: 'sun',
  label: 'Sun',
  help: 'Parallel light that comes in through faces that show the sky. Its place in the map does not matter.',
  family: 'Light',
  strength: 'lux',
  inSky: 'height',
  standsAt: 150,
  facing: compass('Stands towards'),
  params: {
    ...coloured('#fff1d6', 'Colour of the sunlight'),
    lux: params.quantity('lx', 400, {
      label: 'Strength',
      help: 'Illuminance in lux on a surface that faces the sun',
      min: 0,
      max: 1_000_000,
    }),
    height: params.angle(50, { label: 'Height', help: 'Degrees of the sun above the horizon', min: 1, max: 90 }),
    spread: params.angle(0, {
      label: 'Width',
      help: 'How wide the sun is in the sky, in degrees: the real one 0.53; the wider, the softer are shadows',
      min: 0,
      max: 20,
    }),
    ...switching,
  },
  presets: [
    { label: 'Low sun', values: { lux: 200, height: 8, kelvin: 3000, spread: 0.53 } },
    { label: 'Afternoon', values: { lux: 260, height: 35, kelvin: 4800, spread: 0.53 } },
    { label: 'High sun', values: { lux: 400, height: 65, kelvin: 5500, spread: 0.53 } },
    { label: 'Through haze', values: { lux: 160, height: 40, kelvin: 5000, spread: 6 } },
    { label: 'Behind clouds', values: { lux: 40, height: 50, kelvin: 6500, spread: 20 } },
    { label: 'Moon', values: { lux: 4, height: 45, kelvin: 7500, spread: 0.53 } },
  ],
  signals: lampSignals,
  actions: lampActions,
  behaviour: lampBehaviour,
  symbol: ({ turn, values }, view) => {
    const [x, y] = seenFrom(view, sunDirection(turn, values.height));
    return [{ circle: 7, fill: 'paper' }, { circle: 2.5 }, ...arrow([-x, -y], 9, 30)];
  },
  mark: () => star(26),
  handles: ({ turn }) => [facingHandle(turn, 120)],
  light: ({ turn, values }) => ({
    type: 'parallel',
    towards: sunDirection(turn, values.height),
    illuminance: tinted(tintOf(values), values.lux),
    ...(values.spread > 0 && { spread: (values.spread * Math.PI) / 360 }),
  }),
});
