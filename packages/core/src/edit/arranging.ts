import { brushBounds } from '../brush/index.ts';
import { modelOf } from '../entity/index.ts';
import { boxCenter, boxSize, rotation, scaling, translation, type Affine, type Box, type Vec3 } from '../math/index.ts';
import { propBounds, type MapDocument } from '../map/index.ts';
import { contentsOf } from './along.ts';
import { pickedBounds, transformPicked, type Picked } from './brushes.ts';
import { addCopies, duplicatePicked, type Copied } from './copies.ts';
import { EditError } from './errors.ts';
import { rootGroup, tidyGroups, wholeGroups } from './groups.ts';

type Axis = 0 | 1 | 2;

/** What is moved as one when things are arranged: a room, with what stands in it if wished, a group, a single brush or thing. */
function units(doc: MapDocument, picked: Picked, contents = false): { picked: Picked; box: Box }[] {
  const out: Picked[] = [];
  const rooms: { picked: Picked; box: Box }[] = [];
  // What is picked by itself has a place of its own, and nothing goes along with two rooms.
  const taken = { brushes: new Set(picked.brushes), entities: new Set(picked.entities) };
  for (const id of picked.rooms ?? []) {
    const room = { rooms: new Set([id]) };
    const box = pickedBounds(doc, room);
    if (!box) continue;
    const inside = contents ? contentsOf(doc, room.rooms) : { brushes: [], entities: [] };
    const [brushes, entities] = (['brushes', 'entities'] as const).map(
      (kind) => new Set([...inside[kind]].filter((k) => !taken[kind].has(k))),
    );
    brushes!.forEach((k) => taken.brushes.add(k));
    entities!.forEach((k) => taken.entities.add(k));
    rooms.push({ picked: { ...room, brushes, entities }, box });
  }
  const groups = new Map<string, { brushes: Set<string>; entities: Set<string> }>();
  const unitOf = (group: string | undefined) => {
    const made = { brushes: new Set<string>(), entities: new Set<string>() };
    if (!group) {
      out.push(made);
      return made;
    }
    if (!groups.has(group)) {
      groups.set(group, made);
      out.push(made);
    }
    return groups.get(group)!;
  };
  for (const id of picked.brushes ?? []) {
    const b = doc.brushes.get(id);
    if (b && !picked.rooms?.has(b.room?.id ?? '')) unitOf(rootGroup(doc, b.group)).brushes.add(id);
  }
  for (const id of picked.entities ?? []) {
    const e = doc.entities.get(id);
    if (e) unitOf(rootGroup(doc, e.group)).entities.add(id);
  }
  const others = out.flatMap((p) => {
    const box = pickedBounds(doc, p);
    return box ? [{ picked: p, box }] : [];
  });
  return [...rooms, ...others];
}

const along = (axis: Axis, by: number): Vec3 => {
  const v: [number, number, number] = [0, 0, 0];
  v[axis] = by;
  return v;
};

/**
 * Lines things up along an axis: their low ends, middles or high ends come to those of the whole selection. With `contents`, rooms take
 * along what stands in them.
 */
export function alignPicked(
  doc: MapDocument,
  picked: Picked,
  axis: Axis,
  to: 'low' | 'middle' | 'high',
  carry = true,
  contents = false,
): MapDocument {
  const parts = units(doc, picked, contents);
  if (parts.length < 2) throw new EditError('align.tooFew', 'Select two or more things to line them up.');
  const all = pickedBounds(doc, picked)!;
  const place = (b: Box) => (to === 'low' ? b.min[axis] : to === 'high' ? b.max[axis] : boxCenter(b)[axis]);
  return parts.reduce(
    (d, { picked: p, box }) => transformPicked(d, p, translation(along(axis, place(all) - place(box))), carry),
    doc,
  );
}

/** Spreads things evenly along an axis: equal gaps between them, the outermost two stay. */
export function distributePicked(
  doc: MapDocument,
  picked: Picked,
  axis: Axis,
  carry = true,
  contents = false,
): MapDocument {
  const parts = units(doc, picked, contents).sort((a, b) => boxCenter(a.box)[axis] - boxCenter(b.box)[axis]);
  if (parts.length < 3) throw new EditError('distribute.tooFew', 'Select three or more things to spread them evenly.');
  const first = parts[0]!.box.min[axis];
  const last = parts.at(-1)!.box.max[axis];
  const filled = parts.reduce((sum, p) => sum + boxSize(p.box)[axis], 0);
  const gap = (last - first - filled) / (parts.length - 1);
  let at = first;
  return parts.reduce((d, { picked: p, box }) => {
    const out = transformPicked(d, p, translation(along(axis, at - box.min[axis])), carry);
    at += boxSize(box)[axis] + gap;
    return out;
  }, doc);
}

