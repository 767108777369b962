import { cosSin, hullOf, type Vec3 } from '@yesca/core';
import { around, bar, box, lathe, moved, shape, times, turned, type Piece, type PropRecipe } from '../making.ts';

/** One plank of a boat's hull between two ribs: convex, of the four corners pushed out by its thickness. */
const strake = (a: Vec3, b: Vec3, c: Vec3, d: Vec3, material: string): Piece => {
  const out = (p: Vec3): Vec3 => [p[0], p[1] * 1.06 + Math.sign(p[1]) * 1.5, p[2] - 2];
  return { solid: hullOf([a, b, c, d, out(a), out(b), out(c), out(d)]), material };
};

/** Half the width of a boat at a height, at so much of its length from the middle (−1 to 1). */
const beamAt = (along: number, height: number, wide: number): number =>
  Math.max(0.06, Math.sqrt(Math.max(0, 1 - along ** 2))) * wide * (0.55 + 0.45 * height);

function boat(long: number, wide: number, deep: number): Piece[] {
  const ribs = 8;
  const rib = (k: number): number => -1 + (2 * k) / ribs;
  const point = (k: number, row: number, side: number): Vec3 => [
    rib(k) * long,
    side * beamAt(rib(k), row / 2, wide),
    3 + (deep * row) / 2 + rib(k) ** 2 * deep * 0.35,
  ];
  return [
    ...times(ribs, (k) =>
      [-1, 1].flatMap((side) =>
        times(2, (row) => [
          strake(
            point(k, row, side),
            point(k + 1, row, side),
            point(k + 1, row + 1, side),
            point(k, row + 1, side),
            row ? 'sea-paint' : 'ship-plank',
          ),
        ]),
      ),
    ),
    ...times(ribs, (k) => {
      const floor: Vec3[] = [point(k, 0, -1), point(k, 0, 1), point(k + 1, 0, -1), point(k + 1, 0, 1)];
      return [{ solid: hullOf([...floor, ...floor.map(([x, y, z]): Vec3 => [x, y, z - 3])]), material: 'ship-plank' }];
    }),
    ...[-0.45, 0.1, 0.55].flatMap((x) =>
      box(
        [x * long - 8, -beamAt(x, 0.7, wide) + 1, deep * 0.62],
        [x * long + 8, beamAt(x, 0.7, wide) - 1, deep * 0.62 + 4],
        'oak-plank',
      ),
    ),
  ];
}

/** Lumps of stone: corners on a ball, pushed in and out. */
function stone(radius: number, seed: number): Piece {
  const corners = times(4, (ring) =>
    times(6, (k) => {
      const lift = -0.6 + ring * 0.42;
      const [c, s] = cosSin(k * 60 + ring * 25 + seed * 17);
      const r = radius * Math.sqrt(1 - lift * lift) * (0.86 + 0.14 * cosSin(seed * 71 + k * 131 + ring * 47)[0]);
      return [[c * r, s * r * 0.84, (lift + 0.6) * radius * 0.8] as Vec3] as unknown as Piece[];
    }),
  ) as unknown as Vec3[];
  return { solid: hullOf(corners), material: 'rubble', smooth: true };
}

export const WATERSIDE: readonly PropRecipe[] = [
  {
    name: 'boat',
    label: 'Rowing boat',
    tags: ['wood', 'boat'],
    substance: 'wood',
    collision: 'hulls',
    pieces: boat(150, 52, 44),
  },
  {
    name: 'oar',
    label: 'Oar',
    tags: ['wood', 'boat'],
    substance: 'wood',
    collision: 'none',
    pieces: [
      ...bar([-120, 0, 2.4], [70, 0, 2.4], 2.4, 'pine-board', 8),
      ...shape('box', [70, -8, 1], [130, 8, 3.8], 'pine-board'),
    ],
  },
  {
    name: 'buoy',
    label: 'Buoy',
    tags: ['metal', 'round'],
    substance: 'metal',
    collision: 'hull',
    pieces: [
      ...lathe(
        [
          [14, 0],
          [34, 22],
          [36, 40],
          [30, 56],
          [10, 96],
          [6, 110],
        ],
        14,
        'rust-plate',
      ),
      ...bar([0, 0, 110], [0, 0, 128], 2, 'black-iron', 6),
    ],
  },
  {
    name: 'bollard',
    label: 'Bollard',
    tags: ['metal', 'quay', 'round'],
    substance: 'metal',
    collision: 'hull',
    pieces: lathe(
      [
        [20, 0],
        [14, 8],
        [13, 40],
        [20, 46],
        [20, 56],
        [12, 60],
      ],
      12,
      'black-iron',
    ),
  },
  {
    name: 'net-frame',
    label: 'Net on a frame',
    tags: ['net', 'wood'],
    substance: 'cloth',
    collision: 'hulls',
    pieces: [
      ...[-90, 90].flatMap((x) => box([x - 4, -4, 0], [x + 4, 4, 190], 'oak-plank')),
      ...box([-86, -3, 178], [86, 3, 184], 'oak-plank'),
      ...box([-86, -0.25, 24], [86, 0.25, 178], 'rope-net'),
    ],
  },
  {
    name: 'rope-coil',
    label: 'Coil of rope',
    tags: ['rope', 'round'],
    substance: 'cloth',
    collision: 'hull',
    pieces: times(3, (row) => {
      const r = 26 - row * 3;
      const half = (Math.PI / 12) * 1.02;
      return around(
        12,
        bar([r, -r * Math.tan(half), 3.464 + row * 7], [r, r * Math.tan(half), 3.464 + row * 7], 4, 'rope-mat', 6),
        row * 15,
      );
    }),
  },
  {
    name: 'reeds',
    label: 'Clump of reeds',
    tags: ['plant'],
    substance: 'plant',
    collision: 'none',
    pieces: times(3, (k) => turned(box([-48, -0.2, 0], [48, 0.2, 128], 'reed'), [0, 0, 1], k * 60)),
  },
  {
    name: 'stones',
    label: 'Stones',
    tags: ['stone'],
    substance: 'stone',
    collision: 'hulls',
    pieces: [stone(44, 1), ...moved([stone(26, 2)], [58, 22, 0]), ...moved([stone(18, 3)], [46, -36, 0])],
  },
];
