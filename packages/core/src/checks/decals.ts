import { brushBounds, brushPlanes, faceWinding } from '../brush/index.ts';
import { BILLBOARD_KIND, DECAL_KIND, decalOf, entityName, type Entity } from '../entity/index.ts';
import { changeEntity } from '../edit/index.ts';
import {
  decalOnBrush,
  pictureOf,
  propBrushesOf,
  propTakesDecal,
  readyDecalOf,
  takesDecal,
  type MapDocument,
} from '../map/index.ts';
import { boxesOverlap, growBox, length, scale, type Box, type Vec3 } from '../math/index.ts';
import type { MaterialLookup } from '../surface/index.ts';
import type { PropLookup } from '../prop/index.ts';
import { thingsBy } from './by-name.ts';
import { removeThings } from './fixes.ts';
import type { Finding, Fix, Rule } from './types.ts';

/** A decal reaches no further, cm. */
const FARTHEST = 4096;

/** Whether a decal is seen on anything. */
function falls(doc: MapDocument, thing: Entity, materials: MaterialLookup, props: PropLookup): boolean {
  const ready = readyDecalOf(thing, materials);
  if (!ready) return false;
  for (const brush of doc.brushes.values())
    if (takesDecal(thing, brush, materials) && decalOnBrush(ready, brush, materials).length > 0) return true;
  for (const other of doc.entities.values()) {
    if (!propTakesDecal(thing, other)) continue;
    // What is drawn lies within the solids that stand for it.
    for (const solid of propBrushesOf(other, props))
      if (
        boxesOverlap(ready.bounds, brushBounds(solid)) &&
        solid.faces.some((_, k) => ready.on(faceWinding(solid, k), brushPlanes(solid)[k]!.normal).length > 0)
      )
        return true;
  }
  return false;
}

const NOBODY = () => undefined;

/** The thing with a box twice as deep, and so on, till it is seen on something; null where that is too far. */
function further(doc: MapDocument, thing: Entity, materials: MaterialLookup, props: PropLookup): MapDocument | null {
  const { through } = decalOf(thing)!;
  for (let deep = length(through) * 2; deep > 0 && deep <= FARTHEST; deep *= 2) {
    const longer = scale(through, deep / length(through));
    const next = changeEntity(doc, thing.id, { params: { through: longer } });
    if (falls(doc, next.entities.get(thing.id)!, materials, props)) return next;
  }
  return null;
}

const reachFurther: Fix = {
  label: 'Reach further',
  offered: (doc, { entities = [] }) => entities.some((id) => nearSomething(doc, doc.entities.get(id))),
  apply: (doc, { entities = [] }, { materials = NOBODY, props = NOBODY }) =>
    entities.reduce((d, id) => {
      const thing = d.entities.get(id);
      return (thing && decalOf(thing) && further(d, thing, materials, props)) ?? d;
    }, doc),
};

/** Whether there is anything as far as a decal can be made to reach. */
function nearSomething({ brushes, entities }: MapDocument, thing: Entity | undefined): boolean {
  if (!thing || !decalOf(thing)) return false;
  const near: Box = growBox({ min: thing.at, max: thing.at }, FARTHEST);
  const inside = (p: Vec3): boolean => boxesOverlap(near, { min: p, max: p });
  for (const brush of brushes.values()) if (boxesOverlap(near, brushBounds(brush))) return true;
  for (const other of entities.values()) if (other.kind !== DECAL_KIND && inside(other.at)) return true;
  return false;
}

/** Decals that are seen on nothing. */
export const decalOnNothing: Rule = {
  code: 'check.decalOnNothing',
  about: 'entities',
  find: (doc, { materials, props = NOBODY }) => {
    if (!materials) return [];
    return [...doc.entities.values()].flatMap((thing): Finding[] => {
      const decal = decalOf(thing);
      // One without a picture, or with one that nobody has, is told of elsewhere.
      if (!decal?.material || !materials(decal.material) || decal.opacity === 0) return [];
      if (falls(doc, thing, materials, props)) return [];
      return [
        {
          id: `check.decalOnNothing ${thing.id}`,
          code: 'check.decalOnNothing',
          severity: 'warning',
          text: `${entityName(thing)} falls on nothing: no face lies in its box that looks its way. Let it reach further, or lay it on a surface.`,
          at: thing.at,
          entities: [thing.id],
        },
      ];
    });
  },
  fixes: [reachFurther, removeThings('Remove it')],
};

/** Decals and billboards whose pictures nobody has. */
export const missingDecal: Rule = {
  code: 'check.missingDecal',
  about: 'entities',
  find: (doc, { materials }) => {
    if (!materials) return [];
    const byName = thingsBy(doc, (thing) => {
      const name = pictureOf(thing);
      return !name || materials(name) ? null : name;
    });
    return [...byName].map(([name, things]): Finding => {
      const what = things.every((thing) => decalOf(thing)) ? DECAL_KIND : BILLBOARD_KIND;
      const show = things.length === 1 ? `A ${what} shows` : `${things.length} ${what}s show`;
      return {
        id: `check.missingDecal ${name}`,
        code: 'check.missingDecal',
        severity: 'warning',
        text: `${show} ${name}, which is not in Stock. Import its pack, or choose another in Particulars.`,
        at: things[0]!.at,
        entities: things.map((e) => e.id),
      };
    });
  },
  fixes: [removeThings('Remove them')],
};
