import { readFileSync } from 'node:fs';
import { buildStructure, buildVisibility, canSee, seedsOf, parseMap, stillBrushes, locate, type Brush } from '@yesca/core';
import * as S from '../packages/core/src/testing/sight.ts';
import { clearLines } from '../packages/core/src/testing/lines.ts';
const demo = (name: string) => { const doc = parseMap(readFileSync(`packages/stock/assets/maps/${name}.yesca.json`, 'utf8')); return { name, brushes: stillBrushes(doc), seeds: seedsOf(doc) }; };
const sc = (s: S.SightScene) => ({ name: s.name, brushes: s.brushes, seeds: [{ id: 's', at: s.at }] });
const all: Record<string, () => { name: string; brushes: readonly Brush[]; seeds: any }> = {
  first: () => demo('first-room'), tide: () => demo('halyard-tidemill'),
  r8: () => sc(S.offices(8, true)), r11: () => sc(S.offices(11, true)), o8: () => sc(S.offices(8)), o11: () => sc(S.offices(11)), o16: () => sc(S.offices(16)), o22: () => sc(S.offices(22)), o32: () => sc(S.offices(32)),
  box: () => sc(S.turnedBoxes(32)), box12: () => sc(S.turnedBoxes(12)), bri: () => sc(S.bridges(41)), bri12: () => sc(S.bridges(12)), col: () => sc(S.columns(5)), spi: () => sc(S.spiralTower(4)), sla: () => sc(S.slantedWalls(8)),
  c1: () => sc(S.cracks(1)), c01: () => sc(S.cracks(0.1)), c003: () => sc(S.cracks(0.03)), near: () => sc(S.nearlyTouching()), hint: () => sc(S.hinted(250)),
  far: () => sc(S.movedScene(S.offices(4), [30000, -20000, 500], 0)), turn: () => sc(S.movedScene(S.offices(4), [30000, -20000, 500], 17)),
};
const cheap = process.env.CHEAP === '1';
const lines = +(process.env.LINES ?? 100000);
for (const name of process.argv.slice(2)) {
  const { name: title, brushes, seeds } = all[name]!();
  let t = performance.now();
  const structure = buildStructure(brushes, seeds);
  const ts = performance.now() - t;
  const inside = structure.cells.filter((c) => c.inside).length;
  const portals = structure.portals.filter((p) => structure.cells[p.a]!.inside && structure.cells[p.b]!.inside).length;
  process.stdout.write(`${name} "${title}" ${brushes.length} brushes ${structure.leak ? 'LEAK ' : ''}${structure.misplaced.length ? 'MISPLACED ' : ''}structure ${ts.toFixed(0)} ms, cells ${structure.cells.length} inside ${inside} portals ${portals}`);
  if (process.env.NOVIS) { console.log(); continue; }
  t = performance.now();
  const v = buildVisibility(structure, { cheap, solids: brushes });
  const tv = performance.now() - t;
  let pairs = 0;
  for (const w of v.rows) { let x = w; while (x) { x &= x - 1; pairs++; } }
  process.stdout.write(`; proven ${(100 * (v.witnesses.pairs.length + inside) / pairs).toFixed(1)} %, vis ${tv.toFixed(0)} ms fellBack ${v.fellBack} seen/cell ${(pairs / inside).toFixed(1)}`);
  const seen = new Set<number>(); let missed = 0, clear = 0;
  const add = (a: number, b: number) => { seen.add(a * structure.cells.length + b); seen.add(b * structure.cells.length + a); };
  for (let salt = 0; salt * 100000 < lines; salt++) for (const l of clearLines(brushes, structure, Math.min(lines, 100000), salt * 1000)) { clear++; add(l.from, l.to); if (!canSee(v, l.from, l.to)) { if (!missed) console.log('MISS', l); missed++; } }
  structure.cells.forEach((c, i) => { if (c.inside) add(i, i); });
  console.log(`; clear ${clear} missed ${missed} ratio ${(pairs / seen.size).toFixed(3)}`);
}
