import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { ErrorBody, MapBody, ProjectCard } from '@yesca/contract';
import { hashRandom } from '@yesca/core';
import { depthOf } from './guards.ts';
import { lockFolder } from './store/lock.ts';
import { serve, type Method, type TestServer } from './testing/server.ts';

let server: TestServer;
let projectId: string;
let mapId: string;
beforeAll(async () => {
  server = await serve({ hosts: ['workshop.example'] });
  projectId = (await server.call<ProjectCard>('POST', '/api/projects', { name: 'Tests' })).body.id;
  mapId = (await server.call<MapBody>('POST', '/api/maps', { projectId, name: 'm', template: 'empty' })).body.id;
}, 60_000);
afterAll(() => server.stop());

const ask = async (method: Method, url: string, headers: Record<string, string>, payload?: string | object) => {
  const r = await server.app.inject({ method, url, headers, ...(payload === undefined ? {} : { payload }) });
  return { status: r.statusCode, code: r.statusCode < 400 ? '' : r.json<ErrorBody>().code, headers: r.headers };
};

describe('pages of elsewhere', () => {
  test('reach nothing under a name that is not served, whatever they ask', async () => {
    for (const host of ['evil.example', 'evil.example:4170', '127.0.0.1.evil.example'])
      for (const method of ['GET', 'POST', 'DELETE'] as const)
        expect(await ask(method, '/api/projects', { host })).toMatchObject({ status: 421, code: 'request.host' });
    for (const host of ['localhost:4170', '127.0.0.1:4170', '[::1]:9', 'workshop.example'])
      expect((await ask('GET', '/api/projects', { host })).status).toBe(200);
  });
  test('change nothing: not with a body, not without one, not with a form', async () => {
    const host = '127.0.0.1:4170';
    for (const origin of ['http://evil.example', 'http://127.0.0.1:3000', 'http://localhost:4170', 'null']) {
      expect(await ask('DELETE', `/api/maps/${mapId}`, { host, origin })).toMatchObject({
        status: 403,
        code: 'request.origin',
      });
      expect((await ask('POST', `/api/maps/${mapId}/restore`, { host, origin })).status).toBe(403);
      expect(
        (
          await ask(
            'POST',
            '/api/packs/import',
            { host, origin, 'content-type': 'multipart/form-data; boundary=x' },
            '--x--',
          )
        ).status,
      ).toBe(403);
    }
    expect((await ask('POST', '/api/projects', { host, 'sec-fetch-site': 'cross-site' }, { name: 'x' })).status).toBe(
      403,
    );
    expect((await ask('POST', '/api/projects', { host, origin: `http://${host}` }, { name: 'x' })).status).toBe(201);
    expect((await ask('POST', '/api/projects', { host }, { name: 'from a program' })).status).toBe(201);
  });
});

