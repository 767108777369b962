import { create, type StoreApi, type UseBoundStore } from 'zustand';
import { persist } from 'zustand/middleware';
import { initialValues, readValues, type ParamSpecs, type ValuesOf } from '@yesca/core';

/** State of one kind, of which some is kept in this browser. */
export type KeptStore<T> = UseBoundStore<StoreApi<T>>;

/** A store that keeps what is named of it in this browser. */
export function keptStore<T extends object>(name: string, initial: T, keep: readonly (keyof T)[]): KeptStore<T> {
  const kept = (state: T) => Object.fromEntries(keep.map((key) => [key, state[key]]));
  return create<T>()(persist(() => initial, { name: `yesca-${name}`, partialize: (state) => kept(state) as T }));
}

/** Options declared as parameters: a store of their values, kept in this browser, and what the one panel of parameters shows. */
export type Options<S extends ParamSpecs = ParamSpecs> = KeptStore<ValuesOf<S>> & {
  readonly specs: S;
  /** Sets one that is known by name only, as a panel does. */
  readonly put: (key: string, value: ValuesOf<S>[keyof S]) => void;
};

/** Options under a name. What was kept and no longer fits is what it is at first. */
export function options<S extends ParamSpecs>(name: string, specs: S): Options<S> {
  const store = create<ValuesOf<S>>()(
    persist(() => initialValues(specs), {
      name: `yesca-${name}`,
      merge: (kept) => readValues(specs, (kept ?? {}) as Readonly<Record<string, unknown>>),
    }),
  );
  const put = (key: string, value: ValuesOf<S>[keyof S]) => store.setState({ [key]: value } as Partial<ValuesOf<S>>);
  return Object.assign(store, { specs, put });
}
