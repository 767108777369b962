import type { Vec3 } from '../math/index.ts';
import type {
  ChoiceParam,
  ColorParam,
  Described,
  KeyframesParam,
  ListParam,
  NumberParam,
  ParamSpec,
  ParamSpecs,
  RecordParam,
  ReferenceParam,
  SwitchParam,
  TextParam,
  ValuesOf,
  VectorParam,
} from './types.ts';

/** What a parameter tells besides its kind. */
type About<T> = Omit<Described<T>, 'initial'>;
interface Range {
  readonly min: number;
  readonly max: number;
}

type Extras = Pick<NumberParam, 'none' | 'shown'>;

const numberOf =
  (measure: NumberParam['measure'], unit: string, usual: Range) =>
  (
    initial: number,
    { min = usual.min, max = usual.max, ...about }: About<number> & Partial<Range> & Extras,
  ): NumberParam => ({ type: 'number', measure, unit, initial, min, max, ...about });

/** A length in cm. */
export const length = numberOf('length', 'cm', { min: 0, max: 100_000 });
/** An angle in degrees. */
export const angle = numberOf('angle', '°', { min: 0, max: 360 });
/** A share of one. */
export const part = numberOf('part', '', { min: 0, max: 1 });
/** A whole number. */
export const integer = numberOf('count', '', { min: 0, max: 1_000_000 });
/** Any other number, with its unit. */
export const quantity = (unit: string, initial: number, about: About<number> & Range & Extras): NumberParam =>
  numberOf('other', unit, about)(initial, about);

export const yesNo = (initial: boolean, about: About<boolean>): SwitchParam => ({ type: 'switch', initial, ...about });

export const choice = <const C extends string>(
  choices: readonly C[],
  initial: NoInfer<C>,
  about: About<C> & Pick<ChoiceParam<C>, 'names'>,
): ChoiceParam<C> => ({ type: 'choice', choices, initial, ...about });

export const text = (
  initial: string,
  { longest = 200, lines = false, ...about }: About<string> & Partial<Pick<TextParam, 'longest' | 'lines'>>,
): TextParam => ({ type: 'text', initial, longest, lines, ...about });

/** A colour as `#rrggbb`. */
export const color = (initial: string, about: About<string>): ColorParam => ({ type: 'color', initial, ...about });

/** A way from the thing, in cm: it turns with it. */
export const way = (initial: Vec3, about: About<Vec3>): VectorParam => ({
  type: 'vector',
  means: 'way',
  initial,
  min: -100_000,
  max: 100_000,
  ...about,
});
/** A place in the map, in cm. */
export const place = (initial: Vec3, about: About<Vec3>): VectorParam => ({
  type: 'vector',
  means: 'place',
  initial,
  min: -100_000,
  max: 100_000,
  ...about,
});

/** What something turns about. */
export const axis = (initial: Vec3, about: About<Vec3>): VectorParam => ({
  type: 'vector',
  means: 'axis',
  initial,
  min: -100_000,
  max: 100_000,
  ...about,
});

export const reference = (
  to: ReferenceParam['to'],
  about: About<string> & { readonly initial?: string },
): ReferenceParam => ({
  type: 'reference',
  to,
  initial: '',
  ...about,
});

type Many<S extends ParamSpec> = readonly S['initial'][];

export const list = <S extends ParamSpec>(
  of: S,
  { initial = [], ...about }: About<Many<S>> & { readonly most?: number; readonly initial?: Many<S> },
): Omit<ListParam, 'initial'> & { readonly initial: Many<S> } => ({ type: 'list', of, most: 64, initial, ...about });

/** Several values that belong together, each a parameter of its own. */
export const record = <F extends ParamSpecs>(
  fields: F,
  about: About<ValuesOf<F>> & Pick<RecordParam, 'first'>,
): Omit<RecordParam, 'initial'> & { readonly initial: ValuesOf<F> } => ({
  type: 'record',
  fields,
  initial: Object.fromEntries(Object.entries(fields).map(([key, spec]) => [key, spec.initial])) as ValuesOf<F>,
  ...about,
});

export const keyframes = (about: About<KeyframesParam['initial']>): KeyframesParam => ({
  type: 'keyframes',
  initial: [],
  ...about,
});
