import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { PNG } from 'pngjs';
import {
  buildStructure,
  parseMap,
  placesOf,
  runChecks,
  seedsOf,
  writeMap,
  type MapDocument,
  collisionOf,
  startPlayer,
  stepPlayer,
  TIME_STEP,
} from '@yesca/core';
import { firstRoom, MATERIALS, TEMPLATES, tidemill } from './index.ts';

const asset = (path: string) => readFileSync(fileURLToPath(new URL(`../assets/${path}`, import.meta.url)));
const MAPS: [string, () => MapDocument][] = [['first-room', firstRoom], ['halyard-tidemill', tidemill]]; // prettier-ignore

describe('materials', () => {
  test('are at least twelve, each of another name, tagged', () => {
    expect(MATERIALS.length).toBeGreaterThanOrEqual(12);
    expect(new Set(MATERIALS.map((m) => m.name)).size).toBe(MATERIALS.length);
    for (const m of MATERIALS) expect(m.tags.length).toBeGreaterThan(0);
  });

  test.each(MATERIALS.map((m) => m.name))(
    '%s is 512 × 512, has the average colour it says, and repeats without a seam',
    (name) => {
      const material = MATERIALS.find((m) => m.name === name)!;
      const image = PNG.sync.read(asset(`materials/${name}.png`));
      expect([image.width, image.height]).toEqual([512, 512]);
      const at = (x: number, y: number, c: number) => image.data[(y * 512 + x) * 4 + c]!;
      const mean = [0, 0, 0];
      let seam = 0;
      let inner = 0;
      for (let k = 0; k < 512; k++)
        for (let c = 0; c < 3; c++) {
          seam += Math.abs(at(511, k, c) - at(0, k, c)) + Math.abs(at(k, 511, c) - at(k, 0, c));
          for (const j of [64, 200, 333])
            inner += (Math.abs(at(j, k, c) - at(j + 1, k, c)) + Math.abs(at(k, j, c) - at(k, j + 1, c))) / 3;
        }
      for (let y = 0; y < 512; y++)
        for (let x = 0; x < 512; x++) for (let c = 0; c < 3; c++) mean[c]! += at(x, y, c) / 512 / 512;
      expect(`#${mean.map((m) => Math.round(m).toString(16).padStart(2, '0')).join('')}`).toBe(material.average);
      // Joints and boards may lie right on the border, where neighbours differ as at any joint; 24 grey levels are far below a cut.
      expect(seam / (512 * 6)).toBeLessThan(Math.max(24, (inner / (512 * 6)) * 3));
    },
  );
});

describe('demo maps', () => {
  test.each(MAPS)('%s is what its generator draws', (file, draw) => {
    expect(writeMap(draw())).toBe(asset(`maps/${file}.yesca.json`).toString('utf8'));
  });

  test.each(MAPS)('%s is sealed, and the checks find nothing wrong', (_, draw) => {
    const doc = draw();
    const s = buildStructure(doc.brushes.values(), seedsOf(doc));
    expect(s.leak).toBeNull();
    expect(s.misplaced).toEqual([]);
    expect(runChecks(doc, { placeOf: placesOf(s) })).toEqual([]);
  });

  test('the Tidemill has its quay, hall, stair and loft, lamps, sun and sky', () => {
    const doc = tidemill();
    expect([...doc.rooms.values()].map((r) => r.name).sort()).toEqual(['Grain loft', 'Quay', 'Reed bank', 'Sluice gallery', 'Stair', 'Stair tower', 'Wheel hall']); // prettier-ignore
    expect(doc.brushes.size).toBeGreaterThanOrEqual(250);
    expect(doc.brushes.size).toBeGreaterThanOrEqual(60);
    const kinds = [...doc.entities.values()].map((e) => e.kind);
    expect(kinds.filter((k) => k === 'pointLight').length).toBeGreaterThanOrEqual(8);
    expect(kinds).toContain('sun');
    for (const room of doc.rooms.values()) {
      const used = new Set(
        [...doc.brushes.values()].filter((b) => b.room?.id === room.id).flatMap((b) => b.faces.map((f) => f.material)),
      );
      expect(used.size).toBeGreaterThanOrEqual(3);
      for (const m of used) expect(MATERIALS.some((known) => known.name === m)).toBe(true);
    }
  });
});

test('the Tidemill’s tower is walked up from the quay to the lookout', () => {
  const doc = tidemill();
  const world = collisionOf(doc);
  const round = Array.from({ length: 26 }, (_, i) => ((-120 + i * 10) * Math.PI) / 180).map((a) => [1792 + 98 * Math.cos(a), -368 + 98 * Math.sin(a)] as const); // prettier-ignore
  const way = [[1660, -380], [1742, -470], ...round.slice(1), [1690, -368]] as const; // prettier-ignore
  let s = startPlayer([1560, -380, 1], 0);
  for (const [x, y] of way)
    for (let i = 0; i < 600 && Math.hypot(x - s.at[0], y - s.at[1]) > 12; i++) {
      const yaw = (Math.atan2(y - s.at[1], x - s.at[0]) * 180) / Math.PI;
      s = stepPlayer(world, s, { forward: 0.5, right: 0, jump: false, crouch: false, yaw, pitch: 0 }, TIME_STEP);
    }
  expect(s.at[2]).toBeCloseTo(384, 1);
});

test.each(TEMPLATES.map((t) => [t.key, t] as const))(
  'template %s is a map that can be written and read',
  (key, template) => {
    const doc = template.make('New');
    expect(writeMap(parseMap(writeMap(doc)))).toBe(writeMap(doc));
    if (key === 'empty') return;
    const s = buildStructure(doc.brushes.values(), seedsOf(doc));
    expect([s.leak, s.misplaced]).toEqual([null, []]);
  },
);
