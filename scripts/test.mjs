/** `npm test`: types, lint, unit tests, tests in the real interface; ends with `N passed, N failed`. */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBrowser, ensureBuilt, ensureDependencies, root } from './ensure.mjs';

ensureDependencies();
ensureBrowser();
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

/** What needs one core each goes side by side. */
const beside = (name) =>
  new Promise((done) => {
    const child = spawn('npm', ['run', '--silent', name], { cwd: root, stdio: 'inherit' });
    child.once('error', () => done(false));
    child.once('exit', (code) => done(code === 0));
  });
console.log('\n— types, lint');
for (const ok of await Promise.all(['types', 'lint'].map(beside))) check(ok);
const unit = join(folder, 'unit.json');
const unitOk = step(
  'unit tests',
  'npx',
  ['jest', '--json', `--outputFile=${unit}`, '--maxWorkers=2'],
  { NODE_OPTIONS: '--experimental-vm-modules --no-warnings' },
);
if (!count(unit) && !unitOk) failed++;
ensureBuilt();
const e2e = join(folder, 'e2e.json');
const e2eOk = step('end-to-end tests', 'npx', ['tsx', 'e2e/run.ts', e2e]);
if (!count(e2e) && !e2eOk) failed++;
rmSync(folder, { recursive: true, force: true });
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
