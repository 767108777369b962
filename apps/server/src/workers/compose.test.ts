import { readFileSync } from 'node:fs';
import { MAP_VERSION, parseMap } from '@yesca/core';
import compose, { type Composed } from './compose.ts';

/** A map and saves of it as version 1 of the file kept them. */
const text = readFileSync(
  new URL('../../../../packages/core/src/map/fixtures/first-room.v1.yesca.json', import.meta.url),
  'utf8',
);
const saved = JSON.parse(text) as { brushes: { id: string; room?: { part: string } }[] };

test('what was kept by an older version is put together as this one, without losing a thing', () => {
  const [floor, wall] = ['floor:', 'wall:'].map((part) => saved.brushes.find((b) => b.room?.part.startsWith(part))!);
  const changes = [
    { items: [{ in: 'brushes', id: floor!.id, item: { ...floor, name: 'Boards' } }] },
    { items: [{ in: 'brushes', id: wall!.id, item: { ...wall, group: 'a group that was never there' } }] },
  ];
  const made = compose({ text, changes: changes.map((c) => JSON.stringify(c)), summary: true }) as Composed;
  expect(made.text).toContain(`"version": ${MAP_VERSION}`);
  const doc = parseMap(made.text);
  expect(doc.brushes.get(floor!.id)).toMatchObject({ name: 'Boards', room: { part: { kind: 'floor' } } });
  expect(doc.brushes.get(wall!.id)).not.toHaveProperty('group');
  expect(doc.brushes.size).toBe(saved.brushes.length);
  expect(made.references!.brushes.size).toBe(saved.brushes.length);
});
