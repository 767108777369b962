/**
 * The tests of core in a few files. Each file of tests loads all modules anew, which takes longer than most of its tests: `npm test` runs files
 * that import some of them each. They can share one: core keeps nothing from one call to the next but what it would find again. `npm run unit`
 * and `npm test -- unit PATTERN` run each as it is.
 */
import { mkdirSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';

/** Two workers do as much each of so many. */
const GROUPS = 12;

/** Writes the files into a folder, and gives the folders of all tests, core's by those. */
export function groupSuites(root, folder) {
  const core = join(root, 'packages/core');
  const files = readdirSync(join(core, 'src'), { recursive: true })
    .filter((f) => f.endsWith('.test.ts'))
    .map((f) => join(core, 'src', f))
    // The largest one to each, and so on.
    .sort((a, b) => statSync(b).size - statSync(a).size || (a < b ? -1 : 1));
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  for (let k = 0; k < GROUPS; k++)
    writeFileSync(
      join(folder, `core-${k + 1}.test.ts`),
      files.flatMap((f, i) => (i % GROUPS === k ? [`import '${relative(folder, f)}';\n`] : [])).join(''),
    );
  const packages = join(root, 'packages');
  const others = readdirSync(packages).map((name) => join(packages, name));
  return [folder, join(root, 'apps'), ...others.filter((f) => f !== core)];
}
