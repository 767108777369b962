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

/**
 * Numbers between two bounds are drawn evenly, and some as the library draws them: that takes each number that a double can be as often as
 * any other, which between 0 and 360 is hardly ever an angle that is no multiple of a right one to within rounding.
 */
const double = (bounds = {}) => {
  const { min, max } = bounds;
  if (!Number.isFinite(min) || !Number.isFinite(max)) return fc.double(bounds);
  const steps = 2 ** 31 - 1;
  const even = fc.integer({ min: 0, max: steps }).map((k) => min + ((max - min) * k) / steps);
  return fc.oneof({ weight: 4, arbitrary: even }, { weight: 1, arbitrary: fc.double(bounds) });
};

export default { ...fc, assert, double };
