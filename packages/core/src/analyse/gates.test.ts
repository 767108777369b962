import { fixFinding, fixLabels } from '../checks/index.ts';
import { boxSolid } from '../brush/index.ts';
import { addBrushes, doorInOpening, gateInOpening, openDoorway, placeEntity } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import type { Vec3 } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { twoRooms } from '../testing/rooms.ts';
import { findingsOf } from './findings.ts';

const lit = () =>
  placeEntity(placeEntity(twoRooms(), 'pointLight', [200, 200, 200], 0, 'l'), 'spawn', [100, 100, 0], 0, 's');
const gate = (min: Vec3, max: Vec3) => dressSolid(boxSolid({ min, max }), 'g', 'clear', { role: 'gate' });
const found = (doc: MapDocument) =>
  findingsOf(doc, () => undefined).findings.filter((f) => f.code.startsWith('check.gate'));
const codes = (doc: MapDocument) => found(doc).map((f) => f.code);
const DOOR = { leaves: 'one', thickness: 6, material: 'oak-plank' } as const;

test('a gate that fits its opening and its door has nothing to be said of', () => {
  expect(codes(doorInOpening(gateInOpening(lit(), 'door').doc, 'door', DOOR).doc)).toEqual([]);
});

describe('what is wrong with a gate is told, and each way to fix it that is offered does', () => {
  /** Applies a fix: the finding is gone, and the gates that are left have no worse. */
  const fixed = (doc: MapDocument, label: string): MapDocument => {
    const [finding] = found(doc);
    expect(fixLabels(doc, finding!)).toContain(label);
    return fixFinding(doc, finding!, {}, label);
  };

  test('no door: always open', () => {
    const doc = gateInOpening(lit(), 'door').doc;
    expect(codes(doc)).toEqual(['check.gateDoor']);
    expect(codes(fixed(doc, 'Make a door in its opening'))).toEqual([]);
    expect(codes(fixed(doc, 'Remove the gate'))).toEqual([]);
  });

  test('too small, and standing out of its opening', () => {
    for (const g of [gate([544, 180, 0], [560, 280, 208]), gate([530, 168, 0], [570, 280, 208])]) {
      const doc = addBrushes(doorInOpening(lit(), 'door', DOOR).doc, [g]);
      expect(codes(doc)).toEqual(['check.gateGap']);
      expect(codes(fixed(doc, 'Fit it to its opening'))).toEqual([]);
      expect(codes(fixed(doc, 'Remove the gate'))).toEqual([]);
    }
  });

  test('closed by detail where structure should be', () => {
    const post = dressSolid(boxSolid({ min: [544, 168, 0], max: [560, 180, 208] }), 'post', 'oak', { role: 'detail' });
    const doc = addBrushes(lit(), [post, gate([544, 180, 0], [560, 280, 208])]);
    const [finding] = found(doc);
    expect(finding).toMatchObject({ code: 'check.gateGap', brushes: ['g', 'post'] });
    expect(codes(fixed(doc, 'Make the detail structure'))).toEqual(['check.gateDoor']);
  });

  test('a way round it', () => {
    const round = openDoorway(lit(), 'a', 'b', { width: 60, height: 200, sill: 0, at: 60 }, 'other');
    const doc = gateInOpening(round, 'door').doc;
    expect(codes(doc)).toEqual(['check.gateRound']);
    expect(codes(fixed(doc, 'Remove the gate'))).toEqual([]);
    // With a gate in the other doorway as well both part something.
    expect(codes(gateInOpening(doc, 'other').doc)).toEqual(['check.gateDoor', 'check.gateDoor']);
  });

  test('in a wall, and far outside', () => {
    for (const g of [gate([100, 18, 40], [200, 30, 90]), gate([5000, 0, 0], [5016, 100, 100])]) {
      const doc = addBrushes(lit(), [g]);
      expect(codes(doc)).toEqual(['check.gateNowhere']);
      expect(codes(fixed(doc, 'Remove the gate'))).toEqual([]);
    }
  });

  test.each(['!', '~'])('within another gate: the inner one is named, whatever its name (%s)', (id) => {
    const inner = { ...gate([546, 180, 20], [558, 260, 180]), id };
    const doc = addBrushes(doorInOpening(gateInOpening(lit(), 'door').doc, 'door', DOOR).doc, [inner]);
    const [finding, ...rest] = found(doc);
    expect(rest).toEqual([]);
    expect(finding).toMatchObject({
      code: 'check.gateNowhere',
      brushes: [id],
      text: expect.stringContaining('within another gate'),
    });
    expect(codes(fixed(doc, 'Remove the gate'))).toEqual([]);
  });

  test('of a map that leaks nothing is said: the way round leads through the hole', () => {
    const doc = gateInOpening(lit(), 'door').doc;
    const [first] = [...doc.brushes.values()].filter((b) => b.room?.part.kind === 'ceiling');
    const open = new Map(doc.brushes);
    open.delete(first!.id);
    expect(codes({ ...doc, brushes: open })).toEqual([]);
  });
});

test('a gate is made once in an opening', () => {
  const { doc } = gateInOpening(lit(), 'door');
  expect(() => gateInOpening(doc, 'door')).toThrow(expect.objectContaining({ code: 'gate.exists' }));
  expect(() => gateInOpening(doc, 'nowhere')).toThrow(expect.objectContaining({ code: 'opening.unknown' }));
});
