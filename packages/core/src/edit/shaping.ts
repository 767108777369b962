import {
  brushBounds,
  brushVolume,
  exactUnion,
  findFlaw,
  hullOfBrushes,
  intersectBrushes,
  moveCorners,
  pullOut,
  repairBrush,
  shellBrush,
  splitBrush,
  splitConcave,
  stretchedFaces,
  stretchSide,
  subtractAll,
  type Brush,
  type Dresser,
  type MovedCorners,
  type Solid,
} from '../brush/index.ts';
import { boxesOverlap, boxSize, translation, uniteBoxes, type Box, type Plane, type Vec3 } from '../math/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import { carryFrame, DRESS_CARRIED, dressLike, naturalFrame, redress } from '../surface/index.ts';
import { EditError } from './errors.ts';
import { dropShapes, tidyGroups } from './groups.ts';
import { guarded } from './guard.ts';
import { releaseBrushes } from './rooms.ts';

/** A document after an operation, and the brushes to select then. */
export interface Shaped {
  readonly doc: MapDocument;
  readonly brushes: ReadonlySet<string>;
  /** A piece too thin for a brush was dropped on the way. */
  readonly sliver?: boolean;
}

type Ids = ReadonlySet<string>;

const pick = (doc: MapDocument, ids: Ids): Brush[] => {
  const brushes = [...ids].flatMap((id) => doc.brushes.get(id) ?? []);
  if (brushes.length === 0) throw new EditError('select.brushes', 'Select one or more brushes first.');
  return brushes;
};

/**
 * Puts pieces in the place of brushes: the first piece keeps the brush's id, the others get new ones; groups, layers and
 * the room that a brush was released from stay. Rooms let go of what is replaced, shapes lose their numbers.
 */
function replace(doc: MapDocument, change: ReadonlyMap<string, readonly Brush[]>): Shaped {
  const ids = new Set(change.keys());
  const out = dropShapes(releaseBrushes(doc, ids), ids);
  const brushes = new Map(out.brushes);
  const made = new Set<string>();
  for (const [id, pieces] of change) {
    const was = brushes.get(id);
    brushes.delete(id);
    pieces.forEach((piece, i) => {
      const pieceId = i === 0 ? id : newId();
      const { room: _, ...bare } = piece;
      brushes.set(pieceId, { ...bare, id: pieceId, ...(was?.room ? { room: was.room } : {}) });
      made.add(pieceId);
    });
  }
  return { doc: tidyGroups({ ...out, brushes }), brushes: made };
}

/** Adds brushes made from others, each like its source in role, group and layer. */
function adding(doc: MapDocument, made: readonly Brush[]): Shaped {
  const brushes = new Map(doc.brushes);
  const ids = new Set<string>();
  for (const { room: _, ...brush } of made) {
    const id = newId();
    brushes.set(id, { ...brush, id });
    ids.add(id);
  }
  return { doc: { ...doc, brushes }, brushes: ids };
}

/** How fresh faces are dressed: with a material, or like the brush they belong to. */
const dresser = (material?: string): Dresser =>
  material === undefined
    ? DRESS_CARRIED
    : { ...DRESS_CARRIED, cap: (plane) => ({ material, frame: naturalFrame(plane) }) };

/**
 * Cuts brushes by a plane and keeps one side or both; fresh faces show a material, or what the brush shows most. Throws `cut.missed` when
 * it goes through none of them.
 */
export function cutBrushes(
  doc: MapDocument,
  ids: Ids,
  plane: Plane,
  keep: 'front' | 'back' | 'both',
  material?: string,
): Shaped {
  const change = new Map<string, readonly Brush[]>();
  const whole = new Set<string>();
  let cut = false;
  for (const brush of pick(doc, ids)) {
    const { front, back } = splitBrush(brush, plane, dresser(material).cap);
    cut ||= !!front && !!back;
    const pieces = [back, front].flatMap((p, i) =>
      p && (keep === 'both' || (keep === 'back') === (i === 0)) ? [p] : [],
    );
    if (pieces.length === 1 && pieces[0] === brush) whole.add(brush.id);
    else change.set(brush.id, pieces);
  }
  if (!cut)
    throw new EditError('cut.missed', 'The cut goes through none of the selected brushes. Draw it across one of them.');
  const out = replace(doc, change);
  return { ...out, brushes: new Set([...out.brushes, ...whole]) };
}

/** Brushes that others could be taken away from: those that share space with them, without what never is solid. */
export function subtractTargets(doc: MapDocument, cutters: Ids): Set<string> {
  const made = pick(doc, cutters);
  const reach = uniteBoxes(made.map(brushBounds));
  const locked = new Set([...doc.layers.values()].filter((l) => l.locked || !l.visible).map((l) => l.id));
  const out = new Set<string>();
  for (const b of doc.brushes.values()) {
    if (cutters.has(b.id) || !boxesOverlap(brushBounds(b), reach)) continue;
    if (b.role === 'hint' || b.role === 'zone' || (b.layer && locked.has(b.layer))) continue;
    out.add(b.id);
  }
  return out;
}

