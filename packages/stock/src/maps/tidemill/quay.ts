import { wedgeSolid } from '@yesca/core';
import type { Draft } from '../drafting.ts';

/** The quay under the open sky: bollards, a loading crane, crates, a canopy over the gate. */
export function quay(d: Draft): void {
  d.box([-256, -704, 0], [1600, -608, 24], 'slate', 'Quay edge');
  for (const x of [-128, 320, 768, 1216]) {
    d.prism([x - 24, -688, 24], [x + 24, -640, 88], 12, 'black-iron', 'Bollard');
    d.prism([x - 32, -696, 88], [x + 32, -632, 104], 12, 'black-iron', 'Bollard head');
  }
  // A loading crane: mast, jib, brace.
  d.box([-80, -336, 0], [-48, -304, 480], 'oak-plank', 'Mast');
  d.box([-80, -592, 448], [-48, -304, 480], 'oak-plank', 'Jib');
  d.box([-72, -584, 320], [-56, -568, 448], 'black-iron', 'Hook chain');
  d.box([-96, -352, 0], [-32, -288, 32], 'tide-stone', 'Mast foot');
  for (const [x, y, s, h] of [
    [1180, -180, 96, 80],
    [1290, -160, 72, 72],
    [1196, -164, 64, 152],
    [60, -130, 80, 64],
  ] as const)
    d.box([x, y, h > 100 ? 80 : 0], [x + s, y + s, h], h > 100 ? 'sea-paint' : 'tarred-board', 'Crate');
  for (const x of [1420, 1484]) d.prism([x, -128, 0], [x + 56, -72, 84], 12, 'oak-plank', 'Barrel');
  // A canopy over the gate, on two posts.
  for (const x of [336, 624]) d.box([x, -208, 0], [x + 24, -184, 304], 'oak-plank', 'Post');
  d.solid(wedgeSolid({ min: [304, -224, 304], max: [680, -32, 368] }, 'north'), 'roof-tile', 'Canopy');
  d.thing('spawn', [1400, -420, 0], 'Millers 1', 165, { for: 'team', team: 'Millers' });
  d.thing('sun', [700, -400, 500], 'Late sun', 232, { lux: 420, height: 34, kelvin: 3900, spread: 0.53 });
  d.thing('pointLight', [492, -120, 280], 'Gate lamp', 0, { candela: 90, color: '#ffcf8a' });
}
