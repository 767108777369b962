import { keptStore } from './kept.ts';
import { toggled, usedNow } from './lists.ts';

/** More than this that were used last are not at hand any more. */
const RECENT = 4;

/** Kinds of things that a user placed last, newest first, and those they keep at hand. */
export const useKinds = keptStore<{ readonly recent: readonly string[]; readonly favourites: readonly string[] }>(
  'kinds',
  { recent: [], favourites: [] },
  ['recent', 'favourites'],
);

export const kindUsed = (kind: string): void =>
  useKinds.setState(({ recent }) => ({ recent: usedNow(recent, kind, RECENT) }));

export const toggleKept = (kind: string): void =>
  useKinds.setState(({ favourites }) => ({ favourites: toggled(favourites, kind) }));
