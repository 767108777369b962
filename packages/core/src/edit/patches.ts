import {
  assertValid,
  brushBounds,
  BrushError,
  brushPlanes,
  faceWinding,
  hullOf,
  type Brush,
  type Face,
} from '../brush/index.ts';
import { decalFrame } from '../decal/index.ts';
import { DECAL_KIND, decalOf, rounded, type Entity } from '../entity/index.ts';
import { decalOnBrush, newId, readyDecalOf, takesDecal, type MapDocument } from '../map/index.ts';
import {
  addScaled,
  boxesOverlap,
  boxOf,
  clipBehind,
  cross,
  dot,
  planeFromLoop,
  scale,
  subtractWinding,
  type Plane,
  type Point2,
  type Vec3,
  type Winding,
} from '../math/index.ts';
import {
  dressSolid,
  flattenFrame,
  texelAt,
  texelBox,
  wholePicture,
  type MaterialFacts,
  type MaterialLookup,
  type Region,
} from '../surface/index.ts';
import { addBrushes, removePicked } from './brushes.ts';
import { DECAL_DEPTH, pictureLabel } from './decals.ts';
import { changeEntity, placeEntity } from './entities.ts';
import { EditError } from './errors.ts';
import { groupPicked } from './groups.ts';

/** How far a patch stands out of the face that it lies on, cm: enough that depth tells them apart from across a hall. */
export const PATCH_THICKNESS = 0.5;

/** What stands in a plane so far (cm) before a face hides it. */
const BEFORE = 0.1;
/** Covers are cut this exactly, cm. */
const EXACT = 1e-6;

/** What of a part of a face is not hidden by solids that stand on it. */
function seenOf(winding: Winding, normal: Vec3, solids: readonly Brush[]): Winding[] {
  const before = winding.map((p) => addScaled(p, normal, BEFORE));
  const reach = boxOf(before);
  let seen: Winding[] = [winding];
  for (const solid of solids) {
    if (!boxesOverlap(brushBounds(solid), reach)) continue;
    let cover: Winding | null = before;
    for (const plane of brushPlanes(solid)) cover &&= clipBehind(cover, plane, false, EXACT);
    if (!cover) continue;
    const hole = cover.map((p) => addScaled(p, normal, -BEFORE));
    seen = seen.flatMap((part) => subtractWinding(part, hole, normal));
  }
  return seen;
}

/** The flat body over a part of a face; null where it is too small to be one. */
function bodyOver(winding: Winding, normal: Vec3): ReturnType<typeof hullOf> | null {
  try {
    const solid = hullOf([...winding, ...winding.map((p) => addScaled(p, normal, PATCH_THICKNESS))]);
    assertValid(solid);
    return solid;
  } catch (error) {
    if (!(error instanceof BrushError)) throw error;
    return null;
  }
}

/** A thin brush over a part of a face, its picture laid by a decal; only its front is seen, and everything passes through it. */
function patchOver(winding: Winding, normal: Vec3, on: Brush, thing: Entity, facts: MaterialFacts): Brush | null {
  const solid = bodyOver(winding, normal);
  const plane = planeFromLoop(winding);
  const frame = decalFrame(decalOf(thing)!, facts);
  if (!solid || !plane || !frame) return null;
  const plain = dressSolid(solid, newId(), facts.name, {
    role: 'detail',
    stops: [],
    shadow: false,
    ...(on.owner ? { owner: on.owner } : {}),
    ...(thing.layer ? { layer: thing.layer } : {}),
    ...(thing.group ? { group: thing.group } : {}),
  });
  const planes = brushPlanes(plain);
  const faces = plain.faces.map((f, k): Face =>
    dot(planes[k]!.normal, normal) > 1 - 1e-6 ? { ...f, frame: flattenFrame(frame, plane) } : { ...f, show: 'unseen' },
  );
  return { ...plain, faces };
}

