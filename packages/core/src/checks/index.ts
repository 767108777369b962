import { EditError, type FaceRef } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import { offGrid, tinyBrush } from './brushes.ts';
import { buriedProp, missingProp } from './props.ts';
import { decalOnNothing, missingDecal } from './decals.ts';
import { coplanarFaces } from './coplanar.ts';
import { misplacedLight, neverLit, noLight, oddStrength } from './light.ts';
import { gateDoor, gateGap, gateNowhere, gateRound } from './gates.ts';
import { leaking } from './leak.ts';
import { lowOpening } from './low-openings.ts';
import { lowPassage, narrowPassage } from './passages.ts';
import { buriedBrush } from './buried.ts';
import { unseenSelection } from './selected.ts';
import {
  density,
  flushSeam,
  leakyLook,
  missingMaterial,
  placeholderLeft,
  stretched,
  unseenInView,
} from './surfaces.ts';
import { blockedOpening, roomsOverlap, waitingOpening } from './rooms.ts';
import { cannotBeHad } from './keys.ts';
import { cannotSeal, leavesGap, lowCarrier, runsInto, spawnInTheWay, unreachable } from './moving.ts';
import { reflectionMissing, reflectionTight, reflectionUneven } from './reflections.ts';
import { sceneryBeginning, sceneryBlind, sceneryCrossed, scenerySecond, sceneryUnseen } from './scenery.ts';
import { crowdedSpawns, misplacedSpawn, noSpawn, spawnSets } from './spawn.ts';
import { thingFlaws } from './things.ts';
import type { CheckContext, Fix, Finding, Rule } from './types.ts';

export { SENTENCES } from './sentences.ts';
export { extendToClose, fillHole, type LeakPlace } from './leak.ts';
export { openingName } from './rooms.ts';
export type { CheckContext, Finding, Fix, Gate, Leak, PlayerBody, Rule } from './types.ts';

/** All rules, in the order in which problems are listed. */
export const RULES: readonly Rule[] = [
  leaking,
  noSpawn,
  misplacedSpawn,
  unseenSelection,
  noLight,
  misplacedLight,
  neverLit,
  oddStrength,
  reflectionTight,
  reflectionMissing,
  reflectionUneven,
  thingFlaws,
  crowdedSpawns,
  spawnSets,
  spawnInTheWay,
  runsInto,
  leavesGap,
  lowCarrier,
  cannotSeal,
  unreachable,
  cannotBeHad,
  gateNowhere,
  gateGap,
  gateRound,
  gateDoor,
  sceneryBeginning,
  sceneryBlind,
  scenerySecond,
  sceneryUnseen,
  sceneryCrossed,
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
  missingProp,
  buriedProp,
  missingDecal,
  decalOnNothing,
  missingMaterial,
  placeholderLeft,
  leakyLook,
  unseenInView,
  density,
  stretched,
  flushSeam,
];

/** The rules about a distant scenery and the map that sees it: they are asked of the whole map, the others of what one can be in. */
export const SCENERY_RULES: readonly Rule[] = [
  sceneryBeginning,
  sceneryBlind,
  scenerySecond,
  sceneryUnseen,
  sceneryCrossed,
];

/** The rules that hold for what is only seen far away. */
export const FAR_RULES: readonly Rule[] = [thingFlaws, tinyBrush, missingProp, missingMaterial, placeholderLeft];

/** The one rule that depends on what is selected: it is asked where the selection is, without the others. */
export { unseenSelection };

/** What decides whether a build is worth playing: the rules that a build asks itself. */
export const BUILD_RULES: readonly Rule[] = [
  leaking,
  noSpawn,
  misplacedSpawn,
  noLight,
  misplacedLight,
  gateNowhere,
  gateGap,
  gateRound,
];

export const runChecks = (doc: MapDocument, context: CheckContext = {}, rules: readonly Rule[] = RULES): Finding[] =>
  rules.flatMap((rule) => rule.find(doc, context));

const ruleOf = (finding: Finding): Rule | undefined => RULES.find((r) => r.code === finding.code);
const fixesOf = (doc: MapDocument, finding: Finding): readonly Fix[] =>
  (ruleOf(finding)?.fixes ?? []).filter((f) => f.offered?.(doc, finding) ?? true);

/** What would fix a finding, in words, the likeliest first; none when only a person can decide. */
export const fixLabels = (doc: MapDocument, finding: Finding): string[] =>
  isThere(doc, finding) ? fixesOf(doc, finding).map((f) => f.label) : [];

/** Whether what a finding is about is still in the map. */
function isThere(doc: MapDocument, finding: Finding): boolean {
  const { about, least = 1 } = ruleOf(finding) ?? {};
  if (about === 'hole') return (finding.hole?.length ?? 0) >= 3 || (finding.trail?.length ?? 0) > 0;
  if (about === 'faces') {
    const has = ({ brush, face }: FaceRef) => doc.brushes.get(brush)?.faces.some((f) => f.id === face) ?? false;
    return (finding.faces?.length ?? 0) >= least && finding.faces!.every(has);
  }
  const has = (key: 'brushes' | 'entities' | 'rooms' | 'openings') =>
    (finding[key]?.length ?? 0) >= least && finding[key]!.every((id) => doc[key].has(id));
  return about ? has(about) : has('brushes') || has('entities');
}

/**
 * The document with a finding fixed, in the first way or the one with that label. Throws `finding.gone` when what it is about is
 * no longer there, and `finding.noFix` when there is no such way.
 */
export function fixFinding(
  doc: MapDocument,
  finding: Finding,
  context: CheckContext = {},
  label?: string,
): MapDocument {
  if (!isThere(doc, finding))
    throw new EditError('finding.gone', 'What this is about is no longer in the map. Check the map again.');
  const fixes = fixesOf(doc, finding);
  const fix = label === undefined ? fixes[0] : fixes.find((f) => f.label === label);
  if (!fix) throw new EditError('finding.noFix', 'There is no such way to fix this. Choose one that is offered.');
  return fix.apply(doc, finding, context);
}
