import { boxSolid } from '../brush/index.ts';
import { addBrushes, addRoom, doorInOpening, gateInOpening, openDoorway, placeEntity } from '../edit/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import type { Box } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { DRESS, oneRoom, rectangle, roomSpec, twoRooms } from '../testing/rooms.ts';
import { suggestSight } from './suggest.ts';

const nothing = { materials: () => undefined, props: () => undefined };

/** A hall with rooms beside it behind thick walls and narrow doorways: from one end one looks into none at the other. */
function sheds(count: number): MapDocument {
  let doc = addRoom(emptyMap('Sheds'), roomSpec(rectangle(0, 0, count * 700, 240), { wall: 48 }), DRESS, 'hall');
  for (let i = 0; i < count; i++) {
    doc = addRoom(doc, roomSpec(rectangle(i * 700 + 200, 288, 300, 300), { wall: 48 }), DRESS, `shed ${i}`);
    doc = openDoorway(doc, 'hall', `shed ${i}`, { width: 40, height: 200, sill: 0 }, `o${i}`);
  }
  return placeEntity(doc, 'spawn', [60, 60, 0], 0, 's');
}

describe('a hint', () => {
  const doc = sheds(4);
  const found = suggestSight(doc, nothing)!;

  test('across a long hall with sheds is found, and placing it saves what was said', () => {
    const [best] = found;
    expect(best).toBeDefined();
    expect(best!.after).toBeLessThan(best!.before * 0.8);
    const { hint } = best!.what as { hint: Box };
    expect(hint.max[0]! - hint.min[0]!).toBeLessThan(10);
    expect(hint.max[1]! - hint.min[1]!).toBe(240);
    // With it in the map what is drawn now is what was promised.
    const made = addBrushes(doc, [dressSolid(boxSolid(hint), 'hint', 'clear', { role: 'hint' })]);
    const after = suggestSight(made, nothing)!;
    for (const s of after) expect(Math.abs(s.before - best!.after)).toBeLessThan(best!.after * 0.02);
  });

  test('best first, and never one that saves nothing', () => {
    found.forEach((s, i) => {
      expect(s.after).toBeLessThan(s.before);
      if (i) expect(s.after).toBeGreaterThanOrEqual(found[i - 1]!.after);
    });
  });

  test('the same each time', () => {
    expect(suggestSight(doc, nothing)).toEqual(found);
  });
});

describe('a gate', () => {
  const withDoor = () =>
    doorInOpening(placeEntity(twoRooms(), 'spawn', [100, 100, 0], 0, 's'), 'door', {
      leaves: 'one',
      thickness: 6,
      material: 'oak-plank',
    }).doc;

  test('is suggested where a door fills an opening, and not where none does', () => {
    const gates = (doc: MapDocument) => suggestSight(doc, nothing)!.filter((s) => 'gate' in s.what);
    expect(gates(withDoor())).toMatchObject([{ what: { gate: 'door' } }]);
    expect(gates(placeEntity(twoRooms(), 'spawn', [100, 100, 0], 0, 's'))).toEqual([]);
    expect(gates(gateInOpening(withDoor(), 'door').doc)).toEqual([]);
    // One sees through a pane: its door closes nothing.
    const glass = {
      materials: () => ({ name: 'g', width: 1, height: 1, texelsPerCm: 1, solidity: 'seeThrough' as const }),
      props: () => undefined,
    };
    expect(suggestSight(withDoor(), glass)!.filter((s) => 'gate' in s.what)).toEqual([]);
  });
});

test('an open map, an empty one and one small room have none; a cancelled search stops', () => {
  const room = placeEntity(oneRoom(), 'spawn', [100, 100, 0], 0, 's');
  expect(suggestSight(room, nothing)).toEqual([]);
  const [, ...rest] = [...room.brushes];
  expect(suggestSight({ ...room, brushes: new Map(rest) }, nothing)).toBeNull();
  expect(suggestSight(emptyMap('Nothing'), nothing)).toBeNull();
  expect(() => suggestSight(room, nothing, { signal: { aborted: true } })).toThrow(
    expect.objectContaining({ code: 'build.cancelled' }),
  );
});
