import type { Vec3 } from '../math/index.ts';

/** What every parameter tells of itself: to people in a field and a sentence, to programs as a default. */
export interface Described<T> {
  readonly label: string;
  /** One sentence: what it does. Shown as the field's tip and in the documents. */
  readonly help: string;
  readonly initial: T;
  /** Whether it matters beside the others' values. Absent: always. */
  readonly shownWhen?: (values: ParamValues) => boolean;
}

interface Ranged {
  readonly min: number;
  readonly max: number;
}

/** A number: a length (cm), an angle (°), a share of one, a count, or anything else with its unit. */
export interface NumberParam extends Described<number>, Ranged {
  readonly type: 'number';
  readonly measure: 'length' | 'angle' | 'part' | 'count' | 'other';
  readonly unit: string;
  /** It may be left unset, which this word then says. */
  readonly none?: string;
  /** Shown and typed in another unit: so many of it in one of its own. */
  readonly shown?: { readonly unit: string; readonly times: number };
}

export interface SwitchParam extends Described<boolean> {
  readonly type: 'switch';
}

/** One of a few words; how each is called is its own name unless `names` tells otherwise. */
export interface ChoiceParam<C extends string = string> extends Described<C> {
  readonly type: 'choice';
  readonly choices: readonly C[];
  readonly names?: Readonly<Partial<Record<C, string>>>;
}

export interface TextParam extends Described<string> {
  readonly type: 'text';
  readonly longest: number;
  /** Whether it may have several lines. */
  readonly lines: boolean;
}

/** `#rrggbb` in sRGB. */
export interface ColorParam extends Described<string> {
  readonly type: 'color';
}

/**
 * A place or a way, in cm. A `way` turns and stretches with the thing it belongs to; a `place` moves along as well. An `axis` is what
 * something turns about: mirrored, it points so that the turn is mirrored too; its length does not count.
 */
export interface VectorParam extends Described<Vec3>, Ranged {
  readonly type: 'vector';
  readonly means: 'place' | 'way' | 'axis';
}

/** The id or name of something else; empty for none. */
export interface ReferenceParam extends Described<string> {
  readonly type: 'reference';
  readonly to: 'thing' | 'brush' | 'material' | 'model' | 'sound';
}

export interface ListParam extends Described<readonly ParamValue[]> {
  readonly type: 'list';
  readonly of: ParamSpec;
  readonly most: number;
}

/** Several values that belong together: a leaf of a door, a stop of a lift. */
export interface RecordParam extends Described<ParamRecord> {
  readonly type: 'record';
  readonly fields: ParamSpecs;
  /** The number of the first one in a list of them. Absent: 1. */
  readonly first?: number;
}

/**
 * Places on the way of something that moves: when (s), where it then is and how it is turned, from where it was drawn. `turn` is the
 * axis it is turned about, as long as the degrees.
 */
export interface Keyframe {
  readonly at: number;
  readonly move: Vec3;
  readonly turn: Vec3;
  /** How it gets there from the keyframe before: gently or at an even speed. Absent: gently. */
  readonly ease?: Ease;
  /** Seconds it stays there; later keyframes come so much later. Absent: none. */
  readonly hold?: number;
}

export const EASES = ['gentle', 'even', 'start', 'end'] as const;
/** Speeding up and slowing down, an even speed, speeding up only, or slowing down only. */
export type Ease = (typeof EASES)[number];

export interface KeyframesParam extends Described<readonly Keyframe[]> {
  readonly type: 'keyframes';
}

export type ParamSpec =
  | NumberParam
  | SwitchParam
  | ChoiceParam
  | TextParam
  | ColorParam
  | VectorParam
  | ReferenceParam
  | ListParam
  | RecordParam
  | KeyframesParam;

export interface ParamRecord {
  readonly [key: string]: ParamValue;
}
export type ParamValue = number | string | boolean | Keyframe | ParamRecord | readonly ParamValue[];
export type ParamValues = Readonly<Record<string, ParamValue>>;

export type ParamSpecs = Readonly<Record<string, ParamSpec>>;

/** The values that parameters stand for: `candela: number`, `color: string`. */
export type ValuesOf<P extends ParamSpecs> = { readonly [K in keyof P]: P[K]['initial'] };
