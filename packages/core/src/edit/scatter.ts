import { brushBounds, brushContains } from '../brush/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import {
  addScaled,
  boxContains,
  cross,
  dominantAxis,
  dot,
  edgePlane,
  hashRandom,
  latticeHash,
  normalize,
  signedDistance,
  sub,
  windingArea,
  windingCentroid,
  type Vec3,
  type Winding,
} from '../math/index.ts';
import type { PropLookup } from '../prop/index.ts';
import { EditError } from './errors.ts';
import { groupPicked } from './groups.ts';
import { knownProp, placeProps, propOnSurface, type PropWish } from './props.ts';
import { findFaces, type FaceRef } from './faces.ts';

/** How props are strewn. */
export interface Scatter {
  readonly models: readonly string[];
  /** From the foot of one to that of the next, at least, cm. */
  readonly spacing: number;
  readonly seed: number;
  /** How much larger or smaller they may be: 0.2 is from 0.8 to 1.2 times. */
  readonly spread?: number;
  /** They stand square to the surface. */
  readonly aligned?: boolean;
}

/** More than so many are refused. */
const MOST = 5000;

/** A place is tried so many times for each that there is room for. */
const TRIES = 24;

/** Feet stand at least so far from the border of their face, as a part of the spacing. */
const INSET = 0.15;

/** So many discs of a diameter go on its square, when they are thrown down until hardly another one fits. */
const FULL = 0.7;

/** Two directions along a face, square to one another. */
function along(normal: Vec3): [Vec3, Vec3] {
  const axis = dominantAxis(normal);
  const other: Vec3 = axis === 2 ? [0, 1, 0] : [0, 0, 1];
  const s = normalize(cross(other, normal));
  return [s, cross(normal, s)];
}

/** Whether a place of a face lies inside it, so far from all its sides. */
const isInside = (winding: Winding, normal: Vec3, p: Vec3, inset: number): boolean =>
  winding.every((_, k) => signedDistance(edgePlane(winding, normal, k), p) <= -inset);

/**
 * Strews props over faces: none nearer to another than the spacing, until hardly another one fits (dart throwing: Cook, Stochastic
 * Sampling in Computer Graphics, 1986), none where a solid stands. The same seed strews them the same way.
 */
export function scatterProps(
  doc: MapDocument,
  refs: readonly FaceRef[],
  { models, spacing, seed, spread = 0, aligned = false }: Scatter,
  lookup: PropLookup,
): { doc: MapDocument; made: { entities: string[] } } {
  if (models.length === 0) throw new EditError('scatter.none', 'Choose a prop in Stock, Props, to strew it.');
  if (!(spacing >= 1))
    throw new EditError('scatter.spacing', 'Props stand at least 1 cm apart. Type a larger spacing.');
  if (!(spread >= 0 && spread < 1))
    throw new EditError('scatter.spread', 'Sizes differ by a part below one. Type less.');
  const faces = findFaces(doc, refs);
  if (faces.length === 0) throw new EditError('scatter.faces', 'Select the faces that they are to stand on.');
  const room = faces.reduce((sum, f) => sum + windingArea(f.winding), 0);
  const about = (FULL * room) / spacing ** 2;
  if (about > MOST) {
    const least = Math.ceil(Math.sqrt((FULL * room) / MOST));
    throw new EditError(
      'scatter.many',
      `That would be about ${Math.round(about).toLocaleString('en')} props; ${MOST.toLocaleString('en')} are the most. A spacing of ${least} cm would do.`,
    );
  }
  // Cells that share a number by chance cost a look more, and no more.
  const cells = new Map<number, Vec3[]>();
  const cellOf = (c: number): number => Math.floor(c / spacing);
  const apart = spacing ** 2;
  const isFree = (p: Vec3): boolean => {
    const [x, y, z] = [cellOf(p[0]), cellOf(p[1]), cellOf(p[2])];
    for (let i = -1; i <= 1; i++)
      for (let j = -1; j <= 1; j++)
        for (let k = -1; k <= 1; k++)
          for (const q of cells.get(latticeHash(x + i, y + j, z + k)) ?? [])
            if ((p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2 + (p[2] - q[2]) ** 2 < apart) return false;
    return true;
  };
  const solids = [...doc.brushes.values()].filter((b) => b.role === 'structure' || b.role === 'detail');
  const isOpen = (p: Vec3): boolean => !solids.some((b) => boxContains(brushBounds(b), p) && brushContains(b, p));
  const wishes: PropWish[] = [];
  let n = 0;
  /** Another number from 0 to 1. */
  const next = (): number => hashRandom(seed, n++);
  for (const { winding, plane } of faces) {
    const { normal } = plane;
    const [s, t] = along(normal);
    const middle = windingCentroid(winding);
    const reach = (d: Vec3): [number, number] => {
      const at = winding.map((p) => dot(sub(p, middle), d));
      return [Math.min(...at), Math.max(...at)];
    };
    const [[s0, s1], [t0, t1]] = [reach(s), reach(t)];
    const tries = Math.ceil((TRIES * (s1 - s0) * (t1 - t0)) / spacing ** 2) + TRIES;
    for (let k = 0; k < tries && wishes.length < MOST; k++) {
      const p = addScaled(addScaled(middle, s, s0 + (s1 - s0) * next()), t, t0 + (t1 - t0) * next());
      if (!isInside(winding, normal, p, INSET * spacing) || !isFree(p)) continue;
      const model = models[Math.floor(next() * models.length)]!;
      const facts = knownProp(model, lookup);
      const [turn, scale] = [Math.round(next() * 360), Math.round((1 + spread * (2 * next() - 1)) * 1000) / 1000];
      const { at, up } = propOnSurface(facts.bounds, p, normal, { turn, scale, aligned });
      const high = (facts.bounds.max[2] - facts.bounds.min[2]) * scale;
      if (![1, high / 2].every((h) => isOpen(addScaled(p, normal, h)))) continue;
      const key = latticeHash(cellOf(p[0]), cellOf(p[1]), cellOf(p[2]));
      const own = cells.get(key);
      if (own) own.push(p);
      else cells.set(key, [p]);
      wishes.push({ model, at, turn, up, scale });
    }
  }
  if (wishes.length === 0)
    throw new EditError(
      'scatter.noRoom',
      'None of them finds room there. Type a smaller spacing, or select larger faces.',
    );
  const out = placeProps(doc, wishes, lookup);
  const { entities } = out.made;
  return entities.length < 2
    ? out
    : { ...out, doc: groupPicked(out.doc, { entities: new Set(entities) }, 'Scattered', newId()) };
}
