import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { addBrushes, addRoom, openDoorway } from '../../edit/index.ts';
import { boxSolid } from '../../brush/index.ts';
import { emptyMap, parseMap, type MapDocument } from '../../map/index.ts';
import { hashRandom, sub, type Vec3 } from '../../math/index.ts';
import { dressSolid } from '../../surface/index.ts';
import { DRESS, rectangle, roomSpec, twoRooms } from '../../testing/rooms.ts';
import { seedsOf } from '../build.ts';
import { anyHit, makeTracer } from '../tracing/index.ts';
import { buildStructure, locate, type Structure } from '../structure/index.ts';
import { clipToBeam } from './separators.ts';
import { buildVisibility, canSee, type Visibility } from './visibility.ts';

const demo = (name: string): MapDocument =>
  parseMap(
    readFileSync(fileURLToPath(new URL(`../../../../stock/assets/maps/${name}.yesca.json`, import.meta.url)), 'utf8'),
  );

/** Random clear lines between points of the inside: which cells they join. */
function sampleLines(
  doc: MapDocument,
  structure: Structure,
  lines: number,
): { from: number; to: number; a: Vec3; b: Vec3 }[] {
  const tracer = makeTracer([...doc.brushes.values()].filter((b) => b.role === 'structure'));
  const cells = structure.cells.map((c, i) => ({ ...c, i })).filter((c) => c.inside);
  const point = (k: number, salt: number): { p: Vec3; cell: number } => {
    const { bounds } = cells[Math.floor(hashRandom(k, salt) * cells.length)]!;
    const p = [0, 1, 2].map(
      (i) => bounds.min[i]! + (bounds.max[i]! - bounds.min[i]!) * (0.001 + 0.998 * hashRandom(k, salt, i + 1)),
    ) as unknown as Vec3;
    const cell = locate(structure.blocks, p);
    return { p, cell: typeof cell === 'number' && structure.cells[cell]!.inside ? cell : -1 };
  };
  const out: { from: number; to: number; a: Vec3; b: Vec3 }[] = [];
  for (let k = 0; k < lines; k++) {
    const a = point(k, 11);
    const b = point(k, 29);
    if (a.cell < 0 || b.cell < 0) continue;
    const d = sub(b.p, a.p);
    if (!anyHit(tracer, ...a.p, ...d, 1)) out.push({ from: a.cell, to: b.cell, a: a.p, b: b.p });
  }
  return out;
}

function visibilityOf(doc: MapDocument, cheap = false): { structure: Structure; visibility: Visibility } {
  const seeds = seedsOf(doc);
  const structure = buildStructure(doc.brushes.values(), seeds.length ? seeds : [{ id: 's', at: [100, 100, 10] }]);
  expect(structure.leak).toBeNull();
  return { structure, visibility: buildVisibility(structure, { cheap }) };
}

describe('no clear line is missed', () => {
  test.each([
    ['first-room', 20_000],
    ['halyard-tidemill', 60_000],
  ])('in %s, over %i sampled lines', (name, lines) => {
    const doc = demo(name);
    for (const cheap of [false, true]) {
      const { structure, visibility } = visibilityOf(doc, cheap);
      const clear = sampleLines(doc, structure, lines);
      expect(clear.length).toBeGreaterThan(lines / 20);
      expect(clear.filter(({ from, to }) => !canSee(visibility, from, to))).toEqual([]);
    }
  });

  test('in a maze of pillars', () => {
    let doc = addRoom(emptyMap('pillars'), roomSpec(rectangle(10, 10, 960, 960), { ceiling: 200 }), DRESS);
    for (let i = 0; i < 9; i++) {
      const [x, y] = [100 + (i % 3) * 280, 120 + Math.floor(i / 3) * 270];
      doc = addBrushes(doc, [
        dressSolid(boxSolid({ min: [x, y, 0], max: [x + 90 + i * 7, y + 140 - i * 9, 200] }), `p${i}`, 'm'),
      ]);
    }
    const { structure, visibility } = visibilityOf({ ...doc, entities: new Map() }, false);
    const clear = sampleLines(doc, structure, 40_000);
    expect(clear.length).toBeGreaterThan(10_000);
    expect(clear.filter(({ from, to }) => !canSee(visibility, from, to))).toEqual([]);
  });
});

