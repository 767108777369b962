import { isFiniteVec, type Vec3 } from '../math/index.ts';
import {
  EASES,
  type Keyframe,
  type NumberParam,
  type ParamRecord,
  type ParamSpec,
  type ParamSpecs,
  type ParamValue,
  type ParamValues,
  type RecordParam,
  type ValuesOf,
} from './types.ts';

const COLOR = /^#[0-9a-f]{6}$/i;

/** A number with its unit as people write it: degrees at the number, everything else a space apart. */
export const withUnit = (value: number, unit: string): string =>
  `${value}${unit === '°' || unit === '' ? '' : ' '}${unit}`;

const isVec = (value: unknown): value is Vec3 =>
  Array.isArray(value) && value.length === 3 && isFiniteVec(value as unknown as Vec3);

function numberFlaw({ label, min, max, unit, measure }: NumberParam, value: unknown): string | null {
  if (typeof value !== 'number' || !Number.isFinite(value)) return `${label} must be a number.`;
  if (measure === 'count' && !Number.isInteger(value)) return `${label} must be a whole number.`;
  if (value < min) return `${label} must be at least ${withUnit(min, unit)}.`;
  if (value > max) return `${label} must be at most ${withUnit(max, unit)}.`;
  return null;
}

function keyframesFlaw(label: string, value: unknown): string | null {
  if (!Array.isArray(value)) return `${label} must be a list of keyframes.`;
  let before = -Infinity;
  for (const key of value as Partial<Keyframe>[]) {
    if (typeof key?.at !== 'number' || !Number.isFinite(key.at) || !isVec(key.move) || !isVec(key.turn))
      return `Each keyframe of ${label} needs a time, a move and a turn, in numbers.`;
    if (key.at < 0 || (key.hold !== undefined && !(key.hold >= 0 && key.hold <= 3600)))
      return `Times of ${label} must be from 0 to 3600 s.`;
    if (key.ease !== undefined && !EASES.includes(key.ease))
      return `The ease of a keyframe of ${label} must be one of ${EASES.join(', ')}.`;
    if (key.at <= before) return `The keyframes of ${label} must follow one another in time.`;
    before = key.at;
  }
  return null;
}

/** A record may lack fields, which then have their usual values, and may hold fields of newer versions. */
function recordFlaw({ label, fields }: RecordParam, value: unknown): string | null {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return `${label} must be a set of values.`;
  for (const [key, v] of Object.entries(value)) {
    const spec = fields[key];
    const flaw = spec && v !== undefined ? paramFlaw(spec, v) : null;
    if (flaw) return `${label}: ${flaw}`;
  }
  return null;
}

/** Why a value does not fit a parameter, in one sentence that says what to do; null when it fits. For files, commands and fields alike. */
export function paramFlaw(spec: ParamSpec, value: unknown): string | null {
  const { label } = spec;
  switch (spec.type) {
    case 'number':
      return numberFlaw(spec, value);
    case 'switch':
      return typeof value === 'boolean' ? null : `${label} must be yes or no.`;
    case 'choice':
      return spec.choices.includes(value as string) ? null : `${label} must be one of ${spec.choices.join(', ')}.`;
    case 'color':
      return typeof value === 'string' && COLOR.test(value) ? null : `${label} must be a colour like #ffcc88.`;
    case 'text':
      if (typeof value !== 'string') return `${label} must be a text.`;
      if (value.length > spec.longest) return `${label} must have at most ${spec.longest} characters.`;
      return !spec.lines && /[\r\n]/.test(value) ? `${label} must be a single line.` : null;
    case 'vector':
      if (!isVec(value)) return `${label} must be three numbers.`;
      return value.every((c) => c >= spec.min && c <= spec.max)
        ? null
        : `Each number of ${label} must be from ${spec.min} to ${spec.max} cm.`;
    case 'reference':
      return typeof value === 'string' && value.length <= 128 ? null : `${label} must name a ${spec.to}, or nothing.`;
    case 'list':
      if (!Array.isArray(value)) return `${label} must be a list.`;
      if (value.length > spec.most) return `${label} must have at most ${spec.most} entries.`;
      return value.map((v) => paramFlaw(spec.of, v)).find((flaw) => flaw !== null) ?? null;
    case 'record':
      return recordFlaw(spec, value);
    case 'keyframes':
      return keyframesFlaw(label, value);
  }
}

/** The defaults of parameters. */
export const initialValues = <P extends ParamSpecs>(specs: P): ValuesOf<P> =>
  Object.fromEntries(Object.entries(specs).map(([key, spec]) => [key, spec.initial])) as ValuesOf<P>;

/** A value that fits, with all that records in it lack filled in. */
function completed(spec: ParamSpec, value: ParamValue): ParamValue {
  if (spec.type === 'record') return { ...(value as ParamRecord), ...readValues(spec.fields, value as ParamRecord) };
  if (spec.type === 'list' && Array.isArray(value)) return value.map((v: ParamValue) => completed(spec.of, v));
  return value;
}

/** The values of parameters: those given that fit, defaults for the rest. */
export const readValues = <P extends ParamSpecs>(specs: P, given: Readonly<Record<string, unknown>>): ValuesOf<P> =>
  Object.fromEntries(
    Object.entries(specs).map(([key, spec]) => {
      const value = given[key];
      const fits = value !== undefined && paramFlaw(spec, value) === null;
      return [key, fits ? completed(spec, value as ParamValue) : spec.initial];
    }),
  ) as ValuesOf<P>;

/** The parameters that matter beside the values of the others, in their order. */
export const shownParams = (specs: ParamSpecs, values: ParamValues): [string, ParamSpec][] =>
  Object.entries(specs).filter(([, spec]) => spec.shownWhen?.(values) ?? true);

/** Whether two values are the same. */
export const sameValue = (a: ParamValue | undefined, b: ParamValue | undefined): boolean =>
  a === b || JSON.stringify(a) === JSON.stringify(b);

/** The nearest value that fits: numbers are brought into their range and made whole where they count. */
export function nearestValue(spec: NumberParam, value: number): number {
  const inRange = Math.min(spec.max, Math.max(spec.min, value));
  return spec.measure === 'count' ? Math.round(inRange) : inRange;
}

/** A record with its values changed, each by its own parameter. What no parameter is for stays. */
export const eachField = (
  { fields }: RecordParam,
  value: ParamRecord,
  change: (spec: ParamSpec, value: ParamValue) => ParamValue,
): ParamRecord =>
  Object.fromEntries(Object.entries(value).map(([key, v]) => [key, fields[key] ? change(fields[key], v) : v]));
