import type { Vec3 } from '@yesca/core';
import type { Draft } from '../drafting.ts';

/** What lies and stands about: each by its name in Stock, where, how it is turned, how large. */
const STANDING: readonly (readonly [prop: string, at: Vec3, turn?: number, scale?: number])[] = [
  // The quay.
  ['barrel', [1552, -210, 0], 20],
  ['keg', [1540, -330, 0], 90],
  ['rope-coil', [936, -560, 0]],
  ['rope-coil', [230, -568, 0], 40, 0.8],
  ['boat', [80, -470, 0], 12],
  ['oar', [96, -402, 0], 4],
  ['bench', [900, -58, 0]],
  ['basket', [1000, -70, 0], 30],
  ['net-frame', [-210, -180, 0], 90],
  ['signpost', [1330, -560, 0], 200],
  ['cart-wheel', [768, -44, 0], 4],
  ['crate', [190, -90, 0], 14],
  ['crate-long', [300, -80, 0], 3],
  // The wheel hall.
  ['anvil', [950, 240, 0], 200],
  ['sack-pile', [940, 730, 0], 90],
  ['stool', [880, 330, 0]],
  ['plank-stack', [780, 60, 0], 2],
  // The stair.
  ['crate-tarred', [1112, 740, 0], 8],
  ['sack', [1106, 650, 0]],
  // The grain loft.
  ['shelf', [520, 776, 576], 180],
  ['bale', [900, 70, 576], 4],
  ['bale', [902, 74, 616], 352],
  ['bale', [800, 66, 576], 90],
  ['sack', [410, 760, 576], 15],
  ['sack', [346, 748, 576], 70, 0.9],
  ['gear-small', [700, 772, 576], 4],
  ['millstone', [700, 120, 576]],
  ['table', [500, 90, 576], 2],
  ['stool', [500, 170, 576], 40],
  // The sluice gallery.
  ['keg', [-480, 640, 0], 80],
  ['barrel', [-480, 730, 0], 5],
  ['pipe-straight', [-420, 20, 0]],
  // The reed bank.
  ['boat', [170, 1410, -32], 10],
  ['stones', [170, 900, -32], 30],
  ['stones', [500, 1490, -32], 200],
  ['reeds', [660, 1110, -32], 10],
  ['reeds', [-20, 1300, -32], 50, 0.9],
  ['buoy', [620, 1440, -32], 0, 0.8],
];

/** Furnishes the mill from Stock. */
export function furnishing(d: Draft): void {
  for (const [model, at, turn = 0, scale = 1] of STANDING) d.prop(model, at, turn, scale);
}
