import { boxSolid, brushBounds, type Brush } from '../brush/index.ts';
import { entityKind, ownsBrushes } from '../entity/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import { boxCenter, composeAffine, rotation, translation, uniteBoxes } from '../math/index.ts';
import { dressSolid, transformBrush } from '../surface/index.ts';
import { addBrushes } from './brushes.ts';
import { placeEntity } from './entities.ts';
import { EditError } from './errors.ts';
import { releaseBrushes } from './rooms.ts';

/** Makes brushes a part of a thing. Brushes of rooms are released by them. */
export function giveParts(doc: MapDocument, thing: string, part: number, ids: ReadonlySet<string>): MapDocument {
  const e = doc.entities.get(thing);
  const kind = e && entityKind(e.kind);
  const body = kind?.body;
  if (!kind || !ownsBrushes(kind))
    throw new EditError(
      'parts.noThing',
      'Select a door, a zone or another thing that owns brushes, and the brushes to add.',
    );
  if (ids.size === 0) throw new EditError('parts.none', 'Select the brushes that should belong to it.');
  if (!Number.isInteger(part) || part < 0 || part > 63)
    throw new EditError('parts.part', 'The number of a part is from 1 to 64.');
  const out = releaseBrushes(doc, ids);
  const brushes = new Map(out.brushes);
  for (const id of ids) {
    const brush = brushes.get(id);
    if (!brush) throw new EditError('brush.unknown', 'That brush is no longer in the map. Select it again.');
    const { room: _, ...rest } = brush;
    // What says where a region is holds nobody back and is not drawn.
    const loose: Brush = body === 'zone' ? { ...rest, role: 'zone' } : rest;
    brushes.set(id, { ...loose, owner: part === 0 ? { id: thing } : { id: thing, part } });
  }
  return { ...out, brushes };
}

/** Makes brushes stand by themselves again. */
export function freeParts(doc: MapDocument, ids: ReadonlySet<string>): MapDocument {
  const brushes = new Map(doc.brushes);
  for (const id of ids) {
    const brush = brushes.get(id);
    if (!brush?.owner) continue;
    const { owner: _, ...loose } = brush;
    brushes.set(id, loose);
  }
  return { ...doc, brushes };
}

/** Adds the brush that a new thing consists of until somebody shapes it. */
export function withFirstBody(doc: MapDocument, thing: string, material: string): MapDocument {
  const e = doc.entities.get(thing);
  const body = e && entityKind(e.kind)?.firstBody;
  if (!e || !body) return doc;
  const plain = dressSolid(boxSolid(body), newId(), material, { role: 'detail' });
  const brush = transformBrush(plain, composeAffine(translation(e.at), rotation(2, e.turn, [0, 0, 0])), true);
  return giveParts(addBrushes(doc, [brush]), thing, 0, new Set([brush.id]));
}

/** Makes a thing of a kind of brushes, which become its first part. */
export function thingOfBrushes(doc: MapDocument, kind: string, ids: ReadonlySet<string>, id = newId()): MapDocument {
  const brushes = [...ids].flatMap((b) => doc.brushes.get(b) ?? []);
  if (brushes.length === 0) throw new EditError('parts.none', 'Select the brushes that should become one.');
  const box = uniteBoxes(brushes.map(brushBounds));
  const centre = boxCenter(box);
  const spins = entityKind(kind)?.turnsAboutMiddle ?? false;
  return giveParts(placeEntity(doc, kind, [centre[0], centre[1], spins ? centre[2] : box.min[2]], 0, id), id, 0, ids);
}