describe('requests that nobody should send', () => {
  test.each<[string, Method, string, Record<string, string>, string | object | undefined, number]>([
    ['NUL in a name', 'POST', '/api/projects', {}, { name: 'a\u0000b' }, 400],
    ['half a character', 'POST', '/api/projects', {}, { name: 'a\ud800' }, 400],
    [
      'a prototype',
      'POST',
      '/api/projects',
      { 'content-type': 'application/json' },
      '{"name":"a","__proto__":{"x":1}}',
      400,
    ],
    [
      'a constructor',
      'POST',
      '/api/projects',
      { 'content-type': 'application/json' },
      '{"name":"a","constructor":{"prototype":{"x":1}}}',
      400,
    ],
    [
      'deep JSON',
      'POST',
      '/api/projects',
      { 'content-type': 'application/json' },
      `{"name":${'['.repeat(50_000)}${']'.repeat(50_000)}}`,
      400,
    ],
    ['null', 'POST', '/api/projects', { 'content-type': 'application/json' }, 'null', 400],
    ['an empty body', 'POST', '/api/projects', { 'content-type': 'application/json' }, '', 400],
    ['no JSON', 'POST', '/api/projects', { 'content-type': 'application/json' }, '{"name":', 400],
    ['another kind', 'POST', '/api/projects', { 'content-type': 'text/xml' }, '<a/>', 415],
    ['a version out of range', 'GET', '/api/maps/MAP/revisions/99999999999', {}, undefined, 404],
    ['a version that is none', 'GET', '/api/maps/MAP/revisions/1e3', {}, undefined, 404],
    ['a malformed address', 'GET', '/api/maps/%E0%A4%A', {}, undefined, 400],
    ['an address too long', 'GET', `/api/maps/${'a'.repeat(5000)}`, {}, undefined, 414],
    ['nothing there', 'GET', '/api/nothing', {}, undefined, 404],
    ['a form without boundary', 'POST', '/api/packs/import', { 'content-type': 'multipart/form-data' }, 'x', 400],
    [
      'a form cut off',
      'POST',
      '/api/packs/import',
      { 'content-type': 'multipart/form-data; boundary=x' },
      '--x\r\ncontent-disposition: form-data; name="f"; filename="a.png"\r\n\r\nabc',
      400,
    ],
    [
      'a part without a name',
      'POST',
      '/api/packs/import',
      { 'content-type': 'multipart/form-data; boundary=x' },
      '--x\r\ncontent-disposition: form-data\r\n\r\nabc\r\n--x--\r\n',
      400,
    ],
  ])('%s: a code and a sentence', async (_, method, url, headers, payload, status) => {
    const r = await server.app.inject({
      method,
      url: url.replace('MAP', mapId),
      headers,
      ...(payload === undefined ? {} : { payload }),
    });
    expect(r.statusCode).toBe(status);
    const body = r.json<ErrorBody>();
    expect(body.code).toMatch(/^[a-z]+\.[a-zA-Z]+$/);
    expect(body.message).toMatch(/[.!]$/);
    expect(Object.keys(body).every((k) => ['code', 'message', 'place'].includes(k))).toBe(true);
  });

  test('never make it fail, thousands of them', async () => {
    const count = Number(process.env.FUZZED ?? 3000);
    const odd: unknown[] = [
      null,
      '',
      'a',
      '\u0000',
      '\ud800',
      -1,
      0,
      1e308,
      2 ** 31,
      true,
      [],
      {},
      [null],
      { constructor: 1 },
      'x'.repeat(300),
      { a: { b: [] } },
    ];
    const urls = [
      '/api/projects',
      '/api/projects/P',
      '/api/projects/P/restore',
      '/api/maps',
      '/api/maps/M',
      '/api/maps/M/changes',
      '/api/maps/M/duplicate',
      '/api/maps/M/revisions',
      '/api/maps/M/revisions/1',
      '/api/maps/M/builds',
      '/api/builds',
      '/api/builds/x',
      '/api/builds/x/level',
      '/api/materials/x',
      '/api/materials/x/uses',
      '/api/packs/x',
      '/api/props/x',
      '/api/props/%00',
      '/api/props/x/uses',
      '/api/props/import',
      '/api/packs/import',
      '/api/stock/materials',
      '/stock/pictures/x/albedo',
      '/api/drawings/x',
      '/api/health',
      '/%00',
      '/api/maps/%2e%2e',
    ];
    const keys = [
      'name',
      'projectId',
      'template',
      'document',
      'baseVersion',
      'items',
      'settings',
      'mapId',
      'preset',
      'label',
      'tags',
      'regions',
      'grow',
      'pack',
    ];
    for (let k = 0; k < count; k++) {
      let n = 0;
      const one = <T>(list: readonly T[]): T => list[Math.floor(hashRandom(k, n++) * list.length)]!;
      const body =
        hashRandom(k, n++) < 0.2
          ? one(odd)
          : Object.fromEntries(
              keys
                .filter(() => hashRandom(k, n++) < 0.4)
                .map((key) => [key, hashRandom(k, n++) < 0.3 ? (key === 'projectId' ? projectId : 'empty') : one(odd)]),
            );
      const url = one(urls).replace('P', projectId).replace('M', mapId);
      const method = one(['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const);
      const r = await server.app.inject({
        method,
        url,
        headers: {
          'content-type': one([
            'application/json',
            'application/json',
            'text/plain',
            'multipart/form-data; boundary=x',
          ]),
        },
        ...(method === 'GET' ? {} : { payload: JSON.stringify(body) ?? '' }),
      });
      if (r.statusCode >= 500)
        throw new Error(`${k}: ${method} ${url} ${JSON.stringify(body)} → ${r.statusCode} ${r.body}`);
    }
  }, 240_000);
});

test('the depth of JSON is told without parsing it', () => {
  expect([depthOf('1'), depthOf('{"a":[1,{"b":2}]}'), depthOf('"[[[["'), depthOf('"\\"[["'), depthOf('[[]]')]).toEqual([
    0, 3, 0, 0, 2,
  ]);
});

describe('the lock of a data folder', () => {
  test('is had by one at a time in two hundred races, and taken again by the same process', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'yesca-lock-'));
    for (let k = 0; k < 200; k++) {
      const tries = await Promise.allSettled(Array.from({ length: 4 }, () => lockFolder(folder)));
      const won = tries.filter((t) => t.status === 'fulfilled');
      expect(won).toHaveLength(1);
      for (const t of tries) if (t.status === 'rejected') expect(t.reason).toMatchObject({ code: 'data.locked' });
      await (won[0] as PromiseFulfilledResult<() => Promise<void>>).value();
    }
    rmSync(folder, { recursive: true, force: true });
  });
  test('is free again when its owner was killed', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'yesca-lock-'));
    const lock = fileURLToPath(new URL('./store/lock.ts', import.meta.url));
    const owner = spawn(
      process.execPath,
      [
        '--import',
        'tsx',
        '--input-type=module',
        '-e',
        `const { lockFolder } = await import(${JSON.stringify(lock)}); await lockFolder(${JSON.stringify(folder)}); console.log('mine'); setInterval(() => {}, 1000);`,
      ],
      { env: { ...process.env, NODE_OPTIONS: '' }, stdio: ['ignore', 'pipe', 'inherit'] },
    );
    await new Promise((done) => owner.stdout.once('data', done));
    await expect(lockFolder(folder)).rejects.toMatchObject({
      code: 'data.locked',
      message: expect.stringContaining(String(owner.pid)) as string,
    });
    owner.kill('SIGKILL');
    await new Promise((done) => owner.once('exit', done));
    await (
      await lockFolder(folder)
    )();
    rmSync(folder, { recursive: true, force: true });
  });
  test('a folder that cannot be made is said in a sentence', async () => {
    await expect(lockFolder('/dev/null/data')).rejects.toMatchObject({ code: 'data.unwritable' });
  });
});

test('a wrong port is said before anything is opened', () => {
  const main = fileURLToPath(new URL('./main.ts', import.meta.url));
  const { stderr, status } = spawnSync(process.execPath, ['--import', 'tsx', main], {
    cwd: fileURLToPath(new URL('..', import.meta.url)),
    encoding: 'utf8',
    env: { ...process.env, YESCA_PORT: 'abc', NODE_OPTIONS: '' },
  });
  expect(status).toBe(1);
  expect(stderr).toContain('YESCA_PORT');
}, 30_000);
