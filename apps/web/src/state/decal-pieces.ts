import {
  decalOnBrush,
  decalsOf,
  propTakesDecal,
  readyDecalOf,
  takesDecal,
  type Brush,
  type DecalThrow,
  type Entity,
  type FaceDecal,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import type { Chunks } from './chunks.ts';
import { surfaceView, useDisplay } from './display.ts';
import { materialFacts, useLibrary } from './library.ts';

type Library = ReturnType<typeof useLibrary.getState>['materials'];

/** A part of a face that shows a decal, and whose it is. */
export interface ThingDecal extends FaceDecal {
  readonly thing: Entity;
}

const readied = new WeakMap<Entity, { readonly library: Library; readonly ready: DecalThrow | null }>();

/** The decal of a thing made ready; the same for the same thing. */
export function decalReady(thing: Entity): DecalThrow | null {
  const library = useLibrary.getState().materials;
  const known = readied.get(thing);
  if (known?.library === library) return known.ready;
  const ready = readyDecalOf(thing, materialFacts);
  readied.set(thing, { library, ready });
  return ready;
}

const onChunk = new WeakMap<readonly Brush[], WeakMap<DecalThrow, readonly ThingDecal[]>>();

/** What of a list of brushes shows a decal; the same list and decal give the same. */
function piecesOn(brushes: readonly Brush[], thing: Entity, ready: DecalThrow): readonly ThingDecal[] {
  let known = onChunk.get(brushes);
  if (!known) onChunk.set(brushes, (known = new WeakMap()));
  let pieces = known.get(ready);
  if (!pieces) {
    pieces = brushes
      .filter((b) => takesDecal(thing, b, materialFacts))
      .flatMap((b) => decalOnBrush(ready, b, materialFacts).map((piece) => ({ ...piece, thing })));
    known.set(ready, pieces);
  }
  return pieces;
}

/** What of brushes shows decals of some things: those that lie beneath first. Only what changed is cut again. */
export function decalPieces(things: Iterable<Entity>, still: Chunks, live: readonly Brush[]): ThingDecal[] {
  return decalsOf(things).flatMap((thing) => {
    const ready = decalReady(thing);
    if (!ready) return [];
    return [...still, live].flatMap((brushes) => piecesOn(brushes, thing, ready));
  });
}

/** The things whose decals a place of a surface shows, the one on top first; none while pictures are not seen. */
export function decalsAt(
  { entities }: Pick<MapDocument, 'entities'>,
  on: { readonly brush: Brush; readonly prop: string | null },
  at: Vec3,
  normal: Vec3,
): string[] {
  if (surfaceView(useDisplay.getState().eyeMode) !== 'textured') return [];
  const prop = on.prop === null ? undefined : entities.get(on.prop);
  const takes = (thing: Entity): boolean =>
    prop ? propTakesDecal(thing, prop) : takesDecal(thing, on.brush, materialFacts);
  return decalsOf(entities.values())
    .filter((thing) => decalReady(thing)?.shows(at, normal) && takes(thing))
    .map((thing) => thing.id)
    .toReversed();
}

let last: readonly Entity[] = [];

/** The decals of a document, those that lie beneath first: the very same list as long as none of them changes. */
export function decalsIn({ entities }: Pick<MapDocument, 'entities'>): readonly Entity[] {
  const now = decalsOf(entities.values());
  if (now.length !== last.length || now.some((thing, k) => thing !== last[k])) last = now;
  return last;
}

/** Decals that may fall on props, with what tells which they take: those that lie beneath first. `details`: those for full detail alone too. */
export function propDecals(
  decals: readonly Entity[],
  things: ReadonlyMap<string, Entity>,
  details: boolean,
): { ready: DecalThrow; takes: (prop: { readonly thing: string }) => boolean }[] {
  return decals.flatMap((decal) => {
    const ready = decalReady(decal);
    if (!ready || (ready.decal.fine && !details)) return [];
    return [
      {
        ready,
        takes: ({ thing }) => {
          const prop = things.get(thing);
          return prop !== undefined && propTakesDecal(decal, prop);
        },
      },
    ];
  });
}
