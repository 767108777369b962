import type { MaterialLookup } from '@yesca/core';
import { MATERIALS } from '@yesca/stock';

const known = new Map(MATERIALS.map((m) => [m.name, m]));

/** The materials that ship: without a server nothing is known of imported ones. */
export const shipped: MaterialLookup = (name) => known.get(name);
