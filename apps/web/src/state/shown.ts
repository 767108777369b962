import { startTransition, useEffect, useState } from 'react';
import { create } from 'zustand';
import type { Brush, Entity, MapDocument, Role } from '@yesca/core';
import { Chunker, type Chunks } from './chunks.ts';
import { useEditor, type EditorState } from './editor.ts';
import { useDisplay } from './display.ts';
import { useLibrary } from './library.ts';
import { propsOf, propSolidsIn, type PropSolids } from './prop-solids.ts';
import { useTrial } from './trial.ts';

/** What is put out of sight for now: single things, by id. Not part of the map. */
export const useHidden = create<{
  readonly ids: ReadonlySet<string>;
  hide: (ids: Iterable<string>) => void;
  showAll: () => void;
}>()((set, get) => ({
  ids: new Set(),
  hide: (ids) => set({ ids: new Set([...get().ids, ...ids]) }),
  showAll: () => set({ ids: new Set() }),
}));

interface Filter {
  readonly hidden: ReadonlySet<string>;
  readonly roles: readonly Role[];
  readonly things: boolean;
}

const offLayers = (doc: MapDocument, off: 'hidden' | 'locked'): Set<string> =>
  new Set([...doc.layers.values()].filter((l) => (off === 'hidden' ? !l.visible : l.locked)).map((l) => l.id));

const kept = <T>(map: ReadonlyMap<string, T>, keep: (item: T) => boolean): ReadonlyMap<string, T> => {
  const out = new Map<string, T>();
  for (const [id, item] of map) if (keep(item)) out.set(id, item);
  return out;
};

/** What was filtered before: the same document and filter give the same object, so that what is made of it is kept too. */
const filtered = new WeakMap<MapDocument, { filter: Filter; out: MapDocument }>();
const unlocked = new WeakMap<MapDocument, MapDocument>();

const sameFilter = (a: Filter, b: Filter): boolean =>
  a.hidden === b.hidden && a.roles === b.roles && a.things === b.things;

/** The document without what is hidden: by itself, with its layer, by its role. The very same document when nothing is. */
function visible(doc: MapDocument, filter: Filter): MapDocument {
  const { hidden, roles, things } = filter;
  const layers = offLayers(doc, 'hidden');
  if (hidden.size + layers.size + roles.length === 0 && !things) return doc;
  const known = filtered.get(doc);
  if (known && sameFilter(known.filter, filter)) return known.out;
  const shows = (x: { id: string; layer?: string }) => !hidden.has(x.id) && !(x.layer && layers.has(x.layer));
  const out: MapDocument = {
    ...doc,
    brushes: kept(doc.brushes, (b) => shows(b) && !roles.includes(b.role) && !(b.room && hidden.has(b.room.id))),
    entities: things ? new Map() : kept(doc.entities, shows),
  };
  filtered.set(doc, { filter, out });
  return out;
}

const currentFilter = (): Filter => {
  const { hiddenRoles, hideThings } = useDisplay.getState();
  return { hidden: useHidden.getState().ids, roles: hiddenRoles, things: hideThings };
};

/** The map as it is shown, without a gesture that goes on. */
export const shownNow = (): MapDocument => visible(useEditor.getState().doc, currentFilter());

/** What can be pointed at: what is visible and on no locked layer. */
export function pickable(doc: MapDocument): MapDocument {
  const shown = visible(doc, currentFilter());
  const known = unlocked.get(shown);
  if (known) return known;
  const locked = offLayers(doc, 'locked');
  const free = (x: { layer?: string }) => !(x.layer && locked.has(x.layer));
  const out =
    locked.size === 0 ? shown : { ...shown, brushes: kept(shown.brushes, free), entities: kept(shown.entities, free) };
  unlocked.set(shown, out);
  return out;
}

/** What the panes draw: the visible document, its brushes split in those a gesture leaves alone and those it changes. */
export interface Shown {
  readonly doc: MapDocument;
  readonly still: Chunks;
  readonly live: readonly Brush[];
  /** Its props, split the same way. */
  readonly propsStill: readonly PropSolids[];
  readonly propsLive: readonly PropSolids[];
  /** Its things, split the same way: with what a gesture changes goes what names it, and may look at it. */
  readonly thingsStill: readonly Entity[];
  readonly thingsLive: readonly Entity[];
}

let lastStill: { base: MapDocument; key: string; still: Chunks } | null = null;
let lastThings:
  | ({ base: MapDocument; all: readonly PropSolids[]; key: string; live: ReadonlySet<string> } & Pick<
      Shown,
      'propsStill' | 'thingsStill'
    >)
  | null = null;
