import { changeLayer } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import type { Rule } from './types.ts';

const layerOf = (doc: MapDocument, id: string) =>
  doc.layers.get((doc.brushes.get(id) ?? doc.entities.get(id))?.layer ?? '');

/** Something selected that cannot be seen or must not be changed: the next operation would change it all the same. */
export const unseenSelection: Rule = {
  code: 'check.unseenSelection',
  find: (doc, { selected }) => {
    const off = [...(selected ?? [])].filter((id) => {
      const layer = layerOf(doc, id);
      return layer && (!layer.visible || layer.locked);
    });
    if (off.length === 0) return [];
    const names = [...new Set(off.map((id) => layerOf(doc, id)!.name))].join(', ');
    return [
      {
        id: 'check.unseenSelection',
        code: 'check.unseenSelection',
        severity: 'warning',
        text: `${off.length} of what is selected ${off.length === 1 ? 'is' : 'are'} on a hidden or locked layer (${names}). Changes would reach ${off.length === 1 ? 'it' : 'them'} too.`,
        brushes: off.filter((id) => doc.brushes.has(id)),
        entities: off.filter((id) => doc.entities.has(id)),
      },
    ];
  },
  fixes: [
    {
      label: 'Show and unlock the layer',
      apply: (doc, problem) => {
        const layers = new Set(
          [...(problem.brushes ?? []), ...(problem.entities ?? [])].flatMap((id) => layerOf(doc, id)?.id ?? []),
        );
        return [...layers].reduce((d, id) => changeLayer(d, id, { visible: true, locked: false }), doc);
      },
    },
  ],
};
