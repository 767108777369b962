import { removePicked } from '../edit/index.ts';
import type { Fix } from './types.ts';

/** Removes the things that a finding is about. */
export const removeThings = (label: string): Fix => ({
  label,
  apply: (doc, { entities = [] }) => removePicked(doc, { entities: new Set(entities) }),
});
