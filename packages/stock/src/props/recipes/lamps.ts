import { bar, box, lathe, moved, type Piece, type PropRecipe } from '../making.ts';

/** A cage of four bars round a glass, from its bottom. */
const cage = (half: number, height: number): Piece[] => [
  ...box([-half - 2, -half - 2, 0], [half + 2, half + 2, 4], 'black-iron'),
  ...box([-half + 2, -half + 2, 4], [half - 2, half - 2, height - 4], 'lamp-glass'),
  ...[-1, 1].flatMap((x) =>
    [-1, 1].flatMap((y) =>
      box([x * half - 1, y * half - 1, 4], [x * half + 1, y * half + 1, height - 4], 'black-iron'),
    ),
  ),
  ...moved(
    lathe(
      [
        [half + 4, 0],
        [half * 0.5, 6],
        [2, 9],
      ],
      4,
      'black-iron',
    ).map(({ smooth: _, ...piece }) => piece),
    [0, 0, height - 4],
  ),
];

const OIL = { candela: 60, kelvin: 2300 };

export const LAMPS: readonly PropRecipe[] = [
  {
    name: 'lantern',
    label: 'Lantern',
    tags: ['lamp', 'metal'],
    substance: 'metal',
    collision: 'hull',
    pieces: cage(9, 34),
    lights: [{ at: [0, 0, 44], ...OIL }],
  },
  {
    name: 'hanging-lamp',
    label: 'Hanging lamp',
    tags: ['lamp', 'metal', 'hanging'],
    substance: 'metal',
    collision: 'none',
    pieces: [
      ...bar([0, 0, -40], [0, 0, 0], 1.2, 'black-iron', 6),
      ...lathe(
        [
          [26, -54],
          [8, -42],
          [3, -38],
        ],
        14,
        'verdigris',
      ),
      ...lathe(
        [
          [4, -64],
          [8, -59],
          [6, -54],
        ],
        10,
        'lamp-glass',
      ),
    ],
    lights: [{ at: [0, 0, -70], candela: 140, kelvin: 2600 }],
  },
  {
    name: 'wall-lamp',
    label: 'Wall lamp',
    tags: ['lamp', 'metal', 'wall'],
    substance: 'metal',
    collision: 'none',
    pieces: [
      ...box([-2, -8, -14], [0, 8, 14], 'black-iron'),
      ...bar([0, 0, 8], [22, 0, 14], 1.4, 'black-iron', 6),
      ...moved(cage(7, 26), [24, 0, -16]),
    ],
    lights: [{ at: [40, 0, -2], ...OIL }],
  },
  {
    name: 'lamp-post',
    label: 'Lamp post',
    tags: ['lamp', 'metal', 'street'],
    substance: 'metal',
    collision: 'hull',
    pieces: [
      ...lathe(
        [
          [16, 0],
          [14, 20],
          [7, 30],
          [5, 250],
        ],
        10,
        'black-iron',
      ),
      ...moved(cage(12, 44), [0, 0, 250]),
    ],
    lights: [{ at: [0, 0, 306], candela: 260, kelvin: 2600 }],
  },
];
