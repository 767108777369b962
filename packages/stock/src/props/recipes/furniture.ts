import { bar, box, lathe, times, turned, type Piece, type PropRecipe } from '../making.ts';

const legs = (x: number, y: number, h: number, thick: number, material: string): Piece[] =>
  [-1, 1].flatMap((a) =>
    [-1, 1].flatMap((b) =>
      box([a * x - thick / 2, b * y - thick / 2, 0], [a * x + thick / 2, b * y + thick / 2, h], material),
    ),
  );

export const FURNITURE: readonly PropRecipe[] = [
  {
    name: 'bench',
    label: 'Bench',
    tags: ['wood', 'furniture'],
    substance: 'wood',
    collision: 'hulls',
    pieces: [
      ...times(3, (k) => box([-72, -21 + k * 14.5, 42], [72, -8 + k * 14.5, 47], 'oak-plank')),
      ...[-54, 54].flatMap((x) => box([x - 5, -18, 0], [x + 5, 18, 42], 'oak-plank')),
      ...box([-49, -3, 16], [49, 3, 24], 'oak-plank'),
    ],
  },
  {
    name: 'stool',
    label: 'Stool',
    tags: ['wood', 'furniture', 'round'],
    substance: 'wood',
    collision: 'hulls',
    pieces: [
      ...lathe(
        [
          [19, 42],
          [20, 44],
          [19, 47],
        ],
        12,
        'pine-board',
      ),
      ...times(3, (k) => turned(bar([15, 0, 42], [21, 0, 0], 2.4, 'oak-plank', 6), [0, 0, 1], k * 120)),
    ],
  },
  {
    name: 'table',
    label: 'Table',
    tags: ['wood', 'furniture'],
    substance: 'wood',
    collision: 'hulls',
    pieces: [
      ...times(4, (k) => box([-80, -40 + k * 20.2, 76], [80, -20.6 + k * 20.2, 82], 'oak-plank')),
      ...legs(70, 32, 76, 10, 'oak-plank'),
      ...box([-65, -34, 64], [65, -30, 76], 'oak-plank'),
      ...box([-65, 30, 64], [65, 34, 76], 'oak-plank'),
    ],
  },
  {
    name: 'trestle',
    label: 'Trestle',
    tags: ['wood', 'furniture'],
    substance: 'wood',
    collision: 'hull',
    pieces: [
      ...box([-48, -5, 70], [48, 5, 80], 'pine-board'),
      ...[-40, 40].flatMap((x) =>
        [-1, 1].flatMap((side) => bar([x, side * 2, 72], [x, side * 26, 0], 3.2, 'pine-board', 6)),
      ),
      ...[-1, 1].flatMap((side) => bar([-40, side * 14, 36], [40, side * 14, 36], 2.4, 'pine-board', 6)),
    ],
  },
  {
    name: 'shelf',
    label: 'Shelves',
    tags: ['wood', 'furniture', 'storage'],
    substance: 'wood',
    collision: 'hulls',
    pieces: [
      ...[-62, 58].flatMap((x) => box([x, -20, 0], [x + 4, 20, 190], 'oak-plank')),
      ...times(5, (k) => box([-58, -20, 8 + k * 44], [58, 20, 12 + k * 44], 'oak-plank')),
    ],
  },
  {
    name: 'ladder-prop',
    label: 'Ladder',
    tags: ['wood', 'climbing'],
    substance: 'wood',
    collision: 'box',
    pieces: [
      ...[-24, 24].flatMap((x) => box([x - 3, -3, 0], [x + 3, 3, 260], 'pine-board')),
      ...times(8, (k) => bar([-21, 0, 24 + k * 30], [21, 0, 24 + k * 30], 2, 'oak-plank', 6)),
    ],
  },
  {
    name: 'plank-stack',
    label: 'Stack of planks',
    tags: ['wood', 'storage'],
    substance: 'wood',
    collision: 'box',
    pieces: times(4, (row) => [
      ...[-70, 0, 70].flatMap((x) => box([x - 4, -34, row * 12], [x + 4, 34, row * 12 + 5], 'oak-plank')),
      ...times(3, (k) => box([-96, -33 + k * 23, row * 12 + 5], [96, -13 + k * 23, row * 12 + 12], 'pine-board')),
    ]),
  },
  {
    name: 'signpost',
    label: 'Signpost',
    tags: ['wood', 'sign'],
    substance: 'wood',
    collision: 'hulls',
    pieces: [
      ...box([-5, -5, 0], [5, 5, 210], 'oak-plank'),
      ...box([-6, -7.5, 168], [74, -5, 196], 'pine-board'),
      ...box([-64, 5, 132], [6, 7.5, 158], 'pine-board'),
    ],
  },
];
