import { brushBounds, brushContains, type Brush } from '../brush/index.ts';
import { entityName, modelOf, propPose, type Entity } from '../entity/index.ts';
import { removePicked } from '../edit/index.ts';
import { propSize } from '../map/index.ts';
import { applyAffine, boxOf, boxesOverlap, type Vec3 } from '../math/index.ts';
import type { Finding, Fix, Rule } from './types.ts';

const remove: Fix = {
  label: 'Remove them',
  apply: (doc, { entities = [] }) => removePicked(doc, { entities: new Set(entities) }),
};

/** Props that nobody has. */
export const missingProp: Rule = {
  code: 'check.missingProp',
  about: 'entities',
  find: (doc, { props }) => {
    if (!props) return [];
    const byName = new Map<string, Entity[]>();
    for (const e of doc.entities.values()) {
      const name = modelOf(e)?.name;
      if (name === undefined || props(name)) continue;
      const list = byName.get(name);
      if (list) list.push(e);
      else byName.set(name, [e]);
    }
    return [...byName].map(([name, things]): Finding => {
      const what = name
        ? `${things.length === 1 ? 'A prop is' : `${things.length} props are`} called ${name}, which is not in Stock: a box stands for ${things.length === 1 ? 'it' : 'them'}.`
        : `${things.length === 1 ? 'A prop is' : `${things.length} props are`} none of those in Stock.`;
      return {
        id: `check.missingProp ${name}`,
        code: 'check.missingProp',
        severity: 'warning',
        text: `${what} Choose another prop in Particulars, or remove ${things.length === 1 ? 'it' : 'them'}.`,
        at: things[0]!.at,
        entities: things.map((e) => e.id),
      };
    });
  },
  fixes: [remove],
};

/** The corners of what a prop fills. */
function cornersOf(e: Entity): Vec3[] {
  const { min, max } = propSize(e);
  const pose = propPose(modelOf(e)!, e.at, e.turn);
  return Array.from({ length: 8 }, (_, k) =>
    applyAffine(pose, [k & 1 ? max[0] : min[0], k & 2 ? max[1] : min[1], k & 4 ? max[2] : min[2]]),
  );
}

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
      const corners = cornersOf(e);
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
  fixes: [{ ...remove, label: 'Remove it' }],
};
