import type { DecalWish, Vec3 } from '@yesca/core';
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

/** What is large and stands where light changes: shadows fall across it. */
const LIT_ON_ITSELF: Readonly<Record<string, 'vertices' | 'chart'>> = {
  boat: 'vertices',
  'net-frame': 'vertices',
  'sack-pile': 'vertices',
  'plank-stack': 'chart',
  shelf: 'chart',
  table: 'chart',
};

const MARKS = 'stencil-marks';
const STAINS = 'stains';
const WEAR = 'wear-and-tear';
const SOUTHWARD: Vec3 = [0, -1, 0];
const NORTHWARD: Vec3 = [0, 1, 0];
const WESTWARD: Vec3 = [-1, 0, 0];
const EASTWARD: Vec3 = [1, 0, 0];
const UPWARD: Vec3 = [0, 0, 1];

type DecalSize = Partial<Pick<DecalWish, 'turn' | 'scale' | 'width' | 'height' | 'depth'>>;

/** What is painted, spilt and worn: of each which sheet and region, where on which way a surface looks, and how. */
const LYING: readonly (readonly [material: string, region: string, at: Vec3, normal: Vec3, size?: DecalSize])[] = [
  // The quay: the tide's mark along the mill, its name, what was spilt and what grows.
  [STAINS, 'tide mark', [1010, -32, 58], SOUTHWARD, { width: 720, height: 116 }],
  [STAINS, 'tide mark', [100, -32, 58], SOUTHWARD, { width: 620, height: 116 }],
  [MARKS, 'number 1', [770, -32, 160], SOUTHWARD, { scale: 1.2 }],
  [MARKS, 'arrow', [880, -32, 150], SOUTHWARD, { turn: 180 }],
  [STAINS, 'rust run', [1180, -32, 200], SOUTHWARD],
  [STAINS, 'moss patch', [1280, -32, 40], SOUTHWARD],
  [MARKS, 'number 3', [196, -124, 36], SOUTHWARD, { scale: 0.7, depth: 48 }],
  [STAINS, 'oil spill', [1120, -290, 0], UPWARD, { turn: 30 }],
  [STAINS, 'puddle', [420, -330, 0], UPWARD, { scale: 1.8 }],
  [WEAR, 'boot marks', [600, -300, 0], UPWARD, { turn: 200 }],
  [WEAR, 'rope shadow', [930, -480, 0], UPWARD, { scale: 1.4, turn: 70 }],
  // The wheel hall.
  [MARKS, 'wheel', [0, 120, 170], EASTWARD, { scale: 1.3 }],
  [STAINS, 'soot', [1024, 240, 190], WESTWARD, { scale: 1.4 }],
  [STAINS, 'dark run', [1024, 470, 190], WESTWARD, { scale: 1.2 }],
  [WEAR, 'forked crack', [0, 650, 190], EASTWARD, { scale: 1.4 }],
  [WEAR, 'scratches', [960, 330, 0], UPWARD, { scale: 1.2 }],
  // The stair.
  [WEAR, 'chipped plaster', [1504, 420, 130], WESTWARD, { scale: 1.3 }],
  [MARKS, 'number 1', [1056, 300, 160], EASTWARD],
  [WEAR, 'crack', [1504, 640, 210], WESTWARD, { turn: -12 }],
  // The grain loft.
  [MARKS, 'grain letters', [1024, 330, 720], WESTWARD, { scale: 1.4 }],
  [MARKS, 'loft sign', [300, 0, 740], NORTHWARD],
  [WEAR, 'planks', [620, 420, 576], UPWARD, { turn: 8 }],
  [WEAR, 'boot marks', [560, 300, 576], UPWARD, { turn: 40 }],
  // The sluice gallery.
  [MARKS, 'sluice letters', [-544, 420, 190], EASTWARD],
  [MARKS, 'warning stripes', [-544, 420, 140], EASTWARD, { width: 200, height: 24 }],
  [STAINS, 'dark run', [-544, 250, 150], EASTWARD],
  [STAINS, 'lichen', [-544, 600, 70], EASTWARD],
  [STAINS, 'moss edge', [-32, 300, 28], WESTWARD, { scale: 1.2 }],
  // The reed bank.
  [STAINS, 'moss patch', [330, 832, 20], NORTHWARD, { scale: 1.2 }],
  [STAINS, 'lichen', [660, 832, 70], NORTHWARD],
];

/** Furnishes the mill from Stock. */
export function furnishing(d: Draft): void {
  for (const [model, at, turn = 0, scale = 1] of STANDING)
    d.prop(model, at, turn, scale, LIT_ON_ITSELF[model] ? { takes: LIT_ON_ITSELF[model] } : {});
  for (const [material, region, at, normal, size] of LYING) d.decal({ material, region, at, normal, ...size });
}
