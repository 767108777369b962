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

/** The groups a group belongs to, itself first. A chain that bites its own tail ends there. */
export function groupChain(doc: Pick<MapDocument, 'groups'>, group: string | undefined): string[] {
  const out: string[] = [];
  for (let id = group; id !== undefined && doc.groups.has(id) && !out.includes(id); id = doc.groups.get(id)!.parent)
    out.push(id);
  return out;
}

/** The outermost group of a brush or thing: what is picked as one. */
export const rootGroup = (doc: Pick<MapDocument, 'groups'>, group: string | undefined): string | undefined =>
  groupChain(doc, group).at(-1);

/** What belongs to a group, or to groups in it. */
export function membersOf(doc: MapDocument, group: string): Members {
  const nested = new Set([group]);
  // Most groups hold none: only then is every other group asked where it belongs.
  for (const g of doc.groups.values()) if (g.parent && groupChain(doc, g.id).includes(group)) nested.add(g.id);
  const mine = (item: { group?: string }): boolean => item.group !== undefined && nested.has(item.group);
  return {
    brushes: [...doc.brushes.values()].filter(mine).map((b) => b.id),
    entities: [...doc.entities.values()].filter(mine).map((e) => e.id),
  };
}

/** The innermost group that all of some items belong to, if any. */
export function sharedGroup(doc: MapDocument, items: readonly { readonly group?: string }[]): Group | undefined {
  const [first, ...others] = items.map((item) => groupChain(doc, item.group));
  const id = first?.find((g) => others.every((chain) => chain.includes(g)));
  return id === undefined ? undefined : doc.groups.get(id);
}

/** Brushes and things, as far as groups are concerned. */
interface Grouped {
  readonly brushes?: ReadonlySet<string>;
  readonly entities?: ReadonlySet<string>;
}

/** The groups of which every member is among some brushes and things. */
export function wholeGroups(doc: MapDocument, picked: Grouped): Set<string> {
  const out = new Set<string>();
  if (doc.groups.size === 0) return out;
  const missing = new Set<string>();
  const seen = new Set<string>();
  const look = (items: ReadonlyMap<string, { group?: string }>, ids: ReadonlySet<string> | undefined) => {
    for (const [id, { group }] of items)
      if (group) for (const g of groupChain(doc, group)) (ids?.has(id) ? seen : missing).add(g);
  };
  look(doc.brushes, picked.brushes);
  look(doc.entities, picked.entities);
  for (const g of seen) if (!missing.has(g)) out.add(g);
  return out;
}

/**
 * Puts brushes and things in a new group. Groups that are picked wholly become groups in it. The new one lies in the innermost group that
 * all of them share and that stays; what is picked of other groups leaves them, and so does what is picked of a shape, which is made as a
 * whole by its numbers.
 */
export function groupPicked(doc: MapDocument, picked: Grouped, name?: string, id = newId()): MapDocument {
  const count = (picked.brushes?.size ?? 0) + (picked.entities?.size ?? 0);
  if (count < 2) throw new EditError('group.tooFew', 'A group takes two or more brushes or things. Select more.');
  const whole = wholeGroups(doc, picked);
  const groups = new Map(doc.groups);
  const items = [
    ...[...(picked.brushes ?? [])].flatMap((each) => doc.brushes.get(each) ?? []),
    ...[...(picked.entities ?? [])].flatMap((each) => doc.entities.get(each) ?? []),
  ];
  const around = groupChain(doc, sharedGroup(doc, items)?.id).find((g) => !whole.has(g) && !doc.groups.get(g)!.shape);
  /** The group that an item has afterwards; the outermost wholly picked group above it moves into the new one. */
  const into = (group: string | undefined): string => {
    const top = groupChain(doc, group)
      .filter((g) => whole.has(g))
      .at(-1);
    if (top === undefined) return id;
    groups.set(top, { ...doc.groups.get(top)!, parent: id });
    return group!;
  };
  const put = <T extends { group?: string }>(items: ReadonlyMap<string, T>, ids: ReadonlySet<string> | undefined) => {
    const out = new Map(items);
    for (const each of ids ?? []) {
      const item = out.get(each);
      if (item) out.set(each, { ...item, group: into(item.group) });
    }
    return out;
  };
  const brushes = put(doc.brushes, picked.brushes);
  const entities = put(doc.entities, picked.entities);
  const parent = around === undefined ? {} : { parent: around };
  groups.set(id, { id, name: name ?? `Group ${doc.groups.size + 1}`, ...parent });
  return tidyGroups({ ...doc, brushes, entities, groups });
}

/** An item or group one level further out: in the group around, or in none. */
const liftTo = <T extends object, K extends 'group' | 'parent'>(item: T, key: K, to: string | undefined): T => {
  const { [key]: _, ...rest } = item as T & Record<K, unknown>;
  return (to === undefined ? rest : { ...rest, [key]: to }) as unknown as T;
};

/** Ends groups; their members stay, and groups in them stay groups. */
export function ungroup(doc: MapDocument, ids: ReadonlySet<string>): MapDocument {
  const outside = (group: string): string | undefined => groupChain(doc, group).find((g) => !ids.has(g));
  const lifted = <T extends { group?: string }>(items: ReadonlyMap<string, T>) => {
    const out = new Map(items);
    for (const [id, item] of items)
      if (item.group && ids.has(item.group)) out.set(id, liftTo(item, 'group', outside(item.group)));
    return out;
  };
  const groups = without(doc.groups, (g) => ids.has(g.id));
  for (const [id, g] of groups)
    if (g.parent && ids.has(g.parent)) groups.set(id, liftTo(g, 'parent', outside(g.parent)));
  return { ...doc, brushes: lifted(doc.brushes), entities: lifted(doc.entities), groups };
}

/** An item in another group, or in none. */
export const inGroup = <T extends { group?: string }>(item: T, group: string | undefined): T =>
  liftTo(item, 'group', group);

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
  const count = (group: string | undefined) => groupChain(doc, group).forEach((g) => used.add(g));
  for (const b of doc.brushes.values()) if (b.group) count(b.group);
  for (const e of doc.entities.values()) if (e.group) count(e.group);
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
    brushes.set(
      id,
      dressSolid(solid, id, material, { role, ...(grouped ? { group: ids.group } : {}), ...(layer ? { layer } : {}) }),
    );
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
