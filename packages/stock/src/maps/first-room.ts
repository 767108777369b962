import { addRoom, emptyMap, type MapDocument } from '@yesca/core';
import { Draft, settleIds } from './drafting.ts';

/** The smallest map worth walking in: one sealed, lit room with a few things in it. */
export function firstRoom(): MapDocument {
  const d = new Draft(
    addRoom(
      emptyMap('First Room'),
      {
        name: 'Net store',
        footprint: [
          [-320, -240],
          [320, -240],
          [320, 240],
          [-320, 240],
        ],
        floor: 0,
        ceiling: 288,
        wall: 16,
      },
      { floor: 'oak-plank', wall: 'limewash', ceiling: 'tarred-board' },
      'room',
    ),
  );
  d.box([-320, 96, 0], [-112, 240, 36], 'slate', 'Low platform');
  d.box([-128, -24, 0], [-80, 24, 288], 'oak-plank', 'Post');
  for (const y of [-120, 0, 120]) d.box([-320, y - 12, 256], [320, y + 12, 288], 'oak-plank', 'Beam');
  d.box([128, 48, 0], [200, 120, 72], 'tarred-board', 'Crate');
  d.box([216, 64, 0], [272, 120, 56], 'sea-paint', 'Small crate');
  d.prism([208, -200, 0], [272, -136, 88], 12, 'oak-plank', 'Barrel');
  const barrel = d.called('Barrel');
  d.paint(d.faces(barrel, 'around'), 'pine-board');
  d.flow(d.faces(barrel, 'around'));
  for (const [x, y, z] of [
    [-220, 150, 206],
    [120, -40, 222],
  ] as const) {
    const glass = d.box([x - 8, y - 8, z], [x + 8, y + 8, z + 14], 'lamp-glass', 'Lamp');
    d.align(d.faces([glass.id], 'around'), { do: 'fit', repeats: [1, 1] });
  }
  d.sheet('rope-net', [320, 0, 150], [-1, 0, 0], 'Net', { width: 180, height: 200 });
  d.board([-60, 237, 176], [100, 240, 206], 'painted-signs', 'lamp oil', 'Sign');
  d.thing('spawn', [-256, -160, 0], 'Door spawn', 35);
  d.thing('pointLight', [-220, 150, 200], 'Platform lamp', 0, { candela: 160 });
  d.thing('pointLight', [120, -40, 216], 'Hanging lamp', 0, { candela: 260 });
  return settleIds(d.doc);
}
