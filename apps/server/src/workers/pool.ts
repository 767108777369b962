import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';

/** Sources run through tsx while developing; a build has plain JavaScript beside it. */
const isSource = import.meta.url.endsWith('.ts');

/** A pool of threads that run one of the workers. An error of a thread fails its task; the pool starts a fresh one. */
export function openPool(worker: 'inspect' | 'build' | 'compose' | 'findings', threads: number): Piscina {
  const filename = fileURLToPath(
    isSource ? new URL(`./${worker}.ts`, import.meta.url) : new URL(`./${worker}.js`, import.meta.url),
  );
  const pool = new Piscina({
    filename,
    minThreads: 0,
    maxThreads: threads,
    idleTimeout: 60_000,
    execArgv: isSource ? ['--import', 'tsx'] : [],
  });
  // Without a listener an error of an idle thread would end the server.
  pool.on('error', () => undefined);
  return pool;
}
