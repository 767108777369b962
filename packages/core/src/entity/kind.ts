import type { Decal } from '../decal/index.ts';
import type { Box, Vec3 } from '../math/index.ts';
import { readValues, type ParamSpecs, type ParamValue, type ValuesOf } from '../params/index.ts';
import type { Behaviour } from './behaviour.ts';
import type { Handle } from './handles.ts';
import type { LightSource } from './light-source.ts';
import type { Model } from './model.ts';
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

/** For whom a spawn is: one player, one of up to four who play together, a team, or everybody against everybody. */
export type BeginsFor =
  | { readonly for: 'solo' | 'all' }
  | { readonly for: 'together'; readonly number: number }
  | { readonly for: 'team'; readonly team: string };

/** Keys and tokens that a thing asks for, or gives. */
export interface Trade {
  readonly wantsKey?: string;
  readonly wantsTokens?: number;
  readonly givesKey?: string;
  /** Each time it is taken; `again` when more than once. */
  readonly givesTokens?: number;
  readonly again?: boolean;
}

/** A region that is seen far away: how many times as large, and the thing at which one has to stand to see it as from its sign. */
export interface Distant {
  readonly scale: number;
  readonly stands: string;
}

/** A simple body of a figure, about its own middle, in cm from the thing. */
export interface FigureBody {
  readonly shape: 'box' | 'round';
  readonly at: Vec3;
  /** East, north and up. */
  readonly size: Vec3;
  readonly color: string;
  /** It is not there while the thing's `gone` says so. */
  readonly taken?: true;
}

/** A thing with its parameters filled in: those the file lacks, or that do not fit, have their defaults. */
export type Thing<P extends ParamSpecs> = Entity & { readonly values: ValuesOf<P> };

/** What a thing may ask of its map. */
export interface Around {
  /** Other things, by id. */
  readonly thing: (id: string) => Entity | undefined;
  /** What the parts of a thing fill where they were drawn, by number; a part that is not there is empty. */
  readonly parts: (id: string) => readonly Box[];
}

/** What everything knows of a kind of thing without knowing the kind: data, and what a thing of the kind can be asked. */
export interface EntityKind extends KindFacts {
  readonly params: ParamSpecs;
  readonly symbol: (entity: Entity, view: SymbolView, around?: Around) => readonly Stroke[];
  readonly mark: (entity: Entity, around?: Around) => readonly SpaceLine[];
  readonly reach: (entity: Entity, around?: Around) => readonly Reach[];
  readonly handles: (entity: Entity, around?: Around) => readonly Handle[];
  /** Null for what does not shine at all; whether a kind shines is {@link KindFacts.shines}. */
  readonly light: (entity: Entity, around?: Around) => LightSource | null;
  /** Whether a player who looks at it can use it. */
  readonly usable: (entity: Entity) => boolean;
  /** What a player is told when it signals something: a sentence that begins with what it is called, or null. */
  readonly hint: (entity: Entity, signal: string, name: string) => string | null;
  /** Whether its brushes shade the light of a build. */
  readonly shades: (entity: Entity) => boolean;
  /** The thing at whose place it has its light, wherever it moves; empty for where it is. */
  readonly litAt: (entity: Entity) => string;
  /** What is heard when it signals something, by signal. */
  readonly sounds: (entity: Entity) => Readonly<Record<string, string>>;
  /** For whom players begin there; null for what is no spawn. */
  readonly begins: (entity: Entity) => BeginsFor | null;
  /** The prop that stands there, and how; null for what is none. */
  readonly model: (entity: Entity) => Model | null;
  /** The picture that it throws on what is near; null for what throws none. */
  readonly decal: ((entity: Entity) => Decal) | null;
  /** How its region is seen far away; null for what is no scenery. */
  readonly distant: (entity: Entity) => Distant | null;
  /** What it asks of players who want something of it, and what it gives them. */
  readonly trade: (entity: Entity) => Trade;
  /** What stands there in play, of simple bodies. */
  readonly figure: (entity: Entity) => readonly FigureBody[];
  readonly flaws: (entity: Entity, around?: Around) => readonly ThingFlaw[];
  /** Null for what only stands there. */
  readonly behaviour: Behaviour<Entity> | null;
}

