/**
 * What tests know as `fast-check`: the same, with one seed for all, so that one state of the tree has one verdict.
 * `YESCA_SEED=7 npm test -- unit` draws other scenes; a failure prints the seed it was found with.
 */
import fc from '../node_modules/fast-check/lib/fast-check.js';

fc.configureGlobal({ seed: Number(process.env.YESCA_SEED ?? 1) });
export default fc;
