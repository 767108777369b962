import { letGoOfMissing, newId, type Layer, type MapDocument, type SavedView, type Storey } from '../map/index.ts';
import { EditError } from './errors.ts';
import type { Picked } from './brushes.ts';
import { without } from './remake.ts';

/** A name without the space round it. Throws `name.length`. */
export const named = (name: string): string => {
  const trimmed = name.trim();
  if (!trimmed || trimmed.length > 200) throw new EditError('name.length', 'A name has 1 to 200 characters.');
  return trimmed;
};

export function addLayer(doc: MapDocument, name: string, id = newId()): MapDocument {
  return { ...doc, layers: new Map(doc.layers).set(id, { id, name: named(name), visible: true, locked: false }) };
}

export function changeLayer(doc: MapDocument, id: string, change: Partial<Omit<Layer, 'id'>>): MapDocument {
  const old = doc.layers.get(id);
  if (!old) throw new EditError('layer.unknown', 'That layer is no longer in the map.');
  const layer = { ...old, ...change, name: named(change.name ?? old.name) };
  return { ...doc, layers: new Map(doc.layers).set(id, layer) };
}

/** Ends a layer; what was on it stays, on no layer. */
export function removeLayer(doc: MapDocument, id: string): MapDocument {
  return letGoOfMissing({ ...doc, layers: without(doc.layers, (l) => l.id === id) });
}

function onLayer<T extends { layer?: string }>(item: T, layer: string | null): T {
  const { layer: _, ...rest } = item;
  return (layer ? { ...rest, layer } : rest) as T;
}

/** Puts what is picked on a layer, or on none. Rooms go with all their brushes. */
export function moveToLayer(doc: MapDocument, picked: Picked, layer: string | null): MapDocument {
  if (layer && !doc.layers.has(layer)) throw new EditError('layer.unknown', 'That layer is no longer in the map.');
  const change = <T extends { id: string; layer?: string }>(map: ReadonlyMap<string, T>, has: (item: T) => boolean) => {
    const out = new Map(map);
    for (const item of map.values()) if (has(item)) out.set(item.id, onLayer(item, layer));
    return out;
  };
  return {
    ...doc,
    brushes: change(doc.brushes, (b) => !!picked.brushes?.has(b.id) || !!picked.rooms?.has(b.room?.id ?? '')),
    entities: change(doc.entities, (e) => !!picked.entities?.has(e.id)),
    rooms: change(doc.rooms, (r) => !!picked.rooms?.has(r.id)),
  };
}

const checkStorey = (s: Storey): Storey => {
  if (!Number.isFinite(s.floor) || !(s.cut > 0) || !Number.isFinite(s.cut))
    throw new EditError('storey.height', 'A storey has a floor height, and a cut above it by more than 0 cm.');
  return { ...s, name: named(s.name) };
};

export function addStorey(doc: MapDocument, spec: Omit<Storey, 'id'>, id = newId()): MapDocument {
  return { ...doc, storeys: new Map(doc.storeys).set(id, checkStorey({ ...spec, id })) };
}

export function changeStorey(doc: MapDocument, id: string, change: Partial<Omit<Storey, 'id'>>): MapDocument {
  const old = doc.storeys.get(id);
  if (!old) throw new EditError('storey.unknown', 'That storey is no longer in the map.');
  return { ...doc, storeys: new Map(doc.storeys).set(id, checkStorey({ ...old, ...change })) };
}

export const removeStorey = (doc: MapDocument, id: string): MapDocument => ({
  ...doc,
  storeys: without(doc.storeys, (s) => s.id === id),
});

/** The storeys of a map from below: the named ones, and one for each other height that a room's floor has. */
export function storeysOf(doc: MapDocument): Omit<Storey, 'id'>[] {
  const named = new Map<number, Omit<Storey, 'id'>>([...doc.storeys.values()].map((s) => [s.floor, s]));
  for (const { floor } of doc.rooms.values())
    if (!named.has(floor)) named.set(floor, { name: `Floor at ${floor}`, floor, cut: USUAL_CUT });
  return [...named.values()].sort((a, b) => a.floor - b.floor);
}

/** Height of the plan's cut above a floor that nobody named, cm. */
const USUAL_CUT = 110;

export const saveView = (doc: MapDocument, view: Omit<SavedView, 'id'>, id = newId()): MapDocument => ({
  ...doc,
  views: new Map(doc.views).set(id, { ...view, id, name: named(view.name) }),
});

export const removeView = (doc: MapDocument, id: string): MapDocument => ({
  ...doc,
  views: without(doc.views, (v) => v.id === id),
});
