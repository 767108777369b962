import { changeEntity, changeSettings, placeEntity, removePicked } from '../../edit/index.ts';
import type { MapDocument } from '../../map/index.ts';
import { rotation } from '../../math/index.ts';
import { transformBrush } from '../../surface/index.ts';
import { litMaterials as materials, litRooms as scene } from '../../testing/lit-rooms.ts';
import { buildLevel, type BuildResult } from '../build.ts';
import { EVEN, glowOf, LUX_SCALE, OTHERS, unpackRgb9e5 } from '../lighting/index.ts';
import {
  surfaceBrushes,
  brushMark,
  layerColors,
  LevelFileError,
  lightMark,
  mixLayers,
  readLedger,
  writeLedger,
} from './index.ts';

const build = (doc: MapDocument): BuildResult => buildLevel(doc, 'sketch', {}, { materials, ledger: true });

/** The pages for a map as it is now, of what was built of another one. */
function pagesNow({ level, ledger }: BuildResult, doc: MapDocument, known = materials): Uint32Array {
  const { layers } = ledger!;
  const mix = mixLayers(level.meta.pages, new Uint32Array(level.lightTexels.length), layers);
  mix.shine(layerColors(layers, doc, known));
  return mix.texels;
}

/** By how much lists of packed light differ at most, against the brighter channel; darker than a thousandth of a lux counts as that. */
function difference(a: Uint32Array, b: Uint32Array): number {
  expect(a.length).toBe(b.length);
  let most = 0;
  for (let k = 0; k < a.length; k++) {
    const [p, q] = [unpackRgb9e5(a[k]!), unpackRgb9e5(b[k]!)];
    const top = Math.max(...p, ...q, 0.001 / LUX_SCALE);
    for (let c = 0; c < 3; c++) most = Math.max(most, Math.abs(p[c]! - q[c]!) / top);
  }
  return most;
}

test('the ledger adds up to the pages, and a change of strength or colour of any light to a build with that change', () => {
  const doc = scene();
  const built = build(doc);
  expect(built.ledger!.layers.map((l) => l.thing).sort()).toEqual(['a', 'b', 'c', 'sun', glowOf('glass'), EVEN].sort());
  expect(difference(pagesNow(built, doc), built.level.lightTexels)).toBeLessThan(0.01);
  let other = changeEntity(doc, 'a', { params: { candela: 20, color: '#60a0ff' } });
  other = changeEntity(other, 'sun', { params: { lux: 3000 } });
  other = changeSettings(other, { ambientLux: 9, ambientColor: '#80ff80' });
  other = removePicked(other, { entities: new Set(['b']) });
  expect(difference(pagesNow(built, other), build(other).level.lightTexels)).toBeLessThan(0.01);
  // The yardstick sees what was not followed.
  expect(difference(pagesNow(built, doc), build(other).level.lightTexels)).toBeGreaterThan(0.3);
  // What is dark when play begins is dark; lit it is as if it had been built so.
  const lit = changeEntity(doc, 'c', { params: { lit: true } });
  expect(difference(pagesNow(built, lit), build(lit).level.lightTexels)).toBeLessThan(0.01);
  // A glow can be dimmed as well.
  const dim = (name: string) => (name === 'glass' ? { ...materials(name)!, glow: 40 } : materials(name));
  const dimmed = buildLevel(doc, 'sketch', {}, { materials: dim }).level.lightTexels;
  expect(difference(pagesNow(built, doc, dim), dimmed)).toBeLessThan(0.01);
});

test('of more lamps than are kept apart the weaker are kept together, and nothing of them is lost', () => {
  let doc = scene();
  for (let i = 0; i < 70; i++) {
    doc = placeEntity(doc, 'pointLight', [40 + (i % 10) * 32, 60 + Math.floor(i / 10) * 24, 180], 0, `many${i}`);
    doc = changeEntity(doc, `many${i}`, { params: { candela: 1 + i } });
  }
  const built = build(doc);
  const names = built.ledger!.layers.map((l) => l.thing);
  expect(names).toContain(OTHERS);
  expect(names).toContain('many69');
  expect(names).not.toContain('many0');
  // What can be switched is apart however weak it is.
  expect(names).toContain('c');
  expect(difference(pagesNow(built, doc), built.level.lightTexels)).toBeLessThan(0.01);
});

test('a ledger in a file is the same; it knows whose each surface is, and what has changed since', () => {
  const doc = scene();
  const built = build(doc);
  const read = readLedger(writeLedger(built.ledger!));
  expect(read).toEqual(built.ledger);
  expect(() => readLedger(new Uint8Array(40))).toThrow(LevelFileError);
  built.structure.surfaces.forEach((s, i) => {
    const ids = [...surfaceBrushes(read, i)].map((k) => read.brushes[k]!.id);
    expect(ids).toContain(s.brush);
    expect(ids).toEqual(s.brushes);
  });
  // Flush walls of both rooms go on as one surface, which is of all of them.
  expect(built.structure.surfaces.some((s) => s.brushes.length > 1)).toBe(true);
  const mark = new Map(read.brushes.map((b) => [b.id, b.mark]));
  const pillar = doc.brushes.get('pillar')!;
  expect(mark.get('pillar')).toBe(brushMark(pillar));
  expect(brushMark(transformBrush(pillar, rotation(2, 0.01, [200, 160, 0]), true)!)).not.toBe(mark.get('pillar'));
  const marked = (of: MapDocument) => lightMark(of, of.entities.get('b')!);
  const before = read.layers.find((l) => l.thing === 'b')!.mark;
  expect(marked(changeEntity(doc, 'b', { params: { candela: 7, color: '#00ff00', lit: false } }))).toBe(before);
  expect(marked(changeEntity(doc, 'b', { params: { cone: 61 } }))).not.toBe(before);
  expect(marked(changeEntity(doc, 'b', { params: { target: 'a' } }))).not.toBe(before);
});