interface KindFacts {
  /** As files name it. */
  readonly kind: string;
  readonly label: string;
  readonly help: string;
  /** Under which head Stock lists it. */
  readonly family: 'Players' | 'What moves' | 'Regions' | 'Light' | 'Props';
  /** Under which head of Stock it is chosen: by its kind, or by what it shows. */
  readonly stock: 'things' | 'props' | 'decals';
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
  /** Whether what is seen from it is what faces reflect. */
  readonly reflects: boolean;
  /** The parameter that says how strong its light is; null for what does not shine. */
  readonly strength: string | null;
  /** For what stands in the sky, whichever way it is turned: the parameter that says how high. */
  readonly inSky: string | null;
  /** Whether its parts move in play: their brushes then neither cut nor seal. */
  readonly moves: boolean;
  /** Whether it turns about its own place, so that this is best in the middle of its brushes. */
  readonly turnsAboutMiddle: boolean;
  /** What a new one of a kind that owns brushes consists of until somebody shapes it, from its place. */
  readonly firstBody: Box | null;
  /** The signal with which a player goes on to the next map; null for none. */
  readonly leads: string | null;
  /** The action that is likely meant when somebody wires it. Absent: its first. */
  readonly likely: string | null;
  /** The action that shows what it does when somebody tries it; null when it does nothing. */
  readonly tries: string | null;
  /** Whether it closes the opening that it stands in. */
  readonly closes: boolean;
  /** For what may have several parts: the parameter that lists what each does, and how an entry is told from a place that lies `by` (cm) away. */
  readonly parted: {
    readonly list: string;
    readonly moved: (entry: unknown, by: Vec3) => unknown;
    /** The straight way that it slides, cm; null for what does not. */
    readonly slides: (entry: unknown) => Vec3 | null;
    readonly slid: (entry: unknown, way: Vec3) => unknown;
  } | null;
  /** Whether people are meant to stand on it. */
  readonly carries: boolean;
  /** Height (cm) at which the pointer takes hold of it in the Eye. */
  readonly grip: number;
  /** Values that make it like a thing that people know. */
  readonly presets: readonly { readonly label: string; readonly values: Readonly<Record<string, ParamValue>> }[];
  readonly signals: Readonly<Record<string, Port>>;
  readonly actions: Readonly<Record<string, Port>>;
}

/** A kind as its file gives it: typed by its own parameters, with nothing said that is as usual. */
export type KindFile<P extends ParamSpecs> = Pick<KindFacts, Said> &
  Partial<Omit<KindFacts, Said | 'shines' | 'moves'>> &
  Asked<P>;

type Said = 'kind' | 'label' | 'help' | 'family' | 'standsAt';

interface Asked<P extends ParamSpecs> {
  readonly params: P;
  readonly symbol: (thing: Thing<P>, view: SymbolView, around: Around) => readonly Stroke[];
  /** How it is marked in the Eye. */
  readonly mark: (thing: Thing<P>, around: Around) => readonly SpaceLine[];
  readonly reach?: (thing: Thing<P>, around: Around) => readonly Reach[];
  readonly handles?: (thing: Thing<P>, around: Around) => readonly Handle[];
  readonly light?: (thing: Thing<P>, around: Around) => LightSource;
  readonly usable?: (thing: Thing<P>) => boolean;
  readonly hint?: (thing: Thing<P>, signal: string, name: string) => string | null;
  readonly shades?: (thing: Thing<P>) => boolean;
  readonly litAt?: (thing: Thing<P>) => string;
  readonly sounds?: (thing: Thing<P>) => Readonly<Record<string, string>>;
  readonly begins?: (thing: Thing<P>) => BeginsFor;
  readonly model?: (thing: Thing<P>) => Model;
  readonly decal?: (thing: Thing<P>) => Decal;
  readonly distant?: (thing: Thing<P>) => Distant;
  readonly trade?: (thing: Thing<P>) => Trade;
  readonly figure?: (thing: Thing<P>) => readonly FigureBody[];
  readonly flaws?: (thing: Thing<P>, around: Around) => readonly ThingFlaw[];
  readonly behaviour?: Behaviour<Thing<P>>;
}

