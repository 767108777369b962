import { closeSync, fsyncSync, openSync, readdirSync } from 'node:fs';
import { open, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';

/** Makes sure that what a folder lists, or a file holds, is on the disk. */
export function syncPath(path: string): void {
  const file = openSync(path, 'r');
  try {
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
}

/** Makes sure that everything below a folder is on the disk. */
export function syncTree(folder: string): void {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) syncTree(path);
    else if (entry.isFile()) syncPath(path);
  }
  syncPath(folder);
}

/** Writes a file so that after a power cut it is either not there or whole: a draft is synced, renamed, and its folder synced. */
export async function writeWhole(path: string, draft: string, data: string | Uint8Array): Promise<void> {
  try {
    const file = await open(draft, 'w');
    try {
      await file.writeFile(data);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(draft, path);
  } catch (error) {
    await rm(draft, { force: true });
    throw error;
  }
  syncPath(dirname(path));
}
