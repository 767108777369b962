/**
 * The server under load and under attack, as it is built: `npx tsx bench/load.ts [start|editors|fuzz|memory|cuts]`. Prints a table
 * for docs/reliability.md. Everything goes to a server of its own on loopback, on a data folder of its own.
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { addBrushes, boxSolid, dressSolid, emptyMap, hashRandom, writeMap, type Brush } from '@yesca/core';

const root = fileURLToPath(new URL('..', import.meta.url));
const rows: string[][] = [];
const note = (what: string, figure: string, wanted = ''): void => {
  rows.push([what, figure, wanted]);
  console.error(`${what}: ${figure}`);
};

interface Running {
  readonly base: string;
  readonly child: ChildProcess;
  readonly data: string;
  /** The most memory (MB) that the server, and it with its children, held so far. */
  readonly peak: () => { server: number; all: number };
  readonly stop: () => Promise<number>;
}

const rss = (pid: number): number => {
  try {
    return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
  } catch {
    return 0;
  }
};
const childrenOf = (pid: number): number[] => {
  try {
    return readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean).map(Number);
  } catch {
    return [];
  }
};

async function start(): Promise<Running> {
  const port = await new Promise<number>((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => done(port));
    });
  });
  const data = mkdtempSync(join(tmpdir(), 'yesca-load-'));
  const child = spawn(process.execPath, [join(root, 'apps/server/dist/main.js')], {
    env: { ...process.env, YESCA_DATA: data, YESCA_PORT: String(port), NODE_OPTIONS: '' },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const most = { server: 0, all: 0 };
  const watch = setInterval(() => {
    const own = rss(child.pid!);
    most.server = Math.max(most.server, own);
    most.all = Math.max(most.all, own + childrenOf(child.pid!).reduce((s, p) => s + rss(p), 0));
  }, 50);
  const base = `http://127.0.0.1:${port}`;
  for (let i = 0; i < 300; i++) {
    const ok = await fetch(`${base}/api/health`).then(
      (r) => r.ok,
      () => false,
    );
    if (ok) break;
    await new Promise((r) => setTimeout(r, 100));
  }
  return {
    base,
    child,
    data,
    peak: () => most,
    stop: async () => {
      const began = performance.now();
      const ended = new Promise((done) => child.once('exit', done));
      child.kill('SIGTERM');
      await ended;
      clearInterval(watch);
      rmSync(data, { recursive: true, force: true });
      return performance.now() - began;
    },
  };
}

const json = async <T>(
  base: string,
  method: string,
  path: string,
  body?: unknown,
): Promise<{ status: number; body: T }> => {
  const r = await fetch(base + path, {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  return { status: r.status, body: (await r.json()) as T };
};

const crate = (i: number, shift = 0): Brush =>
  dressSolid(
    boxSolid({
      min: [(i % 50) * 100 + shift, Math.floor(i / 50) * 100, 0],
      max: [(i % 50) * 100 + 64 + shift, Math.floor(i / 50) * 100 + 64, 64],
    }),
    `b${i}`,
    'limewash',
  );

const quantile = (sorted: readonly number[], q: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * q))]!;

/** Fifty people on maps of 2,000 brushes, a save of six brushes a second each, with large imports beside. */
async function editors(): Promise<void> {
  const server = await start();
  const { body: project } = await json<{ id: string }>(server.base, 'POST', '/api/projects', { name: 'Load' });
  const text = writeMap(
    addBrushes(
      emptyMap('Load'),
      Array.from({ length: 2000 }, (_, i) => crate(i)),
    ),
  );
  const maps: { id: string; version: number }[] = [];
  for (let i = 0; i < 50; i++)
    maps.push(
      (
        await json<{ id: string; version: number }>(server.base, 'POST', '/api/maps', {
          projectId: project.id,
          name: `Load ${i}`,
          document: text,
        })
      ).body,
    );
  // The first save of a map reads it once; a page that opens it does so too.
  for (const m of maps)
    m.version = (
      await json<{ version: number }>(server.base, 'POST', `/api/maps/${m.id}/changes`, {
        baseVersion: m.version,
        items: [],
      })
    ).body.version;
  const times: number[] = [];
  let lost = 0;
  const seconds = Number(process.env.SECONDS ?? 60);
  const until = performance.now() + seconds * 1000;
  const large = (async () => {
    const many = writeMap(
      addBrushes(
        emptyMap('Large'),
        Array.from({ length: 12_000 }, (_, i) => crate(i)),
      ),
    );
    while (performance.now() < until) {
      await json(server.base, 'POST', '/api/maps', { projectId: project.id, name: 'Large', document: many });
      await new Promise((r) => setTimeout(r, 4000));
    }
  })();
  const memory: number[] = [];
  const sampler = setInterval(() => memory.push(rss(server.child.pid!)), 1000);
  await Promise.all(
    maps.map(async (m, k) => {
      await new Promise((r) => setTimeout(r, k * 20));
      for (let n = 0; performance.now() < until; n++) {
        const began = performance.now();
        const items = Array.from({ length: 6 }, (_, j) => crate((n * 6 + j) % 2000, 1 + (n % 30))).map((b) => ({
          in: 'brushes',
          id: b.id,
          item: b,
        }));
        const saved = await json<{ version: number }>(server.base, 'POST', `/api/maps/${m.id}/changes`, {
          baseVersion: m.version,
          items,
        });
        times.push(performance.now() - began);
        if (saved.status === 200) m.version = saved.body.version;
        else lost++;
        await new Promise((r) => setTimeout(r, Math.max(0, 1000 - (performance.now() - began))));
      }
    }),
  );
  await large;
  clearInterval(sampler);
  for (const m of maps) {
    const now = (await json<{ version: number }>(server.base, 'GET', `/api/maps/${m.id}`)).body;
    if (now.version !== m.version) lost++;
  }
  times.sort((a, b) => a - b);
  const half = memory.length >> 1;
  const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / Math.max(1, list.length);
  note(
    `50 editors on maps of 2,000 brushes, ${seconds} s, ${times.length} saves of 6 brushes, imports of 12,000 beside: median, p99, slowest`,
    `${quantile(times, 0.5).toFixed(0)}, ${quantile(times, 0.99).toFixed(0)}, ${times.at(-1)!.toFixed(0)} ms`,
    'p99 < 500 ms',
  );
  note('… lost or refused', String(lost), '0');
  note(
    '… memory of the server, first and second half of the time',
    `${mean(memory.slice(0, half)).toFixed(0)}, ${mean(memory.slice(half)).toFixed(0)} MB`,
    'flat',
  );
  note('… ended by SIGTERM in', `${(await server.stop()).toFixed(0)} ms`, '< 5,000 ms');
}

/** Requests that nobody should send: none may make the server fail. */
async function fuzz(): Promise<void> {
  const server = await start();
  const { body: project } = await json<{ id: string }>(server.base, 'POST', '/api/projects', { name: 'Fuzz' });
  const { body: map } = await json<{ id: string }>(server.base, 'POST', '/api/maps', {
    projectId: project.id,
    name: 'm',
    template: 'empty',
  });
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
    'x'.repeat(3000),
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
    '/api/materials/x',
    '/api/packs/x',
    '/api/packs/import',
    '/stock/pictures/x/albedo',
    '/api/drawings/x',
    '/api/health',
    '/%00',
    '/%E0%A4%A',
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
    '__proto__',
  ];
  const kinds = [
    'application/json',
    'application/json',
    'text/plain',
    'multipart/form-data; boundary=x',
    'multipart/form-data',
  ];
  const count = Number(process.env.COUNT ?? 50_000);
  const codes = new Map<number, number>();
  let next = 0;
  await Promise.all(
    Array.from({ length: 24 }, async () => {
      for (let k = next++; k < count; k = next++) {
        let n = 0;
        const one = <T>(list: readonly T[]): T => list[Math.floor(hashRandom(k, n++) * list.length)]!;
        const body =
          hashRandom(k, n++) < 0.2
            ? one(odd)
            : Object.fromEntries(keys.filter(() => hashRandom(k, n++) < 0.4).map((key) => [key, one(odd)]));
        let text = JSON.stringify(body) ?? '';
        if (hashRandom(k, n++) < 0.1) text = text.slice(0, Math.floor(text.length / 2));
        const method = one(['GET', 'POST', 'PUT', 'PATCH', 'DELETE']);
        const r = await fetch(server.base + one(urls).replace('P', project.id).replace('M', map.id), {
          method,
          headers: { 'content-type': one(kinds) },
          ...(method === 'GET' ? {} : { body: text }),
        });
        await r.arrayBuffer();
        codes.set(r.status, (codes.get(r.status) ?? 0) + 1);
      }
    }),
  );
  const failed = [...codes].filter(([c]) => c >= 500).reduce((s, [, v]) => s + v, 0);
  note(`${count.toLocaleString('en')} odd requests answered with 5xx`, String(failed), '0');
  await server.stop();
}

