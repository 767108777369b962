import type { Point2 } from '../math/index.ts';
import type { Brush } from '../brush/index.ts';
import type { Entity } from '../entity/index.ts';

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
}

/** A doorway between two rooms that share a wall. */
export interface Opening {
  readonly id: string;
  readonly rooms: readonly [string, string];
  /** Which edge of the first room's footprint. */
  readonly side: number;
  /** Centre of the opening, in cm from the start of that edge. */
  readonly at: number;
  readonly width: number;
  readonly height: number;
  /** Height of the lower edge above the higher of the two floors. */
  readonly sill: number;
}

export interface MapSettings {
  /** Grid step, cm. */
  readonly grid: number;
  /** Even light everywhere: colour and strength in lux. */
  readonly ambientColor: string;
  readonly ambientLux: number;
  readonly skyColor: string;
}

/** A map as a value. Collections are keyed by id; nothing is ever changed in place. */
export interface MapDocument {
  readonly name: string;
  readonly settings: MapSettings;
  readonly rooms: ReadonlyMap<string, Room>;
  readonly openings: ReadonlyMap<string, Opening>;
  readonly brushes: ReadonlyMap<string, Brush>;
  readonly entities: ReadonlyMap<string, Entity>;
  /** Fields of newer files, kept as they are. */
  readonly extra: Readonly<Record<string, unknown>>;
}

/** The keyed collections of a document. */
export const COLLECTIONS = ['rooms', 'openings', 'brushes', 'entities'] as const;
export type Collection = (typeof COLLECTIONS)[number];

export const INITIAL_SETTINGS: MapSettings = { grid: 16, ambientColor: '#c9d4e6', ambientLux: 4, skyColor: '#bcd3e6' };

export const emptyMap = (name: string): MapDocument => ({
  name,
  settings: INITIAL_SETTINGS,
  rooms: new Map(),
  openings: new Map(),
  brushes: new Map(),
  entities: new Map(),
  extra: {},
});
