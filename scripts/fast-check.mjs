/**
 * What tests know as `fast-check`: the same, with one seed for all, so that one state of the tree has one verdict.
 * `YESCA_SEED=7 npm test -- unit` draws other scenes; a failure prints the seed it was found with. `YESCA_RUNS` is what share of
 * the scenes of each property is drawn: `npm test` draws fewer, to stay within its time, `npm run unit` all.
 */
import fc from '../node_modules/fast-check/lib/fast-check.js';

const share = Number(process.env.YESCA_RUNS ?? 1);
const USUAL = 100;

fc.configureGlobal({ seed: Number(process.env.YESCA_SEED ?? 1) });

const assert = (property, { numRuns = USUAL, ...more } = {}) =>
  fc.assert(property, { ...more, numRuns: Math.max(1, Math.round(numRuns * share)) });

export default { ...fc, assert };
