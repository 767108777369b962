import { emptyMap, partFromData, MapFileError, writeMap, type MapDocument } from '../map/index.ts';
import type { Vec3 } from '../math/index.ts';
import { movePicked, type Picked } from './brushes.ts';
import { addCopies, type Copied } from './copies.ts';
import { EditError } from './errors.ts';
import { withParts } from './parts.ts';
import { groupChain, inGroup, wholeGroups } from './groups.ts';
import { looseBrush } from './rooms.ts';

/** What is picked as text: a small map file with just those brushes and entities. Brushes of picked rooms come as plain brushes. */
export function copyPicked(doc: MapDocument, alone: Picked): string {
  const picked = withParts(doc, alone);
  const inRooms = [...doc.brushes.values()].filter((b) => b.room && picked.rooms?.has(b.room.id)).map((b) => b.id);
  const brushes = [...(picked.brushes ?? []), ...inRooms].flatMap((id) => doc.brushes.get(id) ?? []);
  const entities = [...(picked.entities ?? [])].flatMap((id) => doc.entities.get(id) ?? []);
  const whole = wholeGroups(doc, picked);
  const kept = (group: string | undefined) => groupChain(doc, group).find((g) => whole.has(g));
  return writeMap({
    ...emptyMap('Copied'),
    brushes: new Map(brushes.map((b) => [b.id, inGroup(looseBrush(b), kept(b.group))])),
    entities: new Map(entities.map((e) => [e.id, inGroup(e, kept(e.group))])),
    groups: new Map([...whole].map((id) => [id, doc.groups.get(id)!])),
    wires: new Map([...doc.wires].filter(([, w]) => [w.from, w.to].every((end) => picked.entities?.has(end.thing)))),
  });
}

/** A copied text, or any map file, as a map. Throws `paste.notBrushes` for other text. */
export function fragmentOf(text: string): MapDocument {
  try {
    return partFromData(JSON.parse(text));
  } catch (error) {
    const why =
      error instanceof MapFileError && error.code !== 'map.notAMap'
        ? ` ${error.message}`
        : ' Copy something in a map first.';
    throw new EditError('paste.notBrushes', `The clipboard does not hold brushes or things of a map.${why}`);
  }
}

/** Adds the brushes, entities and groups of another map, moved by a vector. */
export function pasteFragment(doc: MapDocument, from: MapDocument, by: Vec3): Copied {
  const copied = addCopies(doc, from, {
    brushes: from.brushes.keys(),
    entities: from.entities.keys(),
    groups: new Set(from.groups.keys()),
  });
  return { ...copied, doc: movePicked(copied.doc, copied.picked, by) };
}

/** {@link pasteFragment} of a copied text. Throws `paste.notBrushes` for other text. */
export const pasteText = (doc: MapDocument, text: string, by: Vec3): Copied => pasteFragment(doc, fragmentOf(text), by);
