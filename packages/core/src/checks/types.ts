import type { FaceRef } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import type { Vec3, Winding } from '../math/index.ts';
import type { PropLookup } from '../prop/index.ts';
import type { MaterialLookup } from '../surface/index.ts';

/** Something found out about a map, while it is edited, when it is built, or by the command line. */
export interface Finding {
  /** Stable for the same trouble with the same things. */
  readonly id: string;
  readonly code: string;
  /** Information is of what needs no doing. */
  readonly severity: 'error' | 'warning' | 'info';
  /** What it is, and what to do, as a sentence. */
  readonly text: string;
  readonly at?: Vec3;
  readonly brushes?: readonly string[];
  readonly entities?: readonly string[];
  readonly rooms?: readonly string[];
  readonly openings?: readonly string[];
  /** The faces concerned, where it is about single faces. */
  readonly faces?: readonly FaceRef[];
  /** Of a leak: the way out, and the outline of the hole it goes through. */
  readonly trail?: readonly Vec3[];
  readonly hole?: readonly Vec3[];
}

/** The way from an entity out into the void, as a structure tells. */
export interface Leak {
  /** The entity the trail starts from. */
  readonly entity: string;
  /** From the entity through the middle of every portal to the hole and one step beyond, cm. */
  readonly trail: readonly Vec3[];
  /** The outline of the narrowest opening on the way out: the hole. */
  readonly hole: Winding;
  /** Brushes that touch the hole. */
  readonly beside: readonly string[];
}

/** A gate as it stands in a structure. */
export interface Gate {
  readonly brush: string;
  /** Cells within it. None where it stands in solids or in the void. */
  readonly cells: readonly number[];
  /** The areas that it parts, ascending. One alone: there is a way round it. */
  readonly areas: readonly number[];
  /** Openings past its rims: through these one gets by however it closes. */
  readonly gaps: readonly Winding[];
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
  /** The leak of the structure, if it has one. */
  readonly leak?: Leak | null;
  /** All its leaks, that one first. */
  readonly leaks?: readonly Leak[];
  /** The gates of the structure, each with whether a door closes it. */
  readonly gates?: readonly (Gate & { readonly closes: boolean })[];
  /** What is known of materials. Absent: nothing, and nothing is said about them. */
  readonly materials?: MaterialLookup;
  /** What is known of props. Absent: nothing, and nothing is said about them. */
  readonly props?: PropLookup;
  /** Ids of the selected brushes and entities, where somebody is editing. */
  readonly selected?: ReadonlySet<string>;
}

/** One way to fix a problem. */
export interface Fix {
  /** What it does, in a few words. */
  readonly label: string;
  /** Whether it makes sense for this problem. Absent: always. */
  readonly offered?: (doc: MapDocument, problem: Finding) => boolean;
  readonly apply: (doc: MapDocument, problem: Finding, context: CheckContext) => MapDocument;
}

export interface Rule {
  readonly code: string;
  readonly find: (doc: MapDocument, context: CheckContext) => Finding[];
  /** Ways to fix it, the likeliest first. Absent when only a person can decide. */
  readonly fixes?: readonly Fix[];
  /** Of how many at least, where it is more than one. */
  readonly least?: number;
  /** What each of its findings is about: a fix needs it to be still there. Absent: brushes or things. */
  readonly about?: 'brushes' | 'entities' | 'rooms' | 'openings' | 'faces' | 'hole';
}
