import { brushBounds, cutBehind, type Brush } from '../brush/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import { boxesOverlap, flipPlane, type Plane, type Vec3 } from '../math/index.ts';
import { DRESS_CARRIED, dressSolid } from '../surface/index.ts';
import { EditError } from './errors.ts';
import { openingSolid } from './room-clearance.ts';
import { openingWall, pointOnSide } from './room-parts.ts';

/** A gate flush with an opening, through the whole of its wall. A door that fills the opening closes it from then on. */
export function gateInOpening(doc: MapDocument, opening: string): { doc: MapDocument; gate: string } {
  const { opening: o, room, side, depth, bottom, top } = openingWall(doc, opening);
  const normal: Vec3 = [side.out[0], side.out[1], 0];
  const at = (out: number): Plane => {
    const [x, y] = pointOnSide(side, o.at, out);
    return { normal, distance: normal[0] * x + normal[1] * y };
  };
  const id = newId();
  // The opening's shape reaches a little into the room: a gate ends where its wall does.
  const rough = dressSolid(openingSolid(o, room, bottom, top, depth), id, 'clear', { role: 'gate' });
  const gate = cutBehind(rough, flipPlane(at(0)), DRESS_CARRIED.cap);
  if (!gate) throw new EditError('gate.empty', 'The opening is too small for a gate. Make it larger first.');
  if (gatesIn(doc, gate).length > 0)
    throw new EditError('gate.exists', 'A gate stands in that opening already. Pick it to change it.');
  return { doc: { ...doc, brushes: new Map(doc.brushes).set(id, gate) }, gate: id };
}

/** Gates that stand where a brush does. */
const gatesIn = ({ brushes }: MapDocument, place: Brush): Brush[] =>
  [...brushes.values()].filter((b) => b.role === 'gate' && boxesOverlap(brushBounds(b), brushBounds(place), 1));