/** Makes of a kind's file what the catalogue holds. */
export function defineKind<P extends ParamSpecs>(file: KindFile<P>): EntityKind {
  // Things are never changed in place.
  const read = new WeakMap<Entity, Thing<P>>();
  const asThing = (e: Entity): Thing<P> => {
    let known = read.get(e);
    if (!known) read.set(e, (known = { ...e, values: readValues(file.params, e.params) }));
    return known;
  };
  const {
    symbol,
    mark,
    reach,
    handles,
    light,
    usable,
    hint,
    shades,
    litAt,
    sounds,
    begins,
    model,
    decal,
    distant,
    trade,
    figure,
    flaws,
    behaviour,
  } = file;
  return {
    stock: 'things',
    body: 'point',
    facing: null,
    floods: false,
    spawns: false,
    reflects: false,
    grip: 0,
    closes: false,
    parted: null,
    carries: false,
    tries: null,
    likely: null,
    leads: null,
    firstBody: null,
    turnsAboutMiddle: false,
    strength: null,
    inSky: null,
    presets: [],
    signals: {},
    actions: {},
    ...file,
    shines: light !== undefined,
    moves: behaviour?.poses !== undefined,
    symbol: (e, view, around = ALONE) => symbol(asThing(e), view, around),
    mark: (e, around = ALONE) => mark(asThing(e), around),
    reach: (e, around = ALONE) => reach?.(asThing(e), around) ?? [],
    handles: (e, around = ALONE) => handles?.(asThing(e), around) ?? [],
    light: (e, around = ALONE) => light?.(asThing(e), around) ?? null,
    usable: (e) => usable?.(asThing(e)) ?? false,
    hint: (e, signal, name) => hint?.(asThing(e), signal, name) ?? null,
    shades: (e) => shades?.(asThing(e)) ?? true,
    litAt: (e) => litAt?.(asThing(e)) ?? '',
    sounds: (e) => sounds?.(asThing(e)) ?? {},
    begins: (e) => begins?.(asThing(e)) ?? null,
    model: (e) => model?.(asThing(e)) ?? null,
    decal: decal ? (e) => decal(asThing(e)) : null,
    distant: (e) => distant?.(asThing(e)) ?? null,
    trade: (e) => trade?.(asThing(e)) ?? {},
    figure: (e) => figure?.(asThing(e)) ?? [],
    flaws: (e, around = ALONE) => flaws?.(asThing(e), around) ?? [],
    behaviour: behaviour ? onEntities(behaviour, asThing) : null,
  };
}

/** A behaviour of things with their parameters read, as one of things as they stand in a map. */
function onEntities<T extends Entity>(of: Behaviour<T>, as: (e: Entity) => T): Behaviour<Entity> {
  /** Parameters are read once: a world asks about the same things in every step. */
  const read = new WeakMap<Entity, T>();
  const thing = (e: Entity): T => {
    let known = read.get(e);
    if (!known) read.set(e, (known = as(e)));
    return known;
  };
  const { begin, step, notices, poses, way, ends, beneath, gone, hum, shine, blocked } = of;
  return {
    begin: (e, around) => begin(thing(e), around),
    step: (e, memory, happenings, stage) => step(thing(e), memory, happenings, stage),
    ...(notices && { notices: (e) => notices(thing(e)) }),
    ...(poses && { poses: (e, memory, around) => poses(thing(e), memory, around) }),
    ...(way && { way: (e, around) => way(thing(e), around) }),
    ...(ends && { ends: (e, around) => ends(thing(e), around) }),
    ...(gone && { gone }),
    ...(hum && { hum: (e, memory) => hum(thing(e), memory) }),
    ...(shine && { shine: (e, memory) => shine(thing(e), memory) }),
    ...(beneath && { beneath: (e, around) => beneath(thing(e), around) }),
    ...(blocked && {
      blocked: (e, before, after, player, stage) => blocked(thing(e), before, after, player, stage),
    }),
  };
}

/** Nothing else is there. */
const ALONE: Around = { thing: () => undefined, parts: () => [] };
