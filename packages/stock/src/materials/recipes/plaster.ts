import { courses, mix, ramp, shade } from './patterns.ts';
import type { Recipe } from './types.ts';

/** Plaster and washes. */
export const PLASTER: readonly Recipe[] = [
  {
    name: 'limewash',
    label: 'Limewash',
    tags: ['plaster', 'wall', 'pale'],
    substance: 'plaster',
    rough: 0.95,
    relief: 0.25,
    paint: (p, u, v) =>
      shade(mix([226, 219, 203], [203, 194, 175], 0.5 + 0.5 * p.rough(u, v, 5, 5)), 1 + 0.035 * p.noise(u, v, 60)),
  },
  {
    name: 'ochre-plaster',
    label: 'Ochre plaster',
    tags: ['plaster', 'wall', 'warm'],
    substance: 'plaster',
    rough: 0.95,
    relief: 0.25,
    paint: (p, u, v) =>
      shade(mix([204, 164, 104], [184, 142, 86], 0.5 + 0.5 * p.rough(u, v, 4, 5)), 0.98 + 0.04 * p.noise(u, v, 70)),
  },
  {
    name: 'damp-plaster',
    label: 'Damp plaster',
    tags: ['plaster', 'wall', 'wet', 'worn'],
    substance: 'plaster',
    rough: 0.85,
    relief: 0.6,
    paint: (p, u, v) => {
      const bare = ramp(0.3, 0.36, p.rough(u, v, 4, 5));
      const { joint, tone } = courses(p, u, v, 16, 8, 0.02);
      const brick = joint < 0.07 ? ([150, 142, 128] as const) : shade(mix([140, 82, 64], [112, 66, 56], tone), 0.9);
      const plaster = mix(
        shade([204, 198, 182], 0.97 + 0.04 * p.noise(u, v, 50)),
        [148, 150, 128],
        ramp(-0.05, 0.35, p.rough(u, v, 3) + 0.1),
      );
      return {
        color: mix(plaster, brick, bare),
        height: 1 - bare * (0.5 + (joint < 0.07 ? 0.25 : 0)),
        rough: 0.95 - 0.3 * ramp(0, 0.3, p.rough(u, v, 3)),
      };
    },
  },
  {
    name: 'blue-wash',
    label: 'Blue wash',
    tags: ['plaster', 'wall', 'cool', 'painted'],
    substance: 'plaster',
    rough: 0.9,
    relief: 0.2,
    paint: (p, u, v) =>
      shade(mix([138, 158, 168], [116, 138, 152], 0.5 + 0.5 * p.rough(u, v, 4, 5)), 0.98 + 0.04 * p.noise(u, v, 60)),
  },
];
