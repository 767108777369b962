import {
  addBrushes,
  bodyIn,
  buildLevel,
  buildStructure,
  buildVisibility,
  canSee,
  countBits,
  doDueOn,
  emptyMap,
  keepThreads,
  parseMap,
  placeEntity,
  placesOf,
  provenShare,
  runChecks,
  seedsOf,
  seeLevel,
  stillBrushes,
  type Brush,
  type Seed,
  type Structure,
} from '@yesca/core';
import { readFileSync } from 'node:fs';
import { openThread } from '../apps/server/src/workers/threads.ts';
import { clearLines } from '../packages/core/src/testing/lines.ts';
import { best, type Row } from './table.ts';
import * as scenes from '../packages/core/src/testing/sight.ts';

const timed = <T>(run: () => T): [T, number] => {
  const began = performance.now();
  const made = run();
  return [made, performance.now() - began];
};
const ms = (t: number): string => `${t < 10 ? t.toFixed(1) : Math.round(t)} ms`;
const many = (n: number): string => n.toLocaleString('en');

/** How the time of stages grows with the number of brushes, as the exponent of a power: rooms with staggered doorways. */
export function measureGrowth(): Row[] {
  const measure = (n: number) => {
    const { brushes, at } = scenes.offices(n);
    const doc = placeEntity(addBrushes(emptyMap('Bench'), brushes), 'spawn', [at[0], at[1], 0]);
    const structure = buildStructure(brushes, seedsOf(doc));
    const context = { placeOf: placesOf(structure), body: bodyIn(doc) };
    return {
      count: brushes.length,
      structure: best(() => buildStructure(brushes, seedsOf(doc)), 2),
      visibility: best(() => buildVisibility(structure, { cheap: false, solids: brushes }), 2),
      checks: best(() => runChecks(doc, context), 2),
    };
  };
  measure(5);
  const [small, large] = [measure(11), measure(35)];
  return (['structure', 'visibility', 'checks'] as const).map((stage) => ({
    work: `growth of ${stage}, rooms with staggered doorways, ${many(small.count)} to ${many(large.count)} brushes`,
    ours: `${ms(small[stage])} → ${ms(large[stage])}: exponent ${(Math.log(large[stage] / small[stage]) / Math.log(large.count / small.count)).toFixed(2)}`,
    wanted: '≤ 1.2',
  }));
}

interface Place {
  readonly name: string;
  readonly brushes: readonly Brush[];
  readonly seeds: readonly Seed[];
}

const demo = (name: string, title: string): Place => {
  const file = new URL(`../packages/stock/assets/maps/${name}.yesca.json`, import.meta.url);
  const doc = parseMap(readFileSync(file, 'utf8'));
  return { name: title, brushes: stillBrushes(doc), seeds: seedsOf(doc) };
};
const made = ({ name, brushes, at }: scenes.SightScene): Place => ({ name, brushes, seeds: [{ id: 's', at }] });
const far = [30_000, -21_000, 700] as const;

/** Places the proof is made in, and for those that are to be quick how long they may take, s. */
const places: readonly (readonly [Place, number?])[] = [
  [demo('first-room', 'First Room')],
  [demo('halyard-tidemill', 'the Tidemill')],
  [made(scenes.offices(11))],
  [made(scenes.offices(11, true))],
  [made(scenes.turnedBoxes(32)), 5],
  [made(scenes.bridges(41)), 5],
  [made(scenes.columns(5)), 5],
  [made(scenes.spiralTower(4))],
  [made(scenes.slantedWalls(8))],
  [made(scenes.cracks(1))],
  [made(scenes.cracks(0.1))],
  [made(scenes.cracks(0.03))],
  [made(scenes.nearlyTouching())],
  [made(scenes.hinted(250))],
  [made(scenes.movedScene(scenes.offices(4), far, 17))],
];

const rowsOf = (structure: Structure) => structure.cells.filter((c) => c.inside).length;

/** Of each place: cells, times, how much of what is called visible a line proves, and sampled lines of sight, none of which may be missed. */
export function measureProof(lines: number): Row[] {
  return places.map(([{ name, brushes, seeds }, within]) => {
    const structure = buildStructure(brushes, seeds);
    const [full, time] = timed(() => buildVisibility(structure, { cheap: false, solids: brushes }));
    const [cheap, quick] = timed(() => buildVisibility(structure, { cheap: true }));
    let [clear, missed] = [0, 0];
    const parts = Math.ceil(lines / 100_000);
    for (let part = 0; part < parts; part++)
      for (const { from, to } of clearLines(brushes, structure, lines / parts, part * 1000)) {
        clear++;
        if (!canSee(full, from, to) || !canSee(cheap, from, to)) missed++;
      }
    const cells = rowsOf(structure);
    const seen = countBits(full.rows) / Math.max(1, cells);
    return {
      work: `sight in ${name}: ${many(brushes.length)} brushes, ${many(cells)} cells`,
      ours: `${ms(time)}, Sketch ${ms(quick)}; ${seen.toFixed(1)} seen a cell, ${(1 / Math.max(1e-9, provenShare(full))).toFixed(2)} × what lines prove; ${many(missed)} of ${many(clear)} clear lines missed`,
      wanted: `0 missed, ≤ ${name.startsWith('the') || name.startsWith('First') ? 1.15 : 1.3} ×${within ? `, ≤ ${within} s, Sketch ≤ 2 s` : ''}`,
    };
  });
}

/** Visibility on two threads beside one, the same bytes. */
export async function measureThreads(): Promise<{ one: number; two: number }> {
  const { open } = keepThreads(() => openThread(new URL('../apps/server/dist/shards.js', import.meta.url)));
  const { brushes, at } = scenes.turnedBoxes(32);
  const structure = buildStructure(brushes, [{ id: 's', at }]);
  const run = async (count: number) => {
    const began = performance.now();
    const { rows } = await doDueOn(open, count, seeLevel(structure, { cheap: false, solids: brushes }));
    return [performance.now() - began, rows] as const;
  };
  let [one, two] = [Infinity, Infinity];
  for (let turn = 0; turn < 3; turn++) {
    const [alone, a] = await run(1);
    const [together, b] = await run(2);
    if (Buffer.compare(Buffer.from(a.buffer), Buffer.from(b.buffer)) !== 0) throw new Error('the threads disagree');
    [one, two] = [Math.min(one, alone), Math.min(two, together)];
  }
  return { one, two };
}

/** What a level takes: the same room without and with a brush that strayed far away. */
export function measureStray(): Row {
  const { brushes, at } = scenes.offices(2);
  const doc = placeEntity(addBrushes(emptyMap('Bench'), brushes), 'spawn', [at[0], at[1], 0]);
  const stray = scenes.movedScene({ name: '', brushes: [brushes[0]!], at }, [40_000, 0, 0], 0).brushes[0]!;
  const [near, far] = [doc, addBrushes(doc, [{ ...stray, id: 'stray' }])].map((d) =>
    timed(() => buildLevel(d, 'sketch').bytes.length),
  ) as [[number, number], [number, number]];
  return {
    work: 'a Sketch of four rooms, and with a brush 40,000 cm away',
    ours: `${many(near[0])} bytes in ${ms(near[1])}; ${many(far[0])} bytes in ${ms(far[1])}`,
    wanted: 'the same',
  };
}
