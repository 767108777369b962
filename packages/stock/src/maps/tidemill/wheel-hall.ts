import type { Draft } from '../drafting.ts';

/** The hall with the race, the wheel and the gear house. */
export function wheelHall(d: Draft): void {
  // The race: two kerbs with water between, along the west wall.
  d.box([64, 0, 0], [88, 800, 56], 'tide-stone', 'Race kerb');
  d.box([296, 0, 0], [320, 800, 56], 'tide-stone', 'Race kerb');
  d.box([88, 0, 0], [296, 800, 28], 'dark-water', 'Race');
  // The wheel turns about an axle that runs east and west.
  const hub: [number, number, number] = [192, 400, 232];
  const axle = d.prism([40, 384, 216], [72, 416, 640], 12, 'black-iron', 'Axle');
  d.turned(axle, 1, 90, [56, 400, 232]);
  for (let i = 0; i < 12; i++) {
    const paddle = d.box([112, 400 - 4, 232 + 128], [272, 400 + 4, 232 + 190], 'oak-plank', 'Paddle');
    d.turned(paddle, 0, i * 30, hub);
    const rim = d.box([124, 400 - 40, 232 + 150], [140, 400 + 40, 232 + 166], 'tarred-board', 'Rim');
    d.turned(rim, 0, i * 30 + 15, hub);
    const far = d.box([244, 400 - 40, 232 + 150], [260, 400 + 40, 232 + 166], 'tarred-board', 'Rim');
    d.turned(far, 0, i * 30 + 15, hub);
  }
  for (let i = 0; i < 3; i++) {
    // Each a little thicker than the last, so that no two faces share a plane where they cross.
    const spoke = d.box([182 - i, 400 - 8, 232 - 150], [202 + i, 400 + 8, 232 + 150], 'oak-plank', 'Spoke');
    d.turned(spoke, 0, i * 60, hub);
  }
  // The gear house takes the axle.
  d.box([488, 336, 0], [584, 464, 184], 'tide-stone', 'Gear pier');
  d.box([480, 328, 184], [592, 472, 200], 'slate', 'Pier cap');
  d.box([496, 376, 200], [576, 424, 264], 'sea-paint', 'Gear case');
  for (const y of [160, 400, 640]) d.box([0, y - 16, 472], [1024, y + 16, 512], 'oak-plank', 'Beam');
  for (const [x, y] of [
    [704, 160],
    [704, 640],
  ] as const) {
    d.box([x - 24, y - 24, 0], [x + 24, y + 24, 472], 'oak-plank', 'Post');
    d.box([x - 36, y - 36, 0], [x + 36, y + 36, 32], 'tide-stone', 'Post foot');
  }
  d.thing('pointLight', [420, 160, 400], 'Race lamp', 0, { candela: 320, color: '#ffd9a0' });
  d.thing('pointLight', [420, 640, 400], 'Wheel lamp', 0, { candela: 320, color: '#ffd9a0' });
  d.thing('pointLight', [880, 400, 380], 'Hall lamp', 0, { candela: 380, color: '#fff0d8' });
  d.thing('spawn', [860, 120, 0], 'Salters 1', 120, { for: 'team', team: 'Salters' });
}
