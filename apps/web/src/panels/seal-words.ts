import type { SealingState } from '../state/editor.ts';

/** Whether a map is closed, as its badge says it. */
export const SEAL_WORDS: Readonly<Record<SealingState, string>> = {
  checking: 'checking',
  sealed: 'sealed',
  leaking: 'leaking',
  empty: 'no inside yet',
};