/**
 * Takes brushes away from others: by default from everything solid that they reach into. Materials stay. The cutters are
 * removed unless `keepCutters`. Throws when nothing is reached, or nothing would be left.
 */
export function subtractBrushes(
  doc: MapDocument,
  cutters: Ids,
  targets: Ids = subtractTargets(doc, cutters),
  keepCutters = false,
  material?: string,
): Shaped {
  if ([...targets].some((id) => cutters.has(id)))
    throw new EditError(
      'subtract.itself',
      'A brush cannot be taken away from itself. Select what cuts, and not what is cut.',
    );
  const tools = pick(doc, cutters);
  const change = new Map<string, readonly Brush[]>();
  let sliver = false;
  for (const id of targets) {
    const brush = doc.brushes.get(id);
    if (!brush) continue;
    const { pieces, missed, exact } = subtractAll(brush, tools, dresser(material));
    if (missed) continue;
    sliver ||= !exact;
    change.set(id, pieces);
  }
  if (change.size === 0)
    throw new EditError(
      'subtract.missed',
      'The selected brushes reach into no other brush. Move them into what they should cut.',
    );
  if ([...change.values()].every((p) => p.length === 0))
    throw new EditError(
      'subtract.nothingLeft',
      'Nothing would be left: the cut brush lies wholly inside. Make the cutting brush smaller.',
    );
  const out = replace(doc, change);
  if (keepCutters) return { ...out, sliver };
  const brushes = new Map(out.doc.brushes);
  for (const id of cutters) brushes.delete(id);
  return { doc: tidyGroups({ ...releaseBrushes(out.doc, cutters), brushes }), brushes: out.brushes, sliver };
}

/** Keeps only the space that all selected brushes share. Throws `intersect.nothing` when they share none. */
export function intersectPicked(doc: MapDocument, ids: Ids): Shaped {
  const [first, ...others] = pick(doc, ids);
  if (others.length === 0) throw new EditError('select.two', 'Select two or more brushes.');
  let rest: Brush | null = first!;
  for (const other of others) rest = rest && intersectBrushes(rest, other, DRESS_CARRIED.cap);
  if (!rest)
    throw new EditError('intersect.nothing', 'The selected brushes share no space. Move them into each other.');
  return replace(
    doc,
    new Map<string, readonly Brush[]>([[first!.id, [rest]], ...others.map((b) => [b.id, []] as const)]),
  );
}

/** Makes brushes hollow. */
export function shellPicked(doc: MapDocument, ids: Ids, thickness: number, where: 'inside' | 'outside'): Shaped {
  return guarded(() =>
    replace(doc, new Map(pick(doc, ids).map((b) => [b.id, shellBrush(b, thickness, where, DRESS_CARRIED)]))),
  );
}

/** Makes one brush of several: their hull, or their exact union when that is convex. */
export function mergePicked(doc: MapDocument, ids: Ids, how: 'hull' | 'union'): Shaped {
  const brushes = pick(doc, ids);
  if (brushes.length < 2) throw new EditError('select.two', 'Select two or more brushes.');
  const solid = guarded(() => (how === 'hull' ? hullOfBrushes(brushes) : exactUnion(brushes)));
  const flaw = findFlaw(solid);
  if (flaw) throw new EditError(flaw.code, flaw.message);
  const [first, ...others] = brushes;
  return replace(
    doc,
    new Map<string, readonly Brush[]>([
      [first!.id, [dressLike(solid, brushes)]],
      ...others.map((b) => [b.id, []] as const),
    ]),
  );
}

/** Pulls a new brush out of a face, its sides dressed like the brush it grows from. */
export function pullFace(doc: MapDocument, brushId: string, face: number, by: number | Vec3, taper = 1): Shaped {
  const [brush] = pick(doc, new Set([brushId]));
  const solid = guarded(() => pullOut(brush!, face, by, taper));
  const { group: _, ...like } = brush!;
  return adding(doc, [dressLike(solid, [like])]);
}

/**
 * Moves corners of brushes, their textures with them (`carry`) or left in the world; the result is the hull, or, where that would swallow a
 * corner and `split` is asked for, convex parts of the wish.
 */