const form = (files: Record<string, Uint8Array>): FormData => {
  const data = new FormData();
  for (const [name, bytes] of Object.entries(files)) data.append('files', new Blob([bytes as BlobPart]), name);
  return data;
};

/** Uploads that are made to use memory: its peak is told, of the server and of it with the processes that decode. */
async function memory(): Promise<void> {
  const cases: [string, (base: string) => Promise<unknown>][] = [
    [
      'nested ZIPs',
      async (base) => {
        let inner = zipSync({ 'a.png': new Uint8Array(1 << 20) });
        for (let k = 0; k < 40; k++)
          inner = zipSync({ [`${k}.zip`]: inner, [`${k}b.zip`]: inner }, { level: 0 }).slice(0, 60 << 20);
        await fetch(`${base}/api/packs/import`, { method: 'POST', body: form({ 'nested.zip': inner }) });
      },
    ],
    [
      '20 gzip bodies that unpack to 256 MB each',
      async (base) => {
        const bomb = gzipSync(new Uint8Array(256 << 20));
        await Promise.all(
          Array.from({ length: 20 }, () =>
            fetch(`${base}/api/maps`, {
              method: 'POST',
              headers: { 'content-type': 'application/json', 'content-encoding': 'gzip' },
              body: bomb as BodyInit,
            }).then((r) => r.arrayBuffer()),
          ),
        );
      },
    ],
    [
      'five uploads of 250 MB at once',
      async (base) => {
        const part = new Uint8Array(25 << 20).map((_, i) => (i * 2654435761) >>> 24);
        const one = () =>
          fetch(`${base}/api/packs/import`, {
            method: 'POST',
            body: form(Object.fromEntries(Array.from({ length: 10 }, (_, i) => [`noise${i}.png`, part]))),
          }).then((r) => r.arrayBuffer());
        await Promise.all(Array.from({ length: 5 }, one));
      },
    ],
    [
      `${process.env.PICTURES ?? 2000} flat pictures of 8192 × 4096`,
      async (base) => {
        const flat = new Uint8Array(
          await sharp({ create: { width: 8192, height: 4096, channels: 3, background: { r: 9, g: 99, b: 30 } } })
            .png()
            .toBuffer(),
        );
        const entries = Object.fromEntries(
          Array.from({ length: Number(process.env.PICTURES ?? 2000) }, (_, i) => [`p${i}.png`, flat]),
        );
        const cancel = AbortSignal.timeout(Number(process.env.PATIENCE ?? 60_000));
        await fetch(`${base}/api/packs/import`, {
          method: 'POST',
          body: form({ 'flat.zip': zipSync(entries, { level: 0 }) }),
          signal: cancel,
        }).then(
          (r) => r.arrayBuffer(),
          () => undefined,
        );
      },
    ],
  ];
  for (const [name, attack] of cases) {
    const server = await start();
    await attack(server.base);
    const alive = (await fetch(`${server.base}/api/health`)).ok;
    const { server: own, all } = server.peak();
    note(
      `${name}: peak of the server, with decoding`,
      `${own.toFixed(0)}, ${all.toFixed(0)} MB${alive ? '' : ', and it died'}`,
      '< 800 MB',
    );
    await server.stop();
  }
}

async function firstStart(): Promise<void> {
  const began = performance.now();
  const server = await start();
  note(
    'first start on a new data folder: time, peak',
    `${(performance.now() - began).toFixed(0)} ms, ${server.peak().all.toFixed(0)} MB`,
    '< 600 MB',
  );
  await server.stop();
}

/** The test of power cuts, with more of them than `npm test` has time for. */
async function cuts(): Promise<void> {
  const CUTS = process.env.CUTS ?? '100';
  const child = spawn(
    process.execPath,
    ['--experimental-vm-modules', join(root, 'node_modules/jest/bin/jest.js'), 'power-cut'],
    { cwd: root, env: { ...process.env, CUTS }, stdio: ['ignore', 'ignore', 'inherit'] },
  );
  const code = await new Promise((done) => child.once('exit', done));
  note(`${CUTS} power cuts while saving: lost what was answered, or did not start`, code === 0 ? '0' : 'some', '0');
}

const parts = { start: firstStart, editors, fuzz, memory, cuts };
for (const [name, part] of Object.entries(parts)) if (name.includes(process.argv[2] ?? '')) await part();
console.log('| what | figure | wanted |\n|---|---|---|');
for (const r of rows) console.log(`| ${r.join(' | ')} |`);
