import type { FaceRef } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import type { Vec3 } from '../math/index.ts';
import type { MaterialLookup } from '../surface/index.ts';

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
  readonly rooms?: readonly string[];
  readonly openings?: readonly string[];
  /** The faces concerned, where it is about single faces. */
  readonly faces?: readonly FaceRef[];
}

/** How large a player is, and where one could be; play answers, since checks know nothing of movement. All lengths in cm. */
export interface PlayerBody {
  readonly width: number;
  readonly standing: number;
  readonly crouching: number;
  /** The highest ledge walked up without jumping. */
  readonly step: number;
  /** Whether a crouching player fits with the feet there. */
  readonly fits: (feet: Vec3) => boolean;
  /** Height of the first floor under a point; null when there is none. */
  readonly groundUnder: (p: Vec3) => number | null;
}

/** What a rule may ask: whether a point is open to the inside, solid or void (unknown until the structure is built), and the rest. */
export interface CheckContext {
  readonly placeOf?: (p: Vec3) => 'open' | 'solid' | 'void';
  readonly body?: PlayerBody;
  /** What is known of materials. Absent: nothing, and nothing is said about them. */
  readonly materials?: MaterialLookup;
  /** Ids of the selected brushes and entities, where somebody is editing. */
  readonly selected?: ReadonlySet<string>;
}

/** One way to fix a problem. */
export interface Fix {
  /** What it does, in a few words. */
  readonly label: string;
  /** Whether it makes sense for this problem. Absent: always. */
  readonly offered?: (doc: MapDocument, problem: Problem) => boolean;
  readonly apply: (doc: MapDocument, problem: Problem, context: CheckContext) => MapDocument;
}

export interface Rule {
  readonly code: string;
  readonly find: (doc: MapDocument, context: CheckContext) => Problem[];
  /** Ways to fix it, the likeliest first. Absent when only a person can decide. */
  readonly fixes?: readonly Fix[];
}
