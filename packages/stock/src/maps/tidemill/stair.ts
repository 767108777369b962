import type { Draft } from '../drafting.ts';

/** Two flights from the hall up to the loft. */
export function stair(d: Draft): void {
  const step = { rise: 36, depth: 56 };
  // First flight north along the east wall, landing, second flight back south along the west wall.
  for (let i = 0; i < 8; i++)
    d.box([1312, 96 + i * step.depth, 0], [1504, 96 + (i + 1) * step.depth, (i + 1) * step.rise], 'slate', 'Step');
  d.box([1056, 544, 256], [1504, 800, 288], 'oak-plank', 'Half landing');
  d.box([1312, 544, 0], [1344, 576, 256], 'oak-plank', 'Landing post');
  for (let i = 0; i < 8; i++) {
    const y = 544 - i * step.depth;
    d.box([1056, y - step.depth, 288 + i * step.rise], [1248, y, 288 + (i + 1) * step.rise], 'oak-plank', 'Step');
  }
  d.box([1056, 0, 544], [1248, 96, 576], 'oak-plank', 'Loft landing');
  d.box([1248, 0, 576], [1256, 96, 664], 'black-iron', 'Rail');
  d.thing('pointLight', [1280, 120, 180], 'Stair foot lamp', 0, { candela: 110, color: '#ffe4bc' });
  d.thing('pointLight', [1280, 640, 480], 'Landing lamp', 0, { candela: 200, color: '#ffe4bc' });
  d.thing('pointLight', [1300, 120, 780], 'Head lamp', 0, { candela: 160, color: '#ffe4bc' });
}
