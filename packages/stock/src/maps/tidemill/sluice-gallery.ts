import type { Draft } from '../drafting.ts';

/** The gallery over the tail race: the sluice frame with its raised board, a bridge, rack and wheel, stores along the wall. */
export function sluiceGallery(d: Draft): void {
  // The frame is an arch across the race; its board hangs raised in it.
  d.shape(
    'arch',
    [-392, 384, 0],
    [-184, 416, 288],
    { segments: 8, thickness: 32, through: 'north' },
    'tide-stone',
    'Sluice arch',
  );
  d.box([-352, 394, 96], [-224, 406, 216], 'tarred-board', 'Sluice board');
  for (const x of [-344, -240]) d.box([x, 390, 216], [x + 8, 410, 330], 'black-iron', 'Rack');
  d.shape('cylinder', [-376, 380, 300], [-200, 420, 340], { sides: 12, axis: 'east' }, 'oak-plank', 'Windlass');
  // A bridge of planks, each a copy of the first.
  const plank = d.box([-376, 560, 0], [-200, 588, 8], 'oak-plank', 'Bridge plank');
  d.repeat([plank.id], 3, [0, 32, 0]);
  for (const y of [556, 684]) d.box([-376, y, 8], [-368, y + 8, 96], 'black-iron', 'Rail post');
  d.box([-376, 556, 96], [-368, 692, 104], 'black-iron', 'Rail');
  // Sills along the water, their corners cut off.
  for (const [x0, x1] of [
    [-376, -352],
    [-224, -200],
  ] as const) {
    const sill = d.box([x0, 32, 0], [x1, 384, 24], 'tide-stone', 'Sill');
    d.cut([sill.id], [0, 1, 1], (52 + 24 - 12) / Math.SQRT2, 'front');
  }
  // Stores: a stack of crates, casks, a workbench hollowed from one block.
  for (const [x, y, z, s] of [
    [-528, 96, 0, 88],
    [-528, 208, 0, 72],
    [-516, 104, 88, 64],
  ] as const)
    d.box([x, y, z], [x + s, y + s, z + s], 'sea-paint', 'Crate');
  for (const y of [344, 416, 488])
    d.shape('cylinder', [-528, y, 0], [-472, y + 56, 80], { sides: 12 }, 'oak-plank', 'Cask');
  const bench = d.box([-160, 96, 0], [-48, 320, 88], 'oak-plank', 'Bench');
  const under = d.box([-176, 112, 0], [-56, 304, 72], 'oak-plank', 'Under the bench');
  d.subtract([under.id], [bench.id]);
  d.thing('pointLight', [-288, 200, 300], 'Gallery lamp', 0, { candela: 190, color: '#ffd9a0' });
  d.thing('pointLight', [-288, 700, 290], 'Water gate lamp', 0, { candela: 150, color: '#ffcf8a' });
  // On the hall's side of the arch: a step and a gangway over the race.
  d.box([8, 664, 0], [64, 736, 32], 'tide-stone', 'Step');
  d.box([0, 664, 64], [384, 736, 72], 'oak-plank', 'Gangway');
  d.box([384, 664, 0], [440, 736, 36], 'tide-stone', 'Step');
}