const checkCount = (count: number) => {
  if (!Number.isInteger(count) || count < 1 || count > 256)
    throw new EditError('repeat.count', 'Repeat 1 to 256 times. Type a whole number in that range.');
};

function copies(doc: MapDocument, picked: Picked, count: number, map: (k: number) => Affine, carry: boolean): Copied {
  checkCount(count);
  let out = doc;
  const brushes = new Set(picked.brushes);
  const entities = new Set(picked.entities);
  for (let k = 1; k <= count; k++) {
    const copy = duplicatePicked(out, { brushes: picked.brushes, entities: picked.entities }, [0, 0, 0]);
    out = transformPicked(copy.doc, copy.picked, map(k), carry);
    copy.picked.brushes.forEach((id) => brushes.add(id));
    copy.picked.entities.forEach((id) => entities.add(id));
  }
  return { doc: out, picked: { brushes, entities } };
}

/** Copied of what is picked along a line, each one `step` further than the last. */
export function repeatAlong(doc: MapDocument, picked: Picked, count: number, step: Vec3, carry = true): Copied {
  if (!step.every(Number.isFinite) || step.every((c) => c === 0))
    throw new EditError('repeat.step', 'The step from one copy to the next must not be zero. Type a distance.');
  return copies(doc, picked, count, (k) => translation([step[0] * k, step[1] * k, step[2] * k]), carry);
}

/** Copied of what is picked around a point, each turned by `degrees` more about an axis. */
export function repeatAround(
  doc: MapDocument,
  picked: Picked,
  count: number,
  axis: Axis,
  about: Vec3,
  degrees: number,
  carry = true,
): Copied {
  if (!Number.isFinite(degrees) || degrees === 0)
    throw new EditError('repeat.angle', 'The angle from one copy to the next must not be zero. Type degrees.');
  return copies(doc, picked, count, (k) => rotation(axis, degrees * k, about), carry);
}

/** Puts copies of other brushes in the place of each selected thing, stretched to fit its bounds. */
export function replaceWith(doc: MapDocument, picked: Picked, brushes: ReadonlySet<string>, carry = true): Copied {
  const model = [...brushes].filter((id) => doc.brushes.has(id));
  const from = pickedBounds(doc, { brushes });
  if (model.length === 0 || !from)
    throw new EditError('replace.nothing', 'Copy the brushes to put in their place first.');
  const whole = wholeGroups(doc, { brushes });
  let out = doc;
  const made = new Set<string>();
  for (const { picked: unit, box } of units(doc, picked)) {
    const gone = unit.brushes ?? new Set<string>();
    if (gone.size === 0) continue;
    const [was, is] = [boxSize(from), boxSize(box)];
    const grow = scaling([is[0] / was[0], is[1] / was[1], is[2] / was[2]], from.min);
    const map = grow.map((c, i) =>
      i % 4 === 3 ? c + box.min[(i - 3) / 4]! - from.min[(i - 3) / 4]! : c,
    ) as unknown as Affine;
    const left = new Map(out.brushes);
    gone.forEach((id) => left.delete(id));
    const copy = addCopies({ ...out, brushes: left }, doc, { brushes: model, entities: [], groups: whole });
    out = tidyGroups(transformPicked(copy.doc, copy.picked, map, carry));
    copy.picked.brushes.forEach((id) => made.add(id));
  }
  return { doc: out, picked: { brushes: made, entities: new Set() } };
}

/** Where the sides and middles of other brushes are along an axis, for guides and snapping; those near a box only. */
export function guidesFor(doc: MapDocument, picked: Picked, near: Box, axis: Axis): { at: number; of: Box }[] {
  const out: { at: number; of: Box }[] = [];
  const look = (box: Box): void => {
    if ([0, 1, 2].some((i) => box.min[i]! > near.max[i]! || box.max[i]! < near.min[i]!)) return;
    for (const at of [box.min[axis], (box.min[axis] + box.max[axis]) / 2, box.max[axis]]) out.push({ at, of: box });
  };
  for (const b of doc.brushes.values())
    if (!picked.brushes?.has(b.id) && !picked.rooms?.has(b.room?.id ?? '')) look(brushBounds(b));
  for (const e of doc.entities.values()) if (!picked.entities?.has(e.id) && modelOf(e)) look(propBounds(e));
  return out;
}
