import 'reflect-metadata';
import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import compress from '@fastify/compress';
import helmet from '@fastify/helmet';
import files from '@fastify/static';
import { sql } from 'drizzle-orm';
import fastify, { type FastifyInstance } from 'fastify';
import { BuildQueue } from './builds/queue.ts';
import type { Context } from './context.ts';
import { openDatabase } from './db/database.ts';
import { errorBody, handleErrors } from './errors.ts';
import { assemblyRoutes } from './features/assemblies.ts';
import { buildRoutes } from './features/builds.ts';
import { findingRoutes } from './features/findings.ts';
import { mapRoutes } from './features/maps.ts';
import { materialRoutes } from './features/materials.ts';
import { packRoutes } from './features/packs.ts';
import { propRoutes } from './features/props.ts';
import { shelf } from './features/shelf.ts';
import { guardOrigin, readJson } from './guards.ts';
import { openDecoder } from './materials/decoder.ts';
import { openModelReader } from './props/reader.ts';
import { Saves } from './saves/saves.ts';
import { tidyFolder } from './store/tidy.ts';
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
  /** What is logged: nothing when absent; `info` logs every request. */
  readonly log?: 'warn' | 'info' | 'debug';
  /** Names besides loopback under which it is reached, and other origins that may change things (the development server's). */
  readonly hosts?: readonly string[];
  readonly origins?: readonly string[];
  /** The packed empty database that new data folders begin with. */
  readonly emptyDatabase?: string;
}

/** The server, ready to listen. Closing it frees the data folder. */
export async function makeApp(options: AppOptions): Promise<{ app: FastifyInstance; context: Context }> {
  const unlock = await lockFolder(options.dataDir);
  const { db, close } = await openDatabase(options.dataDir, options.migrations, options.emptyDatabase).catch(
    async (error: unknown) => {
      await unlock();
      throw error;
    },
  );
  const blobs = openBlobs(options.dataDir);
  const pools = {
    inspector: openPool('inspect', 1),
    builder: openPool('build', options.buildThreads ?? 1),
    composer: openPool('compose', 1),
    checker: openPool('findings', 1),
  };
  const decoder = openDecoder();
  const models = openModelReader();
  const saves = new Saves(db, blobs, pools.composer);
  const queue = new BuildQueue(db, blobs, pools.builder, options);
  await queue.markInterrupted();
  const context: Context = { db, blobs, ...pools, decoder, models, saves, queue };
  rmSync(join(options.dataDir, 'uploads'), { recursive: true, force: true });

  const app = fastify({
    logger: options.log ? { level: options.log } : false,
    bodyLimit: 1024 * 1024,
    routerOptions: { maxParamLength: 200 },
    return503OnClosing: true,
    forceCloseConnections: true,
    requestTimeout: 10 * 60 * 1000,
    frameworkErrors: (error, _request, reply) => {
      const { status, body } = errorBody(error);
      void reply.status(status as never).send(body as never);
    },
  });
  handleErrors(app);
  readJson(app);
  guardOrigin(app, options);
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
  // Bodies are taken as they come: what is packed could unpack to anything.
  await app.register(compress, { global: true, globalDecompression: false, threshold: 2048 });
  app.get('/api/health', async () => {
    await db.execute(sql`select 1`);
    return { ok: true };
  });
  assemblyRoutes(app, context);
  shelf(app, context);
  mapRoutes(app, context);
  buildRoutes(app, context);
  findingRoutes(app, context);
  const places = { stockDir: options.stockDir, dataDir: options.dataDir };
  await materialRoutes(app, { ...context, ...places });
  packRoutes(app, context);
  propRoutes(app, { ...context, ...places });
  if (options.webDir && existsSync(options.webDir)) {
    await app.register(files, {
      root: options.webDir,
      prefix: '/',
      index: 'index.html',
      setHeaders: (reply, path) =>
        // The build names scripts, styles and fonts by their content.
        void reply.header(
          'cache-control',
          /[\\/]assets[\\/]/.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache',
        ),
      cacheControl: false,
    });
  }
  app.setNotFoundHandler((request, reply) => {
    const isPage =
      request.method === 'GET' && !request.url.startsWith('/api/') && !/\.\w+$/.test(request.url.split('?')[0]!);
    if (isPage && options.webDir) return reply.sendFile('index.html', options.webDir);
    return reply.status(404).send({ code: 'address.notFound', message: 'There is nothing at this address.' });
  });
  app.addHook('onClose', async () => {
    decoder.destroy();
    models.destroy();
    await queue.stop();
    await saves.stop();
    await Promise.all(Object.values(pools).map((pool) => pool.destroy()));
    await close();
    await unlock();
  });
  // Long after the start nothing waits for it: old files that nothing names go.
  void tidyFolder(context).catch((error: unknown) => app.log.warn(error));
  return { app, context };
}
