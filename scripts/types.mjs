/**
 * Checks the types of all that there is. The compiler is the native one; the linter needs the one before it, so both are installed and
 * `tsc` may be either.
 */
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const compiler = fileURLToPath(new URL('../node_modules/typescript-native/bin/tsc', import.meta.url));
const ok = ['packages/core', 'tsconfig.node.json', 'apps/web'].every(
  (project) => spawnSync(process.execPath, [compiler, '-p', project], { cwd: root, stdio: 'inherit' }).status === 0,
);
process.exit(ok ? 0 : 1);
