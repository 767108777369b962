import { fsyncSync } from 'node:fs';
import { dirname } from 'node:path';
import { NodeFS } from '@electric-sql/pglite/nodefs';
import { syncPath } from '../store/files.ts';

/** What of Emscripten's file system over Node's is used here. */
interface Module {
  readonly NODEFS: {
    readonly stream_ops: { fsync?: (stream: Stream) => number };
    readonly realPath: (node: unknown) => string;
  };
}
interface Stream {
  readonly nfd?: number;
  readonly node: unknown;
}

/**
 * The embedded database's files on disk, with the operation that the file system it ships with lacks: when the database asks
 * for a file to be synced, it is. The name of a file that is new is synced with it.
 */
export class SyncedFs extends NodeFS {
  override async init(...args: Parameters<NodeFS['init']>): ReturnType<NodeFS['init']> {
    const made = await super.init(...args);
    const named = new Set<string>();
    const { preRun } = made.emscriptenOpts as { preRun: ((module: Module) => void)[] };
    preRun.unshift(({ NODEFS }) => {
      NODEFS.stream_ops.fsync = ({ nfd, node }) => {
        const path = NODEFS.realPath(node);
        if (nfd === undefined) syncPath(path);
        else fsyncSync(nfd);
        if (!named.has(path)) {
          syncPath(dirname(path));
          named.add(path);
        }
        return 0;
      };
    });
    return made;
  }
}

/**
 * How the server inside is started: as the package does it, but for `-F`, which switches syncing off, and with the one way of
 * syncing that reaches {@link SyncedFs}.
 */
export const SYNCED_START: string[] = [
  '--single',
  '-O',
  '-j',
  '-c',
  'search_path=public',
  '-c',
  'exit_on_error=false',
  '-c',
  'log_checkpoints=false',
  '-c',
  'max_worker_processes=0',
  '-c',
  'max_parallel_workers=0',
  '-c',
  'max_parallel_workers_per_gather=0',
  '-c',
  'io_method=sync',
  '-c',
  'max_parallel_maintenance_workers=0',
  '-c',
  'wal_sync_method=fsync',
];