/** What a patch cannot be like, in words; empty where nothing is lost. */
function lostOf(doc: MapDocument, ids: readonly string[]): string {
  const decals = ids.flatMap((id) => (doc.entities.get(id) ? (decalOf(doc.entities.get(id)!) ?? []) : []));
  const lost = [
    ...(decals.some((d) => d.tint.toLowerCase() !== '#ffffff' || d.inks.length > 0) ? ['their tints'] : []),
    ...(decals.some((d) => d.opacity < 1 || d.fade > 0) ? ['their opacity'] : []),
  ];
  return lost.length ? `Patches show the picture as it is: ${lost.join(' and ')} did not go along.` : '';
}

/**
 * Turns decals into patches: thin brushes flush with the faces that they fall on, each face's picture where the decal showed it, to be
 * aligned like any other face. What lies hidden in another solid is left out. A decal that falls on no brush is refused.
 */
export function decalsToPatches(
  doc: MapDocument,
  ids: readonly string[],
  lookup: MaterialLookup,
): { doc: MapDocument; brushes: ReadonlySet<string>; said: string } {
  const solids = [...doc.brushes.values()].filter((b) => b.role === 'structure' || b.role === 'detail');
  let out = doc;
  const made = new Set<string>();
  const turned = new Set<string>();
  for (const id of ids) {
    const thing = doc.entities.get(id);
    const decal = thing && decalOf(thing);
    if (!thing || !decal) continue;
    const facts = lookup(decal.material);
    const ready = readyDecalOf(thing, lookup);
    const patches =
      facts && ready
        ? solids.flatMap((brush) =>
            takesDecal(thing, brush, lookup)
              ? decalOnBrush(ready, brush, lookup).flatMap(({ winding, normal }) =>
                  seenOf(winding, normal, solids).flatMap((w) => patchOver(w, normal, brush, thing, facts) ?? []),
                )
              : [],
          )
        : [];
    if (patches.length === 0)
      throw new EditError(
        'patch.nothing',
        `${thing.name ?? 'A decal'} falls on no brush, so there is nothing that a patch could lie on. Move it onto a wall, or reach further.`,
      );
    turned.add(id);
    const brushes = new Set(patches.map((b) => b.id));
    out = addBrushes(out, patches);
    if (patches.length > 1) out = groupPicked(out, { brushes }, thing.name);
    for (const b of brushes) made.add(b);
  }
  if (made.size === 0) throw new EditError('decal.unknown', 'Select a decal first.');
  return { doc: removePicked(out, { entities: turned }), brushes: made, said: lostOf(doc, [...turned]) };
}

/** The one face of a brush that is seen; null where it has none, or several. */
function frontOf(brush: Brush): { face: Face; plane: Plane; winding: Winding } | null {
  const seen = brush.faces.flatMap((face, k) => (face.show === undefined ? [k] : []));
  const [k] = seen;
  return k === undefined || seen.length > 1
    ? null
    : { face: brush.faces[k]!, plane: brushPlanes(brush)[k]!, winding: faceWinding(brush, k) };
}

/** Whether a brush is a patch: one of its faces is seen, and no other. */
export const isPatch = (brush: Brush): boolean => brush.role === 'detail' && frontOf(brush) !== null;

/** Corners so near the border of a picture (texels) lie on it. */
const NEAR_TEXEL = 1e-3;

const holds = (r: Region, x0: number, y0: number, x1: number, y1: number): boolean =>
  x0 >= r.x - NEAR_TEXEL &&
  y0 >= r.y - NEAR_TEXEL &&
  x1 <= r.x + r.width + NEAR_TEXEL &&
  y1 <= r.y + r.height + NEAR_TEXEL;

