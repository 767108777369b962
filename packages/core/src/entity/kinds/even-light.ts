import { params } from '../../params/index.ts';
import { regionFlaw, regionMark, regionSymbol } from '../areas.ts';
import { defineKind } from '../kind.ts';
import { coloured, tinted, tintOf } from '../lamps.ts';

export const evenLight = defineKind({
  kind: 'evenLight',
  label: 'Region of even light',
  help: 'Made of brushes: its even light is another than that of the map: brighter, darker or of another colour.',
  family: 'Light',
  strength: 'lux',
  standsAt: 0,
  body: 'zone',
  firstBody: { min: [-128, -128, 0], max: [128, 128, 256] },
  params: {
    ...coloured('#c9d4e6', 'Colour of the even light within'),
    lux: params.quantity('lx', 12, {
      label: 'Strength',
      help: 'Even light within, in lux, in place of that of the map: 0 leaves only what lamps and the sky give',
      min: 0,
      max: 100_000,
    }),
    edge: params.length(64, {
      label: 'Soft edge',
      help: 'How far beyond its brushes it goes over into the light outside',
      min: 0,
      max: 10_000,
    }),
  },
  symbol: () => regionSymbol({ circle: 4 }, { circle: 1.5, fill: 'ink' }),
  mark: () => regionMark(),
  flaws: regionFlaw,
  light: ({ values }) => ({
    type: 'even',
    illuminance: tinted(tintOf(values), values.lux),
    edge: values.edge,
  }),
});
