import { mix, ramp, shade } from './patterns.ts';
import type { Recipe } from './types.ts';

/** Ground and water. */
export const GROUND: readonly Recipe[] = [
  {
    name: 'wet-sand',
    label: 'Wet sand',
    tags: ['ground', 'wet'],
    substance: 'sand',
    rough: 0.45,
    relief: 0.5,
    paint: (p, u, v) => {
      const ripple = Math.sin((v * 14 + p.rough(u, v, 4, 3) * 0.9) * 2 * Math.PI);
      return shade(mix([150, 132, 102], [118, 102, 78], 0.5 + 0.32 * ripple), 0.96 + 0.09 * p.noise(u, v, 90));
    },
  },
  {
    name: 'cobble',
    label: 'Quay cobble',
    tags: ['stone', 'ground', 'floor'],
    substance: 'stone',
    rough: 0.7,
    relief: 1,
    paint: (p, u, v) => {
      const { near, second, id } = p.cells(u, v, 11);
      const edge = second - near;
      const stone = shade(
        mix([136, 128, 116], [98, 98, 100], p.pick(id)),
        1.06 - 0.4 * near * near + 0.06 * p.noise(u, v, 50),
      );
      return edge < 0.09 ? mix([54, 52, 46], stone, edge / 0.14) : stone;
    },
  },
  {
    name: 'dark-water',
    label: 'Race water',
    tags: ['water', 'wet', 'dark'],
    substance: 'water',
    rough: 0.08,
    relief: 0.5,
    paint: (p, u, v) => {
      const wave = p.noise(u, v + 0.02 * p.noise(u, v, 8), 9) * 0.6 + p.noise(u, v, 26) * 0.25;
      return mix([30, 52, 56], [78, 110, 108], 0.28 + 0.5 * wave * Math.abs(wave) + 0.1);
    },
  },
  {
    name: 'mud-flat',
    label: 'Mud flat',
    tags: ['ground', 'wet', 'dark'],
    substance: 'earth',
    rough: 0.35,
    relief: 0.5,
    paint: (p, u, v) => {
      const wet = ramp(-0.2, 0.3, p.rough(u, v, 4, 4));
      return {
        color: mix(shade([92, 80, 62], 0.92 + 0.16 * p.rough(u, v, 24)), [58, 54, 48], wet),
        rough: 0.75 - 0.55 * wet,
        height: 0.6 - 0.4 * wet + 0.2 * p.rough(u, v, 20),
      };
    },
  },
  {
    name: 'gravel',
    label: 'Gravel',
    tags: ['ground', 'stone', 'pale'],
    substance: 'earth',
    rough: 0.9,
    relief: 0.5,
    paint: (p, u, v) => {
      const { near, second, id } = p.cells(u, v, 34);
      return {
        color: shade(mix([150, 142, 128], [108, 104, 98], p.pick(id)), 1.05 - 0.7 * near * near),
        height: ramp(0, 0.35, second - near),
      };
    },
  },
  {
    name: 'salt-meadow',
    label: 'Salt meadow',
    tags: ['ground', 'plant', 'green'],
    substance: 'earth',
    rough: 1,
    relief: 0.7,
    paint: (p, u, v) => {
      const blade = Math.sin(u * 2 * Math.PI * 80 + p.noise(u, v, 20) * 12) * 0.3 + p.noise(u, v, 70) * 0.4;
      return shade(mix([112, 124, 66], [74, 92, 50], 0.5 + 0.6 * p.rough(u, v, 5)), 0.95 + 0.25 * blade);
    },
  },
  {
    name: 'shallows',
    label: 'Clear shallows',
    tags: ['water', 'clear', 'green'],
    substance: 'water',
    rough: 0.05,
    relief: 0.4,
    solidity: 'seeThrough',
    paint: (p, u, v) => {
      const wave = p.noise(u, v, 7) * 0.6 + p.noise(u, v, 20) * 0.3;
      return mix([92, 140, 132], [150, 190, 176], 0.35 + 0.5 * wave * Math.abs(wave));
    },
  },
  {
    name: 'foam',
    label: 'Mill-race foam',
    tags: ['water', 'pale'],
    substance: 'water',
    rough: 0.4,
    relief: 0.6,
    paint: (p, u, v) => {
      const { near, second } = p.cells(u, v, 14);
      const bubble = ramp(0.02, 0.2, second - near) * (0.5 + 0.5 * p.rough(u, v, 5));
      return mix([206, 218, 212], [70, 108, 108], bubble * 1.3);
    },
  },
];
