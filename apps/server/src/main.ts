import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { availableParallelism } from 'node:os';
import { makeApp } from './app.ts';
import { Refusal } from './errors.ts';
import { seedDemo } from './seed.ts';

const isSource = import.meta.url.endsWith('.ts');
/** Beside the sources, or beside the built output. */
const server = new URL('..', import.meta.url);
const root = new URL('../..', server);
const at = (path: string, base: URL): string => fileURLToPath(new URL(path, base));

const stockDir = at('packages/stock/assets', root);
const port = Number(process.env.YESCA_PORT ?? 4170);
try {
  const { app, context } = await makeApp({
    dataDir: resolve(process.env.YESCA_DATA ?? at('data', root)),
    stockDir,
    migrations: at('drizzle', server),
    webDir: isSource ? undefined : at('apps/web/dist', root),
    buildThreads: Math.max(1, availableParallelism() - 1),
    log: true,
  });
  if (process.env.YESCA_DEMO === '1') await seedDemo(context, stockDir);
  const address = await app.listen({ host: '127.0.0.1', port });
  console.log(`Yesca is open at ${address}`);
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.once(signal, () => void app.close().then(() => process.exit(0)));
} catch (error) {
  const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  console.error(
    taken
      ? `Port ${port} is taken. Stop what uses it, or set YESCA_PORT to another.`
      : error instanceof Refusal
        ? error.message
        : error,
  );
  process.exit(1);
}
