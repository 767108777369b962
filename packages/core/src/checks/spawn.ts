import { brushBounds, brushContains, stopsPlayers } from '../brush/index.ts';
import { entityKind, entityName, isSpawn, type Entity } from '../entity/index.ts';
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

/** Two spawns this near to each other (cm, on the plan and in height) push each other out of place. */
const NEAR = { plan: 44, height: 180 };

export const crowdedSpawns: Rule = {
  code: 'check.crowdedSpawns',
  about: 'entities',
  least: 2,
  find: (doc) => {
    const spawns = [...doc.entities.values()].filter(isSpawn);
    return spawns.flatMap((a, i) =>
      spawns.slice(i + 1).flatMap((b): Finding[] => {
        const far =
          Math.abs(a.at[0] - b.at[0]) >= NEAR.plan ||
          Math.abs(a.at[1] - b.at[1]) >= NEAR.plan ||
          Math.abs(a.at[2] - b.at[2]) >= NEAR.height;
        return far
          ? []
          : [
              {
                id: `check.crowdedSpawns ${a.id} ${b.id}`,
                code: 'check.crowdedSpawns',
                severity: 'warning',
                text: `${entityName(a)} and ${entityName(b).replace(/^A /, 'a ')} stand in each other. Move them apart.`,
                at: a.at,
                entities: [a.id, b.id],
              },
            ];
      }),
    );
  },
};

/** Sets of spawns with holes: a team without another, a number of those together that nobody has, a team without a name. */
export const spawnSets: Rule = {
  code: 'check.spawnSets',
  about: 'entities',
  find: (doc) => {
    const all = [...doc.entities.values()].flatMap((e) => {
      const begins = entityKind(e.kind)?.begins(e);
      return begins ? [{ e, begins }] : [];
    });
    const teams = all.flatMap(({ e, begins }) => (begins.for === 'team' ? [{ e, team: begins.team.trim() }] : []));
    const numbers = all.flatMap(({ e, begins }) => (begins.for === 'together' ? [{ e, number: begins.number }] : []));
    const say = (what: string, text: string, es: readonly { readonly e: Entity }[]): Finding => ({
      id: `check.spawnSets ${what}`,
      code: 'check.spawnSets',
      severity: 'warning',
      text,
      at: es[0]!.e.at,
      entities: es.map(({ e }) => e.id),
    });
    const unnamed = teams.filter(({ team }) => team === '');
    const names = new Set(teams.map(({ team }) => team).filter(Boolean));
    const most = Math.max(0, ...numbers.map(({ number }) => number));
    const missing = Array.from({ length: most }, (_, k) => k + 1).filter((n) => !numbers.some((s) => s.number === n));
    return [
      ...(unnamed.length
        ? [say('unnamed', 'A spawn for a team does not say which. Type the name of the team.', unnamed)]
        : []),
      ...(names.size === 1
        ? [
            say(
              'team',
              `Only ${[...names][0]} have spawns. Place some for the other team.`,
              teams.filter(({ team }) => team),
            ),
          ]
        : []),
      ...(missing.length
        ? [
            say(
              'together',
              `Of those who play together nobody begins as number ${missing.join(', ')}. Place a spawn for each number.`,
              numbers,
            ),
          ]
        : []),
    ];
  },
};