const chunker = new Chunker();
let lastShown: { doc: MapDocument; draft: MapDocument | null; filter: Filter; props: unknown; out: Shown } | null =
  null;

/** Splits what is drawn, so that a drag of a few brushes does not draw all others anew every frame. */
export function splitShown({ doc, draft }: Pick<EditorState, 'doc' | 'draft'>, filter = currentFilter()): Shown {
  const { props } = useLibrary.getState();
  const same = lastShown?.doc === doc && lastShown.draft === draft && lastShown.props === props;
  if (lastShown && same && sameFilter(lastShown.filter, filter)) return lastShown.out;
  const base = visible(doc, filter);
  const changed = new Set<string>();
  if (draft && draft.brushes !== doc.brushes) {
    for (const b of draft.brushes.values()) if (doc.brushes.get(b.id) !== b) changed.add(b.id);
    if (draft.brushes.size !== doc.brushes.size + [...changed].filter((id) => !doc.brushes.has(id)).length)
      for (const id of doc.brushes.keys()) if (!draft.brushes.has(id)) changed.add(id);
  }
  const key = [...changed].filter((id) => doc.brushes.has(id)).join(' ');
  if (!lastStill || lastStill.base !== base || lastStill.key !== key)
    lastStill = { base, key, still: chunker.update([...base.brushes.values()].filter((b) => !changed.has(b.id))) };
  const shown = draft ? visible(draft, filter) : base;
  const live = [...changed].flatMap((id) => shown.brushes.get(id) ?? []);
  const out: Shown = { doc: shown, still: lastStill.still, live, ...splitThings(base, shown) };
  lastShown = { doc, draft, filter, props, out };
  return out;
}

/** Splits things, and props among them, in those that stand as they stood and those that a gesture changes. */
function splitThings(
  base: MapDocument,
  shown: MapDocument,
): Pick<Shown, 'propsStill' | 'propsLive' | 'thingsStill' | 'thingsLive'> {
  const all = propSolidsIn(base);
  const changed = new Set<string>();
  if (shown.entities !== base.entities) {
    for (const e of shown.entities.values()) if (base.entities.get(e.id) !== e) changed.add(e.id);
    for (const id of base.entities.keys()) if (!shown.entities.has(id)) changed.add(id);
  }
  const key = [...changed].join(' ');
  if (lastThings?.base !== base || lastThings.all !== all || lastThings.key !== key) {
    const live = new Set(changed);
    if (live.size > 0) for (const e of base.entities.values()) if (namesAny(e.params, changed)) live.add(e.id);
    lastThings = {
      base,
      all,
      key,
      live,
      propsStill: live.size > 0 ? all.filter((p) => !live.has(p.thing)) : all,
      thingsStill: [...base.entities.values()].filter((e) => !live.has(e.id)),
    };
  }
  const { live, propsStill, thingsStill } = lastThings;
  const thingsLive = [...live].flatMap((id) => shown.entities.get(id) ?? []);
  return { propsStill, thingsStill, thingsLive, propsLive: live.size > 0 ? propsOf(shown, live) : NO_PROPS };
}

/** Whether values of things name one of some ids anywhere. */
const namesAny = (value: unknown, ids: ReadonlySet<string>): boolean =>
  typeof value === 'string'
    ? ids.has(value)
    : typeof value === 'object' && value !== null && Object.values(value).some((v) => namesAny(v, ids));

const NO_PROPS: readonly PropSolids[] = [];

export type Pane = 'plan' | 'section' | 'eye';

/**
 * What a pane draws, kept up to date. A pane that nobody works in follows an edit as soon as there is time, so that the one in
 * use is never kept waiting by it; gestures show in all panes at once. `inUse` tells which pane that is.
 */
export function useShown(pane: Pane, inUse: () => Pane): Shown {
  const [shown, setShown] = useState(() => splitShown(useEditor.getState()));
  useEffect(() => {
    const follow = () => {
      const { doc, draft } = useEditor.getState();
      // A gesture goes before what is being tried.
      const live = draft ?? useTrial.getState().doc;
      const now = splitShown({ doc, draft: live });
      if (live || inUse() === pane) setShown(now);
      else startTransition(() => setShown(now));
    };
    // Something may have changed between the first drawing and here.
    follow();
    const stops = [useEditor, useHidden, useDisplay, useTrial].map((store) => store.subscribe(follow));
    stops.push(useLibrary.subscribe((now, before) => now.props !== before.props && follow()));
    return () => stops.forEach((stop) => stop());
  }, [pane, inUse]);
  return shown;
}
