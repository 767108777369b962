import { brushBounds, brushContains, DRAWN_ROLES, type Brush } from '../brush/index.ts';
import { entityName, isSpawn } from '../entity/index.ts';
import { removePicked } from '../edit/index.ts';
import { sceneries, sceneryOf, type MapDocument, type Scenery } from '../map/index.ts';
import { boxContains, boxesOverlap, growBox, type Vec3 } from '../math/index.ts';
import type { Finding, Fix, Rule } from './types.ts';

type Found = Pick<Finding, 'at' | 'brushes' | 'entities' | 'text'>;

/** A rule about the distant scenery of a map, where it has one. */
function sceneryRule(
  code: string,
  severity: Finding['severity'],
  wrong: (doc: MapDocument, scenery: Scenery) => readonly Found[],
  fixes: readonly Fix[] = [],
): Rule {
  const find = (doc: MapDocument): Finding[] => {
    const scenery = sceneryOf(doc);
    if (!scenery) return [];
    return wrong(doc, scenery).map((found, i) => ({ id: `${code} ${i}`, code, severity, ...found }));
  };
  return { code, find, fixes, about: 'entities' };
}

const remove: Fix = {
  label: 'Remove it',
  apply: (doc, { entities = [] }) =>
    removePicked(doc, {
      entities: new Set(entities.slice(0, 1)),
      brushes: new Set([...doc.brushes.values()].filter((b) => b.owner?.id === entities[0]).map((b) => b.id)),
    }),
};

/** What makes up the scenery, without the sky round it. */
const drawn = ({ alone }: Scenery, { brushes }: MapDocument): Brush[] =>
  [...alone.brushes.values()].filter((b) => brushes.has(b.id) && DRAWN_ROLES.has(b.role));

/** A player would begin where nobody can be. */
export const sceneryBeginning = sceneryRule('scenery.spawn', 'error', (_, { alone, thing }) =>
  [...alone.entities.values()].filter(isSpawn).map((spawn) => ({
    text: `${entityName(spawn)} stands in the box of ${entityName(thing)}, where nobody can be. Move the spawn, or draw the box round what is only seen.`,
    at: spawn.at,
    entities: [spawn.id, thing.id],
  })),
);

/** It would be seen from within a solid. */
export const sceneryBlind = sceneryRule('scenery.blind', 'warning', (doc, scenery) => {
  const eye: Vec3 = [scenery.at[0], scenery.at[1], scenery.at[2] + 0.5];
  if (!drawn(scenery, doc).some((b) => brushContains(b, eye))) return [];
  const text = `The sign of ${entityName(scenery.thing)} stands in a solid, so it would be seen from within. Move the sign to where the map would lie in it.`;
  return [{ text, at: scenery.at, entities: [scenery.thing.id] }];
});

/** Only one can be shown. */
export const scenerySecond = sceneryRule(
  'scenery.second',
  'warning',
  (doc, { thing }) =>
    sceneries(doc)
      .filter(({ id }) => id !== thing.id)
      .map((other) => ({
        text: `${entityName(other)} is not shown: a map has one distant scenery, and that is ${entityName(thing)}. Remove one of them.`,
        at: other.at,
        entities: [other.id],
      })),
  [remove],
);

/** No face of the map shows the sky. */
export const sceneryUnseen = sceneryRule('scenery.unseen', 'warning', (_, { rest, thing }) =>
  [...rest.brushes.values()].some((b) => b.faces.some((f) => f.show === 'sky'))
    ? []
    : [
        {
          text: `Nobody sees ${entityName(thing)}: no face of the map shows the sky. Let a ceiling or the wall behind a window show it.`,
          at: thing.at,
          entities: [thing.id],
        },
      ],
);

/** Brushes are partly in its box, partly out of it. */
export const sceneryCrossed = sceneryRule('scenery.crossed', 'warning', (doc, scenery) => {
  const { region, thing, alone } = scenery;
  const crossing = [...doc.brushes.values()].filter((b) => {
    if (b.owner?.id === thing.id || !DRAWN_ROLES.has(b.role)) return false;
    const bounds = brushBounds(b);
    return alone.brushes.has(b.id)
      ? !(boxContains(growBox(region, 0.01), bounds.min) && boxContains(growBox(region, 0.01), bounds.max))
      : boxesOverlap(bounds, region, 0.01);
  });
  if (crossing.length === 0) return [];
  const text = `${crossing.length === 1 ? 'A brush reaches' : `${crossing.length} brushes reach`} out of the box of ${entityName(thing)}: a brush belongs to the side on which its middle lies. Make the box larger, or move them.`;
  return [{ text, at: crossing[0]!.vertices[0]!, entities: [thing.id], brushes: crossing.map((b) => b.id) }];
});
