import { boxSolid, type Brush } from '../../brush/index.ts';
import { addBrushes, doorInOpening, gateInOpening, openDoorway, placeEntity, addRoom } from '../../edit/index.ts';
import { bodiesOf, stillBrushes, type MapDocument } from '../../map/index.ts';
import { rotation, type Vec3 } from '../../math/index.ts';
import { dressSolid, transformBrush } from '../../surface/index.ts';
import { DRESS, rectangle, roomSpec, twoRooms } from '../../testing/rooms.ts';
import { buildLevel, seedsOf } from '../build.ts';
import { areasOf, buildStructure } from '../structure/index.ts';
import { closing, levelCell, markVisible, openAreas } from './index.ts';

const lit = (doc: MapDocument) =>
  placeEntity(placeEntity(doc, 'pointLight', [200, 200, 200], 0, 'l'), 'spawn', [100, 100, 0], 0, 's');
const gated = () => gateInOpening(lit(twoRooms()), 'door').doc;
const areas = (doc: MapDocument) => areasOf(buildStructure(stillBrushes(doc), seedsOf(doc)), doc.brushes.values());
const nothing = () => undefined;

describe('a gate in the structure', () => {
  test('flush with its opening it is a cell that parts two areas, without gaps', () => {
    const { gates, count } = areas(gated());
    expect(count).toBe(2);
    expect(gates).toMatchObject([{ cells: [expect.any(Number)], areas: [0, 1], gaps: [] }]);
  });

  test('a way round it leaves one area', () => {
    let doc = lit(twoRooms());
    doc = openDoorway(doc, 'a', 'b', { width: 60, height: 200, sill: 0, at: 60 }, 'other');
    doc = gateInOpening(doc, 'door').doc;
    const { gates, count } = areas(doc);
    expect(count).toBe(1);
    expect(gates[0]!.areas).toHaveLength(1);
    // A second gate in the other doorway closes it.
    expect(areas(gateInOpening(doc, 'other').doc).count).toBe(2);
  });

  test('one that falls short of its opening has a gap, wherever it stands', () => {
    for (const degrees of [0, 23]) {
      const short = dressSolid(boxSolid({ min: [544, 170, 0], max: [560, 278, 180] }), 'g', 'clear', { role: 'gate' });
      const turn = rotation(2, degrees, [30_000, 10_000, 0]);
      const doc = lit(addBrushes(twoRooms(), [short]));
      const brushes = stillBrushes(doc).map((b) => transformBrush(b, turn, true));
      const at = seedsOf(doc).map(({ id, at: [x, y, z] }) => ({
        id,
        at: [turn[0] * x + turn[1] * y + turn[3], turn[4] * x + turn[5] * y + turn[7], z + 5] as Vec3,
      }));
      const { gates, count } = areasOf(buildStructure(brushes, at), brushes);
      expect(count).toBe(1);
      expect(gates[0]!.cells.length).toBeGreaterThan(0);
      expect(gates[0]!.gaps.length).toBeGreaterThan(0);
    }
  });

  test('in a solid or in the void it holds no cell', () => {
    const far = dressSolid(boxSolid({ min: [5000, 0, 0], max: [5016, 200, 200] }), 'far', 'clear', { role: 'gate' });
    const buried = dressSolid(boxSolid({ min: [100, 18, 40], max: [200, 30, 90] }), 'in', 'clear', { role: 'gate' });
    const { gates, count } = areas(addBrushes(lit(twoRooms()), [far, buried]));
    expect(count).toBe(1);
    expect(gates.map((g) => g.cells)).toEqual([[], []]);
  });

  test('two gates one behind the other part three areas', () => {
    let doc = addRoom(lit(twoRooms()), roomSpec(rectangle(960, 32, 300, 384)), DRESS, 'c');
    doc = openDoorway(doc, 'b', 'c', { width: 100, height: 200, sill: 0 }, 'next');
    doc = gateInOpening(gateInOpening(doc, 'door').doc, 'next').doc;
    expect(areas(doc).count).toBe(3);
  });
});

describe('what closes a gate', () => {
  const leaf = (min: Vec3, max: Vec3, material = 'oak-plank', role: Brush['role'] = 'detail') =>
    dressSolid(boxSolid({ min, max }), `leaf ${min.join()}`, material, { role });
  const gate = [...gated().brushes.values()].find((b) => b.role === 'gate')!;
  const body = (...brushes: Brush[]) => [{ thing: 'd', part: 0, brushes }];

  test('a leaf, or two, that fill it', () => {
    expect(closing(gate, body(leaf([549, 168, 0], [555, 280, 208])), nothing)).toEqual([0]);
    const two = [leaf([549, 168, 0], [555, 224, 208]), leaf([549, 224, 0], [555, 280, 208])];
    expect(
      closing(
        gate,
        two.map((b, part) => ({ thing: 'd', part, brushes: [b] })),
        nothing,
      ),
    ).toEqual([0, 1]);
  });

  test('not one that leaves a slit, stands beside it, or is glass', () => {
    expect(closing(gate, body(leaf([549, 168, 1], [555, 280, 208])), nothing)).toEqual([]);
    expect(closing(gate, body(leaf([600, 168, 0], [606, 280, 208])), nothing)).toEqual([]);
    const glass = () => ({ name: 'g', width: 1, height: 1, texelsPerCm: 1, solidity: 'seeThrough' as const });
    expect(closing(gate, body(leaf([549, 168, 0], [555, 280, 208], 'glass')), glass)).toEqual([]);
    expect(closing(gate, body(leaf([549, 168, 0], [555, 280, 208], 'm', 'clip')), nothing)).toEqual([]);
  });

  test('the door that is made in the opening', () => {
    for (const leaves of ['one', 'two', 'upDown'] as const) {
      const { doc } = doorInOpening(gated(), 'door', { leaves, thickness: 6, material: 'oak-plank' });
      expect(closing(gate, bodiesOf(doc), nothing)).toHaveLength(leaves === 'one' ? 1 : 2);
    }
  });
});

describe('what is reached', () => {
  const doc = doorInOpening(gated(), 'door', {
    leaves: 'one',
    moves: 'slides',
    thickness: 6,
    material: 'oak-plank',
  }).doc;
  const { level } = buildLevel(doc, 'sketch');
  const [here, there, between] = [
    [100, 100, 50],
    [700, 100, 50],
    [552, 224, 50],
  ].map((p) => levelCell(level, p)) as [number, number, number];

  test('a closed gate hides the other room, an open one nothing, and in the gate both sides are seen', () => {
    expect(level.meta.gates).toMatchObject([{ areas: [0, 1], bodies: [0], cells: [between] }]);
    const drawn = (cell: number, closed: boolean) => {
      const out = new Uint8Array(level.surfaceMaterial.length);
      markVisible(
        level,
        cell,
        out,
        openAreas(level, cell, () => closed),
      );
      return out.reduce((n, x) => n + x, 0);
    };
    expect(drawn(here, true)).toBeLessThan(drawn(here, false) - 6);
    expect(drawn(between, true)).toBe(drawn(between, false));
    const out = new Uint8Array(level.surfaceMaterial.length);
    markVisible(
      level,
      here,
      out,
      openAreas(level, here, () => true),
    );
    out.forEach((seen, s) => {
      const cells = [...level.surfaceCell.subarray(level.surfaceCellFirst[s], level.surfaceCellFirst[s + 1])];
      if (cells.length === 1 && cells[0] === there) expect(seen).toBe(0);
      // The door itself and what lies in this room are drawn.
      if (cells.includes(here)) expect(seen).toBe(1);
    });
  });
});
