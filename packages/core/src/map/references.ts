import type { Collection } from './types.ts';

/** What an item names of another collection. */
export interface Reference<T> {
  readonly to: Collection;
  /** The ids it names that have to be there. */
  readonly of: (item: T) => readonly string[];
  /**
   * The item with other names. A name that is undefined is of something that is not there: the item lets go of it, or, where
   * it is nothing without it, is null.
   */
  readonly renamed: (item: T, name: (id: string) => string | undefined) => T | null;
  /** Following it never leads back. */
  readonly acyclic?: true;
}

interface Options {
  readonly acyclic?: true;
}

/** The fields of an item that hold a kind of value, or nothing. */
type KeysOf<T, V> = { [K in keyof T]-?: Exclude<T[K], undefined> extends V ? K : never }[keyof T];

function without<T extends object>(item: T, key: keyof T): T {
  const { [key]: _, ...rest } = item;
  return rest as T;
}

const listOf = (id: string | undefined): readonly string[] => (id === undefined ? [] : [id]);

/** A field that names one other item, or is absent. */
export function reference<T extends object>(
  key: KeysOf<T, string>,
  to: Collection,
  options: Options = {},
): Reference<T> {
  const held = (item: T) => item[key] as string | undefined;
  return {
    ...options,
    to,
    of: (item) => listOf(held(item)),
    renamed: (item, name) => {
      const was = held(item);
      const now = was === undefined ? was : name(was);
      return now === was ? item : now === undefined ? without(item, key) : { ...item, [key]: now };
    },
  };
}

/** A list of other items without any of which an item is nothing. */
export function references<T extends object>(key: KeysOf<T, readonly string[]>, to: Collection): Reference<T> {
  const held = (item: T) => item[key] as readonly string[];
  return {
    to,
    of: held,
    renamed: (item, name) => {
      const now = held(item).map(name);
      if (now.includes(undefined)) return null;
      return now.every((id, i) => id === held(item)[i]) ? item : { ...item, [key]: now };
    },
  };
}

/** A field that names another item beside what else it says. When that is gone, so is the field, or the item (`remove`). */
export function referenceIn<T extends object, F extends string>(
  key: KeysOf<T, { readonly [P in F]: string }>,
  field: F,
  to: Collection,
  gone: 'clear' | 'remove',
  options: Options = {},
): Reference<T> {
  const held = (item: T) => item[key] as { readonly [P in F]: string } | undefined;
  return {
    ...options,
    to,
    of: (item) => listOf(held(item)?.[field]),
    renamed: (item, name) => {
      const was = held(item);
      if (was === undefined) return item;
      const now = name(was[field]);
      if (now === undefined) return gone === 'clear' ? without(item, key) : null;
      return now === was[field] ? item : { ...item, [key]: { ...was, [field]: now } };
    },
  };
}
