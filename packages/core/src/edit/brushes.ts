import { brushBounds, brushFlaw, findFlaw, ROLES, solidOf, type Brush, type Role } from '../brush/index.ts';
import { boxSize, scaling, translation, uniteBoxes, type Affine, type Box, type Vec3 } from '../math/index.ts';
import { letGoOfMissing, type MapDocument } from '../map/index.ts';
import { transformBrush } from '../surface/index.ts';
import { transformEntity } from '../entity/index.ts';
import { EditError } from './errors.ts';
import { moveShapes, tidyGroups } from './groups.ts';
import { removeOpenings } from './openings.ts';
import { without } from './remake.ts';
import { withParts } from './parts.ts';
import { releaseBrushes, removeRooms, transformRooms } from './rooms.ts';

/** What a command works on: ids of brushes, entities, rooms and openings. */
export interface Picked {
  readonly brushes?: ReadonlySet<string>;
  readonly entities?: ReadonlySet<string>;
  readonly rooms?: ReadonlySet<string>;
  readonly openings?: ReadonlySet<string>;
}

const checked = (brush: Brush): Brush => {
  const flaw = brushFlaw(brush);
  if (flaw) throw new EditError(flaw.code, flaw.message);
  return brush;
};

/** Adds brushes; their ids must be new. */
export function addBrushes(doc: MapDocument, added: readonly Brush[]): MapDocument {
  const brushes = new Map(doc.brushes);
  for (const brush of added) {
    if (brushes.has(brush.id)) throw new EditError('brush.sameId', 'A brush with this id is already in the map.');
    brushes.set(brush.id, checked(brush));
  }
  return { ...doc, brushes };
}

/**
 * Removes what is picked. Rooms go with their brushes; a brush of a room goes alone and is not made again. What belonged to a
 * thing or rode on it stays by itself; its wires go.
 */
export function removePicked(doc: MapDocument, picked: Picked): MapDocument {
  let out = doc;
  if (picked.openings?.size) out = removeOpenings(out, picked.openings);
  if (picked.rooms?.size) out = removeRooms(out, picked.rooms);
  const brushes = picked.brushes ?? new Set();
  if (brushes.size) {
    out = releaseBrushes(out, brushes);
    out = { ...out, brushes: without(out.brushes, (b) => brushes.has(b.id)) };
  }
  if (picked.entities?.size) out = { ...out, entities: without(out.entities, (e) => picked.entities!.has(e.id)) };
  return letGoOfMissing(tidyGroups(out));
}

/** Moves what is picked by a vector, in cm. Rooms move as wholes and stay rooms. */
export function movePicked(doc: MapDocument, picked: Picked, by: Vec3, carry = true): MapDocument {
  if (!by.every(Number.isFinite))
    throw new EditError('move.notFinite', 'The distance is not a number. Type plain numbers.');
  return transformPicked(doc, picked, translation(by), carry);
}

/** Applies an affine map to what is picked. Rooms stay rooms; a single brush of a room is released by it; things take their parts along. */
export function transformPicked(doc: MapDocument, alone: Picked, m: Affine, carry = true): MapDocument {
  const picked = withParts(doc, alone);
  let out = transformRooms(doc, [...(picked.rooms ?? [])], m, carry);
  const ids = looseBrushes(doc, picked);
  if (ids.size) {
    out = moveShapes(releaseBrushes(out, ids), ids, m);
    const brushes = new Map(out.brushes);
    for (const id of ids) {
      const brush = brushes.get(id);
      if (brush) brushes.set(id, checked(transformBrush(brush, m, carry)));
    }
    out = { ...out, brushes };
  }
  if (picked.entities?.size) {
    const entities = new Map(out.entities);
    for (const id of picked.entities) {
      const e = entities.get(id);
      if (e) entities.set(id, transformEntity(e, m));
    }
    out = { ...out, entities };
  }
  return out;
}

