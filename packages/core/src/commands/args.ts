import * as z from 'zod/mini';
import { ROLES, SHAPE_KINDS, type Role, type ShapeRecipe, type TextureFrame } from '../brush/index.ts';
import type { FaceRef, Picked } from '../edit/index.ts';
import type { Affine, Box, Plane, Point2, Vec3 } from '../math/index.ts';
import type { ParamValue } from '../params/index.ts';

z.config({ ...z.locales.en(), jitless: true });

/** What an argument of a command may be: checked as data, and of a type to who calls it. */
export interface Arg<T> {
  readonly schema: z.ZodMiniType;
  /** What it looks like, for people who write scripts. */
  readonly says: string;
  readonly optional?: true;
  /** Holds the type; never there. */
  readonly type?: T;
}

export type ArgShape = Readonly<Record<string, Arg<unknown>>>;

type TypeOf<A> = A extends Arg<infer T> ? T : never;
type OptionalKeys<S> = { [K in keyof S]: S[K] extends { readonly optional: true } ? K : never }[keyof S];

/** The arguments of a command as its caller gives them. */
export type ArgsOf<S> = {
  readonly [K in Exclude<keyof S, OptionalKeys<S>>]: TypeOf<S[K]>;
} & { readonly [K in OptionalKeys<S>]?: TypeOf<S[K]> };

type VariantOf<K extends string, V> = {
  [N in keyof V]: { readonly [P in K]: N } & ArgsOf<V[N]>;
}[keyof V];

const arg = <T>(says: string, schema: z.ZodMiniType): Arg<T> => ({ schema, says });

const MOST_IDS = 200_000;
const id = z.string().check(z.minLength(1), z.maxLength(64));
const finite = z.number();
const vec3 = z.tuple([finite, finite, finite]);
const point2 = z.tuple([finite, finite]);
const box = z.object({ min: vec3, max: vec3 });
const ids = z.array(id).check(z.maxLength(MOST_IDS));
const face = z.object({ brush: id, face: z.int().check(z.minimum(0)) });
const row = z.tuple([finite, finite, finite, finite]);
const frame = z.object({ u: row, v: row });
const material = z.string().check(z.minLength(1), z.maxLength(128));
const outline = z.array(point2).check(z.minLength(3), z.maxLength(256));
const paramValue: z.ZodMiniType = z.lazy(() =>
  z.union([finite, z.string(), z.boolean(), z.array(paramValue), z.record(z.string(), paramValue)]),
);
const shapeParams = z.record(z.string(), z.union([finite, z.string(), z.boolean()]));
const paramValues = z.record(z.string(), z.union([paramValue, z.null()]));

