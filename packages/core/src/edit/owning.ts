import { boxSolid, type Brush } from '../brush/index.ts';
import { entityKind, ownsBrushes } from '../entity/index.ts';
import { filledBox, newId, type MapDocument } from '../map/index.ts';
import { boxCenter, composeAffine, isEmptyBox, rotation, translation, type Box } from '../math/index.ts';
import { dressSolid, transformBrush } from '../surface/index.ts';
import { addBrushes } from './brushes.ts';
import { placeEntity } from './entities.ts';
import { EditError } from './errors.ts';
import { releaseBrushes } from './rooms.ts';
import { partOfThing, rideOn } from './wires.ts';

/** What becomes a part of a thing: brushes, and props, which ride on it. */
export interface Pieces {
  readonly brushes?: Iterable<string>;
  readonly props?: Iterable<string>;
}

/** Makes brushes and props a part of a thing. Brushes of rooms are released by them. */
export function giveParts(doc: MapDocument, thing: string, part: number, pieces: Pieces): MapDocument {
  const ids = new Set(pieces.brushes);
  const props = [...(pieces.props ?? [])];
  const e = doc.entities.get(thing);
  const kind = e && entityKind(e.kind);
  const body = kind?.body;
  if (!kind || !ownsBrushes(kind))
    throw new EditError(
      'parts.noThing',
      'Select a door, a zone or another thing that owns brushes, and the brushes to add.',
    );
  if (ids.size + props.length === 0)
    throw new EditError('parts.none', 'Select the brushes or props that should belong to it.');
  if (props.length > 0 && body === 'zone')
    throw new EditError('parts.zone', 'A region is made of brushes. Select brushes for it, and no props.');
  const owner = partOfThing(thing, part);
  const out = releaseBrushes(doc, ids);
  const brushes = new Map(out.brushes);
  for (const id of ids) {
    const brush = brushes.get(id);
    if (!brush) throw new EditError('brush.unknown', 'That brush is no longer in the map. Select it again.');
    const { room: _, ...rest } = brush;
    // What says where a region is holds nobody back and is not drawn.
    const loose: Brush = body === 'zone' ? { ...rest, role: 'zone' } : rest;
    brushes.set(id, { ...loose, owner });
  }
  return props.length ? rideOn({ ...out, brushes }, props, thing, part) : { ...out, brushes };
}

/** Makes brushes and props stand by themselves again. */
export function freeParts(doc: MapDocument, pieces: Pieces): MapDocument {
  const brushes = new Map(doc.brushes);
  for (const id of pieces.brushes ?? []) {
    const brush = brushes.get(id);
    if (!brush?.owner) continue;
    const { owner: _, ...loose } = brush;
    brushes.set(id, loose);
  }
  return rideOn({ ...doc, brushes }, [...(pieces.props ?? [])], null);
}

/** What some brushes and props fill; what is no longer in the map is left out. */
export function piecesBounds(doc: MapDocument, pieces: Pieces): Box {
  const brushes = [...(pieces.brushes ?? [])].flatMap((id) => doc.brushes.get(id) ?? []);
  const props = [...(pieces.props ?? [])].flatMap((id) => doc.entities.get(id) ?? []);
  return filledBox({ brushes, things: props });
}

/** Adds the brush that a new thing consists of until somebody shapes it. */
export function withFirstBody(doc: MapDocument, thing: string, material: string): MapDocument {
  const e = doc.entities.get(thing);
  const body = e && entityKind(e.kind)?.firstBody;
  if (!e || !body) return doc;
  const plain = dressSolid(boxSolid(body), newId(), material, { role: 'detail' });
  const brush = transformBrush(plain, composeAffine(translation(e.at), rotation(2, e.turn, [0, 0, 0])), true);
  return giveParts(addBrushes(doc, [brush]), thing, 0, { brushes: [brush.id] });
}

/** Makes a thing of a kind of brushes and props, which become its first part. */
export function thingOfBrushes(doc: MapDocument, kind: string, pieces: Pieces, id = newId()): MapDocument {
  const box = piecesBounds(doc, pieces);
  if (isEmptyBox(box)) throw new EditError('parts.none', 'Select the brushes or props that should become one.');
  const centre = boxCenter(box);
  const spins = entityKind(kind)?.turnsAboutMiddle ?? false;
  return giveParts(
    placeEntity(doc, kind, [centre[0], centre[1], spins ? centre[2] : box.min[2]], 0, id),
    id,
    0,
    pieces,
  );
}
