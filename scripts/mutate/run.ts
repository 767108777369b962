/**
 * `npm run mutate -- N SEED [PATTERN]`: changes one small thing of the core at a time (a sign, a bound, a condition, an index) in a copy
 * of the tree, and runs the tests that come by it, the quickest first. What no test notices is listed. Not part of `npm test`: all tests of
 * the core run once to see what they come by, then some for each change. PATTERN narrows the files.
 */
import { spawn } from 'node:child_process';
import {
  cpSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  realpathSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { hashRandom } from '../../packages/core/src/math/hash.ts';
import { mutationsOf, switched, type Mutation } from './mutations.ts';

/** Two at a time: each runs its tests one after another. */
const BESIDE = 2;
/** Tests that take no longer than this together go first, in ms: most changes are noticed by those. Then those that take up to the next. */
const STAGES = [4_000, 40_000, Infinity];

const root = fileURLToPath(new URL('../..', import.meta.url));
const [count = 20, seed = 1] = process.argv.slice(2, 4).map(Number);
const pattern = new RegExp(process.argv[4] ?? '');

const core = join(root, 'packages/core/src');
const files = readdirSync(core, { recursive: true, encoding: 'utf8' })
  .filter((f) => f.endsWith('.ts') && !/\.test\.ts$|\.d\.ts$|testing\/|index\.ts$/.test(f) && pattern.test(f))
  .sort()
  .map((f) => relative(root, join(core, f)));
/** As it is now: what is edited while this runs changes nothing. */
const codes = new Map(files.map((f) => [f, readFileSync(join(root, f), 'utf8')]));
const all = files.flatMap((f) => mutationsOf(f, codes.get(f)!));
const chosen: Mutation[] = Array.from(
  { length: Math.min(count, all.length) },
  (_, k) => all.splice(Math.floor(hashRandom(seed, k) * all.length), 1)[0]!,
);

const copy = realpathSync(mkdtempSync(join(tmpdir(), 'yesca-mutate-')));
/** Process groups of tests that run. */
const running = new Set<number>();
process.once('exit', () => {
  for (const pid of running) process.kill(-pid, 'SIGKILL');
  // They may still write while they end.
  rmSync(copy, { recursive: true, force: true, maxRetries: 9, retryDelay: 100 });
});
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => process.exit(1));
const kept = new Set(['node_modules', '.git', '.cache', 'dist', 'data', 'screenshots']);
cpSync(root, copy, { recursive: true, filter: (from) => !kept.has(from.split('/').at(-1)!) });
symlinkSync(join(root, 'node_modules'), join(copy, 'node_modules'));
for (const file of new Set(chosen.map((m) => m.file))) {
  const of = chosen.flatMap((m, k): [number, Mutation][] => (m.file === file ? [[k, m]] : []));
  writeFileSync(join(copy, file), switched(codes.get(file)!, of));
}
const { default: usual } = (await import(join(root, 'jest.config.mjs'))) as { default: object };
const { FEWER_SCENES } = (await import(join(root, 'scripts/fewer-scenes.mjs'))) as Record<string, NodeJS.ProcessEnv>;
const config = join(copy, 'mutate.config.json');
writeFileSync(
  config,
  JSON.stringify({
    ...usual,
    rootDir: copy,
    roots: ['<rootDir>/packages/core'],
    setupFilesAfterEnv: ['<rootDir>/scripts/mutate/watch.mjs'],
  }),
);

/** Runs tests of the copy; resolves to whether all passed. Those that do not end within a time, in ms, do not. */
function passes(args: readonly string[], env: Record<string, string>, timeout: number): Promise<boolean> {
  const jest = [join(root, 'node_modules/jest/bin/jest.js'), '--config', config, '--silent', ...args];
  const child = spawn(process.execPath, ['--experimental-vm-modules', '--no-warnings', ...jest], {
    cwd: copy,
    stdio: 'ignore',
    // A group of its own: what ran for too long has workers that hang, and they end with it.
    detached: true,
    env: { ...FEWER_SCENES, ...process.env, MUTATION_COUNT: String(chosen.length), ...env },
  });
  const pid = child.pid!;
  running.add(pid);
  return new Promise((done) => {
    const stop = setTimeout(() => process.kill(-pid, 'SIGKILL'), timeout);
    child.once('exit', (code) => {
      clearTimeout(stop);
      running.delete(pid);
      done(code === 0);
    });
  });
}

interface Notes {
  readonly path: string;
  readonly always: readonly number[];
  readonly tests: readonly { readonly name: string; readonly met: readonly number[]; readonly took: number }[];
}
const notes = join(copy, 'notes');
mkdirSync(notes);
// A test that fails by itself would notice everything.
if (!(await passes([`--maxWorkers=${BESIDE}`], { MUTATION_NOTES: notes }, 3_600_000)))
  throw new Error('The tests of the core fail as they are. Make them pass first.');
const suites = readdirSync(notes).map((f) => JSON.parse(readFileSync(join(notes, f), 'utf8')) as Notes);

/** Whether a test notices a mutation; null when none comes by it. */
async function noticed(k: number): Promise<boolean | null> {
  const about = suites.flatMap(({ path, always, tests }) => {
    const by = tests.filter((t) => always.includes(k) || t.met.includes(k));
    return by.length > 0 ? [{ path, names: by.map((t) => t.name), took: by.reduce((sum, t) => sum + t.took, 0) }] : [];
  });
  if (about.length === 0) return null;
  const named = join(copy, chosen[k]!.file.replace(/\.ts$/, '.test.ts'));
  about.sort((a, b) => Number(b.path === named) - Number(a.path === named) || a.took - b.took);
  const stages: (typeof about)[] = STAGES.map(() => []);
  let sum = 0;
  about.forEach((suite, i) => {
    sum += suite.took;
    stages[i === 0 ? 0 : STAGES.findIndex((most) => sum < most)]!.push(suite);
  });
  const list = join(copy, `tests-${k}.json`);
  writeFileSync(list, JSON.stringify(Object.fromEntries(about.map(({ path, names }) => [path, names]))));
  for (const some of stages) {
    if (some.length === 0) continue;
    const took = some.reduce((sum, { took }) => sum + took, 0);
    const args = ['--bail', '--runInBand', '--runTestsByPath', ...some.map(({ path }) => path)];
    // What hangs is noticed, too.
    const time = 60_000 + some.length * 5_000 + took * 5;
    if (!(await passes(args, { MUTATION_ON: String(k), MUTATION_TESTS: list }, time))) return true;
  }
  return false;
}

const SAID = new Map([
  [true, 'noticed    '],
  [false, 'NOT NOTICED'],
  [null, 'NOT REACHED'],
]);
let next = 0;
let seen = 0;
const work = async () => {
  for (let k = next++; k < chosen.length; k = next++) {
    const { file, from, to, text } = chosen[k]!;
    const found = await noticed(k);
    if (found) seen++;
    const code = codes.get(file)!;
    const line = code.slice(0, from).split('\n').length;
    const change = `${code.slice(from, to)} → ${text || 'nothing'}`.replace(/\s+/g, ' ').slice(0, 80);
    console.log(`${String(k + 1).padStart(3)} ${SAID.get(found)} ${file}:${line}  ${change}`);
  }
};
await Promise.all(Array.from({ length: BESIDE }, work));
console.log(`\n${seen} of ${chosen.length} noticed`);
