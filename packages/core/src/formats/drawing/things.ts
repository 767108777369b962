import {
  entityKind,
  ENTITY_KINDS,
  modelOf,
  type Around,
  type Entity,
  type Stroke,
  type SymbolView,
} from '../../entity/index.ts';
import type { MapDocument } from '../../map/index.ts';
import type { PropLookup } from '../../prop/index.ts';
import type { MaterialLookup } from '../../surface/index.ts';

/** What stands for a kind of a newer version: a plain square. */
const UNKNOWN: readonly Stroke[] = [
  {
    line: [
      [-5, -5],
      [5, -5],
      [5, 5],
      [-5, 5],
    ],
    closed: true,
  },
];

/** The strokes of a thing's symbol. */
export const symbolOf = (e: Entity, view: SymbolView, around: Around): readonly Stroke[] =>
  entityKind(e.kind)?.symbol(e, view, around) ?? UNKNOWN;

/** What a symbol reaches over, in its units; down is positive. */
export interface SymbolBounds {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** How far a symbol reaches from its place. */
export function symbolBounds(strokes: readonly Stroke[]): SymbolBounds {
  const out = { left: 0, top: 0, right: 0, bottom: 0 };
  const grow = (x: number, y: number, r: number) => {
    out.left = Math.min(out.left, x - r);
    out.right = Math.max(out.right, x + r);
    out.top = Math.min(out.top, -y - r);
    out.bottom = Math.max(out.bottom, -y + r);
  };
  for (const s of strokes) {
    if ('text' in s) continue;
    if ('circle' in s) grow(s.at?.[0] ?? 0, s.at?.[1] ?? 0, s.circle);
    else for (const [x, y] of s.line) grow(x, y, 0);
  }
  return out;
}

/** Whether a thing is drawn as it is, and needs no symbol: its model, or the picture it shows, is known. */
export function isDrawnAsIs(thing: Entity, props: PropLookup, materials: MaterialLookup): boolean {
  const model = modelOf(thing);
  if (!model) return false;
  return (model.picture ? materials(model.picture.material) : props(model.name)) !== undefined;
}

const numbers = new WeakMap<MapDocument['entities'], ReadonlyMap<string, number>>();

/** Kinds of things that may be thousands, and show no number. */
const UNNUMBERED = new Set(ENTITY_KINDS.filter((k) => k.body === 'props').map((k) => k.kind));

/** The how-manieth of its kind each thing is. */
export function thingNumbers({ entities }: Pick<MapDocument, 'entities'>): ReadonlyMap<string, number> {
  let known = numbers.get(entities);
  if (!known) {
    const counts = new Map<string, number>();
    const made = new Map<string, number>();
    for (const e of entities.values()) {
      if (UNNUMBERED.has(e.kind)) continue;
      const number = (counts.get(e.kind) ?? 0) + 1;
      counts.set(e.kind, number);
      made.set(e.id, number);
    }
    numbers.set(entities, (known = made));
  }
  return known;
}
