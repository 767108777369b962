import { withAlong, type MapDocument, type Picked } from '@yesca/core';
import { asPicked, type Selection } from './selection.ts';
import { useWork } from './work.ts';

let last: { doc: MapDocument; selection: Selection; contents: boolean; neighbours: boolean; picked: Picked } | null =
  null;

/** What a move, turn or mirror of the selection takes: with rooms what stands in them and their neighbours, as the switches say. */
export function movedPicked(doc: MapDocument, selection: Selection): Picked {
  const { contents, neighbours } = useWork.getState();
  // A gesture asks for every frame of the same.
  if (last?.doc === doc && last.selection === selection && last.contents === contents && last.neighbours === neighbours)
    return last.picked;
  const picked = withAlong(doc, asPicked(selection), { contents, neighbours });
  last = { doc, selection, contents, neighbours, picked };
  return picked;
}
