import { boxSolid, partKey } from '../brush/index.ts';
import { addBrushes, placeEntity, removePicked } from '../edit/index.ts';
import { emptyMap, parseMap, writeMap, type MapDocument } from '../map/index.ts';
import { cross, dot, length, sub, type Vec3 } from '../math/index.ts';
import { loopArea } from '../play/index.ts';
import { dressSolid } from '../surface/index.ts';
import { litRooms } from '../testing/lit-rooms.ts';
import { oneRoom, twoRooms } from '../testing/rooms.ts';
import { buildLevel, STAGES } from './build.ts';
import { assertFits } from './lighting/lighting.ts';
import { levelCell, levelSees, markVisible, readLevel } from './level/index.ts';
import { probe } from './probe.ts';

const lit = (doc: MapDocument): MapDocument =>
  placeEntity(placeEntity(doc, 'spawn', [100, 100, 0], 0, 's'), 'pointLight', [200, 200, 200], 0, 'l');
const codes = (doc: MapDocument) => buildLevel(doc, 'sketch').report.messages.map((m) => m.code);

test('the same map gives the same bytes, also after it was written and read', () => {
  const doc = lit(twoRooms());
  const bytes = buildLevel(doc, 'review').bytes;
  expect(Buffer.compare(bytes, buildLevel(parseMap(writeMap(doc)), 'review').bytes)).toBe(0);
});

test('a level read from its file is the level that was written', () => {
  const { level, bytes } = buildLevel(lit(twoRooms()), 'sketch');
  expect(readLevel(bytes)).toEqual(level);
  expect(() => readLevel(bytes.subarray(0, 5000))).toThrow(expect.objectContaining({ code: 'level.unreadable' }));
  expect(() => readLevel(new Uint8Array(64))).toThrow(expect.objectContaining({ code: 'level.unreadable' }));
});

test('the level answers where a point is and what is drawn from there', () => {
  const { level } = buildLevel(lit(twoRooms()), 'review');
  const a = levelCell(level, [100, 100, 50]);
  const b = levelCell(level, [800, 100, 50]);
  expect(a).toBeGreaterThanOrEqual(0);
  expect(levelCell(level, [552, 40, 100])).toBe(-1);
  expect(levelCell(level, [1e6, 0, 0])).toBe(-2);
  expect(levelSees(level, a, b)).toBe(true);
  const drawn = new Uint8Array(level.surfaceMaterial.length);
  markVisible(level, a, drawn);
  expect(drawn.reduce((x, y) => x + y, 0)).toBe(20);
  for (let s = 0; s < drawn.length; s++)
    expect(level.surfaceIndexFirst[s + 1]! - level.surfaceIndexFirst[s]!).toBeGreaterThanOrEqual(6);
});

test('stages report their progress in order', () => {
  const seen: string[] = [];
  buildLevel(lit(oneRoom()), 'sketch', { progress: (stage) => seen.at(-1) !== stage && seen.push(stage) });
  expect(seen).toEqual([...STAGES]);
});

test('a leaking map still gives a level: lit, not culled, and it says so', () => {
  const wall = [...oneRoom().brushes.values()].find((b) => partKey(b.room!.part) === 'wall:0:0')!;
  const doc = lit(removePicked(oneRoom(), { brushes: new Set() }));
  const id = [...doc.brushes.values()].find((b) => partKey(b.room!.part) === partKey(wall.room!.part))!.id;
  const { report, level } = buildLevel(removePicked(doc, { brushes: new Set([id]) }), 'sketch');
  expect(report.sealed).toBe(false);
  expect(report.messages[0]).toMatchObject({
    severity: 'error',
    code: 'check.leak',
    entities: [expect.stringMatching(/^[sl]$/)],
  });
  expect(report.leak!.trail.length).toBeGreaterThan(2);
  expect(level.pvsWords).toHaveLength(0);
  expect(level.lightTexels.some((t) => t > 0)).toBe(true);
  const drawn = new Uint8Array(level.surfaceMaterial.length);
  markVisible(level, 0, drawn);
  expect(drawn.every((d) => d === 1)).toBe(true);
});

