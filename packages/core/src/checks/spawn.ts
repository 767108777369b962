import { brushBounds, brushContains, stopsPlayers } from '../brush/index.ts';
import { entityName, isSpawn } from '../entity/index.ts';
import { changeEntity, removePicked } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import type { Vec3 } from '../math/index.ts';
import { SENTENCES } from './sentences.ts';
import type { Finding, Rule } from './types.ts';

export const noSpawn: Rule = {
  code: 'check.noSpawn',
  find: (doc) =>
    [...doc.entities.values()].some(isSpawn)
      ? []
      : [
          {
            id: 'check.noSpawn',
            code: 'check.noSpawn',
            severity: 'warning',
            text: SENTENCES.noSpawn,
          },
        ],
};

/** The player's feet lie on a floor; what counts is whether the body does. */
const bodyOf = (at: Vec3): Vec3 => [at[0], at[1], at[2] + 2];

const solidAround = (doc: MapDocument, p: Vec3) =>
  [...doc.brushes.values()].find((b) => stopsPlayers(b) && brushContains(b, p, 0.01));

export const misplacedSpawn: Rule = {
  code: 'check.spawnPlace',
  about: 'entities',
  find: (doc, { placeOf }) =>
    [...doc.entities.values()].flatMap((e): Finding[] => {
      if (!isSpawn(e)) return [];
      const body = bodyOf(e.at);
      const where = solidAround(doc, body) ? 'solid' : (placeOf?.(body) ?? 'open');
      if (where === 'open') return [];
      return [
        {
          id: `check.spawnPlace ${e.id}`,
          code: 'check.spawnPlace',
          severity: 'error',
          text: SENTENCES.misplaced(entityName(e), where),
          at: e.at,
          entities: [e.id],
        },
      ];
    }),
  fixes: [
    {
      label: 'Stand it on top, or remove it from the void',
      apply: (doc, problem) => {
        const id = problem.entities![0]!;
        const entity = doc.entities.get(id);
        if (!entity) return doc;
        let at = entity.at;
        // Climb out of stacked solids, one at a time.
        for (let solid = solidAround(doc, bodyOf(at)); solid; solid = solidAround(doc, bodyOf(at)))
          at = [at[0], at[1], brushBounds(solid).max[2]];
        return at === entity.at ? removePicked(doc, { entities: new Set([id]) }) : changeEntity(doc, id, { at });
      },
    },
  ],
};
