import { MATERIALS as LIST } from './list.ts';
import { MASKS } from './masks.generated.ts';
import type { Material } from './types.ts';

/** All materials that ship; those that are not solid with what of them hides what is behind. */
export const MATERIALS: readonly Material[] = LIST.map((m) => (MASKS[m.name] ? { ...m, mask: MASKS[m.name] } : m));
