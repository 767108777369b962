import type { MapDocument } from '../map/index.ts';
import type { Vec3 } from '../math/index.ts';

/** Something wrong with a map, found as it is edited. */
export interface Problem {
  /** Stable for the same trouble with the same things. */
  readonly id: string;
  readonly rule: string;
  readonly severity: 'error' | 'warning';
  readonly text: string;
  readonly at?: Vec3;
  readonly brushes?: readonly string[];
  readonly entities?: readonly string[];
}

/** What a rule may ask about space: whether a point is open to the inside, solid or void. Unknown until the structure is built. */
export interface CheckContext {
  readonly placeOf?: (p: Vec3) => 'open' | 'solid' | 'void';
}

export interface Rule {
  readonly code: string;
  readonly find: (doc: MapDocument, context: CheckContext) => Problem[];
  /** What the fix does, in a few words, and the fix. Absent when only a person can decide. */
  readonly fix?: { readonly label: string; readonly apply: (doc: MapDocument, problem: Problem) => MapDocument };
}
