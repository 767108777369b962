/**
 * What each file of tests runs first while mutations are tried. `MUTATION_NOTES` names a folder: there it writes which of them each test came
 * by, and how long it took. `MUTATION_ON` is the number of the one that is switched on, `MUTATION_TESTS` a file that lists the tests to run.
 */
/* global expect, beforeEach, afterEach, afterAll */
import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const { MUTATION_COUNT, MUTATION_ON, MUTATION_NOTES, MUTATION_TESTS } = process.env;
const met = new Uint8Array(Number(MUTATION_COUNT));
globalThis.mutation = { on: Number(MUTATION_ON ?? -1), met };

const { testPath } = expect.getState();
if (MUTATION_NOTES) {
  const take = () => {
    const numbers = [...met.keys()].filter((k) => met[k] === 1);
    met.fill(0);
    return numbers;
  };
  const tests = [];
  // As the module loads and before all tests of a part: what any of the tests may hang on.
  const always = new Set();
  let began = 0;
  beforeEach(() => {
    for (const k of take()) always.add(k);
    began = Date.now();
  });
  afterEach(() => {
    const name = expect.getState().currentTestName;
    tests.push({ name, met: take(), took: Date.now() - began });
  });
  afterAll(() => {
    const name = createHash('sha256').update(testPath).digest('hex');
    writeFileSync(join(MUTATION_NOTES, `${name}.json`), JSON.stringify({ path: testPath, always: [...always], tests }));
  });
}
if (MUTATION_TESTS) {
  const wanted = new Set(JSON.parse(readFileSync(MUTATION_TESTS, 'utf8'))[testPath]);
  // Jest knows the name of a test as the test begins; one that is not wanted ends there.
  const within = (body) =>
    function (...args) {
      return wanted.has(expect.getState().currentTestName) ? body.apply(this, args) : undefined;
    };
  const real = globalThis.test;
  const each = (...table) => {
    const named = real.each(...table);
    return (name, body, ...more) => named(name, within(body), ...more);
  };
  globalThis.it = globalThis.test = Object.assign((name, body, ...more) => real(name, within(body), ...more), real, {
    each,
  });
}
