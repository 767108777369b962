import { entityKind, entityName } from '../entity/index.ts';
import type { Finding, Rule } from './types.ts';

/** Keys that lie nowhere, and prices that nobody can pay. */
export const cannotBeHad: Rule = {
  code: 'check.cannotBeHad',
  about: 'entities',
  find: (doc) => {
    const all = [...doc.entities.values()].map((e) => ({ e, trade: entityKind(e.kind)?.trade(e) ?? {} }));
    const keys = new Set(all.flatMap(({ trade }) => trade.givesKey ?? []));
    const endless = all.some(({ trade }) => trade.givesTokens && trade.again);
    const tokens = all.reduce((sum, { trade }) => sum + (trade.givesTokens ?? 0), 0);
    const few = tokens === 0 ? 'none lie' : tokens === 1 ? 'only one lies' : `only ${tokens} lie`;
    return all.flatMap(({ e, trade: { wantsKey, wantsTokens = 0 } }): Finding[] => {
      const say = (what: string, text: string): Finding => ({
        id: `check.cannotBeHad ${what} ${e.id}`,
        code: 'check.cannotBeHad',
        severity: 'warning',
        text,
        at: e.at,
        entities: [e.id],
      });
      return [
        ...(wantsKey && !keys.has(wantsKey)
          ? [say('key', `${entityName(e)} wants the ${wantsKey}, which lies nowhere. Place a pickup with that key.`)]
          : []),
        ...(wantsTokens > 0 && !endless && tokens < wantsTokens
          ? [
              say(
                'price',
                `${entityName(e)} costs ${wantsTokens} token${wantsTokens === 1 ? '' : 's'}, and ${few} in the map. Place pickups with tokens, or lower the price.`,
              ),
            ]
          : []),
      ];
    });
  },
};
