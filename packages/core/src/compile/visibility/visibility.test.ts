import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { addBrushes, addRoom, openDoorway } from '../../edit/index.ts';
import { boxSolid } from '../../brush/index.ts';
import { emptyMap, parseMap, type MapDocument } from '../../map/index.ts';
import { hashRandom, type Vec3 } from '../../math/index.ts';
import { dressSolid } from '../../surface/index.ts';
import { DRESS, rectangle, roomSpec, twoRooms } from '../../testing/rooms.ts';
import { seedsOf } from '../build.ts';
import { anyHit, makeTracer } from '../tracing/index.ts';
import { buildStructure, locate, type Structure } from '../structure/index.ts';
import { doDueOn, serveJobs, type Thread } from '../../jobs/index.ts';
import { clearLines } from '../../testing/lines.ts';
import {
  bridges,
  columns,
  cracks,
  hinted,
  movedScene,
  nearlyTouching,
  offices,
  slantedWalls,
  spiralTower,
  turnedBoxes,
} from '../../testing/sight.ts';
import { Beam, PolygonClip, type Flat } from './beam.ts';
import { SIGHT_JOBS } from './index.ts';
import { buildVisibility, canSee, provenShare, seeLevel, type Visibility } from './visibility.ts';
import { pointIn } from './witness.ts';

const demo = (name: string): MapDocument =>
  parseMap(
    readFileSync(fileURLToPath(new URL(`../../../../stock/assets/maps/${name}.yesca.json`, import.meta.url)), 'utf8'),
  );

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
      const clear = clearLines([...doc.brushes.values()], structure, lines);
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
    const clear = clearLines([...doc.brushes.values()], structure, 40_000);
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
    expect(cheap.fellBack).toBe(0);
  });

  test('a cancelled stage stops', () => {
    const { structure } = visibilityOf(twoRooms());
    expect(() => buildVisibility(structure, { cheap: false }, { signal: { aborted: true } })).toThrow(
      expect.objectContaining({ code: 'build.cancelled' }),
    );
  });
});

