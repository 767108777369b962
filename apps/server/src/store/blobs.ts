import { createHash, randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, open, readFile, rename } from 'node:fs/promises';
import { join } from 'node:path';

/** Files named by their content (SHA-256): written, synced and renamed before any row names them. */
export interface Blobs {
  readonly put: (data: string | Uint8Array) => Promise<string>;
  readonly text: (hash: string) => Promise<string>;
  readonly path: (hash: string) => string;
}

export function openBlobs(dataDir: string): Blobs {
  const root = join(dataDir, 'blobs');
  const path = (hash: string): string => {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('not a content address');
    return join(root, hash.slice(0, 2), hash);
  };
  return {
    path,
    text: (hash) => readFile(path(hash), 'utf8'),
    put: async (data) => {
      const hash = createHash('sha256').update(data).digest('hex');
      const target = path(hash);
      if (existsSync(target)) return hash;
      const folder = join(root, hash.slice(0, 2));
      await mkdir(folder, { recursive: true });
      const draft = join(folder, `draft-${randomUUID()}`);
      const file = await open(draft, 'w');
      try {
        await file.writeFile(data);
        await file.sync();
      } finally {
        await file.close();
      }
      await rename(draft, target);
      return hash;
    },
  };
}
