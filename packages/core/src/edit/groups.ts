import { shapeParams, shapeSolids, type Brush, type ShapeRecipe } from '../brush/index.ts';
import { composeAffine, IDENTITY, type Affine } from '../math/index.ts';
import { newId, type Group, type MapDocument } from '../map/index.ts';
import { dressLike, dressSolid, transformBrush } from '../surface/index.ts';
import { EditError } from './errors.ts';
import { guardShape } from './guard.ts';
import { without } from './remake.ts';

interface Members {
  readonly brushes: readonly string[];
  readonly entities: readonly string[];
}

/** What belongs to a group. */
export const membersOf = (doc: MapDocument, group: string): Members => ({
  brushes: [...doc.brushes.values()].filter((b) => b.group === group).map((b) => b.id),
  entities: [...doc.entities.values()].filter((e) => e.group === group).map((e) => e.id),
});

/** Puts brushes and things in a new group; they leave the groups they were in. */
export function groupPicked(
  doc: MapDocument,
  picked: { readonly brushes?: ReadonlySet<string>; readonly entities?: ReadonlySet<string> },
  name?: string,
  id = newId(),
): MapDocument {
  const count = (picked.brushes?.size ?? 0) + (picked.entities?.size ?? 0);
  if (count < 2) throw new EditError('group.tooFew', 'A group takes two or more brushes or things. Select more.');
  const brushes = new Map(doc.brushes);
  for (const b of picked.brushes ?? []) {
    const brush = brushes.get(b);
    if (brush) brushes.set(b, { ...brush, group: id });
  }
  const entities = new Map(doc.entities);
  for (const e of picked.entities ?? []) {
    const entity = entities.get(e);
    if (entity) entities.set(e, { ...entity, group: id });
  }
  const groups = new Map(doc.groups).set(id, { id, name: name ?? `Group ${doc.groups.size + 1}` });
  return tidyGroups({ ...doc, brushes, entities, groups });
}

const ungrouped = <T extends { group?: string }>({ group: _, ...rest }: T): T => rest as T;

/** Ends groups; their members stay. */
export function ungroup(doc: MapDocument, ids: ReadonlySet<string>): MapDocument {
  const brushes = new Map(doc.brushes);
  for (const b of doc.brushes.values()) if (b.group && ids.has(b.group)) brushes.set(b.id, ungrouped(b));
  const entities = new Map(doc.entities);
  for (const e of doc.entities.values()) if (e.group && ids.has(e.group)) entities.set(e.id, ungrouped(e));
  return { ...doc, brushes, entities, groups: without(doc.groups, (g) => ids.has(g.id)) };
}

export function renameGroup(doc: MapDocument, id: string, name: string): MapDocument {
  const group = doc.groups.get(id);
  const trimmed = name.trim();
  if (!group || !trimmed || trimmed.length > 200)
    throw new EditError('group.name', 'A group has a name of 1 to 200 characters.');
  return { ...doc, groups: new Map(doc.groups).set(id, { ...group, name: trimmed }) };
}

/** Drops groups that nothing belongs to any more. */
export function tidyGroups(doc: MapDocument): MapDocument {
  if (doc.groups.size === 0) return doc;
  const used = new Set<string>();
  for (const b of doc.brushes.values()) if (b.group) used.add(b.group);
  for (const e of doc.entities.values()) if (e.group) used.add(e.group);
  const groups = without(doc.groups, (g) => !used.has(g.id));
  return groups.size === doc.groups.size ? doc : { ...doc, groups };
}

/** Shapes whose brushes are moved as a whole remember the move; of others only the brushes remain, without their numbers. */
export function moveShapes(doc: MapDocument, brushes: ReadonlySet<string>, m: Affine): MapDocument {
  return changeShapes(doc, brushes, (group, whole) =>
    whole ? { ...group, shape: { ...group.shape!, place: composeAffine(m, group.shape!.place ?? IDENTITY) } } : null,
  );
}

