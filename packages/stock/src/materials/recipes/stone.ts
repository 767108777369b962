import { courses, mix, ramp, shade } from './patterns.ts';
import type { Recipe } from './types.ts';

/** Walls and floors of stone and brick. */
export const STONE: readonly Recipe[] = [
  {
    name: 'tide-stone',
    label: 'Tide-stained stone',
    tags: ['stone', 'wall', 'wet'],
    substance: 'stone',
    rough: 0.8,
    relief: 0.8,
    paint: (p, u, v) => {
      const { joint, tone } = courses(p, u, v, 8, 4, 0.05);
      const stone = shade(mix([132, 131, 122], [98, 104, 98], tone), 0.92 + 0.16 * p.rough(u, v, 18));
      const stained = mix(stone, [76, 92, 78], 0.45 * Math.max(0, p.rough(u, v, 4) + 0.15));
      return joint < 0.05
        ? shade([70, 68, 62], 0.9 + 0.2 * p.noise(u, v, 40))
        : joint < 0.1
          ? shade(stained, 0.88)
          : stained;
    },
  },
  {
    name: 'slate',
    label: 'Slate',
    tags: ['stone', 'floor', 'roof'],
    substance: 'stone',
    rough: 0.5,
    relief: 0.4,
    paint: (p, u, v) => {
      const { joint, tone } = courses(p, u, v, 4, 4, 0.015);
      const stone = shade(
        mix([84, 92, 102], [66, 74, 86], tone),
        0.93 + 0.12 * p.rough(u, v, 12) + 0.04 * p.noise(u, v, 80),
      );
      return joint < 0.022 ? [48, 50, 54] : stone;
    },
  },
  {
    name: 'red-brick',
    label: 'Red brick',
    tags: ['brick', 'wall'],
    substance: 'brick',
    rough: 0.9,
    relief: 0.7,
    paint: (p, u, v) => {
      const { joint, tone } = courses(p, u, v, 16, 8, 0.02);
      return joint < 0.07
        ? shade([168, 158, 142], 0.9 + 0.12 * p.noise(u, v, 50))
        : shade(mix([150, 80, 60], [108, 58, 50], tone), 0.9 + 0.16 * p.rough(u, v, 24, 3));
    },
  },
  {
    name: 'ashlar',
    label: 'Dressed ashlar',
    tags: ['stone', 'wall', 'pale'],
    substance: 'stone',
    rough: 0.75,
    relief: 0.5,
    paint: (p, u, v) => {
      const { joint, tone } = courses(p, u, v, 4, 2, 0);
      const face = shade(
        mix([190, 180, 158], [166, 158, 142], tone),
        0.95 + 0.08 * p.rough(u, v, 14) + 0.03 * p.noise(u, v, 70),
      );
      return {
        color: joint < 0.016 ? [116, 108, 96] : joint < 0.04 ? shade(face, 1.06) : face,
        height: joint < 0.016 ? 0 : 0.8 + 0.2 * p.rough(u, v, 20) * ramp(0.016, 0.05, joint),
      };
    },
  },
  {
    name: 'rubble',
    label: 'Field rubble',
    tags: ['stone', 'wall', 'rough'],
    substance: 'stone',
    rough: 0.9,
    relief: 1,
    paint: (p, u, v) => {
      const { near, second, id } = p.cells(u, v, 7);
      const edge = second - near;
      const stone = shade(
        mix([146, 134, 112], [104, 102, 96], p.pick(id)),
        0.9 + 0.2 * p.rough(u, v, 16) - 0.15 * near,
      );
      return {
        color: edge < 0.07 ? mix([150, 142, 124], stone, edge / 0.09) : stone,
        height: ramp(0.02, 0.22, edge) * (0.85 + 0.15 * p.rough(u, v, 18)),
      };
    },
  },
  {
    name: 'flagstone',
    label: 'Flagstones',
    tags: ['stone', 'floor'],
    substance: 'stone',
    rough: 0.7,
    relief: 0.4,
    paint: (p, u, v) => {
      const { joint, tone } = courses(p, u, v, 4, 3, 0.03);
      const stone = shade(
        mix([134, 128, 116], [112, 110, 106], tone),
        0.93 + 0.12 * p.rough(u, v, 9) + 0.04 * p.noise(u, v, 60),
      );
      return {
        color: joint < 0.02 ? [70, 66, 58] : stone,
        height: ramp(0.005, 0.035, joint) * (0.9 + 0.1 * p.rough(u, v, 10)),
      };
    },
  },
  {
    name: 'weed-stone',
    label: 'Weed-hung stone',
    tags: ['stone', 'wall', 'wet', 'green'],
    substance: 'stone',
    rough: 0.55,
    relief: 0.9,
    paint: (p, u, v) => {
      const { joint, tone } = courses(p, u, v, 8, 4, 0.06);
      const stone = shade(mix([96, 98, 90], [78, 82, 78], tone), 0.9 + 0.2 * p.rough(u, v, 18));
      const weed = ramp(0.05, 0.35, p.rough(u, v, 7) + 0.25 * p.noise(u, v, 40));
      return {
        color: mix(
          joint < 0.05 ? [58, 58, 52] : stone,
          shade([64, 84, 44], 0.8 + 0.35 * p.noise(u, v, 60)),
          weed * 0.9,
        ),
        height: 0.7 * ramp(0.02, 0.1, joint) + 0.3 * weed,
        rough: 0.75 - 0.4 * weed,
      };
    },
  },
];
