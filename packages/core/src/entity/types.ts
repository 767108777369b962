import type { Vec3 } from '../math/index.ts';
import type { ParamValue } from '../params/index.ts';

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
  /** The moving thing that it rides on, and which of its parts, counted from 0. Absent: the first. */
  readonly carrier?: { readonly id: string; readonly part?: number };
  readonly params: Readonly<Record<string, ParamValue>>;
}