describe('what cannot be seen is hidden', () => {
  /**
   * Three rooms round a corner, A – B – C. The doorways are 40 wide in walls 48 thick: through the first a line leans at most
   * 40/48 to the north, through the second at least 48/40, so no line passes both.
   */
  const corner = (): MapDocument => {
    const room = (x: number, y: number) => roomSpec(rectangle(x, y, 240, 240), { wall: 48 });
    let doc = addRoom(emptyMap('corner'), room(64, 64), DRESS, 'a');
    doc = addRoom(doc, room(352, 64), DRESS, 'b');
    doc = addRoom(doc, room(352, 352), DRESS, 'c');
    doc = openDoorway(doc, 'a', 'b', { width: 40, height: 200, sill: 0, at: 40 });
    return openDoorway(doc, 'b', 'c', { width: 40, height: 200, sill: 0, at: 40 });
  };

  test('a room round the corner whose doorways do not line up', () => {
    const { structure, visibility } = visibilityOf(corner());
    const at = (p: Vec3) => locate(structure.blocks, p) as number;
    const [a, b, c] = [at([100, 150, 50]), at([400, 150, 50]), at([400, 450, 50])];
    expect(canSee(visibility, a, b)).toBe(true);
    expect(canSee(visibility, b, c)).toBe(true);
    expect(canSee(visibility, a, c)).toBe(false);
    expect(canSee(visibility, c, a)).toBe(false);
  });

  test('the relation is symmetric and everything sees itself', () => {
    const { structure, visibility } = visibilityOf(demo('halyard-tidemill'));
    structure.cells.forEach((cell, a) => {
      if (!cell.inside) return;
      expect(canSee(visibility, a, a)).toBe(true);
      structure.cells.forEach((_, b) => expect(canSee(visibility, a, b)).toBe(canSee(visibility, b, a)));
    });
  });

  test('the full flow never sees more than the cheap bound, and a portal out of budget falls back to it', () => {
    const { structure, visibility } = visibilityOf(corner());
    const cheap = buildVisibility(structure, { cheap: true });
    visibility.rows.forEach((w, i) => expect(w & ~cheap.rows[i]!).toBe(0));
    const poor = buildVisibility(structure, { cheap: false, budget: 0 });
    expect(poor.fellBack).toBeGreaterThan(0);
    expect([...poor.rows]).toEqual([...cheap.rows]);
  });

  test('a cancelled stage stops', () => {
    const { structure } = visibilityOf(twoRooms());
    expect(() => buildVisibility(structure, { cheap: false }, { signal: { aborted: true } })).toThrow(
      expect.objectContaining({ code: 'build.cancelled' }),
    );
  });
});

test('the beam through a square hole is the pyramid that similar triangles give', () => {
  const square = (x: number, half: number): Vec3[] => [
    [x, -half, -half],
    [x, half, -half],
    [x, half, half],
    [x, -half, half],
  ];
  // A source of half size 10 at x = 0 through a hole of half size 10 at x = 100 lights half size 30 at x = 200.
  const clipped = clipToBeam(square(0, 10), square(100, 10), square(200, 500))!;
  const reach = Math.max(...clipped.map((p) => Math.abs(p[1])));
  expect(reach).toBeGreaterThanOrEqual(30);
  expect(reach).toBeLessThan(30.2);
  expect(
    clipToBeam(
      square(0, 10),
      square(100, 10),
      square(200, 5).map(([x, y, z]): Vec3 => [x, y + 60, z]),
    ),
  ).toBeNull();
});