/** Turns a patch into the decal that shows the same where it lay. */
function decalOver(doc: MapDocument, brush: Brush, lookup: MaterialLookup): { doc: MapDocument; id: string } {
  const front = frontOf(brush);
  if (!front)
    throw new EditError('patch.none', 'Select patches: thin brushes of which one face is seen and the others are not.');
  const { face, plane, winding } = front;
  const facts = lookup(face.material);
  if (!facts)
    throw new EditError('decal.material', `There is no material called ${face.material}. Give the patch another one.`);
  const { normal } = plane;
  const frame = flattenFrame(face.frame, plane);
  const { min, max } = texelBox([{ frame, points: winding }]);
  // A picture goes on where it ends: the one that the patch begins in.
  const [su, sv] = [facts.width, facts.height].map((size, k) => Math.floor((min[k]! + NEAR_TEXEL) / size) * size) as [
    number,
    number,
  ];
  const [x0, y0, x1, y1] = [min[0] - su, min[1] - sv, max[0] - su, max[1] - sv];
  const fitting = [wholePicture(facts), ...(facts.regions ?? [])]
    .filter((r) => holds(r, x0, y0, x1, y1))
    .sort((a, b) => a.width * a.height - b.width * b.height);
  const [region] = fitting;
  if (!region)
    throw new EditError(
      'patch.repeats',
      'The picture goes on over its border within the patch, which a decal cannot show. Fit the picture to the face first.',
    );
  const [gu, gv] = [frame.u, frame.v].map((r): Vec3 => [r[0], r[1], r[2]]) as [Vec3, Vec3];
  const across = cross(gv, normal);
  const down = cross(normal, gu);
  const [pu, pv] = [dot(gu, across), dot(gv, down)];
  if (!(Math.abs(pu) > 1e-12 && Math.abs(pv) > 1e-12))
    throw new EditError('patch.frame', 'The picture lies edgewise on the patch. Reset how it is laid first.');
  /** What one texel more is in space. */
  const [du, dv] = [scale(across, 1 / pu), scale(down, 1 / pv)];
  const corner = winding[0]!;
  const [u, v] = texelAt(frame, corner);
  const middle = addScaled(
    addScaled(corner, du, su + region.x + region.width / 2 - u),
    dv,
    sv + region.y + region.height / 2 - v,
  );
  // It lies on what the patch lay on.
  const thick = Math.max(...brush.vertices.map((p) => plane.distance - dot(normal, p)));
  const corners = winding.map((p): Point2 => {
    const [a, b] = texelAt(frame, p);
    return [part((a - su - region.x) / region.width), part(1 - (b - sv - region.y) / region.height)];
  });
  const isWhole = corners.length === 4 && corners.every((p) => p.every((c) => Math.min(c, 1 - c) < 1e-6));
  const id = newId();
  const placed = placeEntity(doc, DECAL_KIND, rounded(addScaled(middle, normal, -thick)), 0, id);
  const changed = changeEntity(placed, id, {
    name: pictureLabel(facts, region.name),
    params: {
      material: facts.name,
      region: region.name,
      across: scale(du, region.width),
      upward: scale(dv, -region.height),
      through: rounded(scale(normal, DECAL_DEPTH)),
      ...(isWhole ? {} : { outline: corners.flat() }),
    },
  });
  const { owner, layer, group } = brush;
  const thing: Entity = {
    ...changed.entities.get(id)!,
    ...(owner ? { carrier: owner } : {}),
    ...(layer ? { layer } : {}),
    ...(group ? { group } : {}),
  };
  return { doc: { ...changed, entities: new Map(changed.entities).set(id, thing) }, id };
}

const part = (x: number): number => Math.min(1, Math.max(0, Math.abs(x - Math.round(x)) < 1e-7 ? Math.round(x) : x));

/** Turns patches into decals that show the same where they lay. */
export function patchesToDecals(
  doc: MapDocument,
  ids: readonly string[],
  lookup: MaterialLookup,
): { doc: MapDocument; made: { entities: string[] } } {
  const brushes = ids.flatMap((id) => doc.brushes.get(id) ?? []);
  if (brushes.length === 0) throw new EditError('select.brushes', 'Select one or more brushes first.');
  let out = doc;
  const made: string[] = [];
  for (const brush of brushes) {
    const { doc: after, id } = decalOver(out, brush, lookup);
    out = after;
    made.push(id);
  }
  return { doc: removePicked(out, { brushes: new Set(brushes.map((b) => b.id)) }), made: { entities: made } };
}
