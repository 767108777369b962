/**
 * `npm run mutate -- N SEED [PATTERN]`: changes one small thing of the core at a time (a sign, a bound, a condition, a number) in a copy
 * of the tree, and runs the tests that have to do with the file. What no test notices is listed. Not part of `npm test`: each takes
 * from seconds to minutes. PATTERN narrows the files.
 */
import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

const root = fileURLToPath(new URL('..', import.meta.url));
const core = join(root, 'packages/core/src');
const [count = 20, seed = 1] = process.argv.slice(2, 4).map(Number);
const pattern = new RegExp(process.argv[4] ?? '');

const SWAPS: Readonly<Record<string, string>> = {
  '<': '<=',
  '<=': '<',
  '>': '>=',
  '>=': '>',
  '+': '-',
  '-': '+',
  '*': '/',
  '/': '*',
  '&&': '||',
  '||': '&&',
  '===': '!==',
  '!==': '===',
};

interface Mutation {
  readonly file: string;
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

const isText = (node: ts.Expression): boolean =>
  ts.isStringLiteralLike(node) ||
  ts.isTemplateExpression(node) ||
  (ts.isBinaryExpression(node) && (isText(node.left) || isText(node.right)));

/** Every place of a file where something small can be changed. */
function mutationsOf(file: string): Mutation[] {
  const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true);
  const out: Mutation[] = [];
  const put = (from: number, to: number, text: string) => out.push({ file, from, to, text });
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const { operatorToken: op } = node;
      const swap = SWAPS[op.getText()];
      if (swap && !(op.getText() === '+' && isText(node))) put(op.getStart(), op.getEnd(), swap);
    } else if (ts.isConditionalExpression(node)) {
      put(node.condition.getStart(), node.condition.getEnd(), `!(${node.condition.getText()})`);
    } else if (ts.isNumericLiteral(node)) put(node.getStart(), node.getEnd(), String(Number(node.text) + 1));
    else if (
      ts.isPrefixUnaryExpression(node) &&
      (node.operator === ts.SyntaxKind.MinusToken || node.operator === ts.SyntaxKind.ExclamationToken)
    )
      put(node.getStart(), node.operand.getStart(), '');
    ts.forEachChild(node, visit);
  };
  visit(source);
  return out;
}

/** Numbers from 0 to 1 that follow from the seed (mulberry32). */
function random(): number {
  state = (state + 0x6d2b79f5) | 0;
  let t = Math.imul(state ^ (state >>> 15), 1 | state);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
}
let state = seed;

const files = readdirSync(core, { recursive: true, encoding: 'utf8' })
  .filter((f) => f.endsWith('.ts') && !/\.test\.ts$|\.d\.ts$|testing\/|index\.ts$/.test(f) && pattern.test(f))
  .map((f) => join(core, f));
const all = files.flatMap(mutationsOf);
const chosen = Array.from(
  { length: Math.min(count, all.length) },
  () => all.splice(Math.floor(random() * all.length), 1)[0]!,
);

const copy = mkdtempSync(join(tmpdir(), 'yesca-mutate-'));
const kept = new Set(['node_modules', '.git', 'dist', 'data', 'screenshots']);
cpSync(root, copy, { recursive: true, filter: (from) => !kept.has(from.split('/').at(-1)!) });
symlinkSync(join(root, 'node_modules'), join(copy, 'node_modules'));

/** Runs tests of the copy's core: those in a folder, those that have to do with some files, or all of them. */
const passes = (folder = 'packages/core', ...about: string[]): boolean => {
  const jest = [join(root, 'node_modules/jest/bin/jest.js'), '--rootDir', copy, '--bail', '--silent', ...about];
  return (
    spawnSync(
      process.execPath,
      ['--experimental-vm-modules', '--no-warnings', ...jest, '--passWithNoTests', '--testPathPatterns', folder],
      { cwd: copy, stdio: 'ignore', timeout: 900_000 },
    ).status === 0
  );
};
// A test that fails by itself would notice everything.
if (!passes()) {
  rmSync(copy, { recursive: true, force: true });
  throw new Error('The tests of the core fail as they are. Make them pass first.');
}

let noticed = 0;
chosen.forEach(({ file, from, to, text }, i) => {
  const path = relative(root, file);
  const whole = readFileSync(join(copy, path), 'utf8');
  writeFileSync(join(copy, path), whole.slice(0, from) + text + whole.slice(to));
  // Most are noticed by the tests that are called like the file or lie beside it, and those take seconds.
  const unseen =
    passes(path.replace(/\.ts$/, '.test.ts')) &&
    passes(`${dirname(path)}/`) &&
    passes('packages/core', '--findRelatedTests', join(copy, path));
  writeFileSync(join(copy, path), whole);
  if (!unseen) noticed++;
  const line = whole.slice(0, from).split('\n').length;
  const change = `${whole.slice(from, to)} → ${text || 'nothing'}`.replace(/\s+/g, ' ').slice(0, 80);
  console.log(`${String(i + 1).padStart(3)} ${unseen ? 'NOT NOTICED' : 'noticed    '} ${path}:${line}  ${change}`);
});
rmSync(copy, { recursive: true, force: true });
console.log(`\n${noticed} of ${chosen.length} noticed`);
