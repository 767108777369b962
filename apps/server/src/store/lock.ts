import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, realpathSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { join } from 'node:path';
import lockfile from 'proper-lockfile';
import { Refusal } from '../errors.ts';

/**
 * Takes a data folder for this process alone. Gives a function that frees it; refuses when another living process has it.
 *
 * The lock is a name that the operating system gives to one process at a time and takes back when that ends, however it ends:
 * an abstract socket on Linux, a pipe on Windows. Elsewhere a kept library's lock file does it, which a killed process leaves
 * for a few seconds. The file `owner` is only for the sentence.
 */
export async function lockFolder(dataDir: string): Promise<() => Promise<void>> {
  try {
    mkdirSync(dataDir, { recursive: true });
    writeFileSync(join(dataDir, '.writable'), '');
    rmSync(join(dataDir, '.writable'));
  } catch (error) {
    throw new Refusal(
      503,
      'data.unwritable',
      `The data folder ${dataDir} cannot be written (${(error as NodeJS.ErrnoException).code}). Give YESCA_DATA a folder that can.`,
    );
  }
  const owner = join(dataDir, 'owner');
  const taken = (): Refusal => {
    let process = 'unknown';
    try {
      process = readFileSync(owner, 'utf8').trim();
    } catch {
      // Its owner has not written its number yet.
    }
    return new Refusal(
      503,
      'data.locked',
      `Another Yesca (process ${process}) uses this data folder. Stop it, or start this one with another YESCA_DATA.`,
    );
  };
  const free = await take(dataDir, taken);
  writeFileSync(owner, `${process.pid}\n`);
  return async () => {
    rmSync(owner, { force: true });
    await free();
  };
}

async function take(dataDir: string, taken: () => Refusal): Promise<() => Promise<void>> {
  const { dev, ino } = statSync(dataDir);
  const name = createHash('sha256')
    .update(`${dev} ${ino} ${realpathSync(dataDir)}`)
    .digest('hex')
    .slice(0, 32);
  const address = { linux: `\0yesca-${name}`, win32: `\\\\.\\pipe\\yesca-${name}` }[process.platform as string];
  if (!address) {
    const free = await lockfile
      .lock(dataDir, { stale: 5000, update: 1000, retries: { retries: 7, minTimeout: 1000, factor: 1 } })
      .catch(() => {
        throw taken();
      });
    return free;
  }
  const server = await listen(address, taken);
  server.unref();
  return () => new Promise((done) => server.close(() => done()));
}

const listen = (address: string, taken: () => Refusal): Promise<Server> =>
  new Promise((done, fail) => {
    const server = createServer((socket) => socket.destroy());
    server.once('error', (error: NodeJS.ErrnoException) => fail(error.code === 'EADDRINUSE' ? taken() : error));
    server.listen(address, () => done(server));
  });
