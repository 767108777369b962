import { createHash, randomUUID } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { readdir, readFile, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Refusal } from '../errors.ts';
import { syncPath, writeWhole } from './files.ts';

/** Files named by their content (SHA-256): written, synced and renamed before any row names them. */
export interface Blobs {
  readonly put: (data: string | Uint8Array) => Promise<string>;
  /** The content, checked against its name. Throws `data.missing` or `data.damaged`. */
  readonly read: (hash: string) => Promise<Buffer>;
  readonly text: (hash: string) => Promise<string>;
  /** Where the content lies, for who reads it elsewhere. */
  readonly file: (hash: string) => string;
  /** Removes files that nothing names and that are older than an hour. Gives how many. */
  readonly collect: (used: ReadonlySet<string>) => Promise<number>;
}

const hashOf = (data: string | Uint8Array): string => createHash('sha256').update(data).digest('hex');
const isMissing = (error: unknown): boolean => (error as NodeJS.ErrnoException).code === 'ENOENT';

/** A file that no row names may belong to one that is just being written. */
const YOUNG = 60 * 60 * 1000;

export function openBlobs(dataDir: string): Blobs {
  const root = join(dataDir, 'blobs');
  const folderOf = (hash: string): string => join(root, hash.slice(0, 2));
  const path = (hash: string): string => {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('not a content address');
    return join(folderOf(hash), hash);
  };
  const read = async (hash: string): Promise<Buffer> => {
    const data = await readFile(path(hash)).catch((error: unknown) => {
      if (!isMissing(error)) throw error;
      throw new Refusal(
        500,
        'data.missing',
        'A file of the data folder is gone. Bring it back from a backup, or save the map again from where it is still open.',
      );
    });
    if (hashOf(data) !== hash)
      throw new Refusal(
        500,
        'data.damaged',
        'A file of the data folder is damaged. Bring it back from a backup, or save the map again from where it is still open.',
      );
    return data;
  };
  return {
    read,
    file: path,
    text: async (hash) => (await read(hash)).toString('utf8'),
    put: async (data) => {
      const hash = hashOf(data);
      // Only what is whole counts as there: a damaged file is written anew.
      const known = await readFile(path(hash)).then(
        (have) => hashOf(have) === hash,
        () => false,
      );
      if (known) return hash;
      if (mkdirSync(folderOf(hash), { recursive: true })) syncPath(root);
      await writeWhole(path(hash), join(folderOf(hash), `draft-${randomUUID()}`), data);
      return hash;
    },
    collect: async (used) => {
      let gone = 0;
      const old = Date.now() - YOUNG;
      for (const folder of await readdir(root).catch(() => []))
        for (const name of await readdir(join(root, folder)).catch(() => [])) {
          if (used.has(name)) continue;
          const file = join(root, folder, name);
          const info = await stat(file).catch(() => null);
          if (!info?.isFile() || info.mtimeMs > old) continue;
          await rm(file, { force: true });
          gone++;
        }
      return gone;
    },
  };
}