/** Shapes that some brushes belong to lose their numbers: a brush of theirs was shaped by hand. */
export const dropShapes = (doc: MapDocument, brushes: ReadonlySet<string>): MapDocument =>
  changeShapes(doc, brushes, () => null);

function changeShapes(
  doc: MapDocument,
  brushes: ReadonlySet<string>,
  change: (group: Group, whole: boolean) => Group | null,
): MapDocument {
  const touched = new Set<string>();
  for (const id of brushes) {
    const group = doc.brushes.get(id)?.group;
    if (group && doc.groups.get(group)?.shape) touched.add(group);
  }
  if (touched.size === 0) return doc;
  const groups = new Map(doc.groups);
  for (const id of touched) {
    const { shape: _, ...bare } = groups.get(id)!;
    const whole = membersOf(doc, id).brushes.every((b) => brushes.has(b));
    groups.set(id, change(groups.get(id)!, whole) ?? bare);
  }
  return { ...doc, groups };
}

/** How the brushes of a new shape are dressed. */
export interface ShapeDress {
  readonly material: string;
  readonly role?: Brush['role'];
  readonly layer?: string;
}

/**
 * Adds a shape. Its brushes form a group that remembers the numbers, unless it is a plain box. Throws the geometry's own
 * error when the numbers make no valid brush.
 */
export function addShape(
  doc: MapDocument,
  recipe: ShapeRecipe,
  { material, role = 'detail', layer }: ShapeDress,
  ids: { group: string; brush: (index: number) => string },
  name: string = recipe.kind,
): MapDocument {
  const solids = guardShape(() => shapeSolids(recipe));
  const grouped = recipe.kind !== 'box' && (solids.length > 1 || Object.keys(shapeParams(recipe.kind, {})).length > 0);
  const brushes = new Map(doc.brushes);
  solids.forEach((solid, i) => {
    const id = ids.brush(i);
    brushes.set(id, dressSolid(solid, id, material, { role, ...(grouped ? { group: ids.group } : {}), ...(layer ? { layer } : {}) })); // prettier-ignore
  });
  if (!grouped) return { ...doc, brushes };
  const shape = { ...recipe, params: shapeParams(recipe.kind, recipe.params) };
  return { ...doc, brushes, groups: new Map(doc.groups).set(ids.group, { id: ids.group, name, shape }) };
}

/** Changes the numbers of a shape: its brushes are made anew where it stands now, dressed as before. */
export function changeShape(
  doc: MapDocument,
  groupId: string,
  change: Partial<Pick<ShapeRecipe, 'params' | 'box'>>,
): MapDocument {
  const group = doc.groups.get(groupId);
  if (!group?.shape)
    throw new EditError('shape.unknown', 'These brushes were shaped by hand and have no numbers any more.');
  const shape = { ...group.shape, ...change, params: { ...group.shape.params, ...change.params } };
  const solids = guardShape(() => shapeSolids(shape));
  const old = membersOf(doc, groupId).brushes.map((id) => doc.brushes.get(id)!);
  const place = shape.place ?? IDENTITY;
  const brushes = without(doc.brushes, (b) => b.group === groupId);
  solids.forEach((solid, i) => {
    const id = old[i]?.id ?? newId();
    const like = old[Math.min(i, old.length - 1)]!;
    // Faces find their like where the shape was made, not where it stands now.
    const placed = transformBrush({ ...dressSolid(solid, id, like.faces[0]!.material), role: like.role }, place, true);
    const { vertices, faces } = placed;
    const dressed = dressLike({ vertices, loops: faces.map((f) => f.loop) }, [like]);
    guardShape(() => [{ vertices, loops: faces.map((f) => f.loop) }]);
    brushes.set(id, { ...dressed, id });
  });
  return { ...doc, brushes, groups: new Map(doc.groups).set(groupId, { ...group, shape }) };
}
