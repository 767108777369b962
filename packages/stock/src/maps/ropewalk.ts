import {
  addBrushes,
  addRoom,
  boxSolid,
  dressSolid,
  emptyMap,
  gateInOpening,
  openDoorway,
  type MapDocument,
} from '@yesca/core';
import { Draft, settleIds } from './drafting.ts';

/** Sheds on either side of the hall, and what lies between their middles, cm. */
const SHEDS = 6;
const PITCH = 960;
const LENGTH = SHEDS * PITCH;
const WALL = 32;

/**
 * A very long narrow hall where rope is laid, with sheds on both sides behind doors: it exists to show long lines of sight. Finished, with
 * a gate in every doorway and hints across the hall; bare, without them.
 */
export function ropewalk(finished: boolean): MapDocument {
  const name = finished ? 'Ropewalk, with hints and gates' : 'Ropewalk';
  const rectangle = (x: number, y: number, w: number, depth: number): [number, number][] => [
    [x, y],
    [x + w, y],
    [x + w, y + depth],
    [x, y + depth],
  ];
  const timber = { floor: 'oak-plank', wall: 'tarred-board', ceiling: 'pine-board' };
  const lime = { floor: 'slate', wall: 'limewash', ceiling: 'tarred-board' };
  let doc = addRoom(
    emptyMap(name),
    { name: 'Laying floor', footprint: rectangle(0, -160, LENGTH, 320), floor: 0, ceiling: 320, wall: WALL },
    timber,
    'hall',
  );
  for (const side of ['north', 'south'] as const)
    for (let i = 0; i < SHEDS; i++) {
      const y = side === 'north' ? 160 + WALL : -160 - WALL - 384;
      const shed = `${side} ${i}`;
      doc = addRoom(
        doc,
        {
          name: `${side === 'north' ? 'Hemp store' : 'Tar shed'} ${i + 1}`,
          footprint: rectangle(i * PITCH + 240, y, 480, 384),
          floor: 0,
          ceiling: 288,
          wall: WALL,
        },
        lime,
        shed,
      );
      doc = openDoorway(doc, 'hall', shed, { width: 112, height: 208, sill: 0 }, `door ${shed}`);
    }
  const d = new Draft(doc);
  for (let i = 0; i < SHEDS; i++) {
    const x = i * PITCH + 480;
    // Trestles along the middle, and a lamp over every other one.
    d.box([x - 360, -40, 0], [x - 344, 40, 88], 'oak-plank', 'Trestle');
    d.box([x - 40, -64, 304], [x + 40, 64, 320], 'oak-plank', 'Tie');
    d.thing('pointLight', [x, 0, 250], `Floor lamp ${i + 1}`, 0, { candela: 220 });
    for (const side of ['north', 'south'] as const) {
      const out = side === 'north' ? 1 : -1;
      const y = out * (160 + WALL);
      const at = (dx: number, dy: number): [number, number] => [x + dx, y + out * dy];
      for (const [k, dx] of [-190, -110, 120, 190].entries()) {
        const [cx, cy] = at(dx, 300);
        d.prism([cx - 32, cy - 32, 0], [cx + 32, cy + 32, 64 + k * 12], 12, k % 2 ? 'oak-plank' : 'pine-board', 'Cask');
      }
      const [bx, by] = at(0, 352);
      d.box([bx - 60, by - 24, 0], [bx + 60, by + 24, 48], 'pine-board', 'Bench');
      d.thing('pointLight', [...at(0, 192), 220], `${side} lamp ${i + 1}`, 0, { candela: 120 });
      d.doorIn(`door ${side} ${i}`, `${side} door ${i + 1}`, 'oak-plank', {});
    }
  }
  d.thing('spawn', [96, 0, 0], 'West end', 0);
  let done = d.doc;
  if (finished) {
    for (const opening of doc.openings.keys()) done = gateInOpening(done, opening).doc;
    for (let i = 1; i < SHEDS; i++)
      done = addBrushes(done, [
        dressSolid(boxSolid({ min: [i * PITCH - 2, -160, 0], max: [i * PITCH + 2, 160, 320] }), `hint ${i}`, 'clear', {
          role: 'hint',
        }),
      ]);
  }
  return settleIds(done);
}
