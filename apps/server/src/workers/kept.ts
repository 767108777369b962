import { createHash, randomUUID } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, rmSync, statSync, utimesSync, writeFileSync, renameSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { deserialize, serialize } from 'node:v8';
import type { KeptResults } from '@yesca/core';

const sha256 = (data: string | Uint8Array): string => createHash('sha256').update(data).digest('hex');

/** All files of results together take up to so many bytes; those used longest ago go first. */
const MOST = 1024 ** 3;

/** Where the results of a map's builds at one preset lie. */
export const keptFile = (folder: string, map: string, preset: string): string =>
  join(folder, sha256(`${map} ${preset}`));

/** What results were made by: the program as it is built. Another one may come to others. */
const program = (): string => {
  const folder = dirname(fileURLToPath(import.meta.url));
  const scripts = readdirSync(folder).filter((name) => name.endsWith('.js'));
  return sha256(
    scripts
      .sort()
      .map((name) => sha256(readFileSync(join(folder, name))))
      .join(' '),
  );
};

/** Results of the last build of a map, for its next one. */
export interface KeptFile extends KeptResults {
  /** Writes down what this build used and made, in place of what it found. */
  readonly save: () => void;
}

/**
 * Opens a file of results. One that is not there, is damaged, or was made by another program counts as empty: nothing depends on it but time.
 * While developing (`by` empty) nothing is kept.
 */
export function openKept(file: string, by = import.meta.url.endsWith('.ts') ? '' : program()): KeptFile | undefined {
  if (!by) return undefined;
  const found = read(file, by);
  const used = new Map<string, unknown>();
  return {
    hash: sha256,
    get: (name) => {
      const result = found.get(name);
      if (result !== undefined) used.set(name, result);
      return result;
    },
    put: (name, result) => void used.set(name, result),
    save: () => {
      try {
        mkdirSync(dirname(file), { recursive: true });
        const draft = join(dirname(file), `draft-${randomUUID()}`);
        writeFileSync(draft, serialize({ by, results: used }));
        renameSync(draft, file);
        forgetOldest(dirname(file));
      } catch {
        // A full disk must not fail a build that is done.
      }
    },
  };
}

function read(file: string, by: string): ReadonlyMap<string, unknown> {
  try {
    const kept = deserialize(readFileSync(file)) as { by: string; results: Map<string, unknown> };
    if (kept.by !== by) return new Map();
    utimesSync(file, new Date(), new Date());
    return kept.results;
  } catch {
    return new Map();
  }
}

/** Removes the files used longest ago, beyond what they may take. */
export function forgetOldest(folder: string, most = MOST): void {
  const files = readdirSync(folder)
    .map((name) => join(folder, name))
    .map((path) => ({ path, info: statSync(path) }))
    .sort((a, b) => b.info.mtimeMs - a.info.mtimeMs);
  let bytes = 0;
  for (const { path, info } of files) {
    bytes += info.size;
    if (bytes > most) rmSync(path, { force: true });
  }
}
