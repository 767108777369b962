import { readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import type { ErrorBody, MapBody, MapCard, ProjectCard } from '@yesca/contract';
import {
  addBrushes,
  boxSolid,
  changesBetween,
  dressSolid,
  movePicked,
  parseMap,
  removePicked,
  type Brush,
  type MapChanges,
  type MapDocument,
} from '@yesca/core';
import { maps, revisions } from '../db/schema.ts';
import { serve, type TestServer } from '../testing/server.ts';

let server: TestServer;
let projectId: string;
beforeAll(async () => {
  server = await serve();
  projectId = (await server.call<ProjectCard>('POST', '/api/projects', { name: 'Tests' })).body.id;
}, 60_000);
afterAll(() => server.stop());

const newMap = async (template = 'two-rooms') =>
  (await server.call<MapBody>('POST', '/api/maps', { projectId, name: 'Test map', template })).body;
const read = async (id: string) => {
  const { body } = await server.call<MapBody>('GET', `/api/maps/${id}`);
  return { version: body.version, name: body.name, doc: parseMap(body.document) };
};
const save = (id: string, baseVersion: number, changes: MapChanges) =>
  server.call<{ version: number } & ErrorBody>('POST', `/api/maps/${id}/changes`, { baseVersion, ...changes });
const crate = (id: string, x: number) =>
  dressSolid(boxSolid({ min: [x, 0, 0], max: [x + 64, 64, 64] }), id, 'oak-plank', { role: 'detail' });
/** Saves what leads from one document to another. */
const step = async (id: string, version: number, from: MapDocument, to: MapDocument) => {
  const { status } = await save(id, version, changesBetween(from, to));
  expect(status).toBe(200);
  return to;
};

describe('a save by differences', () => {
  test('is read back with all that was saved before, whole files or not', async () => {
    const map = await newMap();
    const first = parseMap(map.document);
    const second = await step(map.id, 1, first, addBrushes(first, [crate('a', 100), crate('b', 300)]));
    const third = await step(map.id, 2, second, movePicked(second, { brushes: new Set(['a']) }, [0, 16, 0]));
    const fourth = await step(map.id, 3, third, removePicked(third, { brushes: new Set(['b']) }));
    await server.call('PATCH', `/api/maps/${map.id}`, { name: 'Renamed' });
    const now = await read(map.id);
    expect([now.version, now.name, now.doc.name]).toEqual([5, 'Renamed', 'Renamed']);
    expect([...now.doc.brushes.keys()].sort()).toEqual([...fourth.brushes.keys()].sort());
    expect(now.doc.brushes.get('a')).toEqual(fourth.brushes.get('a'));
    // A whole file written in between changes nothing of it, nor of any revision.
    const at = async (v: number) =>
      parseMap((await server.call<MapBody>('GET', `/api/maps/${map.id}/revisions/${v}`)).body.document);
    const before = [await at(2), await at(3)];
    await server.context.saves.snapshot(map.id);
    expect((await read(map.id)).doc).toEqual(now.doc);
    expect([await at(2), await at(3)]).toEqual(before);
    expect([...before[0]!.brushes.keys()].includes('b')).toBe(true);
    const last = await step(map.id, 5, now.doc, addBrushes(now.doc, [crate('c', 500)]));
    expect((await read(map.id)).doc).toEqual(last);
  });

  test('of a large part of a map is kept in a file, and is as good as a small one', async () => {
    const map = await newMap();
    const doc = parseMap(map.document);
    const many = await step(
      map.id,
      1,
      doc,
      addBrushes(
        doc,
        Array.from({ length: 700 }, (_, i) => crate(`m${i}`, i * 70)),
      ),
    );
    const [row] = await server.context.db.select().from(revisions).where(eq(revisions.mapId, map.id)).offset(1);
    expect(row!.changes).toMatch(/^blob:/);
    expect((await read(map.id)).doc).toEqual(many);
  });

  test('that began elsewhere gets 409 and changes nothing; of many together exactly one wins', async () => {
    const map = await newMap();
    const doc = parseMap(map.document);
    const statuses = (
      await Promise.all(
        Array.from({ length: 8 }, (_, i) => save(map.id, 1, changesBetween(doc, addBrushes(doc, [crate(`x${i}`, i)])))),
      )
    ).map((r) => r.status);
    expect(statuses.filter((s) => s === 200)).toHaveLength(1);
    expect(statuses.filter((s) => s === 409)).toHaveLength(7);
    const now = await read(map.id);
    expect([now.version, now.doc.brushes.size]).toEqual([2, doc.brushes.size + 1]);
  });

  test('is refused with a place when an item or what it refers to is broken, and a later one still works', async () => {
    const map = await newMap();
    const doc = parseMap(map.document);
    const room = [...doc.rooms.keys()][0]!;
    const flat = { ...crate('f', 0), vertices: crate('f', 0).vertices.map(([x, y]) => [x, y, 0] as const) };
    const cases: [MapChanges, string][] = [
      [{ items: [{ in: 'brushes', id: 'f', item: flat }] }, 'brush.'],
      [{ items: [{ in: 'brushes', id: 'other', item: crate('f', 0) }] }, 'changes.unreadable'],
      [{ items: [{ in: 'nothing' as 'brushes', id: 'f', item: null }] }, 'changes.unreadable'],
      [{ items: [{ in: 'brushes', id: 'f', item: { id: 'f' } }] }, 'map.badField'],
      // A doorway still goes into the room.
      [{ items: [{ in: 'rooms', id: room, item: null }] }, 'map.dangling'],
      [{ items: [], settings: { ...doc.settings, grid: -1 } }, 'map.badField'],
    ];
    for (const [changes, code] of cases) {
      const { status, body } = await save(map.id, 1, changes);
      expect([status, body.code]).toEqual([422, expect.stringContaining(code)]);
    }
    for (const body of [
      { baseVersion: 0, items: [] },
      { baseVersion: 1e12, items: [] },
      { baseVersion: 1 },
      { baseVersion: 1, items: [null] },
      { baseVersion: 1, format: 99, items: [] },
      [],
    ]) {
      const { status } = await server.call('POST', `/api/maps/${map.id}/changes`, body);
      expect(status).toBe(400);
    }
    expect((await save(map.id, 1, { items: [] })).status).toBe(200);
  });

  test('of a page of an older version is brought up to this one', async () => {
    const map = await newMap();
    const doc = parseMap(map.document);
    const wall = [...doc.brushes.values()].find((b) => b.room?.part.kind === 'wall')!;
    const { side, piece } = wall.room!.part;
    const old = { ...wall, name: 'old', room: { ...wall.room!, part: `wall:${side}:${piece}` } } as unknown as Brush;
    expect((await save(map.id, 1, { items: [{ in: 'brushes', id: wall.id, item: old }] })).status).toBe(200);
    expect((await read(map.id)).doc.brushes.get(wall.id)).toEqual({ ...wall, name: 'old' });
  });

  test('and whole files and renames of other tabs stay in order', async () => {
    const map = await newMap();
    const doc = parseMap(map.document);
    await step(map.id, 1, doc, addBrushes(doc, [crate('a', 0)]));
    expect((await server.call('PUT', `/api/maps/${map.id}`, { baseVersion: 1, document: map.document })).status).toBe(
      409,
    );
    expect((await server.call('PUT', `/api/maps/${map.id}`, { baseVersion: 2, document: map.document })).status).toBe(
      200,
    );
    expect((await read(map.id)).doc.brushes.has('a')).toBe(false);
    expect((await save(map.id, 3, { items: [] })).status).toBe(200);
    const names = await Promise.all(
      ['One', 'Two', 'Three'].map((name) => server.call('PATCH', `/api/maps/${map.id}`, { name })),
    );
    for (const { status } of names) expect([200, 409]).toContain(status);
    const now = await read(map.id);
    expect(['One', 'Two', 'Three']).toContain(now.name);
    expect(now.doc.name).toBe(now.name);
  });

  test('into a map that was deleted elsewhere says so; brought back it goes on', async () => {
    const map = await newMap();
    await save(map.id, 1, { items: [] });
    await server.call('DELETE', `/api/maps/${map.id}`);
    expect((await save(map.id, 2, { items: [] })).body.code).toBe('map.notFound');
    await server.call('POST', `/api/maps/${map.id}/restore`);
    expect((await save(map.id, 2, { items: [] })).status).toBe(200);
  });
});

test('the Shelf lists maps without their drawings, which have addresses that change with them', async () => {
  const map = await newMap();
  const card = async (): Promise<MapCard> =>
    (await server.call<ProjectCard[]>('GET', '/api/projects')).body
      .flatMap((p) => p.maps)
      .find((m) => m.id === map.id)!;
  const first = await card();
  expect(JSON.stringify(first).length).toBeLessThan(1000);
  const drawing = await server.app.inject(first.drawing!);
  expect(drawing.headers['cache-control']).toContain('immutable');
  expect(drawing.json<{ cut: string }>().cut).toMatch(/^M/);
  const doc = parseMap(map.document);
  await step(map.id, 1, doc, movePicked(doc, { rooms: new Set([[...doc.rooms.keys()][0]!]) }, [0, 400, 0]));
  await server.context.saves.snapshot(map.id);
  expect((await card()).drawing).not.toBe(first.drawing);
  expect((await server.app.inject(`/api/drawings/${'0'.repeat(64)}`)).json<ErrorBody>().code).toBe('data.missing');
});

describe('files of the data folder', () => {
  test('that are damaged or gone are noticed and said, and a save of the same content repairs them', async () => {
    const map = await newMap();
    const [row] = await server.context.db.select().from(maps).where(eq(maps.id, map.id));
    const path = join(server.dataDir, 'blobs', row!.document.slice(0, 2), row!.document);
    for (const harm of [() => writeFileSync(path, 'bent'), () => rmSync(path)]) {
      harm();
      const broken = await server.app.inject(`/api/maps/${map.id}`);
      expect(broken.json<ErrorBody>().code).toMatch(/^data\.(damaged|missing)$/);
      expect(broken.body).not.toContain(server.dataDir);
      expect(broken.headers['cache-control'] ?? '').not.toContain('immutable');
      await server.call('POST', '/api/maps', { projectId, name: map.name, document: map.document });
      expect((await server.app.inject(`/api/maps/${map.id}`)).statusCode).toBe(200);
    }
  });

  test('that nothing names are removed when they are old, and no others', async () => {
    const { blobs } = server.context;
    const kept = await blobs.put('kept');
    const stray = await blobs.put('stray');
    expect(await blobs.collect(new Set([kept]))).toBe(0);
    const { utimesSync } = await import('node:fs');
    for (const hash of [kept, stray]) utimesSync(join(server.dataDir, 'blobs', hash.slice(0, 2), hash), 1000, 1000);
    expect(await blobs.collect(new Set([kept]))).toBe(1);
    expect(await blobs.text(kept)).toBe('kept');
    await expect(blobs.text(stray)).rejects.toMatchObject({ code: 'data.missing' });
    expect(readdirSync(join(server.dataDir, 'blobs')).length).toBeGreaterThan(0);
  });
});
