import { params } from '../../params/index.ts';
import { regionFlaw, regionMark, regionSymbol } from '../areas.ts';
import { defineKind } from '../kind.ts';

export const scenery = defineKind({
  kind: 'scenery',
  label: 'Distant scenery',
  help: 'Made of brushes: what lies in the box round them is no part of the map, but is seen far away, through faces that show the sky.',
  family: 'Regions',
  standsAt: 0,
  body: 'zone',
  firstBody: { min: [-512, -512, 0], max: [512, 512, 512] },
  params: {
    scale: params.quantity('×', 16, {
      label: 'Larger by',
      help: 'How many times as large it is seen as it is drawn: at 16 a house 40 cm high looks like one of 640 cm',
      min: 1,
      max: 1000,
    }),
    stands: params.reference('thing', {
      label: 'Seen as from',
      help: 'Who stands at this thing sees the scenery as from where its sign stands; without one the middle of the map counts',
    }),
  },
  // Hills before the horizon.
  symbol: () =>
    regionSymbol({
      line: [
        [-5.5, -3.5],
        [-2, 1.5],
        [0.5, -1.5],
        [2.5, 3],
        [5.5, -3.5],
      ],
    }),
  mark: () => regionMark(),
  flaws: regionFlaw,
  distant: ({ values }) => ({ scale: values.scale, stands: values.stands }),
});
