import type { MapDocument } from '../map/index.ts';
import { offGrid, tinyBrush } from './brushes.ts';
import { coplanarFaces } from './coplanar.ts';
import { noLight } from './light.ts';
import { lowPassage, narrowPassage } from './passages.ts';
import { buriedBrush } from './buried.ts';
import { unseenSelection } from './selected.ts';
import { density, flushSeam, leakyLook, missingMaterial, placeholderLeft, stretched, unseenInView } from './surfaces.ts'; // prettier-ignore
import { misplacedSpawn, noSpawn } from './spawn.ts';
import type { CheckContext, Problem, Rule } from './types.ts';

export type { CheckContext, PlayerBody, Problem, Rule } from './types.ts';

/** All rules, in the order in which problems are listed. */
export const RULES: readonly Rule[] = [
  noSpawn,
  misplacedSpawn,
  unseenSelection,
  noLight,
  tinyBrush,
  buriedBrush,
  coplanarFaces,
  narrowPassage,
  lowPassage,
  offGrid,
  missingMaterial,
  placeholderLeft,
  leakyLook,
  unseenInView,
  density,
  stretched,
  flushSeam,
];

/** The one rule that depends on what is selected: it is asked where the selection is, without the others. */
export { unseenSelection };

export const runChecks = (doc: MapDocument, context: CheckContext = {}): Problem[] =>
  RULES.flatMap((rule) => rule.find(doc, context));

/** What would fix a problem, in words; null when only a person can decide. */
export const fixLabel = (problem: Problem): string | null =>
  RULES.find((r) => r.code === problem.rule)?.fix?.label ?? null;

/** The document with a problem fixed; unchanged when there is no fix. */
export const fixProblem = (doc: MapDocument, problem: Problem, context: CheckContext = {}): MapDocument =>
  RULES.find((r) => r.code === problem.rule)?.fix?.apply(doc, problem, context) ?? doc;