/** Stretches what is picked so that its bounds become `to`. A room stays a room: its footprint and heights are stretched. */
export function resizePicked(doc: MapDocument, picked: Picked, to: Box, carry = true): MapDocument {
  const from = pickedBounds(doc, picked);
  if (!from) return doc;
  const was = boxSize(from);
  const is = boxSize(to);
  if (!is.every(Number.isFinite) || is.some((s, i) => s <= 0 && was[i]! > 0))
    throw new EditError('resize.empty', 'The new size is zero or turned inside out. Type sizes above zero.');
  const factor = (i: 0 | 1 | 2): number => (was[i] > 0 ? is[i] / was[i] : 1);
  const s: Vec3 = [factor(0), factor(1), factor(2)];
  const stretch = scaling(s, from.min);
  const map: Affine = [
    stretch[0],
    0,
    0,
    stretch[3] + to.min[0] - from.min[0],
    0,
    stretch[5],
    0,
    stretch[7] + to.min[1] - from.min[1],
    0,
    0,
    stretch[10],
    stretch[11] + to.min[2] - from.min[2],
  ];
  const { entities, ...rest } = withParts(doc, picked);
  const loose = looseBrushes(doc, rest);
  const out = transformPicked(doc, { brushes: loose, entities }, map, carry);
  // The texture of a room is not stretched with it: its walls only become longer.
  return transformRooms(snapToBox(out, loose, to), [...(picked.rooms ?? [])], map, false);
}

const looseBrushes = (doc: MapDocument, picked: Picked): Set<string> =>
  new Set([...(picked.brushes ?? [])].filter((id) => !picked.rooms?.has(doc.brushes.get(id)?.room?.id ?? '')));

/** Scaling rounds; what belongs on the new box's sides or on whole centimetres is put exactly there, so that grid points stay grid points. */
function nearBox(v: Vec3, to: Box): Vec3 {
  const near = (i: 0 | 1 | 2): number =>
    [to.min[i], to.max[i], Math.round(v[i])].find((c) => Math.abs(c - v[i]) < 1e-7) ?? v[i];
  return [near(0), near(1), near(2)];
}

function snapToBox(doc: MapDocument, ids: ReadonlySet<string>, to: Box): MapDocument {
  const brushes = new Map(doc.brushes);
  for (const id of ids) {
    const b = brushes.get(id);
    if (!b) continue;
    const snapped = { ...b, vertices: b.vertices.map((v) => nearBox(v, to)) };
    // The hair by which a corner moves may be the one that an edge or a plane had to spare.
    if (!findFlaw(solidOf(snapped))) brushes.set(id, snapped);
  }
  return { ...doc, brushes };
}

/** The bounds of what is picked; rooms count with their clear inside. Null when nothing is. */
export function pickedBounds(doc: MapDocument, alone: Picked): Box | null {
  const picked = withParts(doc, alone);
  const boxes: Box[] = [];
  for (const id of picked.brushes ?? []) {
    const b = doc.brushes.get(id);
    if (b && !picked.rooms?.has(b.room?.id ?? '')) boxes.push(brushBounds(b));
  }
  for (const id of picked.entities ?? []) {
    const e = doc.entities.get(id);
    if (e) boxes.push({ min: e.at, max: e.at });
  }
  for (const id of picked.rooms ?? []) {
    const r = doc.rooms.get(id);
    if (!r) continue;
    const xs = r.footprint.map((p) => p[0]);
    const ys = r.footprint.map((p) => p[1]);
    boxes.push({
      min: [Math.min(...xs), Math.min(...ys), r.floor],
      max: [Math.max(...xs), Math.max(...ys), r.ceiling],
    });
  }
  return boxes.length ? uniteBoxes(boxes) : null;
}

export function setRole(doc: MapDocument, ids: ReadonlySet<string>, role: Role): MapDocument {
  if (!ROLES.includes(role)) throw new EditError('brush.role', `There is no role called ${role}.`);
  return withBrushes(releaseBrushes(doc, ids), ids, (b) => ({ ...b, role }));
}

/** Makes brushes other ones; those that are no longer in the map are left out. */
function withBrushes(doc: MapDocument, ids: ReadonlySet<string>, change: (brush: Brush) => Brush): MapDocument {
  const brushes = new Map(doc.brushes);
  for (const id of ids) {
    const b = brushes.get(id);
    if (b) brushes.set(id, change(b));
  }
  return { ...doc, brushes };
}

/** Lets brushes cast a shadow, or light go through them as if they were not there. */
export const setShadow = (doc: MapDocument, ids: ReadonlySet<string>, casts: boolean): MapDocument =>
  withBrushes(doc, ids, ({ shadow: _, ...bare }) => (casts ? bare : { ...bare, shadow: false }));

/** Lets players and all else pass through brushes, or not, whatever their role. */
export const setPassable = (doc: MapDocument, ids: ReadonlySet<string>, passable: boolean): MapDocument =>
  withBrushes(doc, ids, ({ stops: _, ...bare }) => (passable ? { ...bare, stops: [] } : bare));
