import { filledBox, type MapDocument } from '../map/index.ts';
import { composeAffine, isEmptyBox, rotation, translation, type Vec3 } from '../math/index.ts';
import { transformPicked, type Picked } from './brushes.ts';
import { copyPicked, fragmentOf, pasteFragment } from './clipboard.ts';
import type { Copied } from './copies.ts';
import { EditError } from './errors.ts';
import { groupPicked } from './groups.ts';

/** What is picked as the text of an assembly: a map file with just that. Throws where nothing of it can be one. */
export function assemblyOf(doc: MapDocument, picked: Picked): string {
  const text = copyPicked(doc, picked);
  const { brushes, entities } = fragmentOf(text);
  if (brushes.size + entities.size === 0)
    throw new EditError('assembly.nothing', 'Select the brushes and things that are to be an assembly.');
  return text;
}

/**
 * Puts an assembly on a place: the middle of its foot there, as near as its grid allows, so that what lay on grid lines does so again;
 * turned about that by degrees. What is in it is one group.
 */
export function placeAssembly(
  doc: MapDocument,
  {
    text,
    name,
    at,
    turn = 0,
  }: { readonly text: string; readonly name: string; readonly at: Vec3; readonly turn?: number },
): Copied {
  const from = fragmentOf(text);
  const box = filledBox({ brushes: from.brushes.values(), things: from.entities.values() });
  if (isEmptyBox(box))
    throw new EditError('assembly.nothing', `${name} is empty. Keep another selection in its place.`);
  const { grid } = doc.settings;
  const middle = (k: 0 | 1): number => Math.round((box.min[k] + box.max[k]) / 2 / grid) * grid;
  const by: Vec3 = [at[0] - middle(0), at[1] - middle(1), at[2] - box.min[2]];
  const copied = pasteFragment(doc, from, [0, 0, 0]);
  const map = composeAffine(rotation(2, turn, at), translation(by));
  const moved = transformPicked(copied.doc, copied.picked, map, true);
  const single = copied.picked.brushes.size + copied.picked.entities.size < 2;
  return { ...copied, doc: single ? moved : groupPicked(moved, copied.picked, name) };
}
