import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { MATERIALS } from '@yesca/stock';
import { openThread } from '../apps/server/src/workers/threads.ts';
import {
  buildLevel,
  buildLevelOn,
  keepThreads,
  parseMap,
  transformPicked,
  translation,
  type KeptResults,
} from '@yesca/core';
import { note } from './table.ts';

/** Lighting the Tidemill on two threads beside one, in turns, since the machine wavers; the bytes have to be the same. */
export async function threads(): Promise<void> {
  const built = new URL('../apps/server/dist/shards.js', import.meta.url);
  const doc = parseMap(
    readFileSync(new URL('../packages/stock/assets/maps/halyard-tidemill.yesca.json', import.meta.url), 'utf8'),
  );
  const times: Record<1 | 2, number[]> = { 1: [], 2: [] };
  const made: Uint8Array[] = [];
  const { open } = keepThreads(() => openThread(built));
  for (let turn = 0; turn < 5; turn++)
    for (const count of [1, 2] as const) {
      let began = 0;
      const progress = (stage: string, done: number) => {
        if (stage === 'lighting' && done === 0) began = performance.now();
        if (stage === 'lighting' && done === 1 && began) times[count][turn] = performance.now() - began;
      };
      const wishes = { materials: (name: string) => MATERIALS.find((m) => m.name === name) };
      made.push((await buildLevelOn({ open, count }, doc, 'review', { progress }, wishes)).bytes);
    }
  if (made.some((m) => Buffer.compare(m, made[0]!) !== 0)) throw new Error('the threads disagree');
  note(
    'lighting the Tidemill on two threads, Review',
    Math.min(...times[2]),
    Math.min(...times[1]),
    '≥ 1.7 ×',
    'one thread',
  );
}

/** Building the Tidemill again after one lamp was moved, with what the build before made, beside building it all. */
export async function rebuild(): Promise<void> {
  const doc = parseMap(
    readFileSync(new URL('../packages/stock/assets/maps/halyard-tidemill.yesca.json', import.meta.url), 'utf8'),
  );
  const lamp = [...doc.entities.values()].find((e) => e.name === 'Loft lamp')!;
  const store = new Map<string, unknown>();
  const kept: KeptResults = {
    hash: (text) => createHash('sha256').update(text).digest('hex'),
    get: (name) => store.get(name),
    put: (name, result) => void store.set(name, result),
  };
  buildLevel(doc, 'review', { kept });
  let [again, whole] = [Infinity, Infinity];
  for (let turn = 1; turn <= 3; turn++) {
    const moved = transformPicked(doc, { entities: new Set([lamp.id]) }, translation([8 * turn, 0, 0]));
    let began = performance.now();
    const one = buildLevel(moved, 'review', { kept }).bytes;
    again = Math.min(again, performance.now() - began);
    began = performance.now();
    const other = buildLevel(moved, 'review').bytes;
    whole = Math.min(whole, performance.now() - began);
    if (Buffer.compare(one, other) !== 0) throw new Error('what was kept does not fit');
  }
  note('the Tidemill built again, one lamp moved, Review', again, whole, '≥ 2 ×', 'from nothing');
}
