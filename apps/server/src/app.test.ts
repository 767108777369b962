import { existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FastifyInstance } from 'fastify';
import type { BuildRow, ErrorBody, MapBody, MapFindings, ProjectCard } from '@yesca/contract';
import {
  changesBetween,
  parseMap,
  EVEN,
  readLedger,
  readLevel,
  removePicked,
  renameMap,
  writeMap,
  type PlanDrawing,
} from '@yesca/core';
import { TEMPLATES } from '@yesca/stock';
import { makeApp } from './app.ts';
import type { Context } from './context.ts';
import { PLACES } from './testing/places.ts';

let dataDir: string;
let app: FastifyInstance;
let context: Context;
let projectId: string;

const call = async <T>(
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE',
  url: string,
  payload?: object,
): Promise<{ status: number; body: T }> => {
  const response = await app.inject({ method, url, ...(payload ? { payload } : {}) });
  return { status: response.statusCode, body: response.json<T>() };
};
const newMap = async (template = 'one-room') =>
  (await call<MapBody>('POST', '/api/maps', { projectId, name: 'Test map', template })).body;
const finished = async (id: string): Promise<BuildRow> => {
  for (;;) {
    const { body } = await call<BuildRow>('GET', `/api/builds/${id}`);
    if (body.status !== 'waiting' && body.status !== 'running') return body;
    await new Promise((r) => setTimeout(r, 50));
  }
};

beforeAll(async () => {
  dataDir = mkdtempSync(join(tmpdir(), 'yesca-server-'));
  ({ app, context } = await makeApp({ ...PLACES, dataDir }));
  projectId = (await call<ProjectCard>('POST', '/api/projects', { name: 'Tests' })).body.id;
}, 60_000);

afterAll(async () => {
  await app.close();
  rmSync(dataDir, { recursive: true, force: true });
});

describe('the data folder', () => {
  test('is refused to a second process with a sentence, and freed on closing', async () => {
    await expect(makeApp({ ...PLACES, dataDir })).rejects.toMatchObject({
      code: 'data.locked',
      message: expect.stringContaining('Stop it') as string,
    });
  });
});

describe('projects and maps', () => {
  test('appear on the Shelf with a plan, can be renamed, duplicated, deleted and brought back', async () => {
    const map = await newMap('two-rooms');
    expect(parseMap(map.document).rooms.size).toBe(2);
    await call('PATCH', `/api/maps/${map.id}`, { name: 'Renamed' });
    const copy = (await call<{ id: string; name: string }>('POST', `/api/maps/${map.id}/duplicate`)).body;
    expect(copy.name).toBe('Renamed copy');
    const names = async () =>
      (await call<ProjectCard[]>('GET', '/api/projects')).body.find((p) => p.id === projectId)!.maps.map((m) => m.name);
    expect(await names()).toEqual(expect.arrayContaining(['Renamed', 'Renamed copy']));
    const card = (await call<ProjectCard[]>('GET', '/api/projects')).body
      .flatMap((p) => p.maps)
      .find((m) => m.id === map.id)!;
    expect((await call<PlanDrawing>('GET', card.drawing!)).body.cut).toMatch(/^M-?\d+/);
    await call('DELETE', `/api/maps/${copy.id}`);
    expect(await names()).not.toContain('Renamed copy');
    expect((await call<ErrorBody>('GET', `/api/maps/${copy.id}`)).status).toBe(404);
    await call('POST', `/api/maps/${copy.id}/restore`);
    expect(await names()).toContain('Renamed copy');
  });

  test('a save names its base version; a stale one gets 409 and changes nothing', async () => {
    const map = await newMap();
    const doc = parseMap(map.document);
    const first = await call<{ version: number }>('PUT', `/api/maps/${map.id}`, {
      baseVersion: 1,
      document: writeMap(renameMap(doc, 'First')),
    });
    expect(first).toMatchObject({ status: 200, body: { version: 2 } });
    const stale = await call<ErrorBody>('PUT', `/api/maps/${map.id}`, {
      baseVersion: 1,
      document: writeMap(renameMap(doc, 'Late')),
    });
    expect(stale).toMatchObject({ status: 409, body: { code: 'map.stale' } });
    expect(parseMap((await call<MapBody>('GET', `/api/maps/${map.id}`)).body.document).name).toBe('First');
  });

  test('of two saves that arrive together exactly one wins', async () => {
    const map = await newMap();
    const save = (name: string) =>
      call('PUT', `/api/maps/${map.id}`, {
        baseVersion: 1,
        document: writeMap(renameMap(parseMap(map.document), name)),
      });
    const statuses = (await Promise.all([save('A'), save('B'), save('C')])).map((r) => r.status).sort();
    expect(statuses).toEqual([200, 409, 409]);
  });

  test('every save is a revision that can be read and named', async () => {
    const map = await newMap();
    await call('PUT', `/api/maps/${map.id}`, {
      baseVersion: 1,
      document: writeMap(renameMap(parseMap(map.document), 'Second')),
    });
    await call('PATCH', `/api/maps/${map.id}/revisions/1`, { name: 'before the wheel' });
    const rows = (await call<{ version: number; name: string | null }[]>('GET', `/api/maps/${map.id}/revisions`)).body;
    expect(rows.map((r) => [r.version, r.name])).toEqual([
      [2, null],
      [1, 'before the wheel'],
    ]);
    expect(parseMap((await call<MapBody>('GET', `/api/maps/${map.id}/revisions/1`)).body.document).name).toBe(
      'Test map',
    );
    expect((await call('GET', `/api/maps/${map.id}/revisions/9`)).status).toBe(404);
  });
});

