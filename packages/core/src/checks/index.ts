import type { MapDocument } from '../map/index.ts';
import { offGrid, tinyBrush } from './brushes.ts';
import { coplanarFaces } from './coplanar.ts';
import { misplacedLight, noLight } from './light.ts';
import { lowOpening } from './low-openings.ts';
import { lowPassage, narrowPassage } from './passages.ts';
import { buriedBrush } from './buried.ts';
import { unseenSelection } from './selected.ts';
import { density, flushSeam, leakyLook, missingMaterial, placeholderLeft, stretched, unseenInView } from './surfaces.ts'; // prettier-ignore
import { blockedOpening, roomsOverlap, waitingOpening } from './rooms.ts';
import { misplacedSpawn, noSpawn } from './spawn.ts';
import { thingFlaws } from './things.ts';
import type { CheckContext, Fix, Problem, Rule } from './types.ts';

export { SENTENCES } from './sentences.ts';
export { extendToClose, fillHole, LEAK_FIXES, type LeakPlace } from './leak.ts';
export { openingName } from './rooms.ts';
export type { CheckContext, Fix, PlayerBody, Problem, Rule } from './types.ts';

/** All rules, in the order in which problems are listed. */
export const RULES: readonly Rule[] = [
  noSpawn,
  misplacedSpawn,
  unseenSelection,
  noLight,
  misplacedLight,
  thingFlaws,
  waitingOpening,
  blockedOpening,
  lowOpening,
  roomsOverlap,
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

const fixesOf = (doc: MapDocument, problem: Problem): readonly Fix[] =>
  (RULES.find((r) => r.code === problem.rule)?.fixes ?? []).filter((f) => f.offered?.(doc, problem) ?? true);

/** What would fix a problem, in words, the likeliest first; none when only a person can decide. */
export const fixLabels = (doc: MapDocument, problem: Problem): string[] => fixesOf(doc, problem).map((f) => f.label);

/** The document with a problem fixed, in the first way or the one with that label; unchanged when there is none. */
export const fixProblem = (
  doc: MapDocument,
  problem: Problem,
  context: CheckContext = {},
  label?: string,
): MapDocument => {
  const fixes = fixesOf(doc, problem);
  return (label === undefined ? fixes[0] : fixes.find((f) => f.label === label))?.apply(doc, problem, context) ?? doc;
};
