import { brushBounds, brushContains, type Brush } from '../brush/index.ts';
import { entityName, modelOf } from '../entity/index.ts';
import { factsOfProp, propCorners } from '../map/index.ts';
import { boxOf, boxesOverlap } from '../math/index.ts';
import { thingsBy } from './by-name.ts';
import { removeThings } from './fixes.ts';
import type { Finding, Rule } from './types.ts';

/** Props that nobody has. */
export const missingProp: Rule = {
  code: 'check.missingProp',
  about: 'entities',
  find: (doc, { props }) => {
    if (!props) return [];
    const byName = thingsBy(doc, (e) => {
      const model = modelOf(e);
      return !model || factsOfProp(model, props) ? null : model.name;
    });
    return [...byName].map(([name, things]): Finding => {
      const [are, them] = things.length === 1 ? ['A prop is', 'it'] : [`${things.length} props are`, 'them'];
      const what = name
        ? `${are} called ${name}, which is not in Stock: a box stands for ${them}.`
        : `${are} none of those in Stock.`;
      return {
        id: `check.missingProp ${name}`,
        code: 'check.missingProp',
        severity: 'warning',
        text: `${what} Choose another prop in Particulars, or remove ${them}.`,
        at: things[0]!.at,
        entities: things.map((e) => e.id),
      };
    });
  },
  fixes: [removeThings('Remove them')],
};

const hides = ({ role }: Brush): boolean => role === 'structure' || role === 'detail';

/** Props that lie wholly in one solid: nobody sees them. */
export const buriedProp: Rule = {
  code: 'check.buriedProp',
  about: 'entities',
  find: (doc) => {
    const props = [...doc.entities.values()].filter((e) => modelOf(e));
    if (props.length === 0) return [];
    const solids = [...doc.brushes.values()].filter(hides);
    return props.flatMap((e): Finding[] => {
      const corners = propCorners(e);
      const bounds = boxOf(corners);
      const inside = solids.find(
        (b) => boxesOverlap(brushBounds(b), bounds) && corners.every((p) => brushContains(b, p)),
      );
      if (!inside) return [];
      return [
        {
          id: `check.buriedProp ${e.id}`,
          code: 'check.buriedProp',
          severity: 'warning',
          text: `${entityName(e)} stands inside a solid, where nobody sees it. Move it into the open, or remove it.`,
          at: e.at,
          entities: [e.id],
        },
      ];
    });
  },
  fixes: [removeThings('Remove it')],
};
