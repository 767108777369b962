import { call, decalOf, length, naturalDecal, type Call, type Vec3 } from '@yesca/core';
import { cornerNear } from '../geometry/corner-near.ts';
import { materialFacts } from '../state/library.ts';
import { useEditor } from '../state/editor.ts';
import { thingsOf } from '../state/selection.ts';
import { placeOn } from './place-on.ts';
import { usePlaceOptions } from './place-options.ts';
import type { PanePointer } from './tool.ts';

/** A decal as Stock shows it: a region of a material's picture, or all of it. */
export interface StockDecal {
  readonly material: string;
  readonly region: string;
}

/** At most so near to an edge (cm) a decal is laid round it. */
const EDGE_REACH = 14;

/** What a decal is laid on. Round an edge its box has to reach as deep as it is wide. */
interface Ground {
  readonly at: Vec3;
  readonly normal: Vec3;
  readonly round: boolean;
}

/** The surface that a decal is laid on: that under the pointer, or round the edge beside it. */
function groundFor(p: PanePointer): Ground | null {
  const on = placeOn(p);
  if (!on) return null;
  const rounds = p.pane === 'eye' && usePlaceOptions.getState().rounds;
  const corner = rounds ? cornerNear(useEditor.getState().doc.brushes.values(), on.at, on.normal, EDGE_REACH) : null;
  return { ...(corner ?? on), round: corner !== null };
}

/** Puts a decal on the surface under the pointer. */
export function placeDecal({ material, region }: StockDecal, p: PanePointer): void {
  const ground = groundFor(p);
  const facts = materialFacts(material);
  if (!ground || !facts) return;
  const { turn, scale } = usePlaceOptions.getState();
  const { at, normal, round } = ground;
  const { width, height } = naturalDecal(facts, region);
  const depth = round ? Math.max(width, height) * scale : 0;
  useEditor.getState().run(call('decal.place', { decals: [{ material, region, at, normal, turn, scale, depth }] }));
}

/** The decals that are selected, where nothing else is; the one that was taken hold of first. */
export function decalsHeld(first: string): string[] | null {
  const { doc, selection } = useEditor.getState();
  const things = thingsOf(selection);
  const all = things.every(({ type, id }) => {
    const thing = type === 'entity' ? doc.entities.get(id) : undefined;
    return thing && decalOf(thing);
  });
  const ids = things.map((t) => t.id);
  return all && ids.includes(first) ? [first, ...ids.filter((id) => id !== first)] : null;
}

/** What lays decals, or copies of them, on the surface under the pointer; null over none. */
export function layCall(things: readonly string[], p: PanePointer, copy = false): Call | null {
  const ground = groundFor(p);
  if (!ground) return null;
  const { doc } = useEditor.getState();
  const { at, normal, round } = ground;
  const wide = things.flatMap((id) => {
    const decal = decalOf(doc.entities.get(id)!);
    return decal ? [length(decal.across), length(decal.upward)] : [];
  });
  const depth = round ? Math.max(...wide) : 0;
  return call('decal.lay', { things, at, normal, depth, ...(copy ? { copy } : {}) });
}
