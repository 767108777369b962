import MiniSearch from 'minisearch';
import sharp from 'sharp';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MATERIALS, type Material } from '@yesca/stock';
import { OUTCOMES } from '../apps/server/src/materials/outcomes.ts';
import { decodeUpload } from '../apps/server/src/materials/upload.ts';
import { searchMaterials } from '../apps/web/src/panels/library/search.ts';
import { hashRandom } from '@yesca/core';
import { best, note } from './table.ts';

/** Two thousand materials searched by word, with the same answers as a full-text index gives; and 200 pictures imported. */
export async function library(): Promise<void> {
  const words = ['old', 'wet', 'dark', 'mill', 'quay', 'broad', 'fine', 'rough', 'pale', 'tide'];
  const pick = (i: number, k: number) => words[Math.floor(hashRandom(i, k) * words.length)]!;
  const all = Array.from({ length: 2000 }, (_, i): Material => {
    const base = MATERIALS[i % MATERIALS.length]!;
    return {
      ...base,
      name: `${base.name}-${i}`,
      label: `${pick(i, 1)} ${base.label}`,
      tags: [...base.tags, pick(i, 2), pick(i, 3)],
    };
  });
  const queries = [
    'stone',
    'wet sto',
    'da wo',
    'tide mil',
    'br',
    'roof pale',
    'plant thin',
    'me',
    'quay cob',
    'nothing',
  ];
  const context = { counts: new Map(), recent: [], favourites: [], packsOff: [] };
  const found: number[] = [];
  const search = (text: string) =>
    searchMaterials(all, { text, color: null, size: 'any', show: 'all' }, context).length;
  const ours = best(() => {
    found.length = 0;
    for (const q of queries) found.push(search(q));
  });
  const index = new MiniSearch({ fields: ['words'], idField: 'name', tokenize: (t) => t.split(/[^a-z0-9]+/i) });
  index.addAll(all.map((m) => ({ name: m.name, words: [m.label, m.name, ...m.tags, m.substance].join(' ') })));
  const answers: number[] = [];
  const peer = best(() => {
    answers.length = 0;
    for (const q of queries) answers.push(index.search(q, { prefix: true, combineWith: 'AND' }).length);
  });
  if (found.join() !== answers.join()) throw new Error(`the searches disagree: ${found.join()} and ${answers.join()}`);
  note('ten searches by word over 2,000 materials', ours, peer, '', 'minisearch, its index made before');

  const pictures = await Promise.all(
    Array.from({ length: 200 }, (_, i) =>
      sharp({
        create: {
          width: 512,
          height: 512,
          channels: 3,
          background: { r: i, g: 255 - i, b: 80 },
          noise: { type: 'gaussian', mean: 128, sigma: 30 },
        },
      })
        .png({ compressionLevel: 1 })
        .toBuffer(),
    ),
  );
  const files = pictures.map((data, i) => ({ name: `picture ${i}.png`, data: new Uint8Array(data) }));
  const folder = mkdtempSync(join(tmpdir(), 'yesca-bench-'));
  const laid = files.map(({ name, data }, i) => {
    const path = join(folder, String(i));
    writeFileSync(path, data);
    return { name, path };
  });
  let began = performance.now();
  await decodeUpload({ folder, files: laid, done: [], skip: [] });
  const took = performance.now() - began;
  const decoded = readFileSync(join(folder, OUTCOMES), 'utf8').match(/"material"/g) ?? [];
  rmSync(folder, { recursive: true });
  if (decoded.length !== 200) throw new Error(`only ${decoded.length} of 200 pictures were taken`);
  began = performance.now();
  for (const { data } of files) await sharp(data).webp({ quality: 92, effort: 2 }).toBuffer();
  note(
    '200 pictures of 512 × 512 imported: sniffed, decoded, hashed, measured, packed, with small ones',
    took,
    performance.now() - began,
    '',
    'sharp, packed only, one after another',
  );
}
