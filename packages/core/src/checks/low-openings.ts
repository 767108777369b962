import { changeOpening, inOpening, openingFits } from '../edit/index.ts';
import type { MapDocument, Opening } from '../map/index.ts';
import type { Vec3 } from '../math/index.ts';
import { openingAt, openingName } from './rooms.ts';
import type { PlayerBody, Finding, Rule } from './types.ts';

/** What is left between a head and the lintel, cm. */
const HEADROOM = 8;

/** The highest an opening can be in the rooms it leads through, cm. */
function mostHeight(doc: MapDocument, o: Opening): number {
  const rooms = o.rooms.flatMap((id) => doc.rooms.get(id) ?? []);
  return Math.min(...rooms.map((r) => r.ceiling)) - Math.max(...rooms.map((r) => r.floor)) - o.sill;
}

/** Whether a player has to stoop in an opening that is cut. Through a window, or what begins as high as one, nobody walks. */
const isLow = (doc: MapDocument, o: Opening, body: PlayerBody): boolean =>
  (o.kind ?? 'door') !== 'window' && o.sill <= body.step && o.height < body.standing && openingFits(doc, o);

/** Doorways and arches through which nobody walks upright. What waits for its wall is told of elsewhere; windows are to look through. */
export const lowOpening: Rule = {
  code: 'check.lowOpening',
  about: 'openings',
  find: (doc, { body }) => {
    if (!body) return [];
    return [...doc.openings.values()].flatMap((o): Finding[] => {
      if (!isLow(doc, o, body)) return [];
      const height = Math.round(o.height * 10) / 10;
      const how =
        o.height < body.crouching
          ? `even a crouching player needs ${body.crouching}`
          : `a player gets through it only crouching; upright takes ${body.standing}`;
      const [a, b] = o.rooms.map((id) => doc.rooms.get(id)?.name);
      const where = b === undefined ? `out of ${a}` : `from ${a} to ${b}`;
      return [
        {
          id: `check.lowOpening ${o.id}`,
          code: 'check.lowOpening',
          severity: 'warning',
          text: `The ${openingName(o)} ${where} is ${height} cm high: ${how}. Make it higher.`,
          at: openingAt(doc, o),
          openings: [o.id],
        },
      ];
    });
  },
  fixes: [
    {
      label: 'Make it high enough to walk through',
      offered: (doc, problem) => {
        const o = doc.openings.get(problem.openings![0]!);
        return !!o && mostHeight(doc, o) > o.height + 1;
      },
      apply: (doc, problem, { body }) => {
        const o = doc.openings.get(problem.openings![0]!);
        if (!o || !body) return doc;
        return changeOpening(doc, o.id, { height: Math.min(mostHeight(doc, o), body.standing + HEADROOM) });
      },
    },
  ],
};

/** Whether a point lies in an opening that is told of as low: then no more needs to be said about the place. */
export function inLowOpening(doc: MapDocument, p: Vec3, body: PlayerBody): boolean {
  return [...doc.openings.values()].some((o) => {
    if (!isLow(doc, o, body)) return false;
    return inOpening(o, doc.rooms, p);
  });
}
