import { createServer } from 'node:net';
import { availableParallelism } from 'node:os';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { makeApp } from './app.ts';
import { EMPTY_DATABASE } from './db/database.ts';
import { Refusal } from './errors.ts';
import { seedDemo } from './seed.ts';
import { isSource } from './workers/program.ts';

/** Beside the sources, or beside the built output. */
const server = new URL('..', import.meta.url);
const root = new URL('../..', server);
const at = (path: string, base: URL): string => fileURLToPath(new URL(path, base));

const stockDir = at('packages/stock/assets', root);
const host = '127.0.0.1';
const port = Number(process.env.YESCA_PORT ?? 4170);
const list = (text: string | undefined): string[] =>
  text
    ?.split(',')
    .map((t) => t.trim())
    .filter(Boolean) ?? [];

/** However the server hangs, it has ended this long (ms) after it was asked to. */
const GRACE = 4500;

/** A taken port is said before anything is opened. */
const portFree = (): Promise<void> =>
  new Promise((done, fail) => {
    const probe = createServer()
      .once('error', fail)
      .listen({ host, port }, () => probe.close(() => done()));
  });

try {
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new Refusal(503, 'port.unusable', `YESCA_PORT is ${process.env.YESCA_PORT}; give a number from 0 to 65535.`);
  await portFree();
  const { app, context } = await makeApp({
    dataDir: resolve(process.env.YESCA_DATA ?? at('data', root)),
    stockDir,
    migrations: at('drizzle', server),
    webDir: isSource ? undefined : at('apps/web/dist', root),
    buildThreads: Math.max(1, availableParallelism() - 1),
    log: ({ info: 'info', debug: 'debug' } as const)[process.env.YESCA_LOG ?? ''] ?? 'warn',
    hosts: list(process.env.YESCA_HOSTS),
    origins: list(process.env.YESCA_ORIGINS),
    emptyDatabase: isSource ? undefined : at(EMPTY_DATABASE, new URL('.', import.meta.url)),
  });
  let stopping = false;
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.on(signal, () => {
      if (stopping) return;
      stopping = true;
      setTimeout(() => process.exit(1), GRACE).unref();
      void app.close().then(
        () => process.exit(0),
        () => process.exit(1),
      );
    });
  // Tests do without the builds.
  const demo = process.env.YESCA_DEMO;
  if (demo === '1' || demo === 'unbuilt') await seedDemo(context, stockDir, demo === '1' ? 'review' : null);
  const address = await app.listen({ host, port });
  console.log(`Yesca is open at ${address}`);
} catch (error) {
  const { code } = error as NodeJS.ErrnoException;
  if (code === 'EADDRINUSE') console.error(`Port ${port} is taken. Stop what uses it, or set YESCA_PORT to another.`);
  else if (code === 'EACCES')
    console.error(`Port ${port} may not be used by this account. Set YESCA_PORT to one above 1023.`);
  else console.error(error instanceof Refusal ? error.message : error);
  process.exit(1);
}
