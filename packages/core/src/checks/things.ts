import { entityKind, entityName } from '../entity/index.ts';
import { aroundIn } from '../map/index.ts';
import type { Finding, Rule } from './types.ts';

/** What the kinds of things find wrong with single things: each kind says it in its own file. */
export const thingFlaws: Rule = {
  code: 'check.thing',
  find: (doc) =>
    [...doc.entities.values()].flatMap((e): Finding[] =>
      (entityKind(e.kind)?.flaws(e, aroundIn(doc)) ?? []).map(({ code, severity, text }) => ({
        id: `check.thing ${code} ${e.id}`,
        code: 'check.thing',
        severity,
        text: text(entityName(e)),
        at: e.at,
        entities: [e.id],
      })),
    ),
};
