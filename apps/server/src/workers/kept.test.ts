import { mkdtempSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { forgetOldest, keptFile, openKept } from './kept.ts';

const folder = mkdtempSync(join(tmpdir(), 'yesca-kept-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

test('what a build used and made is there for the next one by the same program, and nothing else', () => {
  const file = keptFile(folder, 'map', 'review');
  const first = openKept(file, 'one')!;
  expect(first.get('a')).toBeUndefined();
  first.put('a', { light: Float32Array.of(1, 2), of: new Map([['x', [1]]]) });
  first.put('b', 'left behind');
  first.save();
  const second = openKept(file, 'one')!;
  expect(second.get('a')).toEqual({ light: Float32Array.of(1, 2), of: new Map([['x', [1]]]) });
  second.save();
  expect(openKept(file, 'one')!.get('b')).toBeUndefined();
  expect(openKept(file, 'another')!.get('a')).toBeUndefined();
  expect(openKept(keptFile(folder, 'map', 'final'), 'one')!.get('a')).toBeUndefined();
  expect(second.hash('text')).toMatch(/^[0-9a-f]{64}$/);
});

test('a damaged file counts as empty, and a folder that cannot be written fails no build', () => {
  const file = keptFile(folder, 'damaged', 'sketch');
  writeFileSync(file, 'not what it should be');
  const kept = openKept(file, 'one')!;
  expect(kept.get('a')).toBeUndefined();
  kept.put('a', 1);
  kept.save();
  expect(openKept(file, 'one')!.get('a')).toBe(1);
  writeFileSync(join(folder, 'a-file'), '');
  expect(() => openKept(join(folder, 'a-file', 'below'), 'one')!.save()).not.toThrow();
  // Sources change from one moment to the next.
  expect(openKept(file)).toBeUndefined();
});

test('the files used longest ago go first', () => {
  const room = mkdtempSync(join(folder, 'room-'));
  for (const [i, name] of ['old', 'newer', 'newest'].entries()) {
    writeFileSync(join(room, name), Buffer.alloc(100));
    utimesSync(join(room, name), 1000 + i, 1000 + i);
  }
  forgetOldest(room, 250);
  expect(readdirSync(room).sort()).toEqual(['newer', 'newest']);
});
