import { Piscina } from 'piscina';
import { program, type ProgramName } from './program.ts';

/** A pool of threads that run one of the workers. An error of a thread fails its task; the pool starts a fresh one. */
export function openPool(worker: ProgramName, threads: number): Piscina {
  const { file, execArgv } = program(worker);
  const pool = new Piscina({
    filename: file,
    minThreads: 0,
    maxThreads: threads,
    idleTimeout: 60_000,
    execArgv: [...execArgv],
  });
  // Without a listener an error of an idle thread would end the server.
  pool.on('error', () => undefined);
  return pool;
}
