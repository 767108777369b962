import { bar, box, ends, lathe, shape, times, type Piece, type PropRecipe } from '../making.ts';

/** Modules stand on a grid of 128, their pivot in the middle of their foot. */
const W = 128;
const H = 256;

const frame = (w: number, h: number, deep: number, material: string): Piece[] => [
  ...[-1, 1].flatMap((x) =>
    box([x < 0 ? -w / 2 - 8 : w / 2, -deep / 2, 0], [x < 0 ? -w / 2 : w / 2 + 8, deep / 2, h], material),
  ),
  ...box([-w / 2 - 8, -deep / 2, h], [w / 2 + 8, deep / 2, h + 8], material),
];

export const BUILDING: readonly PropRecipe[] = [
  {
    name: 'wall-module',
    label: 'Wall module',
    tags: ['module', 'wall'],
    substance: 'stone',
    collision: 'box',
    sockets: ends('wall', W),
    pieces: [
      ...box([-W / 2, -8, 0], [W / 2, 8, H - 16], 'red-brick'),
      ...box([-W / 2, -8, H - 16], [W / 2, 8, H], 'ashlar'),
    ],
  },
  {
    name: 'wall-window-module',
    label: 'Wall module with a window',
    tags: ['module', 'wall', 'window'],
    substance: 'stone',
    collision: 'hulls',
    sockets: ends('wall', W),
    pieces: [
      ...box([-W / 2, -8, 0], [W / 2, 8, 88], 'red-brick'),
      ...box([-W / 2, -8, 88], [-36, 8, 208], 'red-brick'),
      ...box([36, -8, 88], [W / 2, 8, 208], 'red-brick'),
      ...box([-W / 2, -8, 208], [W / 2, 8, H - 16], 'red-brick'),
      ...box([-W / 2, -8, H - 16], [W / 2, 8, H], 'ashlar'),
      ...box([-36, -1, 88], [36, 1, 208], 'leaded-light'),
      ...box([-42, -12, 82], [42, 12, 88], 'ashlar'),
    ],
  },
  {
    name: 'roof-module',
    label: 'Roof module',
    tags: ['module', 'roof'],
    substance: 'stone',
    collision: 'hulls',
    sockets: ends('roof', W),
    pieces: [
      ...shape('wedge', [-W / 2, -W / 2, 0], [W / 2, W / 2, 80], 'roof-tile', { rises: 'north' }),
      ...box([-W / 2, -W / 2 - 6, -4], [W / 2, -W / 2, 4], 'oak-plank'),
    ],
  },
  {
    name: 'trim-module',
    label: 'Cornice module',
    tags: ['module', 'trim'],
    substance: 'stone',
    collision: 'none',
    sockets: ends('trim', W),
    pieces: [
      ...box([-W / 2, -6, 0], [W / 2, 6, 8], 'ashlar'),
      ...box([-W / 2, -10, 8], [W / 2, 10, 14], 'ashlar'),
      ...box([-W / 2, -14, 14], [W / 2, 14, 20], 'ashlar'),
    ],
  },
  {
    name: 'column',
    label: 'Column',
    tags: ['module', 'stone', 'round'],
    substance: 'stone',
    collision: 'hulls',
    pieces: [
      ...box([-22, -22, 0], [22, 22, 12], 'ashlar'),
      ...lathe(
        [
          [19, 12],
          [16, 20],
          [14, H - 24],
          [18, H - 14],
        ],
        14,
        'ashlar',
      ),
      ...box([-22, -22, H - 14], [22, 22, H], 'ashlar'),
    ],
  },
  {
    name: 'stair-module',
    label: 'Stair module',
    tags: ['module', 'stair'],
    substance: 'stone',
    collision: 'hulls',
    sockets: [
      { name: 'stair', at: [0, -64, 0], way: [0, -1, 0] },
      { name: 'stair', at: [0, 64, 64], way: [0, 1, 0] },
    ],
    pieces: shape('stair', [-W / 2, -64, 0], [W / 2, 64, 64], 'flagstone', { rises: 'north', steps: 4 }),
  },
  {
    name: 'railing',
    label: 'Railing',
    tags: ['module', 'metal'],
    substance: 'metal',
    collision: 'box',
    sockets: ends('rail', W),
    pieces: [
      ...bar([-W / 2, 0, 96], [W / 2, 0, 96], 3, 'black-iron', 8),
      ...bar([-W / 2, 0, 12], [W / 2, 0, 12], 2, 'black-iron', 6),
      ...times(8, (k) => bar([-W / 2 + 8 + k * 16, 0, 0], [-W / 2 + 8 + k * 16, 0, 96], 1.4, 'black-iron', 6)),
    ],
  },
  {
    name: 'door-frame',
    label: 'Door frame',
    tags: ['wood', 'door'],
    substance: 'wood',
    collision: 'hulls',
    pieces: frame(104, 208, 24, 'oak-plank'),
  },
  {
    name: 'door-leaf',
    label: 'Door leaf',
    tags: ['wood', 'door'],
    substance: 'wood',
    collision: 'box',
    pieces: [
      ...times(4, (k) => box([-52 + k * 26, -3, 0], [-26.6 + k * 26, 3, 208], 'sea-paint')),
      ...[30, 168].flatMap((z) => box([-52, -5, z], [51.4, -3, z + 12], 'black-iron')),
      ...bar([40, -9, 100], [40, -9, 116], 1.6, 'brass', 6),
    ],
  },
  {
    name: 'chimney',
    label: 'Chimney',
    tags: ['stone', 'roof'],
    substance: 'stone',
    collision: 'hulls',
    pieces: [
      ...box([-26, -26, 0], [26, 26, 110], 'red-brick'),
      ...box([-31, -31, 110], [31, 31, 122], 'ashlar'),
      ...lathe(
        [
          [12, 122],
          [10, 150],
          [12, 154],
        ],
        10,
        'roof-tile',
      ),
    ],
  },
];
