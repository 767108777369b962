import type { Affine, Point2, Vec3 } from '../math/index.ts';
import type { Brush, Part, ShapeRecipe } from '../brush/index.ts';
import type { Entity } from '../entity/index.ts';
import type { ParamValue } from '../params/index.ts';

export type { Point2 } from '../math/index.ts';

/** A footprint with heights and walls that keeps its brushes up to date. All lengths in cm. */
export interface Room {
  readonly id: string;
  readonly name: string;
  /** The clear inside, counter-clockwise seen from above. */
  readonly footprint: readonly Point2[];
  readonly floor: number;
  readonly ceiling: number;
  /** Thickness of walls, floor and ceiling. */
  readonly wall: number;
  /** Open to the sky: the ceiling shows it and lets the sun in. */
  readonly open: boolean;
  /** Footprints inside that stand up from the floor or are sunk into it. */
  readonly insets?: readonly Inset[];
  /** Parts that are no longer made: their brushes were shaped or removed by hand. */
  readonly released?: readonly Part[];
  readonly layer?: string;
}

/** A footprint inside a room: a platform or (up to the ceiling) a pillar when raised, a pit or a pool when sunk. */
export interface Inset {
  readonly id: string;
  readonly footprint: readonly Point2[];
  /** Top above the room's floor (cm); negative: bottom below it. */
  readonly height: number;
  /** For a sunk one: the liquid's surface below the room's floor, cm. Absent: dry. */
  readonly fill?: number;
}

export type OpeningKind = 'door' | 'window' | 'arch';

/** An opening through a wall that two rooms share, or through the outer wall of one. */
export interface Opening {
  readonly id: string;
  readonly rooms: readonly [string, string] | readonly [string];
  /** A doorway when absent. All are cut alike; an arch is rounded above. */
  readonly kind?: OpeningKind;
  /** Which edge of the first room's footprint. */
  readonly side: number;
  /** Centre of the opening, in cm from the start of that edge. */
  readonly at: number;
  readonly width: number;
  readonly height: number;
  /** Height of the lower edge above the higher of the two floors. */
  readonly sill: number;
  /** Of an arch: height of its curve (cm). Absent: half its width. */
  readonly rise?: number;
}

/** Brushes and things that are picked as one. */
export interface Group {
  readonly id: string;
  readonly name: string;
  /** The group that this one belongs to, if any. */
  readonly parent?: string;
  /** The numbers its brushes were made from, while they still are: changing them makes the brushes anew. */
  readonly shape?: ShapeRecipe & {
    /** How the made shape was moved since. */
    readonly place?: Affine;
  };
}

/** A sheet of things that can be hidden or locked together. */
export interface Layer {
  readonly id: string;
  readonly name: string;
  readonly visible: boolean;
  readonly locked: boolean;
}

/** A named height with the plan's cut above it, cm. */
export interface Storey {
  readonly id: string;
  readonly name: string;
  readonly floor: number;
  readonly cut: number;
}

/** The line on the Plan along which the Section cuts: a point on it, and which way the Section looks (degrees, as entities turn). */
export interface SectionLine {
  readonly at: Point2;
  readonly looks: number;
  /** How far beyond the cut is drawn, cm. Absent: all. */
  readonly depth?: number;
}

/** How the map was looked at, to come back to. */
export interface SavedView {
  readonly id: string;
  readonly name: string;
  readonly centre: Vec3;
  /** Pixels per cm. */
  readonly zoom: number;
  readonly level: number;
  readonly cutHeight: number;
  readonly section: SectionLine;
  readonly eye?: { readonly at: Vec3; readonly towards: Vec3 };
}

export interface MapSettings {
  /** Grid step, cm. */
  readonly grid: number;
  /** Even light everywhere: colour and strength in lux. */
  readonly ambientColor: string;
  readonly ambientLux: number;
  /** How many times as strong as it is light bounces. Absent: 1. */
  readonly bounced?: number;
  readonly skyColor: string;
  /** Absent: paler than the sky. */
  readonly skyHorizon?: string;
  /** How much of the sky clouds cover, 0 to 1. Absent: none. */
  readonly skyClouds?: number;
  /** How bright the sky is that shines in, nits. Absent: 0. */
  readonly skyNits?: number;
  readonly fogColor?: string;
  /** How far (cm) one sees through the fog: of what is there a twentieth. Absent or 0: there is none. */
  readonly fogReach?: number;
  /** The module in which sizes can be read and typed, cm. Absent: none. */
  readonly module?: number;
  /** Texels a cm that faces should have; the checks measure against it. Absent: two. */
  readonly texelsPerCm?: number;
}

/** When a thing tells that something happened, another does something. */
export interface Wire {
  readonly id: string;
  readonly from: { readonly thing: string; readonly signal: string };
  readonly to: { readonly thing: string; readonly action: string };
  /** What the action is done with, where it takes a value. */
  readonly value?: ParamValue;
  /** Seconds between the two. Absent: none. */
  readonly delay?: number;
  /** How often it works. Absent: every time. */
  readonly times?: number;
}

/** How strong the lights of a map are together: a set of strengths to come back to. */
export interface Mood {
  readonly id: string;
  readonly name: string;
  /** Candela of lamps, lux of suns. */
  readonly lights: readonly { readonly thing: string; readonly strength: number }[];
}

/** The collections of a document, and what each of them holds. `collections.ts` says what is to be known of them. */
export interface Items {
  readonly rooms: Room;
  readonly openings: Opening;
  readonly brushes: Brush;
  readonly entities: Entity;
  readonly groups: Group;
  readonly layers: Layer;
  readonly storeys: Storey;
  readonly views: SavedView;
  readonly wires: Wire;
  readonly moods: Mood;
}
export type Collection = keyof Items;

/** An item of any collection. */
export interface Item {
  readonly id: string;
}

/** A map as a value. Collections are keyed by id; nothing is ever changed in place. */
export type MapDocument = {
  readonly name: string;
  readonly settings: MapSettings;
  /** Fields of newer files, kept as they are. */
  readonly extra: Readonly<Record<string, unknown>>;
} & { readonly [C in Collection]: ReadonlyMap<string, Items[C]> };

export const INITIAL_SETTINGS: MapSettings = { grid: 16, ambientColor: '#c9d4e6', ambientLux: 4, skyColor: '#bcd3e6' };
