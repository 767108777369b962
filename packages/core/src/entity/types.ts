import type { Vec3 } from '../math/index.ts';

/** A thing placed in a map. Kinds this version does not know are kept and drawn as plain marks. */
export interface Entity {
  readonly id: string;
  readonly kind: string;
  /** Where it stands (spawn: at the feet; lights: the source), in cm. */
  readonly at: Vec3;
  /** Degrees, counter-clockwise seen from above; 0 looks east. */
  readonly turn: number;
  readonly name?: string;
  readonly group?: string;
  readonly layer?: string;
  readonly params: Readonly<Record<string, ParamValue>>;
}

export type ParamValue = number | string | boolean | readonly number[];

/** One parameter of an entity kind: what the Particulars show and what the compile may rely on. */
export interface ParamSpec {
  readonly label: string;
  readonly tip: string;
  readonly type: 'number' | 'color' | 'text';
  readonly unit?: string;
  readonly min?: number;
  readonly max?: number;
  readonly initial: ParamValue;
}

export interface EntityKind {
  readonly kind: string;
  readonly label: string;
  readonly tip: string;
  /** Height (cm) above the surface at which a new one is placed. */
  readonly standsAt: number;
  /** Whether a flood of the inside starts from it, so that it must be inside. */
  readonly mustBeInside: boolean;
  readonly params: Readonly<Record<string, ParamSpec>>;
}