describe('maps of nothing much build without a crash and say what is missing', () => {
  test('empty', () => expect(codes(emptyMap('t'))).toEqual(['build.empty', 'check.noSpawn']));
  test('one brush', () =>
    expect(
      codes(addBrushes(emptyMap('t'), [dressSolid(boxSolid({ min: [0, 0, 0], max: [64, 64, 64] }), 'b', 'm')])),
    ).toEqual(['check.noSpawn', 'check.noLight']));
  test('only detail', () =>
    expect(
      codes(
        addBrushes(emptyMap('t'), [
          dressSolid(boxSolid({ min: [0, 0, 0], max: [64, 64, 64] }), 'b', 'm', { role: 'detail' }),
        ]),
      ),
    ).toContain('build.noStructure'));
  test('no light', () =>
    expect(codes(placeEntity(oneRoom(), 'spawn', [100, 100, 0]))).toEqual(['check.noLight', 'build.sealed']));
  test('a lamp in a wall', () =>
    expect(codes(placeEntity(lit(oneRoom()), 'pointLight', [40, 24, 100]))).toContain('check.lightPlace'));
});

test('a probe tells open from solid and void, what is seen, and the light', () => {
  const doc = lit(twoRooms());
  const answers = probe(doc, buildLevel(doc, 'review'), [
    { at: [200, 200, 0], normal: [0, 0, 1] },
    { at: [552, 40, 100] },
    { at: [-500, 0, 0] },
  ]);
  expect(answers.map((a) => a.inside)).toEqual(['open', 'solid', 'void']);
  expect(answers[0]!.sees).toHaveLength(3);
  const [r, g, b] = answers[0]!.illuminance!;
  // 300 cd from two metres above, and 4 lux of ambient light.
  expect(0.2126 * r + 0.7152 * g + 0.0722 * b).toBeCloseTo(300 / 4 + 4, 1);
  expect(answers[1]!.illuminance).toBeUndefined();
});

test('a stray brush far away changes neither the size of a level nor what is in it, wherever it lies', () => {
  const home = placeEntity(twoRooms(), 'spawn', [100, 224, 0], 0, 's');
  const without = buildLevel(home, 'review');
  for (const at of [
    [40_000, 0, 0],
    [40_000, -40_000, 40_000],
    [-90_000, 90_000, -90_000],
  ] as const) {
    const stray = dressSolid(boxSolid({ min: at, max: [at[0] + 64, at[1] + 64, at[2] + 64] }), 'stray', 'oak-plank');
    const built = buildLevel(addBrushes(home, [stray]), 'review');
    expect(built.report.sealed).toBe(true);
    expect(built.report.counts.cells).toBe(without.report.counts.cells);
    expect(built.level.pvsWords).toEqual(without.level.pvsWords);
    expect(built.level.position).toEqual(without.level.position);
    expect(built.level.lightTexels).toEqual(without.level.lightTexels);
    // Its own collider, and a few leaves of void between.
    expect(built.bytes.length).toBeLessThan(without.bytes.length + 4_000);
    expect(built.structure.blocks.blocks.length).toBeLessThanOrEqual(64);
  }
});

test('the void and what lies beyond it have no cells; solids and rooms are told apart', () => {
  const { level } = buildLevel(placeEntity(twoRooms(), 'spawn', [100, 224, 0], 0, 's'), 'sketch');
  expect(levelCell(level, [100, 224, 100])).toBeGreaterThanOrEqual(0);
  expect(levelCell(level, [100, 224, -8])).toBe(-1);
  expect(levelCell(level, [100, 600, 100])).toBe(-2);
  expect(levelCell(level, [1e6, 0, 0])).toBe(-2);
  expect(level.cellBounds.length / 6).toBe(level.meta.cells);
});

test('the triangles of each surface cover it once', () => {
  const { level, structure } = buildLevel(lit(twoRooms()), 'sketch');
  const corner = (k: number): Vec3 => [0, 1, 2].map((c) => level.position[level.index[k]! * 3 + c]!) as unknown as Vec3;
  structure.surfaces.forEach((surface, s) => {
    let area = 0;
    for (let k = level.surfaceIndexFirst[s]!; k < level.surfaceIndexFirst[s + 1]!; k += 3) {
      const [a, b, c] = [corner(k), corner(k + 1), corner(k + 2)];
      area += dot(cross(sub(b, a), sub(c, a)), surface.plane.normal) / 2;
      expect(length(cross(sub(b, a), sub(c, a)))).toBeGreaterThan(0);
    }
    expect(area).toBeCloseTo(loopArea(surface.winding), 1);
  });
  expect(structure.surfaces.some((s) => s.winding.length > 4)).toBe(true);
});

