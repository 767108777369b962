import { around, bar, box, ends, lathe, moved, shape, turned, type Piece, type PropRecipe } from '../making.ts';

/** A wheel that lies level, about the upright: hub, spokes, rim of straight felloes. */
function wheel(radius: number, thick: number, spokes: number, rim: string, spoke: string): Piece[] {
  const sides = spokes * 2;
  const half = Math.PI / sides;
  const chord = 2 * radius * Math.tan(half);
  return [
    ...lathe(
      [
        [radius * 0.16, 0],
        [radius * 0.16, thick * 1.6],
      ],
      10,
      rim,
    ),
    ...around(
      spokes,
      box([radius * 0.14, -thick * 0.3, thick * 0.5], [radius - thick, thick * 0.3, thick * 1.1], spoke),
    ),
    ...around(
      sides,
      shape('box', [radius - thick * 1.4, -chord / 2, thick * 0.3], [radius, chord / 2, thick * 1.3], rim),
      360 / sides / 2,
    ),
  ];
}

const upright = (pieces: readonly Piece[], lift: number): Piece[] => moved(turned(pieces, [1, 0, 0], 90), [0, 0, lift]);

const gear = (radius: number, teeth: number, material: string): Piece[] => [
  ...wheel(radius, 9, 6, material, material),
  ...around(teeth, box([radius - 1, -4, 3], [radius + 9, 4, 11], material)),
];

export const MACHINERY: readonly PropRecipe[] = [
  {
    name: 'cart-wheel',
    label: 'Cart wheel',
    tags: ['wood', 'wheel', 'round'],
    substance: 'wood',
    collision: 'hull',
    pieces: upright(wheel(52, 8, 8, 'oak-plank', 'pine-board'), 52),
  },
  {
    name: 'gear-small',
    label: 'Small gear',
    tags: ['metal', 'machine', 'round'],
    substance: 'metal',
    collision: 'hull',
    pieces: upright(gear(40, 14, 'black-iron'), 49),
  },
  {
    name: 'gear-large',
    label: 'Large gear',
    tags: ['wood', 'machine', 'round'],
    substance: 'wood',
    collision: 'hull',
    pieces: upright(gear(104, 28, 'oak-plank'), 113),
  },
  {
    name: 'millstone',
    label: 'Millstone',
    tags: ['stone', 'machine', 'round'],
    substance: 'stone',
    collision: 'hull',
    pieces: [
      ...lathe(
        [
          [62, 0],
          [64, 3],
          [64, 21],
          [62, 24],
        ],
        20,
        'ashlar',
      ),
      ...lathe(
        [
          [12, 24],
          [12, 27],
        ],
        10,
        'black-iron',
      ),
    ],
  },
  {
    name: 'pulley',
    label: 'Pulley block, hanging',
    tags: ['wood', 'machine', 'hanging'],
    substance: 'wood',
    collision: 'hull',
    pieces: [
      ...[-9, 5].flatMap((y) => box([-10, y, -52], [10, y + 4, -14], 'oak-plank')),
      ...moved(
        turned(
          lathe(
            [
              [15, 0],
              [12, 4],
              [15, 8],
            ],
            14,
            'brass',
          ),
          [1, 0, 0],
          90,
        ),
        [0, 4, -36],
      ),
      ...box([-3, -9, -14], [3, 9, -8], 'black-iron'),
      ...bar([0, 0, -8], [0, 0, 0], 2, 'black-iron', 6),
    ],
  },
  {
    name: 'pipe-straight',
    label: 'Pipe',
    tags: ['metal', 'pipe', 'module'],
    substance: 'metal',
    collision: 'hull',
    sockets: ends('pipe', 2 * 64, 12),
    pieces: [
      ...bar([-64, 0, 12], [64, 0, 12], 10, 'zinc', 12),
      ...[-64, 60].flatMap((x) => bar([x, 0, 12], [x + 4, 0, 12], 13, 'black-iron', 12)),
    ],
  },
  {
    name: 'pipe-bend',
    label: 'Pipe, bent',
    tags: ['metal', 'pipe', 'module'],
    substance: 'metal',
    collision: 'hulls',
    sockets: [
      { name: 'pipe', at: [-36, 0, 12], way: [-1, 0, 0] },
      { name: 'pipe', at: [0, 36, 12], way: [0, 1, 0] },
    ],
    pieces: [
      ...Array.from({ length: 6 }, (_, k) => {
        const at = (n: number): [number, number, number] => [
          32 * Math.sin((n * Math.PI) / 12) - 32,
          32 - 32 * Math.cos((n * Math.PI) / 12),
          12,
        ];
        return bar(at(k), at(k + 1), 10, 'zinc', 12);
      }).flat(),
      ...bar([-36, 0, 12], [-32, 0, 12], 13, 'black-iron', 12),
      ...bar([0, 32, 12], [0, 36, 12], 13, 'black-iron', 12),
    ],
  },
  {
    name: 'anvil',
    label: 'Anvil on a block',
    tags: ['metal', 'machine'],
    substance: 'metal',
    collision: 'hulls',
    pieces: [
      ...lathe(
        [
          [26, 0],
          [24, 50],
        ],
        12,
        'beam-end',
      ),
      ...box([-14, -9, 50], [14, 9, 56], 'black-iron'),
      ...box([-8, -6, 56], [8, 6, 68], 'black-iron'),
      ...box([-20, -8, 68], [16, 8, 78], 'black-iron'),
      ...moved(
        turned(
          lathe(
            [
              [7, 0],
              [1.5, 26],
            ],
            8,
            'black-iron',
          ),
          [0, 1, 0],
          90,
        ),
        [16, 0, 71],
      ),
    ],
  },
];
