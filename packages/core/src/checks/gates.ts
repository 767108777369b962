import { brushBounds, brushContains, type Brush } from '../brush/index.ts';
import { doorInOpening, EditError, gateInOpening, inOpening, removePicked, setRole } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import { boxCenter, boxesOverlap, boxOf, windingCentroid, type Vec3 } from '../math/index.ts';
import type { CheckContext, Finding, Fix, Rule } from './types.ts';

type Standing = NonNullable<CheckContext['gates']>[number];

/** A rule that finds each gate something is wrong with. */
function gateRule(
  code: string,
  severity: Finding['severity'],
  wrong: (gate: Standing) => boolean,
  say: (gate: Standing, doc: MapDocument) => { text: string; at?: Vec3; beside?: readonly string[] },
  fixes: readonly Fix[],
): Rule {
  const find = (doc: MapDocument, { gates = [] }: CheckContext) =>
    gates.flatMap((gate): Finding[] => {
      const brush = doc.brushes.get(gate.brush);
      if (!brush || !wrong(gate)) return [];
      const { text, at = boxCenter(brushBounds(brush)), beside = [] } = say(gate, doc);
      return [{ id: `${code} ${gate.brush}`, code, severity, text, at, brushes: [gate.brush, ...beside] }];
    });
  return { code, about: 'brushes', find, fixes };
}

const gateOf = (doc: MapDocument, { brushes = [] }: Finding): Brush | undefined =>
  brushes.map((id) => doc.brushes.get(id)).find((b) => b?.role === 'gate');

/** The opening that a gate stands in. */
const openingOf = (doc: MapDocument, gate: Brush | undefined): string | undefined =>
  gate &&
  [...doc.openings.values()].find(
    (o) => doc.rooms.has(o.rooms[0]) && inOpening(o, doc.rooms, boxCenter(brushBounds(gate))),
  )?.id;

const stands: Fix['offered'] = (doc, finding) => openingOf(doc, gateOf(doc, finding)) !== undefined;

/** The same, of a finding that was offered a fix for it. */
function openingFor(doc: MapDocument, finding: Finding): string {
  const opening = openingOf(doc, gateOf(doc, finding));
  if (!opening) throw new EditError('gate.noOpening', 'The gate stands in no opening any more. Move it by hand.');
  return opening;
}

const remove: Fix = {
  label: 'Remove the gate',
  apply: (doc, finding) => removePicked(doc, { brushes: new Set([gateOf(doc, finding)?.id ?? '']) }),
};

const fit: Fix = {
  label: 'Fit it to its opening',
  offered: stands,
  apply: (doc, finding, context) => gateInOpening(remove.apply(doc, finding, context), openingFor(doc, finding)).doc,
};

/** Details beside a gap: they look as if they closed it. */
const detailsAt = ({ brushes }: MapDocument, { gaps }: Standing): string[] =>
  [...brushes.values()]
    .filter(
      (b) => b.role === 'detail' && !b.owner && gaps.some((gap) => boxesOverlap(brushBounds(b), boxOf(gap), -0.5)),
    )
    .map((b) => b.id);

/** Whether another gate fills the place of a gate. */
function isInAnother({ brushes }: MapDocument, id: string): boolean {
  const middle = boxCenter(brushBounds(brushes.get(id)!));
  return [...brushes.values()].some((b) => b.role === 'gate' && b.id !== id && brushContains(b, middle));
}

export const gateNowhere = gateRule(
  'check.gateNowhere',
  'warning',
  (gate) => gate.cells.length === 0,
  ({ brush }, doc) => ({
    text: isInAnother(doc, brush)
      ? 'A gate stands within another gate, which closes all that it would. Remove one of them.'
      : 'A gate stands in solids or outside the map, so it closes nothing. Move it into an opening, or remove it.',
  }),
  [remove],
);

export const gateGap = gateRule(
  'check.gateGap',
  'warning',
  (gate) => gate.cells.length > 0 && gate.gaps.length > 0,
  (gate, doc) => {
    const beside = detailsAt(doc, gate);
    return {
      at: windingCentroid(gate.gaps[0]!),
      beside,
      text: beside.length
        ? 'A gate ends at detail, which seals nothing: one gets past it there. Make the detail structure, or fit the gate to its opening.'
        : 'One gets past a gate at its edge: it must end at structure on all sides and not stand out of its opening. Fit it to its opening.',
    };
  },
  [
    {
      label: 'Make the detail structure',
      offered: (doc, { brushes = [] }) => brushes.some((id) => doc.brushes.get(id)?.role === 'detail'),
      apply: (doc, { brushes = [] }) =>
        setRole(doc, new Set(brushes.filter((id) => doc.brushes.get(id)?.role === 'detail')), 'structure'),
    },
    fit,
    remove,
  ],
);

export const gateRound = gateRule(
  'check.gateRound',
  'warning',
  (gate) => gate.cells.length > 0 && gate.gaps.length === 0 && gate.areas.length < 2,
  () => ({
    text: 'A gate hides nothing when it closes: another way leads round it. Put a gate in that way too, or remove this one.',
  }),
  [remove],
);

export const gateDoor = gateRule(
  'check.gateDoor',
  'info',
  (gate) => gate.gaps.length === 0 && gate.areas.length > 1 && !gate.closes,
  () => ({
    text: 'A gate is always open: no door fills it where it was drawn, of materials one does not see through. Make a door in its opening, or fit the one that is there.',
  }),
  [
    {
      label: 'Make a door in its opening',
      offered: stands,
      apply: (doc, finding) =>
        doorInOpening(doc, openingFor(doc, finding), { leaves: 'one', thickness: 6, material: 'oak-plank' }).doc,
    },
    remove,
  ],
);