/** Arguments of commands. */
export const a = {
  /** May be left out. */
  maybe: <T>(of: Arg<T>): Arg<T> & { readonly optional: true } => ({
    schema: z.optional(of.schema),
    says: of.says,
    optional: true,
  }),
  orNone: <T>(of: Arg<T>): Arg<T | null> => arg(`${of.says} or null`, z.nullable(of.schema)),
  list: <T>(of: Arg<T>, most = MOST_IDS): Arg<readonly T[]> =>
    arg(`list of ${of.says}`, z.array(of.schema).check(z.maxLength(most))),
  record: <S extends ArgShape>(shape: S): Arg<ArgsOf<S>> => arg(saysOf(shape), objectOf(shape)),
  choice: <const T extends string>(...of: readonly T[]): Arg<T> =>
    arg(of.map((o) => `"${o}"`).join(' or '), z.enum(of as [T, ...T[]])),
  /** Data of a type that what it says cannot tell in full. */
  as: <T>(of: Arg<unknown>): Arg<T> => arg(of.says, of.schema),
  /** One of several shapes, told apart by a field. */
  oneOf: <K extends string, const V extends Readonly<Record<string, ArgShape>>>(
    key: K,
    variants: V,
  ): Arg<VariantOf<K, V>> => {
    const all = Object.entries(variants).map(([name, shape]) => ({
      [key]: arg(`"${name}"`, z.literal(name)),
      ...shape,
    }));
    return arg(all.map(saysOf).join(' or '), z.discriminatedUnion(key, all.map(objectOf) as never));
  },
  axis: arg<0 | 1 | 2>('0, 1 or 2 (east, north, up)', z.literal([0, 1, 2])),
  id: arg<string>('id', id),
  ids: arg<readonly string[]>('list of ids', ids),
  text: arg<string>('text', z.string().check(z.maxLength(64 * 1024 * 1024))),
  name: arg<string>('text', z.string().check(z.maxLength(200))),
  material: arg<string>('material', material),
  yes: arg<boolean>('true or false', z.boolean()),
  number: arg<number>('number', finite),
  whole: arg<number>('whole number', z.int()),
  vec3: arg<Vec3>('[x, y, z]', vec3),
  point2: arg<Point2>('[x, y]', point2),
  outline: arg<readonly Point2[]>('list of [x, y]', outline),
  box: arg<Box>('{min, max}', box),
  plane: arg<Plane>('{normal, distance}', z.object({ normal: vec3, distance: finite })),
  affine: arg<Affine>('12 numbers, three rows', z.array(finite).check(z.length(12))),
  face: arg<FaceRef>('{brush, face}', face),
  faces: arg<readonly FaceRef[]>('list of {brush, face}', z.array(face).check(z.minLength(1), z.maxLength(MOST_IDS))),
  frame: arg<TextureFrame>('{u, v}', frame),
  role: arg<Role>('role', z.enum(ROLES)),
  recipe: arg<ShapeRecipe>(
    '{kind, box, params, outline?}',
    z.object({
      kind: z.enum(SHAPE_KINDS),
      box,
      params: shapeParams,
      outline: z.optional(outline),
    }),
  ),
  value: arg<unknown>('a value', paramValue),
  params: arg<Readonly<Record<string, ParamValue | null>>>('values by name', paramValues),
  /** By id. */
  numbers: arg<Readonly<Record<string, number>>>('numbers by id', z.record(z.string(), finite)),
  shapeParams: arg<ShapeRecipe['params']>('values by name', shapeParams),
  /** Brushes, things, rooms and openings. */
  picked: arg<PickedIds>(
    '{brushes?, entities?, rooms?, openings?}: lists of ids',
    z.object({
      brushes: z.optional(ids),
      entities: z.optional(ids),
      rooms: z.optional(ids),
      openings: z.optional(ids),
    }),
  ),
  /** Anything that is written as an object; what reads it looks at it. */
  item: arg<Readonly<Record<string, unknown>>>('object', z.record(z.string(), z.json())),
};

const saysOf = (shape: ArgShape): string =>
  `{${Object.entries(shape)
    .map(([key, { says, optional }]) => `${key}${optional ? '?' : ''}: ${says}`)
    .join(', ')}}`;

/** What is picked, as data. */
export type PickedIds = { readonly [K in keyof Picked]?: readonly string[] };

/** What is picked, as sets are written as data. */
export const idsOf = (picked: Picked): PickedIds =>
  Object.fromEntries(Object.entries(picked).flatMap(([key, ids]) => (ids.size ? [[key, [...ids]]] : [])));

export const pickedOf = (ids: PickedIds): Picked =>
  Object.fromEntries(Object.entries(ids).map(([key, list]) => [key, new Set(list)]));

export const objectOf = (shape: ArgShape): z.ZodMiniType =>
  z.strictObject(Object.fromEntries(Object.entries(shape).map(([key, { schema }]) => [key, schema])));

/** What is wrong with arguments, in a sentence that names the place; null when nothing is. */
export function argsFlaw(schema: z.ZodMiniType, args: unknown): string | null {
  const result = schema.safeParse(args);
  if (result.success) return null;
  const issue = result.error.issues[0]!;
  const place = issue.path.map((step) => (typeof step === 'number' ? `[${step}]` : `.${String(step)}`)).join('');
  return `${place ? `At ${place.replace(/^\./, '')}: ` : ''}${issue.message}.`;
}
