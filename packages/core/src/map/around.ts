import { brushBounds, type Brush } from '../brush/index.ts';
import { entityKind, moves, shines, type Around, type Entity } from '../entity/index.ts';
import { EMPTY_BOX, uniteBoxes, type Box } from '../math/index.ts';
import type { MapDocument } from './types.ts';

/** The brushes of each part of each thing that owns brushes: by thing, then by part; parts between may be empty. */
function partsIn(brushes: MapDocument['brushes']): ReadonlyMap<string, readonly (readonly Brush[])[]> {
  const known = owned.get(brushes);
  if (known) return known;
  const out = new Map<string, Brush[][]>();
  for (const brush of brushes.values()) {
    if (!brush.owner) continue;
    const parts = out.get(brush.owner.id) ?? [];
    const part = brush.owner.part ?? 0;
    while (parts.length <= part) parts.push([]);
    parts[part]!.push(brush);
    out.set(brush.owner.id, parts);
  }
  for (const parts of out.values()) for (const part of parts) part.sort((a, b) => (a.id < b.id ? -1 : 1));
  owned.set(brushes, out);
  return out;
}

const owned = new WeakMap<MapDocument['brushes'], ReadonlyMap<string, readonly (readonly Brush[])[]>>();

/** The brushes of a thing's parts, each part's in id order. None for a thing that owns none. */
export const partsOf = (doc: MapDocument, thing: string): readonly (readonly Brush[])[] =>
  partsIn(doc.brushes).get(thing) ?? [];

/** What things of a map may ask of it. */
export function aroundIn(doc: Pick<MapDocument, 'entities' | 'brushes'>): Around {
  const known = arounds.get(doc) ?? makeAround(doc);
  arounds.set(doc, known);
  return known;
}

const arounds = new WeakMap<Pick<MapDocument, 'entities' | 'brushes'>, Around>();

const makeAround = (doc: Pick<MapDocument, 'entities' | 'brushes'>): Around => {
  const boxes = new Map<string, readonly Box[]>();
  return {
    thing: (id) => doc.entities.get(id),
    parts: (id) => {
      const known = boxes.get(id);
      if (known) return known;
      const made = (partsIn(doc.brushes).get(id) ?? []).map((part) =>
        part.length ? uniteBoxes(part.map(brushBounds)) : EMPTY_BOX,
      );
      boxes.set(id, made);
      return made;
    },
  };
};

/** Whether a brush is part of something that moves in play: it then neither cuts nor seals. */
export const isMoving = (doc: Pick<MapDocument, 'entities'>, brush: Brush): boolean =>
  brush.owner !== undefined && moves(doc.entities.get(brush.owner.id));

/** Brushes that move as one: a part of a thing. */
export interface Body {
  readonly thing: string;
  readonly part: number;
  readonly brushes: readonly Brush[];
}

/** All that moves in a map, by thing and part. */
export const bodiesOf = (doc: Pick<MapDocument, 'entities' | 'brushes'>): Body[] =>
  [...partsIn(doc.brushes)]
    .filter(([thing]) => moves(doc.entities.get(thing)))
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .flatMap(([thing, parts]) => parts.flatMap((brushes, part) => (brushes.length ? [{ thing, part, brushes }] : [])));

/** The brushes of a map that stand still: what cuts, seals and hides. */
export const stillBrushes = (doc: Pick<MapDocument, 'entities' | 'brushes'>): Brush[] =>
  [...doc.brushes.values()].filter((b) => !isMoving(doc, b));

/** Lamps that play can switch, in id order: what a wire leads to, or what is dark at first. Each keeps its light apart from the rest. */
export function switchedLamps({ entities, wires }: Pick<MapDocument, 'entities' | 'wires'>): string[] {
  const led = new Set([...wires.values()].map(({ to }) => to.thing));
  return [...entities.values()]
    .filter((e) => shines(e) && entityKind(e.kind)?.behaviour?.shine && (led.has(e.id) || litAtFirst(e) < 1))
    .map(({ id }) => id)
    .sort();
}

/** The share of its strength that a lamp shines with when play begins. */
export function litAtFirst(lamp: Entity): number {
  const behaviour = entityKind(lamp.kind)?.behaviour;
  return behaviour?.shine?.(lamp, behaviour.begin(lamp, NOTHING)) ?? 1;
}

const NOTHING: Around = { thing: () => undefined, parts: () => [] };
