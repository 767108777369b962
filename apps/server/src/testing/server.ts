import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FastifyInstance } from 'fastify';
import { makeApp, type AppOptions } from '../app.ts';
import type { Context } from '../context.ts';
import { PLACES } from './places.ts';

export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';

/** A server for a test, on a folder of its own. */
export interface TestServer {
  readonly app: FastifyInstance;
  readonly context: Context;
  readonly dataDir: string;
  readonly call: <T>(method: Method, url: string, payload?: object) => Promise<{ status: number; body: T }>;
  readonly stop: () => Promise<void>;
}

export async function serve(more: Partial<AppOptions> = {}): Promise<TestServer> {
  const dataDir = more.dataDir ?? mkdtempSync(join(tmpdir(), 'yesca-server-'));
  const { app, context } = await makeApp({ ...PLACES, dataDir, ...more });
  return {
    app,
    context,
    dataDir,
    call: async (method, url, payload) => {
      const response = await app.inject({ method, url, ...(payload ? { payload } : {}) });
      return { status: response.statusCode, body: response.json() };
    },
    stop: async () => {
      await app.close();
      rmSync(dataDir, { recursive: true, force: true });
    },
  };
}
