import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The server's programs of their own: of a thread, or of a process. */
export type ProgramName = 'inspect' | 'build' | 'compose' | 'findings' | 'shards' | 'pictures' | 'models';

/** A file for Node, and the options it is started with. */
export interface Program {
  readonly file: string;
  readonly execArgv: readonly string[];
}

/** Whether the server runs from its source, which happens while developing, or from a build. */
export const isSource = import.meta.url.endsWith('.ts');

/** A file of the build that a server run from source may take: a test says where a fresh one lies, for its programs start much sooner. */
export function lentBuild(file: string): string | undefined {
  const folder = process.env.YESCA_BUILT;
  const path = folder && resolve(folder, file);
  return path && existsSync(path) ? path : undefined;
}

/** Where one of the programs lies. Sources run through tsx; a build has plain JavaScript beside what starts it. */
export function program(name: ProgramName): Program {
  const beside = (path: string) => fileURLToPath(new URL(path, import.meta.url));
  if (!isSource) return { file: beside(`./${name}.js`), execArgv: [] };
  const built = lentBuild(`${name}.js`);
  if (built) return { file: built, execArgv: [] };
  // A thread that is opened by a thread has to be told how to run source by its own script.
  if (name === 'shards') return { file: beside('./shards.dev.mjs'), execArgv: [] };
  return { file: beside(`./${name}.ts`), execArgv: ['--import', 'tsx'] };
}