export function reshapeBrushes(
  doc: MapDocument,
  moves: ReadonlyMap<string, MovedCorners>,
  split = false,
  carry = true,
): Shaped & { concave: boolean } {
  let concave = false;
  const change = new Map<string, readonly Brush[]>();
  for (const [id, to] of moves) {
    const brush = doc.brushes.get(id);
    if (!brush) continue;
    if (![...to.values()].every((v) => v.every(Number.isFinite)))
      throw new EditError('brush.notFinite', 'The distance is not a number. Type plain numbers.');
    const result = guarded(() => moveCorners(brush, to));
    concave ||= result.concave;
    change.set(
      id,
      split && result.concave
        ? guarded(() => splitConcave(brush, to, dressLike))
        : [reshaped(brush, to, result.solid, carry)],
    );
  }
  return { ...replace(doc, change), concave };
}

/** A brush with moved corners keeps the dressing of every face, carried by best match. */
function reshaped(brush: Brush, to: MovedCorners, solid: Solid, carry: boolean): Brush {
  const all = [...to.values()];
  const first = [...to.keys()][0];
  if (first === undefined) return brush;
  const by = all[0]!.map((c, i) => c - brush.vertices[first]![i]!);
  const rigid = [...to].every(([i, v]) => v.every((c, k) => Math.abs(c - brush.vertices[i]![k]! - by[k]!) < 1e-9));
  // Faces of the moved brush as it would be before the hull: what moved along wholly is found again in its new place.
  return redress(solid, brush, {
    carry,
    follow: 0,
    moved: rigid ? brush.vertices.map((v, i) => to.get(i) ?? v) : undefined,
  });
}

/**
 * Stretches brushes to a new box with their slopes kept: only the faces that reach a moved side of the selection's box
 * move along.
 */
export function stretchPicked(doc: MapDocument, ids: Ids, to: Box, carry = true): Shaped {
  const brushes = pick(doc, ids);
  const from = uniteBoxes(brushes.map(brushBounds));
  if (!boxSize(to).every((s) => Number.isFinite(s) && s > 0))
    throw new EditError('resize.empty', 'The new size is zero or turned inside out. Type sizes above zero.');
  const change = new Map<string, readonly Brush[]>();
  for (const brush of brushes) {
    let now = brush;
    for (const axis of [0, 1, 2] as const)
      for (const side of [1, -1] as const) {
        const [old, wanted] = side > 0 ? [from.max[axis], to.max[axis]] : [from.min[axis], to.min[axis]];
        const end = side > 0 ? brushBounds(now).max[axis] : brushBounds(now).min[axis];
        const by = (wanted - old) * side;
        if (Math.abs(end - old) > 1e-6 || Math.abs(by) < 1e-9) continue;
        const solid = guarded(() => stretchSide(now, axis, side, by));
        now = redress(solid, carry ? carriedAlong(now, axis, side, by) : now, { carry });
      }
    if (now !== brush) change.set(brush.id, [now]);
  }
  return replace(doc, change);
}

/** The frames of the faces that a stretch moves, moved along. */
function carriedAlong(brush: Brush, axis: 0 | 1 | 2, side: 1 | -1, by: number): Brush {
  const moving = stretchedFaces(brush, axis, side);
  const move = translation([0, 1, 2].map((i) => (i === axis ? side * by : 0)) as unknown as Vec3);
  const faces = brush.faces.map((f, i) => (moving[i] ? { ...f, frame: carryFrame(f.frame, move) } : f));
  return { ...brush, faces };
}

/** Puts all corners of brushes on a grid; what no longer is a brush then is refused. */
export function snapToGrid(doc: MapDocument, ids: Ids, step: number): Shaped {
  if (!(step > 0)) throw new EditError('settings.grid', 'The grid step is above 0 and up to 512 cm.');
  const on = (c: number) => Math.round(c / step) * step;
  return reshapeBrushes(
    doc,
    new Map(
      pick(doc, ids).map((b) => [
        b.id,
        new Map(b.vertices.map((v, i) => [i, [on(v[0]), on(v[1]), on(v[2])] as Vec3] as const)),
      ]),
    ),
  );
}

/** Mends brushes that came in broken, and removes those that are flat or too small. Gives how many were mended and removed. */
export function repairPicked(doc: MapDocument, ids: Ids): Shaped & { mended: number; removed: number } {
  let mended = 0;
  let removed = 0;
  const change = new Map<string, readonly Brush[]>();
  for (const brush of pick(doc, ids)) {
    const fixed = repairBrush(brush, dressLike);
    if (fixed === brush) continue;
    if (fixed) mended++;
    else removed++;
    change.set(brush.id, fixed ? [fixed] : []);
  }
  return { ...replace(doc, change), mended, removed };
}

/** Volume of brushes together, in cm³, as if none overlapped. */
export const volumeOf = (doc: MapDocument, ids: Ids): number =>
  [...ids].reduce((v, id) => v + (doc.brushes.has(id) ? brushVolume(doc.brushes.get(id)!) : 0), 0);
