import { closeSync, mkdirSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { Refusal } from '../errors.ts';

/** Takes a data folder for this process alone. Gives a function that frees it; refuses when another living process has it. */
export function lockFolder(dataDir: string): () => void {
  mkdirSync(dataDir, { recursive: true });
  const path = join(dataDir, 'lock');
  for (let attempt = 0; ; attempt++) {
    try {
      const file = openSync(path, 'wx');
      writeSync(file, String(process.pid));
      closeSync(file);
      return () => rmSync(path, { force: true });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST' || attempt > 0) throw error;
      const owner = Number(readFileSync(path, 'utf8'));
      if (isAlive(owner))
        throw new Refusal(
          503,
          'data.locked',
          `Another Yesca (process ${owner}) uses this data folder. Stop it, or start this one with another YESCA_DATA.`,
        );
      rmSync(path, { force: true });
    }
  }
}

function isAlive(pid: number): boolean {
  if (!Number.isInteger(pid) || pid <= 0) return false;
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}
