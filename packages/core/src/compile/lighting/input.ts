import type { Brush } from '../../brush/index.ts';
import type { Entity } from '../../entity/index.ts';
import type { Vec3 } from '../../math/index.ts';
import type { MaterialLookup } from '../../surface/index.ts';
import type { Structure } from '../structure/index.ts';
import type { Visibility } from '../visibility/index.ts';

export interface LightingOptions {
  /** Edge of a luxel, cm. */
  readonly luxel: number;
  /** Samples along each edge of a luxel: 1, 2 or 4. */
  readonly samples: number;
  readonly ambientColor: string;
  readonly ambientLux: number;
  /** What faces that show the sky give off, nits. */
  readonly sky: Vec3;
  /** Direct light by a few rays a luxel: for a first look. */
  readonly quick?: boolean;
  /** Without links, whether what bounces is guessed: as much everywhere. */
  readonly guess?: boolean;
  /** Links a patch for what bounces; 0 for direct light alone. */
  readonly links: number;
  /** How many times as strong what bounces counts. Absent: 1. */
  readonly bounced?: number;
}

export interface LightingInput {
  readonly structure: Structure;
  readonly visibility: Visibility | null;
  readonly brushes: readonly Brush[];
  readonly entities: readonly Entity[];
  /** Lamps whose light is kept apart, so that play can switch them. */
  readonly switched?: readonly string[];
  /** Whether what each other light adds is wanted apart as well. */
  readonly ledger?: boolean;
  readonly materials: MaterialLookup;
  /** The brushes that say where a thing of the map does what it does. */
  readonly region: (thing: string) => readonly Brush[];
  readonly options: LightingOptions;
}
