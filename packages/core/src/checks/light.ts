import { brushBounds, brushContains, DRAWN_ROLES } from '../brush/index.ts';
import { entityKind, entityName, floods, shines, strengthOf } from '../entity/index.ts';
import { changeEntity, removePicked } from '../edit/index.ts';
import { litAtFirst, type MapDocument } from '../map/index.ts';
import type { Vec3 } from '../math/index.ts';
import { SENTENCES } from './sentences.ts';
import type { Finding, Rule } from './types.ts';

export const noLight: Rule = {
  code: 'check.noLight',
  find: (doc, { materials }) =>
    doc.brushes.size === 0 ||
    [...doc.entities.values()].some(shines) ||
    [...doc.brushes.values()].some((b) =>
      b.faces.some((f) =>
        f.show === 'sky' ? (doc.settings.skyNits ?? 0) > 0 : (materials?.(f.material)?.glow ?? 0) > 0,
      ),
    )
      ? []
      : [
          {
            id: 'check.noLight',
            code: 'check.noLight',
            severity: 'warning',
            text: SENTENCES.noLight,
          },
        ],
};

/** A brush that holds a lamp's light in: solid and drawn. */
const around = (doc: MapDocument, p: Vec3) =>
  [...doc.brushes.values()].find((b) => DRAWN_ROLES.has(b.role) && b.role !== 'liquid' && brushContains(b, p, 0.01));

/** How far (cm) from the surface a lamp is put when it is taken out of a solid. */
const CLEAR = 8;

/** The nearest place beside the solid that holds a lamp, one of its sides' directions; null when all of them are solid too. */
function outOfSolid(doc: MapDocument, at: Vec3): Vec3 | null {
  const solid = around(doc, at);
  if (!solid) return at;
  const { min, max } = brushBounds(solid);
  const ways = [0, 1, 2].flatMap((axis) => [min[axis]! - CLEAR, max[axis]! + CLEAR].map((to) => ({ axis, to })));
  ways.sort((a, b) => Math.abs(a.to - at[a.axis]!) - Math.abs(b.to - at[b.axis]!));
  for (const { axis, to } of ways) {
    const p = at.map((c, i) => (i === axis ? to : c)) as unknown as Vec3;
    if (!around(doc, p)) return p;
  }
  return null;
}

export const misplacedLight: Rule = {
  code: 'check.lightPlace',
  about: 'entities',
  find: (doc, { placeOf }) =>
    [...doc.entities.values()].flatMap((e): Finding[] => {
      // Light that comes from nowhere in particular is never in the way of anything.
      if (!shines(e) || !floods(e)) return [];
      const solid = around(doc, e.at);
      const where = solid ? 'solid' : (placeOf?.(e.at) ?? 'open');
      if (where === 'open' || (where === 'solid' && !solid)) return [];
      return [
        {
          id: `check.lightPlace ${e.id}`,
          code: 'check.lightPlace',
          severity: 'warning',
          text: SENTENCES.misplaced(entityName(e), where),
          at: e.at,
          entities: [e.id],
        },
      ];
    }),
  fixes: [
    {
      label: 'Move it out of the solid',
      offered: (doc, problem) => {
        const at = doc.entities.get(problem.entities![0]!)?.at;
        return !!at && !!around(doc, at) && outOfSolid(doc, at) !== null;
      },
      apply: (doc, problem) => {
        const id = problem.entities![0]!;
        const at = outOfSolid(doc, doc.entities.get(id)!.at);
        return at ? changeEntity(doc, id, { at }) : doc;
      },
    },
    { label: 'Remove it', apply: (doc, problem) => removePicked(doc, { entities: new Set(problem.entities) }) },
  ],
};

/** Stronger than any lamp or sun that a room is lit by, candela or lux. */
const ABSURD = 200_000;

/** Lights of no strength, or of more than can be meant. */
export const oddStrength: Rule = {
  code: 'check.lightStrength',
  about: 'entities',
  find: (doc) =>
    [...doc.entities.values()].flatMap((e): Finding[] => {
      const strength = strengthOf(e);
      if (!shines(e) || (strength > 0 && strength <= ABSURD)) return [];
      const what = entityName(e);
      return [
        {
          id: `check.lightStrength ${e.id}`,
          code: 'check.lightStrength',
          severity: 'warning',
          text:
            strength > 0
              ? `${what} is brighter than the sun at noon: ${Math.round(strength).toLocaleString('en')}. Dim it.`
              : `${what} has no strength, so it gives no light. Turn it up, or remove it.`,
          at: e.at,
          entities: [e.id],
        },
      ];
    }),
  fixes: [
    {
      label: 'Give it the usual strength',
      apply: (doc, problem) => {
        const id = problem.entities![0]!;
        const key = entityKind(doc.entities.get(id)!.kind)?.strength;
        return key ? changeEntity(doc, id, { params: { [key]: undefined } }) : doc;
      },
    },
  ],
};

/** Lamps that are dark at first, and that nothing ever lights. */
export const neverLit: Rule = {
  code: 'check.neverLit',
  about: 'entities',
  find: (doc) => {
    const led = new Set([...doc.wires.values()].map(({ to }) => to.thing));
    return [...doc.entities.values()].flatMap((e): Finding[] =>
      !shines(e) || led.has(e.id) || litAtFirst(e) > 0
        ? []
        : [
            {
              id: `check.neverLit ${e.id}`,
              code: 'check.neverLit',
              severity: 'warning',
              text: `${entityName(e)} is dark when play begins, and no wire lights it. Run a wire to it, or let it be lit at first.`,
              at: e.at,
              entities: [e.id],
            },
          ],
    );
  },
  fixes: [
    {
      label: 'Let it be lit at first',
      apply: (doc, problem) => changeEntity(doc, problem.entities![0]!, { params: { lit: true } }),
    },
  ],
};