describe('findings of a map', () => {
  test('are those of its last save, sealed or not, without a build', async () => {
    const map = await newMap('two-rooms');
    const found = async () => (await call<MapFindings>('GET', `/api/maps/${map.id}/findings`)).body;
    expect(await found()).toMatchObject({ name: 'Test map', version: 1, sealing: 'sealed', findings: [] });
    const doc = parseMap(map.document);
    const wall = [...doc.brushes.values()].find((b) => b.room?.part.kind === 'wall' && b.room.part.side === 0)!;
    const [spawn] = [...doc.entities.values()];
    const open = removePicked(doc, { brushes: new Set([wall.id]) });
    const items = changesBetween(doc, {
      ...open,
      entities: new Map(open.entities).set('sun', { ...spawn!, id: 'sun', kind: 'sun', params: {} }),
    });
    await call('POST', `/api/maps/${map.id}/changes`, { baseVersion: 1, ...items });
    const now = await found();
    expect([now.version, now.sealing, now.findings[0]!.code]).toEqual([2, 'leaking', 'check.leak']);
    expect(now.findings[0]!.trail!.length).toBeGreaterThan(1);
    expect(await found()).toEqual(now);
    expect((await call<ErrorBody>('GET', '/api/maps/nothing-here/findings')).status).toBe(404);
  });
});

