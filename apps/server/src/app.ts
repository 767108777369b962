import 'reflect-metadata';
import { existsSync } from 'node:fs';
import compress from '@fastify/compress';
import helmet from '@fastify/helmet';
import files from '@fastify/static';
import fastify, { type FastifyInstance } from 'fastify';
import { BuildQueue } from './builds/queue.ts';
import type { Context } from './context.ts';
import { openDatabase } from './db/database.ts';
import { handleErrors } from './errors.ts';
import { buildRoutes } from './features/builds.ts';
import { mapRoutes } from './features/maps.ts';
import { materialRoutes } from './features/materials.ts';
import { shelf } from './features/shelf.ts';
import { openBlobs } from './store/blobs.ts';
import { lockFolder } from './store/lock.ts';
import { openPool } from './workers/pool.ts';

export interface AppOptions {
  readonly dataDir: string;
  /** Where `materials/` and `maps/` of the stock lie. */
  readonly stockDir: string;
  readonly migrations: string;
  /** The built web application; left out while developing. */
  readonly webDir?: string;
  readonly buildThreads?: number;
  readonly log?: boolean;
}

/** The server, ready to listen. Closing it frees the data folder. */
export async function makeApp(options: AppOptions): Promise<{ app: FastifyInstance; context: Context }> {
  const unlock = lockFolder(options.dataDir);
  const { db, close } = await openDatabase(options.dataDir, options.migrations).catch((error: unknown) => {
    unlock();
    throw error;
  });
  const blobs = openBlobs(options.dataDir);
  const pools = {
    inspector: openPool('inspect', 1),
    builder: openPool('build', options.buildThreads ?? 1),
    decoder: openPool('pictures', 1),
  };
  const queue = new BuildQueue(db, blobs, pools.builder);
  await queue.markInterrupted();
  const context: Context = { db, blobs, ...pools, queue };

  const app = fastify({ logger: options.log ? { level: 'warn' } : false, bodyLimit: 72 * 1024 * 1024 });
  handleErrors(app);
  await app.register(helmet, {
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        connectSrc: ["'self'", 'blob:'],
        workerSrc: ["'self'", 'blob:'],
        fontSrc: ["'self'", 'data:'],
        upgradeInsecureRequests: null,
      },
    },
    crossOriginEmbedderPolicy: { policy: 'require-corp' },
    strictTransportSecurity: false,
  });
  await app.register(compress, { global: true, threshold: 2048 });
  shelf(app, context);
  mapRoutes(app, context);
  buildRoutes(app, context);
  await materialRoutes(app, { ...context, stockDir: options.stockDir });
  if (options.webDir && existsSync(options.webDir)) {
    await app.register(files, { root: options.webDir, prefix: '/', index: 'index.html' });
  }
  app.setNotFoundHandler((request, reply) => {
    const isPage =
      request.method === 'GET' && !request.url.startsWith('/api/') && !/\.\w+$/.test(request.url.split('?')[0]!);
    if (isPage && options.webDir) return reply.sendFile('index.html', options.webDir);
    return reply.status(404).send({ code: 'address.notFound', message: 'There is nothing at this address.' });
  });
  app.addHook('onClose', async () => {
    await queue.stop();
    await Promise.all([pools.inspector.destroy(), pools.builder.destroy(), pools.decoder.destroy()]);
    await close();
    unlock();
  });
  return { app, context };
}
