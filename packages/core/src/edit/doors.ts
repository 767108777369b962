import { cutBehind, extrude, flipped, type Brush } from '../brush/index.ts';
import { doorWith, type DoorLeaf } from '../entity/index.ts';
import { newId, partsOf, type MapDocument, type Opening, type Room } from '../map/index.ts';
import { bearing, boxCenter, boxSize, uniteBoxes, type Plane, type Vec3 } from '../math/index.ts';
import { DRESS_CARRIED, dressSolid } from '../surface/index.ts';
import { addBrushes, removePicked } from './brushes.ts';
import { EditError } from './errors.ts';
import { changeEntity } from './entities.ts';
import { giveParts, piecesBounds, thingOfBrushes, type Pieces } from './owning.ts';
import { openingSolid } from './room-clearance.ts';
import { openingWall, pointOnSide, sideOf } from './room-parts.ts';
import { addWire } from './wires.ts';

/** How a door that is made in an opening opens. */
export interface DoorWish {
  /** One leaf, two side by side, or two that part up and down. */
  readonly leaves: 'one' | 'two' | 'upDown';
  /** Absent: guessed from what room there is. */
  readonly moves?: 'slides' | 'turns';
  /** Of the leaves, cm. */
  readonly thickness: number;
  /** How much of a sliding leaf still shows when it is open, cm. */
  readonly remainder?: number;
  readonly material: string;
  /** With a zone through the opening that opens it for who comes near. */
  readonly zone?: boolean;
}

export interface MadeDoor {
  readonly doc: MapDocument;
  readonly door: string;
  readonly brushes: readonly string[];
}

/** How far (cm) a wall goes on beside an opening, before and after it along the side. */
const besides = (room: Room, o: Opening): [number, number] => {
  const { length } = sideOf(room, o.side);
  return [o.at - o.width / 2, length - o.at - o.width / 2];
};

/**
 * Makes a door in an opening: leaves cut to its shape in the middle of its wall, and a way for each to open. Where the wall beside
 * is long enough for a leaf to slide into, it slides there; otherwise it turns on a hinge at the jamb.
 */
export function doorInOpening(doc: MapDocument, opening: string, wish: DoorWish): MadeDoor {
  const { opening: o, room, side, depth, bottom, top } = openingWall(doc, opening);
  const { thickness, remainder = 0 } = wish;
  if (!(thickness >= 1 && thickness <= depth))
    throw new EditError(
      'door.thickness',
      `A leaf in this wall is 1 to ${Math.round(depth * 100) / 100} cm thick. Type a number in that range.`,
    );
  const half = wish.leaves === 'upDown' ? o.height / 2 : wish.leaves === 'two' ? o.width / 2 : o.width;
  if (!(remainder >= 0 && remainder < half))
    throw new EditError(
      'door.remainder',
      `What still shows of a leaf is less than the leaf: below ${half} cm. Type less.`,
    );
  const up = (n: Vec3, p: Vec3): Plane => ({ normal: n, distance: n[0] * p[0] + n[1] * p[1] + n[2] * p[2] });
  const out: Vec3 = [side.out[0], side.out[1], 0];
  const along: Vec3 = [side.along[0], side.along[1], 0];
  const at = (s: number, o: number, z: number): Vec3 => [...pointOnSide(side, s, o), z];
  const cut = (brush: Brush, plane: Plane): Brush => {
    const rest = cutBehind(brush, plane, DRESS_CARRIED.cap);
    if (!rest) throw new EditError('door.empty', 'The opening is too small for leaves. Make it larger first.');
    return rest;
  };
  const [near, far] = [(depth - thickness) / 2, (depth + thickness) / 2];
  const whole = cut(
    cut(
      dressSolid(openingSolid(o, room, bottom, top, depth), newId(), wish.material, { role: 'detail' }),
      up(out, at(0, far, 0)),
    ),
    flipped(up(out, at(0, near, 0))),
  );
  const middle = at(o.at, depth / 2, bottom);
  const parted =
    wish.leaves === 'one'
      ? [whole]
      : [up(wish.leaves === 'two' ? along : [0, 0, 1], at(o.at, 0, (bottom + top) / 2))].flatMap((plane) => [
          cut(whole, plane),
          { ...cut(whole, flipped(plane)), id: newId() },
        ]);
  const [before, after] = besides(room, o);
  const room4 = (k: number) => (wish.leaves === 'one' ? Math.max(before, after) : k === 0 ? before : after);
  const width = wish.leaves === 'two' ? o.width / 2 : o.width;
  const fits = parted.every((_, k) => room4(k) >= width - remainder);
  const moves = wish.leaves === 'upDown' ? 'slides' : (wish.moves ?? (fits ? 'slides' : 'turns'));
  const leaves = parted.map((_, k): DoorLeaf => {
    const first = wish.leaves === 'one' ? before >= after : k === 0;
    const far = half - remainder;
    const travel: Vec3 =
      wish.leaves === 'upDown'
        ? [0, 0, k === 0 ? -far : far]
        : [along[0] * (first ? -far : far), along[1] * (first ? -far : far), 0];
    const jamb = at(o.at + ((first ? -1 : 1) * o.width) / 2, depth / 2, bottom);
    return {
      moves,
      travel: travel.map((c) => Math.round(c * 1e6) / 1e6 + 0) as unknown as Vec3,
      hinge: [jamb[0] - middle[0], jamb[1] - middle[1], 0],
      axis: [0, 0, 1],
      // Out of the first room: into the other, or into the open.
      angle: first ? -90 : 90,
    };
  });
  const door = newId();
  const e = { id: door, at: middle, turn: bearing(out[0], out[1]), ...doorWith(leaves) };
  const made = addBrushes({ ...doc, entities: new Map(doc.entities).set(door, e) }, parted);
  const owned = parted.reduce((d, b, part) => giveParts(d, door, part, { brushes: [b.id] }), made);
  if (!wish.zone) return { doc: owned, door, brushes: parted.map((b) => b.id) };
  const corners = [
    [o.at - o.width / 2, -ZONE_REACH],
    [o.at + o.width / 2, -ZONE_REACH],
    [o.at + o.width / 2, depth + ZONE_REACH],
    [o.at - o.width / 2, depth + ZONE_REACH],
  ] as const;
  const outline = corners.map(([s, out]) => pointOnSide(side, s, out)).reverse();
  const region = dressSolid(extrude(outline, bottom, top), newId(), wish.material, { role: 'zone' });
  const zone = newId();
  const watched = thingOfBrushes(addBrushes(owned, [region]), 'zone', { brushes: [region.id] }, zone);
  const told = addWire(watched, { from: { thing: zone, signal: 'entered' }, to: { thing: door, action: 'open' } });
  return { doc: changeEntity(told, door, { params: { opens: 'wires' } }), door, brushes: parted.map((b) => b.id) };
}

