import { bar, box, lathe, moved, times, turned, type PropRecipe } from '../making.ts';

const crate = (w: number, d: number, h: number, board: string, frame: string) => [
  ...box([-w / 2 + 2, -d / 2 + 2, 2], [w / 2 - 2, d / 2 - 2, h - 2], board),
  // Battens along all twelve edges.
  ...[-1, 1].flatMap((x) =>
    [-1, 1].flatMap((y) => [
      ...box(
        [x < 0 ? -w / 2 : w / 2 - 6, y < 0 ? -d / 2 : d / 2 - 6, 0],
        [x < 0 ? -w / 2 + 6 : w / 2, y < 0 ? -d / 2 + 6 : d / 2, h],
        frame,
      ),
    ]),
  ),
  ...[0, h - 6].flatMap((z) =>
    [-1, 1].flatMap((side) => [
      ...box([-w / 2 + 6, side < 0 ? -d / 2 : d / 2 - 6, z], [w / 2 - 6, side < 0 ? -d / 2 + 6 : d / 2, z + 6], frame),
      ...box([side < 0 ? -w / 2 : w / 2 - 6, -d / 2 + 6, z], [side < 0 ? -w / 2 + 6 : w / 2, d / 2 - 6, z + 6], frame),
    ]),
  ),
];

/** Staves that bulge, two hoops. */
const barrel = (radius: number, height: number) => [
  ...lathe(
    [
      [radius * 0.82, 0],
      [radius * 0.96, height * 0.25],
      [radius, height * 0.5],
      [radius * 0.96, height * 0.75],
      [radius * 0.82, height],
    ],
    14,
    'oak-plank',
  ),
  ...[0.22, 0.72].flatMap((part) =>
    moved(
      lathe(
        [
          [radius * 0.985, 0],
          [radius * 0.985, height * 0.06],
        ],
        14,
        'black-iron',
      ),
      [0, 0, height * part],
    ),
  ),
];

const sack = (radius: number, height: number) =>
  lathe(
    [
      [radius * 0.8, 0],
      [radius, height * 0.2],
      [radius * 0.95, height * 0.6],
      [radius * 0.45, height * 0.85],
      [radius * 0.2, height * 0.9],
      [radius * 0.4, height],
    ],
    10,
    'sackcloth',
  );

export const CONTAINERS: readonly PropRecipe[] = [
  {
    name: 'crate',
    label: 'Crate',
    tags: ['wood', 'storage'],
    substance: 'wood',
    collision: 'box',
    pieces: crate(64, 64, 64, 'pine-board', 'oak-plank'),
  },
  {
    name: 'crate-long',
    label: 'Long crate',
    tags: ['wood', 'storage'],
    substance: 'wood',
    collision: 'box',
    pieces: crate(128, 56, 48, 'pine-board', 'oak-plank'),
  },
  {
    name: 'crate-tarred',
    label: 'Tarred crate',
    tags: ['wood', 'storage'],
    substance: 'wood',
    collision: 'box',
    pieces: crate(80, 80, 88, 'tarred-board', 'rust-plate'),
  },
  {
    name: 'barrel',
    label: 'Barrel',
    tags: ['wood', 'storage', 'round'],
    substance: 'wood',
    collision: 'hull',
    pieces: barrel(32, 88),
  },
  {
    name: 'keg',
    label: 'Keg on its cradle',
    tags: ['wood', 'storage', 'round'],
    substance: 'wood',
    collision: 'hulls',
    pieces: [
      ...moved(turned(barrel(22, 60), [0, 1, 0], 90), [-30, 0, 32]),
      ...box([-20, -24, 0], [-14, 24, 14], 'oak-plank'),
      ...box([14, -24, 0], [20, 24, 14], 'oak-plank'),
    ],
  },
  {
    name: 'sack',
    label: 'Sack',
    tags: ['cloth', 'storage'],
    substance: 'cloth',
    collision: 'hull',
    pieces: sack(26, 72),
  },
  {
    name: 'sack-pile',
    label: 'Pile of sacks',
    tags: ['cloth', 'storage'],
    substance: 'cloth',
    collision: 'hulls',
    pieces: [
      ...times(3, (k) => moved(turned(sack(22, 64), [1, 0, 0], -90), [(k - 1) * 42, -32, 20.9])),
      ...times(2, (k) => moved(turned(sack(21, 62), [1, 0, 0], -90), [k * 42 - 21, -30, 54])),
    ],
  },
  {
    name: 'basket',
    label: 'Basket',
    tags: ['storage', 'round'],
    substance: 'wood',
    collision: 'hull',
    pieces: [
      ...lathe(
        [
          [20, 0],
          [28, 34],
          [30, 38],
        ],
        12,
        'rope-mat',
      ),
      ...times(6, (k) => {
        const at = (n: number): [number, number, number] => {
          const a = (Math.PI * n) / 6;
          return [Math.cos(a) * 27, 0, 36 + Math.sin(a) * 24];
        };
        return bar(at(k), at(k + 1), 1.6, 'rope-mat', 6);
      }),
    ],
  },
  {
    name: 'bale',
    label: 'Bale of reed',
    tags: ['storage'],
    substance: 'plant',
    collision: 'box',
    pieces: [
      ...box([-44, -26, 0], [44, 26, 40], 'thatch'),
      ...[-22, 18].flatMap((x) => box([x, -26.5, -0.0], [x + 3, 26.5, 40.5], 'rope-mat')),
    ],
  },
];
