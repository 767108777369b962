import { readValues, type ParamSpecs, type ValuesOf } from '../params/index.ts';
import type { Handle } from './handles.ts';
import type { LightSource } from './light-source.ts';
import type { Reach, SpaceLine, Stroke, SymbolView } from './strokes.ts';
import type { Entity } from './types.ts';

/** The turn of a thing, called by what it means. */
export const compass = (label: string): KindFacts['facing'] => ({
  label,
  help: 'Degrees counter-clockwise from east, seen from above',
});

/** What a thing tells others, or can be told to do, over a wire. */
export interface Port {
  readonly label: string;
  readonly help: string;
  /** Typed values that go with it. */
  readonly values?: ParamSpecs;
}

/** Something wrong with a thing that its own values tell. */
export interface ThingFlaw {
  readonly code: string;
  readonly severity: 'error' | 'warning';
  /** A sentence that begins with what the thing is called and says what to do. */
  readonly text: (name: string) => string;
}

/** A thing with its parameters filled in: those the file lacks, or that do not fit, have their defaults. */
export type Thing<P extends ParamSpecs> = Entity & { readonly values: ValuesOf<P> };

/** What a thing may ask of its map: other things, by id. */
export type Around = (id: string) => Entity | undefined;

/** What everything knows of a kind of thing without knowing the kind: data, and what a thing of the kind can be asked. */
export interface EntityKind extends KindFacts {
  readonly params: ParamSpecs;
  readonly symbol: (entity: Entity, view: SymbolView, around?: Around) => readonly Stroke[];
  readonly mark: (entity: Entity, around?: Around) => readonly SpaceLine[];
  readonly reach: (entity: Entity, around?: Around) => readonly Reach[];
  readonly handles: (entity: Entity, around?: Around) => readonly Handle[];
  /** Null for what does not shine at all; whether a kind shines is {@link KindFacts.shines}. */
  readonly light: (entity: Entity, around?: Around) => LightSource | null;
  readonly flaws: (entity: Entity, around?: Around) => readonly ThingFlaw[];
}

interface KindFacts {
  /** As files name it. */
  readonly kind: string;
  readonly label: string;
  readonly help: string;
  /** What it consists of in the map. */
  readonly body: 'point' | 'brushes' | 'props' | 'zone';
  /** Height (cm) above the surface at which a new one is placed. */
  readonly standsAt: number;
  /** What its turn means; null when turning it changes nothing. */
  readonly facing: { readonly label: string; readonly help: string } | null;
  /** Whether the inside is flooded from it, so that it must stand in the open. */
  readonly floods: boolean;
  /** Whether players begin there. */
  readonly spawns: boolean;
  readonly shines: boolean;
  /** Height (cm) at which the pointer takes hold of it in the Eye. */
  readonly grip: number;
  readonly signals: Readonly<Record<string, Port>>;
  readonly actions: Readonly<Record<string, Port>>;
}

/** A kind as its file gives it: typed by its own parameters, with nothing said that is as usual. */
export type KindFile<P extends ParamSpecs> = Pick<KindFacts, Said> &
  Partial<Omit<KindFacts, Said | 'shines'>> &
  Asked<P>;

type Said = 'kind' | 'label' | 'help' | 'standsAt';

interface Asked<P extends ParamSpecs> {
  readonly params: P;
  readonly symbol: (thing: Thing<P>, view: SymbolView, around: Around) => readonly Stroke[];
  /** How it is marked in the Eye. */
  readonly mark: (thing: Thing<P>, around: Around) => readonly SpaceLine[];
  readonly reach?: (thing: Thing<P>, around: Around) => readonly Reach[];
  readonly handles?: (thing: Thing<P>, around: Around) => readonly Handle[];
  readonly light?: (thing: Thing<P>, around: Around) => LightSource;
  readonly flaws?: (thing: Thing<P>, around: Around) => readonly ThingFlaw[];
}

/** Makes of a kind's file what the catalogue holds. */
export function defineKind<P extends ParamSpecs>(file: KindFile<P>): EntityKind {
  const asThing = (e: Entity): Thing<P> => ({ ...e, values: readValues(file.params, e.params) });
  const { symbol, mark, reach, handles, light, flaws } = file;
  return {
    body: 'point',
    facing: null,
    floods: false,
    spawns: false,
    grip: 0,
    signals: {},
    actions: {},
    ...file,
    shines: light !== undefined,
    symbol: (e, view, around = ALONE) => symbol(asThing(e), view, around),
    mark: (e, around = ALONE) => mark(asThing(e), around),
    reach: (e, around = ALONE) => reach?.(asThing(e), around) ?? [],
    handles: (e, around = ALONE) => handles?.(asThing(e), around) ?? [],
    light: (e, around = ALONE) => light?.(asThing(e), around) ?? null,
    flaws: (e, around = ALONE) => flaws?.(asThing(e), around) ?? [],
  };
}

/** Nothing else is there. */
const ALONE: Around = () => undefined;
