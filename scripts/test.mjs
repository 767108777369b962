/**
 * `npm test`: types, lint, unit tests, tests in the real interface; ends with `N passed, N failed`. `npm test -- unit|e2e|types
 * [PATTERN]` runs one of the three, and of it what the pattern finds: in paths of unit tests, in names of the others.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FEWER_SCENES } from './fewer-scenes.mjs';
import { groupSuites } from './grouped-suites.mjs';
import { beside, ensureBrowser, ensureBuilt, ensureDependencies, root } from './ensure.mjs';

const [part, pattern] = process.argv.slice(2);
if (part && !['types', 'unit', 'e2e'].includes(part)) {
  console.error(
    `There is no part called ${part}. Type npm test -- types, unit or e2e, with a pattern behind it if you like.`,
  );
  process.exit(2);
}
const wants = (name) => !part || part === name;
const browser = wants('e2e') ? ensureBrowser() : null;
ensureDependencies();
const folder = mkdtempSync(join(tmpdir(), 'yesca-test-'));
let passed = 0;
let failed = 0;

const step = (name, command, args, env = {}) => {
  console.log(`\n— ${name}`);
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  return status === 0;
};
const count = (file) => {
  if (!existsSync(file)) return false;
  const { numPassedTests, numFailedTests, numFailedTestSuites = 0 } = JSON.parse(readFileSync(file, 'utf8'));
  passed += numPassedTests;
  // A suite that could not even start has no failed test to count.
  failed += numFailedTests || numFailedTestSuites;
  return true;
};
const check = (ok) => (ok ? passed++ : failed++);

// What needs one core each goes side by side: lint takes as long as types and build.
const script = (name) => beside('npm', ['run', '--silent', name]);
if (wants('types')) console.log('\n— types, lint, build');
const lint = wants('types') && script('lint');
if (wants('types')) check(await script('types'));
if (wants('unit') || wants('e2e')) await ensureBuilt();
if (lint) check(await lint);
if (wants('unit')) {
  const file = join(folder, 'unit.json');
  const which = pattern ? [pattern] : groupSuites(root, join(root, '.cache/suites')).map((f) => `--roots=${f}`);
  const jest = ['jest', '--json', `--outputFile=${file}`, '--maxWorkers=2', ...which];
  const ok = step('unit tests', 'npx', jest, {
    NODE_OPTIONS: '--experimental-vm-modules --no-warnings',
    // Programs that tests start are those of the build: they start several times as fast as their source.
    YESCA_BUILT: join(root, 'apps/server/dist'),
    ...FEWER_SCENES,
    ...process.env,
  });
  if (!count(file) && !ok) failed++;
}
if (wants('e2e')) {
  await browser;
  const file = join(folder, 'e2e.json');
  const ok = step('end-to-end tests', 'npx', ['tsx', 'e2e/run.ts', file], pattern ? { E2E: pattern } : {});
  if (!count(file) && !ok) failed++;
}
rmSync(folder, { recursive: true, force: true });
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
