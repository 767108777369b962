import { brushBounds, type Brush } from '../brush/index.ts';
import { entityKind, modelOf, moves, shines, type Around, type Entity } from '../entity/index.ts';
import { EMPTY_BOX, isEmptyBox, uniteBoxes, type Box } from '../math/index.ts';
import { propBounds } from './prop-bounds.ts';
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

/** What rides on each thing, directly, in id order. */
function ridersIn(entities: MapDocument['entities']): ReadonlyMap<string, readonly Entity[]> {
  const known = riding.get(entities);
  if (known) return known;
  const out = new Map<string, Entity[]>();
  for (const e of entities.values()) {
    if (!e.carrier) continue;
    const own = out.get(e.carrier.id);
    if (own) own.push(e);
    else out.set(e.carrier.id, [e]);
  }
  for (const own of out.values()) own.sort((a, b) => (a.id < b.id ? -1 : 1));
  riding.set(entities, out);
  return out;
}

const riding = new WeakMap<MapDocument['entities'], ReadonlyMap<string, readonly Entity[]>>();

/** All that rides on a thing, directly or on something that does. */
export function ridersOf(doc: Pick<MapDocument, 'entities'>, thing: string): Entity[] {
  const own = ridersIn(doc.entities).get(thing) ?? [];
  return own.flatMap((e) => [e, ...ridersOf(doc, e.id)]);
}

/** The part of a thing that another one rides on. */
export interface PartOfCarrier {
  readonly id: string;
  readonly part: number;
}

/** The nearest of some things that a thing rides on, itself or by what it rides on, and on which part; undefined for none. */
export function carrierAmong(
  { carrier }: Pick<Entity, 'carrier'>,
  thing: (id: string) => Entity | undefined,
  counts: (up: Entity) => boolean,
): PartOfCarrier | undefined {
  for (let on = carrier; on;) {
    const up = thing(on.id);
    if (up && counts(up)) return { id: on.id, part: on.part ?? 0 };
    on = up?.carrier;
  }
  return undefined;
}

/** {@link carrierAmong} what moves. `thing` finds things by id. */
export const movingCarrier = (
  e: Pick<Entity, 'carrier'>,
  thing: (id: string) => Entity | undefined,
): PartOfCarrier | undefined => carrierAmong(e, thing, moves);

/** The props that ride on a thing's parts, each part's in id order; parts between may be empty. */
export function propsOf(doc: Pick<MapDocument, 'entities'>, thing: string): readonly (readonly Entity[])[] {
  const out: Entity[][] = [];
  for (const e of ridersIn(doc.entities).get(thing) ?? []) {
    if (!modelOf(e)) continue;
    const part = e.carrier!.part ?? 0;
    while (out.length <= part) out.push([]);
    out[part]!.push(e);
  }
  return out;
}

/** What each part of a thing fills: what its brushes do, and of a part without any what the props do that ride on it. */
function partBoxes(doc: Pick<MapDocument, 'entities' | 'brushes'>, thing: string): Box[] {
  const brushes = partsIn(doc.brushes).get(thing) ?? [];
  const props = propsOf(doc, thing);
  return Array.from({ length: Math.max(brushes.length, props.length) }, (_, k) => {
    if (brushes[k]?.length) return uniteBoxes(brushes[k].map(brushBounds));
    return props[k]?.length ? uniteBoxes(props[k].map(propBounds)) : EMPTY_BOX;
  });
}

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
      const made = partBoxes(doc, id);
      boxes.set(id, made);
      return made;
    },
  };
};

/** Whether a brush is part of something that moves in play: it then neither cuts nor seals. */
export const isMoving = (doc: Pick<MapDocument, 'entities'>, brush: Brush): boolean =>
  brush.owner !== undefined && moves(doc.entities.get(brush.owner.id));

/** What moves as one: a part of a thing, of brushes, of props, or of both. */
export interface Body {
  readonly thing: string;
  readonly part: number;
  readonly brushes: readonly Brush[];
  /** What it fills where it was drawn. */
  readonly bounds: Box;
}

/** All that moves in a map, by thing and part. */
export const bodiesOf = (doc: Pick<MapDocument, 'entities' | 'brushes'>): Body[] =>
  [...new Set([...partsIn(doc.brushes).keys(), ...ridersIn(doc.entities).keys()])]
    .filter((thing) => moves(doc.entities.get(thing)))
    .sort()
    .flatMap((thing) => {
      const parts = partsIn(doc.brushes).get(thing) ?? [];
      return partBoxes(doc, thing).flatMap((bounds, part) =>
        isEmptyBox(bounds) ? [] : [{ thing, part, brushes: parts[part] ?? [], bounds }],
      );
    });

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