/** How far (cm) the zone of a door reaches before and behind it. */
const ZONE_REACH = 140;

/**
 * Makes a door of brushes and props: all of them one leaf, or each a leaf. A leaf slides along its longer level side, away from the others, until
 * as much of it shows as is wished.
 */
export function doorOfBrushes(
  doc: MapDocument,
  { brushes = [], props = [] }: { readonly brushes?: readonly string[]; readonly props?: readonly string[] },
  { each, moves = 'slides', remainder = 0 }: { each: boolean; moves?: 'slides' | 'turns'; remainder?: number },
): MadeDoor {
  const single: Pieces[] = [
    ...brushes.filter((id) => doc.brushes.has(id)).map((id) => ({ brushes: [id] })),
    ...props.filter((id) => doc.entities.has(id)).map((id) => ({ props: [id] })),
  ];
  if (single.length === 0) throw new EditError('parts.none', 'Select the brushes or props that should become a door.');
  if (each && single.length > 16)
    throw new EditError('door.leaves', 'A door has up to 16 leaves. Select fewer of them, or make them one leaf.');
  const parts = each ? single : [{ brushes, props }];
  const boxes = parts.map((part) => piecesBounds(doc, part));
  const all = uniteBoxes(boxes);
  const size = boxSize(all);
  const axis = size[0] >= size[1] ? 0 : 1;
  const centre = boxCenter(all);
  const at: Vec3 = [centre[0], centre[1], all.min[2]];
  const leaves = boxes.map((box): DoorLeaf => {
    const middle = boxCenter(box);
    const low = middle[axis]! < centre[axis]! - 1e-6 || parts.length === 1;
    const far = Math.max(0, boxSize(box)[axis]! - remainder) * (low ? -1 : 1);
    const hinge: [number, number, number] = [0, 0, 0];
    hinge[axis] = (low ? box.min[axis]! : box.max[axis]!) - at[axis]!;
    hinge[1 - axis] = middle[1 - axis]! - at[1 - axis]!;
    return {
      moves,
      travel: axis === 0 ? [far, 0, 0] : [0, far, 0],
      hinge,
      axis: [0, 0, 1],
      angle: low === (axis === 0) ? 90 : -90,
    };
  });
  const door = newId();
  const e = { id: door, at, turn: axis === 0 ? 90 : 0, ...doorWith(leaves) };
  const made: MapDocument = { ...doc, entities: new Map(doc.entities).set(door, e) };
  return {
    doc: parts.reduce((d, part, k) => giveParts(d, door, k, part), made),
    door,
    brushes: [...brushes],
  };
}

/**
 * A door with its leaves cut anew to the opening it stands in, as many as it had, made of what they were made of; what it does
 * and how it is wired stays.
 */
export function refitDoor(doc: MapDocument, door: string, opening: string): MapDocument {
  const e = doc.entities.get(door);
  const parts = partsOf(doc, door);
  const first = parts.flat()[0];
  if (!e || !first) throw new EditError('entity.unknown', 'That door is no longer in the map.');
  const o = doc.openings.get(opening);
  const room = o && doc.rooms.get(o.rooms[0]);
  if (!o || !room) throw new EditError('opening.unknown', 'That opening is no longer in the map.');
  const { out } = sideOf(room, o.side);
  const through = first.vertices.map((v) => v[0] * out[0] + v[1] * out[1]);
  const old = (e.params.leaves ?? []) as unknown as readonly DoorLeaf[];
  const upDown = parts.length === 2 && old.every((l) => l.moves === 'slides' && l.travel[0] === 0 && l.travel[1] === 0);
  const made = doorInOpening(removePicked(doc, { brushes: new Set(parts.flat().map((b) => b.id)) }), opening, {
    leaves: upDown ? 'upDown' : parts.length === 2 ? 'two' : 'one',
    moves: old[0]?.moves === 'turns' ? 'turns' : 'slides',
    thickness: Math.round((Math.max(...through) - Math.min(...through)) * 1000) / 1000,
    material: first.faces[0]!.material,
  });
  const fresh = made.doc.entities.get(made.door)!;
  const entities = new Map(made.doc.entities);
  entities.delete(made.door);
  entities.set(door, { ...e, at: fresh.at, turn: fresh.turn, params: { ...e.params, leaves: fresh.params.leaves! } });
  const brushes = new Map(made.doc.brushes);
  for (const id of made.brushes) {
    const b = brushes.get(id)!;
    brushes.set(id, { ...b, owner: { ...b.owner!, id: door } });
  }
  return { ...made.doc, entities, brushes };
}
