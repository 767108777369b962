import { emptyMap, mapFromData, MapFileError, newId, writeMap, type MapDocument } from '../map/index.ts';
import type { Vec3 } from '../math/index.ts';
import { addBrushes, movePicked, type Picked } from './brushes.ts';
import { EditError } from './errors.ts';
import { looseBrush } from './rooms.ts';

/** What is picked as text: a small map file with just those brushes and entities. Brushes of picked rooms come as plain brushes. */
export function copyPicked(doc: MapDocument, picked: Picked): string {
  const inRooms = [...doc.brushes.values()].filter((b) => b.room && picked.rooms?.has(b.room.id)).map((b) => b.id);
  const brushes = [...(picked.brushes ?? []), ...inRooms].flatMap((id) => doc.brushes.get(id) ?? []);
  const entities = [...(picked.entities ?? [])].flatMap((id) => doc.entities.get(id) ?? []);
  return writeMap({
    ...emptyMap('Copied'),
    brushes: new Map(brushes.map((b) => [b.id, looseBrush(b)])),
    entities: new Map(entities.map((e) => [e.id, e])),
  });
}

/** Adds the brushes and entities of a copied text, or of any map file, moved by a vector. Throws `paste.notBrushes` for other text. */
export function pasteText(
  doc: MapDocument,
  text: string,
  by: Vec3,
): { doc: MapDocument; picked: Required<Pick<Picked, 'brushes' | 'entities'>> } {
  let from: MapDocument;
  try {
    from = mapFromData(JSON.parse(text));
  } catch (error) {
    const why =
      error instanceof MapFileError && error.code !== 'map.notAMap'
        ? ` ${error.message}`
        : ' Copy something in a map first.';
    throw new EditError('paste.notBrushes', `The clipboard does not hold brushes or things of a map.${why}`);
  }
  const copies = [...from.brushes.values()].map((b) => ({ ...looseBrush(b), id: newId() }));
  const things = [...from.entities.values()].map((e) => ({ ...e, id: newId() }));
  const entities = new Map(doc.entities);
  for (const e of things) entities.set(e.id, e);
  const picked = { brushes: new Set(copies.map((b) => b.id)), entities: new Set(things.map((e) => e.id)) };
  return { doc: movePicked({ ...addBrushes(doc, copies), entities }, picked, by), picked };
}