describe('a beam', () => {
  const square = (x: number, half: number, y = 0): Flat => ({
    points: Float64Array.of(x, y - half, -half, x, y + half, -half, x, y + half, half, x, y - half, half),
    at: 0,
    corners: 4,
  });
  const along = Float64Array.of(1, 0, 0, 0);

  test('through a square hole is the pyramid that similar triangles give', () => {
    // A source of half size 10 at x = 0 through a hole of half size 10 at x = 100 lights half size 30 at x = 200.
    const beam = new Beam(64);
    const clip = new PolygonClip(64);
    beam.aim(square(0, 10), square(100, 10), along, 0, 0);
    clip.load(square(200, 500));
    expect(beam.shine(clip)).toBe(true);
    const reach = Math.max(...Array.from({ length: clip.corners }, (_, i) => Math.abs(clip.points[i * 3 + 1]!)));
    expect(reach).toBeGreaterThanOrEqual(30);
    expect(reach).toBeLessThan(30.2);
    clip.load(square(200, 5, 60));
    expect(beam.shine(clip)).toBe(false);
  });

  test('backwards is the same pyramid: what a far hole sees of the source through a near one', () => {
    const beam = new Beam(64);
    const clip = new PolygonClip(64);
    // From half size 5 at x = 200 through half size 10 at x = 100: half size 25 at x = 0.
    beam.aimBack(square(200, 5), square(100, 10), along, 0, 0);
    clip.load(square(0, 500));
    expect(beam.shine(clip)).toBe(true);
    const reach = Math.max(...Array.from({ length: clip.corners }, (_, i) => Math.abs(clip.points[i * 3 + 1]!)));
    expect(reach).toBeGreaterThanOrEqual(25);
    expect(reach).toBeLessThan(25.2);
  });

  test('never cuts away a line that passes both holes, wherever they are and however they turn', () => {
    const polygon = fc.record({
      n: fc.integer({ min: 3, max: 7 }),
      r: fc.double({ min: 0.1, max: 80, noNaN: true }),
      y: fc.integer({ min: -90, max: 90 }),
      z: fc.integer({ min: -90, max: 90 }),
      turn: fc.integer({ min: 0, max: 89 }),
    });
    fc.assert(
      fc.property(
        polygon,
        polygon,
        fc.integer({ min: 2, max: 300 }),
        fc.integer({ min: 0, max: 1e6 }),
        (s, p, gap, salt) => {
          const flat = (x: number, { n, r, y, z, turn }: typeof s): Flat => {
            const corners = Array.from({ length: n }, (_, i) => {
              const a = ((i / n) * 360 + turn) * (Math.PI / 180);
              return [x, y + r * Math.cos(a), z + r * Math.sin(a)];
            });
            return { points: Float64Array.from(corners.flat()), at: 0, corners: n };
          };
          const [source, pass] = [flat(0, s), flat(gap, p)];
          const beam = new Beam(64);
          const clip = new PolygonClip(64);
          beam.aim(source, pass, along, 0, 0);
          for (let k = 0; k < 12; k++) {
            const [a, b] = [pointIn(source, k, salt), pointIn(pass, k, salt + 1)];
            const t = 1 + hashRandom(salt, k) * 4;
            const [x, y, z] = a.map((c, i) => c + (b[i]! - c) * t) as [number, number, number];
            // A speck round where the line goes on is left over.
            const speck = flat(x, { n: 3, r: 0.001, y: 0, z: 0, turn: 0 });
            for (let i = 0; i < 9; i += 3) {
              speck.points[i + 1]! += y;
              speck.points[i + 2]! += z;
            }
            clip.load(speck);
            expect(beam.shine(clip)).toBe(true);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('in hostile places', () => {
  test.each(
    [
      offices(4),
      offices(3, true),
      turnedBoxes(10),
      bridges(8),
      columns(3),
      spiralTower(1),
      slantedWalls(6),
      cracks(1),
      cracks(0.1),
      cracks(0.03),
      nearlyTouching(),
      hinted(40),
      movedScene(offices(3), [30_000, -21_000, 700], 17),
      movedScene(turnedBoxes(6), [-28_000, 30_000, 90], 63),
    ].map((scene) => [scene.name, scene] as const),
  )('no clear line is missed: %s', (_, { brushes, at }) => {
    const structure = buildStructure(brushes, [{ id: 's', at }]);
    expect(structure.leak).toBeNull();
    expect(structure.misplaced).toEqual([]);
    const clear = clearLines(brushes, structure, 12_000);
    expect(clear.length).toBeGreaterThan(1000);
    const full = buildVisibility(structure, { cheap: false, solids: brushes });
    for (const v of [full, buildVisibility(structure, { cheap: true })])
      expect(clear.filter(({ from, to }) => !canSee(v, from, to))).toEqual([]);
    // What is called visible and what a line proves: no more than 1.3 of what is really seen.
    expect(provenShare(full)).toBeGreaterThan(1 / 1.3);
  });

  test('each witness is a clear line between the cells it speaks for', () => {
    const { brushes, at } = offices(4);
    const structure = buildStructure(brushes, [{ id: 's', at }]);
    const v = buildVisibility(structure, { cheap: false, solids: brushes });
    const tracer = makeTracer(brushes.filter((b) => b.role === 'structure'));
    const { pairs, lines } = v.witnesses;
    expect(pairs.length).toBeGreaterThan(400);
    const rowAt = (p: readonly number[]) => {
      const cell = locate(structure.blocks, p as unknown as Vec3);
      return typeof cell === 'number' ? v.rowOf[cell]! : -1;
    };
    let strange = 0;
    for (let i = 0; i < pairs.length / 2; i++) {
      const [a, b] = [Array.from(lines.subarray(i * 6, i * 6 + 3)), Array.from(lines.subarray(i * 6 + 3, i * 6 + 6))];
      expect(anyHit(tracer, a[0]!, a[1]!, a[2]!, b[0]! - a[0]!, b[1]! - a[1]!, b[2]! - a[2]!, 1)).toBe(false);
      if (rowAt(a) !== pairs[i * 2] || rowAt(b) !== pairs[i * 2 + 1]) strange++;
    }
    // A line along a wall may end where three cells meet.
    expect(strange).toBeLessThan(pairs.length / 2 / 50);
  });
});

test('two threads give the same bytes as one', async () => {
  const { brushes, at } = turnedBoxes(8);
  const structure = buildStructure(brushes, [{ id: 's', at }]);
  const here = buildVisibility(structure, { cheap: false, solids: brushes });
  /** A thread of this one: what it is told and tells is copied, later. */
  const open = (): Thread => {
    let hear: (message: never) => void = () => undefined;
    let mine: (message: never) => void = () => undefined;
    const post = (to: () => (message: never) => void, message: unknown) =>
      void setTimeout(() => to()(structuredClone(message) as never));
    serveJobs(SIGHT_JOBS, { send: (m) => post(() => mine, m), hear: (l) => void (hear = l) });
    return {
      send: (m) => post(() => hear, m),
      hear: (l) => void (mine = l),
      lost: () => undefined,
      end: () => undefined,
    };
  };
  expect(await doDueOn(open, 2, seeLevel(structure, { cheap: false, solids: brushes }))).toEqual(here);
});
