/** What the parts of a room are: of its shell, of its walls beside, below and above openings, and of its insets. */
export const PART_KINDS = [
  'floor',
  'ceiling',
  'wall',
  'sill',
  'head',
  'arch',
  'inset',
  'pool',
  'pitFloor',
  'pitWall',
] as const;
export type PartKind = (typeof PART_KINDS)[number];

/** Which part of a room a brush is: under this its dressing is found again when the room makes its parts anew. */
export interface Part {
  readonly kind: PartKind;
  /** The side of the room's footprint that a part of a wall stands on. */
  readonly side?: number;
  /** The inset that it belongs to. */
  readonly inset?: string;
  /** Which of several in the same place; of a pit's walls: the side of the inset's footprint. */
  readonly piece: number;
  /** Which piece of an arch's curve. */
  readonly segment?: number;
  /** Which further one of the rests that other rooms' insides left of it. Absent: the first. */
  readonly cut?: number;
}

/** One text for each part, such as `wall:2:0`. */
export const partKey = ({ kind, side, inset, piece, segment, cut }: Part): string =>
  [kind, side, inset, piece, segment, cut === undefined ? undefined : `cut${cut}`]
    .filter((bit) => bit !== undefined)
    .join(':');
