import { addRoom, emptyMap, openDoorway, wedgeSolid, type MapDocument, type Point2 } from '@yesca/core';
import { Draft, settleIds } from './drafting.ts';

const rectangle = (x0: number, y0: number, x1: number, y1: number): Point2[] => [[x0, y0], [x1, y0], [x1, y1], [x0, y1]]; // prettier-ignore

/** Halyard Tidemill, its first part: the quay under the open sky, the wheel hall with its race, the stair and the loft above. */
export function tidemill(): MapDocument {
  let doc = emptyMap('Halyard Tidemill');
  doc = { ...doc, settings: { ...doc.settings, ambientLux: 11, ambientColor: '#c4d2e8', skyColor: '#b9d0e2' } };
  doc = addRoom(
    doc,
    {
      name: 'Quay',
      footprint: [
        [-256, -704],
        [1600, -704],
        [1600, -32],
        [-256, -32],
      ],
      floor: 0,
      ceiling: 672,
      wall: 32,
      open: true,
    },
    { floor: 'cobble', wall: 'tide-stone', ceiling: 'canvas' },
    'quay',
  );
  doc = addRoom(
    doc,
    { name: 'Wheel hall', footprint: rectangle(0, 0, 1024, 800), floor: 0, ceiling: 512, wall: 32 },
    { floor: 'slate', wall: 'red-brick', ceiling: 'oak-plank' },
    'hall',
  );
  doc = addRoom(
    doc,
    { name: 'Stair', footprint: rectangle(1056, 0, 1504, 800), floor: 0, ceiling: 864, wall: 32 },
    { floor: 'slate', wall: 'limewash', ceiling: 'tarred-board' },
    'stair',
  );
  doc = addRoom(
    doc,
    { name: 'Grain loft', footprint: rectangle(0, 0, 1024, 800), floor: 576, ceiling: 864, wall: 32 },
    { floor: 'oak-plank', wall: 'limewash', ceiling: 'tarred-board' },
    'loft',
  );
  doc = openDoorway(doc, 'quay', 'hall', { width: 208, height: 272, sill: 0, at: 1600 - 492 }, 'gate');
  doc = openDoorway(doc, 'quay', 'stair', { width: 112, height: 224, sill: 0, at: 1600 - 1420 }, 'backdoor');
  doc = openDoorway(doc, 'hall', 'stair', { width: 128, height: 224, sill: 0, at: 640 }, 'passage');
  doc = openDoorway(doc, 'stair', 'loft', { width: 112, height: 208, sill: 0, at: 800 - 72 }, 'landing');
  const d = new Draft(doc);
  quay(d);
  wheelHall(d);
  stair(d);
  loft(d);
  return settleIds(d.doc);
}

function quay(d: Draft): void {
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
  for (const [x, y, s, h] of [[1180, -180, 96, 80], [1290, -160, 72, 72], [1196, -164, 64, 152], [60, -130, 80, 64]] as const)
    d.box([x, y, h > 100 ? 80 : 0], [x + s, y + s, h], h > 100 ? 'sea-paint' : 'tarred-board', 'Crate'); // prettier-ignore
  for (const x of [1420, 1484]) d.prism([x, -128, 0], [x + 56, -72, 84], 12, 'oak-plank', 'Barrel');
  // A canopy over the gate, on two posts.
  for (const x of [336, 624]) d.box([x, -208, 0], [x + 24, -184, 304], 'oak-plank', 'Post');
  d.solid(wedgeSolid({ min: [304, -224, 304], max: [680, -32, 368] }, 'north'), 'roof-tile', 'Canopy');
  d.thing('spawn', [1400, -420, 0], 'Millers 1', 165);
  d.thing('sun', [700, -400, 500], 'Late sun', 232, { lux: 380, height: 56, color: '#ffe2b4' });
  d.thing('pointLight', [492, -120, 280], 'Gate lamp', 0, { candela: 90, color: '#ffcf8a' });
}

function wheelHall(d: Draft): void {
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
  d.thing('spawn', [860, 120, 0], 'Salters 1', 120);
}

function stair(d: Draft): void {
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

function loft(d: Draft): void {
  for (const y of [160, 400, 640]) d.box([0, y - 12, 816], [1024, y + 12, 864], 'oak-plank', 'Tie beam');
  for (const x of [340, 684]) d.box([x - 16, 384, 576], [x + 16, 416, 816], 'oak-plank', 'King post');
  for (const [x, y] of [[96, 80], [180, 72], [110, 160], [820, 660], [900, 620], [860, 560]] as const)
    d.box([x, y, 576], [x + 72, y + 56, 624], 'sackcloth', 'Sack'); // prettier-ignore
  d.box([400, 560, 576], [560, 720, 592], 'sea-paint', 'Hatch rim');
  d.thing('pointLight', [512, 400, 770], 'Loft lamp', 0, { candela: 300, color: '#ffe9c9' });
  d.thing('pointLight', [160, 640, 740], 'Sack lamp', 0, { candela: 120, color: '#ffd9a0' });
}