describe('bad input gets a code and a sentence, and nothing stored changes', () => {
  test.each([
    ['cut off', (t: string) => t.slice(0, 300), 'map.notJson'],
    ['not a map', () => '{"hello":1}', 'map.notAMap'],
    ['from a newer version', (t: string) => t.replace(/"version": \d+/, '"version": 7'), 'map.newer'],
    ['with a broken brush', (t: string) => t.replace('"loop":[3,2,1,0]', '"loop":[3,2,1]'), 'brush.notClosed'],
  ])('a map %s', async (_, spoil, code) => {
    const map = await newMap();
    const { status, body } = await call<ErrorBody>('PUT', `/api/maps/${map.id}`, {
      baseVersion: 1,
      document: spoil(map.document),
    });
    expect([status, body.code]).toEqual([422, code]);
    expect(body.place).toBeTruthy();
    expect(body.message).toMatch(/\.$/);
    expect((await call<MapBody>('GET', `/api/maps/${map.id}`)).body.document).toBe(map.document);
    expect(
      (await call<ErrorBody>('POST', '/api/maps', { projectId, name: 'Import', document: spoil(map.document) })).body
        .code,
    ).toBe(code);
  });

  test('bodies of the wrong shape, unknown addresses and too much data', async () => {
    expect((await call<ErrorBody>('POST', '/api/projects', { name: '' })).body).toMatchObject({
      code: 'request.invalid',
      place: 'name',
    });
    expect((await call<ErrorBody>('POST', '/api/builds', { mapId: 'x', preset: 'perfect' })).body).toMatchObject({
      code: 'request.invalid',
      place: 'preset',
    });
    expect(
      (await call<ErrorBody>('POST', '/api/maps', { projectId: 'gone', name: 'x', template: 'empty' })).body.code,
    ).toBe('project.notFound');
    expect((await call<ErrorBody>('GET', '/api/maps/..%2f..%2fetc')).status).toBe(404);
    expect((await call<ErrorBody>('GET', '/api/nothing')).body.code).toBe('address.notFound');
    const broken = await app.inject({
      method: 'POST',
      url: '/api/projects',
      payload: '{"name":',
      headers: { 'content-type': 'application/json' },
    });
    expect(broken.statusCode).toBe(400);
    expect(broken.body).not.toContain('at ');
    const large = await app.inject({
      method: 'POST',
      url: '/api/projects',
      payload: `{"name":"${'x'.repeat(73 * 1024 * 1024)}"}`,
      headers: { 'content-type': 'application/json' },
    });
    expect([large.statusCode, large.json<ErrorBody>().code]).toEqual([413, 'request.tooLarge']);
  });

  test('stock props are listed and served, and nothing beside them', async () => {
    const list = (await app.inject('/api/stock/props')).json<{ name: string; hulls: unknown[] }[]>();
    expect(list.length).toBeGreaterThanOrEqual(36);
    expect(list.every((p) => p.hulls.length > 0)).toBe(true);
    const model = await app.inject(`/stock/props/${list[0]!.name}.glb`);
    expect([model.statusCode, model.headers['content-type']]).toEqual([200, 'model/gltf-binary']);
    expect(model.rawPayload.subarray(0, 4).toString()).toBe('glTF');
    expect((await app.inject(`/stock/props/${list[0]!.name}.webp`)).headers['content-type']).toBe('image/webp');
    for (const file of ['gone.glb', 'crate.exe', 'props.json', '..%2Fmaterials%2Foak-plank.albedo.webp', 'crate'])
      expect((await app.inject(`/stock/props/${file}`)).statusCode).toBe(404);
  });

  test('stock sounds are served, and nothing beside them', async () => {
    const sound = await app.inject('/stock/sounds/hinge');
    expect([sound.headers['content-type'], sound.rawPayload.subarray(0, 4).toString()]).toEqual(['audio/wav', 'RIFF']);
    for (const name of ['nothing', '..%2f..%2fpackage.json', 'toString'])
      expect((await app.inject(`/stock/sounds/${name}`)).statusCode).toBeGreaterThanOrEqual(400);
  });

  test('stock pictures are served, and nothing beside them', async () => {
    expect((await app.inject('/stock/pictures/limewash/albedo')).headers['content-type']).toBe('image/webp');
    expect((await app.inject('/stock/pictures/..%2f..%2fpackage.json/albedo')).statusCode).toBeGreaterThanOrEqual(400);
  });
});