test('a light that reaches nothing and a glow that nobody sees are told, with their places; others are not', () => {
  const glass = { name: 'glass', width: 64, height: 64, texelsPerCm: 2, solidity: 'solid' as const, glow: 90 };
  const materials = (name: string) => (name === 'glass' ? glass : undefined);
  const block = (id: string, min: Vec3, size: number) =>
    dressSolid(boxSolid({ min, max: [min[0] + size, min[1] + size, min[2] + size] }), id, 'glass', { role: 'detail' });
  // One that glows in the room, one in its floor; a lamp in the open, one in a block, and a sun.
  let doc = addBrushes(lit(oneRoom()), [block('open', [60, 60, 40], 30), block('within', [64, 64, -12], 8)]);
  doc = placeEntity(doc, 'spotLight', [150, 150, 150], 0, 'spot');
  doc = placeEntity(doc, 'pointLight', [75, 75, 55], 0, 'stuck');
  doc = placeEntity(doc, 'sun', [200, 200, 200], 0, 'sun');
  const { messages } = buildLevel(doc, 'sketch', {}, { materials }).report;
  const of = (code: string) => messages.filter((m) => m.code === code);
  // The sun comes into no room without a sky; the lamp in the block is told of by the check of its place, once.
  expect(of('build.lightLost').map((m) => m.entities)).toEqual([['sun']]);
  expect(of('check.lightPlace').map((m) => m.entities)).toEqual([['stuck']]);
  expect(of('build.glowHidden').map((m) => [m.brushes, m.at])).toEqual([[['within'], [68, 68, -8]]]);
});

test('a lightmap that would be too large is refused with its size and what fits', () => {
  expect(() => assertFits(1_000_000, 8)).not.toThrow();
  expect(() => assertFits(96_000_000, 8)).toThrow(
    expect.objectContaining({
      code: 'build.tooFine',
      message: expect.stringMatching(/96 million luxels, about 11\.5 GB\. Luxels of 16 cm/) as string,
    }),
  );
  // What is said to fit does.
  expect(() => assertFits(96_000_000 / 4, 16)).not.toThrow();
  // And a build asks: luxels of a centimetre on a floor of 80 by 80 m are 64 million.
  const fine = (doc: MapDocument) => ({
    ...doc,
    brushes: new Map(
      [...doc.brushes].map(([id, b]) => [id, { ...b, faces: b.faces.map((f) => ({ ...f, grain: 0.125 })) }]),
    ),
  });
  const slab = (id: string, min: Vec3, max: Vec3) => dressSolid(boxSolid({ min, max }), id, 'm');
  const big = addBrushes(emptyMap('big'), [
    slab('floor', [0, 0, -16], [8000, 8000, 0]),
    slab('ceiling', [0, 0, 400], [8000, 8000, 416]),
    slab('w', [-16, 0, 0], [0, 8000, 400]),
    slab('e', [8000, 0, 0], [8016, 8000, 400]),
    slab('s', [0, -16, 0], [8000, 0, 400]),
    slab('n', [0, 8000, 0], [8000, 8016, 400]),
  ]);
  expect(() => buildLevel(fine(lit(big)), 'final')).toThrow(expect.objectContaining({ code: 'build.tooFine' }));
});

test('a report tells what light takes by material and by what it is part of: together all luxels', () => {
  const { report, lighting } = buildLevel(litRooms(), 'sketch', {}, { direct: true });
  const sum = (part: 'structure' | 'detail' | 'moving') => report.light!.reduce((n, share) => n + share[part], 0);
  expect(sum('structure') + sum('detail') + sum('moving')).toBe(lighting.luxels);
  expect(sum('moving')).toBe(0);
  const brick = report.light!.find((s) => s.material === 'brick')!;
  expect([brick.structure, brick.detail > 0]).toEqual([0, true]);
  const all = report.light!.map((s) => s.structure + s.detail + s.moving);
  expect(all).toEqual([...all].sort((a, b) => b - a));
});