describe('builds', () => {
  test('run in a worker, report, and give the level', async () => {
    const map = await newMap();
    const { status, body } = await call<BuildRow>('POST', '/api/builds', { mapId: map.id, preset: 'sketch' });
    expect(status).toBe(202);
    const row = await finished(body.id);
    expect(row).toMatchObject({ status: 'done', error: null, report: { sealed: true } });
    expect(row.times.lighting).toBeGreaterThan(0);
    const level = readLevel(new Uint8Array((await app.inject(`/api/builds/${row.id}/level`)).rawPayload));
    expect(level.meta.name).toBe('Test map');
    // Beside it lies what each light gives; of a build that has none that is said.
    const ledger = readLedger(new Uint8Array((await app.inject(`/api/builds/${row.id}/ledger`)).rawPayload));
    expect(ledger.surfaceBrushFirst.length).toBe(level.surfaceMaterial.length + 1);
    expect(ledger.layers.map((l) => l.thing)).toContain(EVEN);
    expect((await call<ErrorBody>('GET', '/api/builds/none/ledger')).body.code).toBe('ledger.notFound');
    expect((await app.inject(`/api/builds/${row.id}/log`)).body).toContain('The map is sealed.');
    expect((await call<BuildRow[]>('GET', `/api/maps/${map.id}/builds`)).body.map((b) => b.id)).toEqual([row.id]);
  });

  test('of the document on screen, saved or not', async () => {
    const map = await newMap();
    const document = writeMap(TEMPLATES.find((t) => t.key === 'empty')!.make('Unsaved'));
    const row = await finished(
      (await call<BuildRow>('POST', '/api/builds', { mapId: map.id, preset: 'sketch', document })).body.id,
    );
    expect(row.report!.messages.map((m) => m.code)).toContain('build.empty');
    expect((await call<MapBody>('GET', `/api/maps/${map.id}`)).body.version).toBe(1);
  });

  test('tell their progress as server-sent events until they end', async () => {
    const map = await newMap('two-rooms');
    const { body } = await call<BuildRow>('POST', '/api/builds', { mapId: map.id, preset: 'review' });
    const stream = await app.inject(`/api/builds/${body.id}/events`);
    const events = stream.body
      .trim()
      .split('\n\n')
      .map((e) => JSON.parse(e.replace('data: ', '')) as BuildRow);
    expect(stream.headers['content-type']).toBe('text/event-stream');
    expect(events.at(-1)!.status).toBe('done');
    expect(events.some((e) => (e.progress.lighting ?? 0) > 0)).toBe(true);
  });

  test('can be cancelled, and the next one runs', async () => {
    const map = await newMap('two-rooms');
    const { body } = await call<BuildRow>('POST', '/api/builds', { mapId: map.id, preset: 'final' });
    await call('DELETE', `/api/builds/${body.id}`);
    expect((await finished(body.id)).status).toBe('cancelled');
    expect((await call<ErrorBody>('GET', `/api/builds/${body.id}/level`)).body.code).toBe('level.notFound');
    const next = await call<BuildRow>('POST', '/api/builds', { mapId: map.id, preset: 'sketch' });
    expect((await finished(next.body.id)).status).toBe('done');
  });

  test('whose thread dies fail with a message, and the pool recovers', async () => {
    const map = await newMap('two-rooms');
    const lost = (await call<BuildRow>('POST', '/api/builds', { mapId: map.id, preset: 'final' })).body;
    while (!((await call<BuildRow>('GET', `/api/builds/${lost.id}`)).body.progress.lighting ?? 0))
      await new Promise((r) => setTimeout(r, 20));
    for (const thread of context.builder.threads) await thread.terminate();
    const row = await finished(lost.id);
    expect(row.status).toBe('failed');
    expect(row.error).toMatch(/build again/);
    const next = await call<BuildRow>('POST', '/api/builds', { mapId: map.id, preset: 'sketch' });
    expect((await finished(next.body.id)).status).toBe('done');
  });
});

test('after a stop and a new start everything saved is there, and a build on its way is marked interrupted', async () => {
  const map = await newMap();
  await call('PUT', `/api/maps/${map.id}`, {
    baseVersion: 1,
    document: writeMap(renameMap(parseMap(map.document), 'Kept')),
  });
  const done = await finished(
    (await call<BuildRow>('POST', '/api/builds', { mapId: map.id, preset: 'sketch' })).body.id,
  );
  const { builds } = await import('./db/schema.ts');
  await context.db
    .insert(builds)
    .values({ id: 'cutoff', mapId: map.id, preset: 'sketch', status: 'running', document: 'x' });
  await app.close();
  expect(existsSync(join(dataDir, 'lock'))).toBe(false);
  ({ app, context } = await makeApp({ ...PLACES, dataDir }));
  expect(parseMap((await call<MapBody>('GET', `/api/maps/${map.id}`)).body.document).name).toBe('Kept');
  expect((await call<BuildRow>('GET', '/api/builds/cutoff')).body).toMatchObject({
    status: 'interrupted',
    error: expect.stringContaining('Build again') as string,
  });
  expect((await app.inject(`/api/builds/${done.id}/level`)).statusCode).toBe(200);
  // No half-written files lie about.
  const files = readdirSync(join(dataDir, 'blobs'), { recursive: true }) as string[];
  expect(files.filter((f) => f.includes('draft'))).toEqual([]);
}, 30_000);
