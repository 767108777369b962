import { brushBounds, brushContains, brushPlanes, faceWinding, type Brush } from '../brush/index.ts';
import { modelOf, type Entity } from '../entity/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import {
  addScaled,
  boxContains,
  boxesOverlap,
  cross,
  distance,
  dominantAxis,
  dot,
  edgePlane,
  growBox,
  hashRandom,
  latticeHash,
  normalize,
  signedDistance,
  sub,
  uniteBoxes,
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

/** The smallest spacing, cm. */
const LEAST_SPACING = 1;

function assertScatter({ models, spacing, spread = 0 }: Scatter): void {
  if (models.length === 0) throw new EditError('scatter.none', 'Choose a prop in Stock, Props, to strew it.');
  if (!(spacing >= LEAST_SPACING))
    throw new EditError('scatter.spacing', 'Props stand at least 1 cm apart. Type a larger spacing.');
  if (!(spread >= 0 && spread < 1))
    throw new EditError('scatter.spread', 'Sizes differ by a part below one. Type less.');
}

/** Throws props down one after another where there is room for them. */
interface Thrower {
  readonly wishes: PropWish[];
  /**
   * Stands one at a place of a face if none is nearer than the spacing, and none of some solids is there; `next` gives numbers from 0 to 1.
   */
  readonly tryAt: (p: Vec3, normal: Vec3, next: () => number, solids: readonly Brush[]) => void;
}

/** `taken` are the feet of what stands there already. */
function thrower(
  { models, spacing, spread = 0, aligned = false }: Scatter,
  lookup: PropLookup,
  taken: Iterable<Vec3> = [],
): Thrower {
  // Cells that share a number by chance cost a look more, and no more.
  const cells = new Map<number, Vec3[]>();
  const cellOf = (c: number): number => Math.floor(c / spacing);
  const apart = spacing ** 2;
  const take = (p: Vec3): void => {
    const key = latticeHash(cellOf(p[0]), cellOf(p[1]), cellOf(p[2]));
    const own = cells.get(key);
    if (own) own.push(p);
    else cells.set(key, [p]);
  };
  const isFree = (p: Vec3): boolean => {
    const [x, y, z] = [cellOf(p[0]), cellOf(p[1]), cellOf(p[2])];
    for (let i = -1; i <= 1; i++)
      for (let j = -1; j <= 1; j++)
        for (let k = -1; k <= 1; k++)
          for (const q of cells.get(latticeHash(x + i, y + j, z + k)) ?? [])
            if ((p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2 + (p[2] - q[2]) ** 2 < apart) return false;
    return true;
  };
  for (const p of taken) take(p);
  const wishes: PropWish[] = [];
  return {
    wishes,
    tryAt: (p, normal, next, solids) => {
      if (wishes.length >= MOST || !isFree(p)) return;
      const model = models[Math.floor(next() * models.length)]!;
      const facts = knownProp(model, lookup);
      const [turn, scale] = [Math.round(next() * 360), Math.round((1 + spread * (2 * next() - 1)) * 1000) / 1000];
      const { at, up } = propOnSurface(facts.bounds, p, normal, { turn, scale, aligned });
      const high = (facts.bounds.max[2] - facts.bounds.min[2]) * scale;
      const isOpen = (q: Vec3): boolean => !solids.some((b) => boxContains(brushBounds(b), q) && brushContains(b, q));
      if (![1, high / 2].every((h) => isOpen(addScaled(p, normal, h)))) return;
      take(p);
      wishes.push({ model, at, turn, up, scale });
    },
  };
}

/** What hides and holds: nothing is strewn in it. */
const solidsIn = (doc: MapDocument): Brush[] =>
  [...doc.brushes.values()].filter((b) => b.role === 'structure' || b.role === 'detail');

/** What of points lies along a direction, from the middle. */
function reachOf(winding: Winding, middle: Vec3, d: Vec3): [number, number] {
  const at = winding.map((p) => dot(sub(p, middle), d));
  return [Math.min(...at), Math.max(...at)];
}

/**
 * Strews props over faces: none nearer to another than the spacing, until hardly another one fits (dart throwing: Cook, Stochastic
 * Sampling in Computer Graphics, 1986), none where a solid stands. The same seed strews them the same way.
 */
export function scatterProps(
  doc: MapDocument,
  refs: readonly FaceRef[],
  scatter: Scatter,
  lookup: PropLookup,
): { doc: MapDocument; made: { entities: string[] } } {
  assertScatter(scatter);
  const { spacing, seed } = scatter;
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
  const solids = solidsIn(doc);
  const { wishes, tryAt } = thrower(scatter, lookup);
  let n = 0;
  /** Another number from 0 to 1. */
  const next = (): number => hashRandom(seed, n++);
  for (const { winding, plane } of faces) {
    const { normal } = plane;
    const [s, t] = along(normal);
    const middle = windingCentroid(winding);
    const [[s0, s1], [t0, t1]] = [reachOf(winding, middle, s), reachOf(winding, middle, t)];
    const tries = Math.ceil((TRIES * (s1 - s0) * (t1 - t0)) / spacing ** 2) + TRIES;
    for (let k = 0; k < tries && wishes.length < MOST; k++) {
      const p = addScaled(addScaled(middle, s, s0 + (s1 - s0) * next()), t, t0 + (t1 - t0) * next());
      if (isInside(winding, normal, p, INSET * spacing)) tryAt(p, normal, next, solids);
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
    : { ...out, doc: groupPicked(out.doc, { entities: new Set(entities) }, SCATTERED, newId()) };
}

/** What groups of strewn props are called. */
const SCATTERED = 'Scattered';

/** Where a brush of props touched a surface, and which way that looks. */
export interface Dab {
  readonly at: Vec3;
  readonly normal: Vec3;
}

/** A stroke with a brush of props. */
export interface Strewing extends Scatter {
  readonly dabs: readonly Dab[];
  /** Of the brush, cm. */
  readonly radius: number;
  /** How much of the room that there is one stroke takes, 0 to 1: going over it again takes more. */
  readonly density?: number;
}

/** Faces that look aside from where a brush touched by more than this (a cosine) are not strewn. */
const ALIKE = 0.5;
/** What stands so far off (cm) is in the way of none: half of it is not taller. */
const TALL = 512;
/** Faces so far (of the radius) off the place that was touched are not strewn. */
const OFF = 0.5;

/** What of a map is strewn already. */
const kinOf = ({ entities }: MapDocument, models: readonly string[]): Entity[] =>
  [...entities.values()].filter((e) => models.includes(modelOf(e)?.name ?? ''));

/** A stroke as far as it was thrown. */
interface Stroke {
  /** All that it depends on but its dabs. */
  readonly how: string;
  readonly lookup: PropLookup;
  readonly solids: readonly Brush[];
  readonly thrown: Thrower;
  dabs: readonly Dab[];
}

/** The last stroke on a map: it is thrown once more with each place that the brush touches, and need not be thrown from its beginning. */
const strokes = new WeakMap<MapDocument, Stroke>();

const sameDab = (a: Dab, b: Dab | undefined): boolean =>
  b !== undefined && [0, 1, 2].every((k) => a.at[k] === b.at[k] && a.normal[k] === b.normal[k]);

/** Where a stroke stands props. */
function thrownOn(
  doc: MapDocument,
  { dabs, ...how }: Required<Pick<Strewing, 'density'>> & Strewing,
  lookup: PropLookup,
): readonly PropWish[] {
  const key = JSON.stringify(how);
  let stroke = strokes.get(doc);
  if (stroke?.how !== key || stroke.lookup !== lookup || !stroke.dabs.every((dab, k) => sameDab(dab, dabs[k]))) {
    const solids = solidsIn(doc);
    const taken = kinOf(doc, how.models).map((e) => e.at);
    stroke = { how: key, lookup, solids, thrown: thrower(how, lookup, taken), dabs: [] };
  }
  // One that is broken off is not gone on with.
  strokes.delete(doc);
  for (let k = stroke.dabs.length; k < dabs.length; k++) throwDab(stroke, dabs[k]!, how.seed + k, how);
  stroke.dabs = dabs;
  strokes.set(doc, stroke);
  return stroke.thrown.wishes;
}

function throwDab(
  { solids, thrown: { tryAt } }: Stroke,
  { at, normal }: Dab,
  seed: number,
  { radius, spacing, density }: Required<Pick<Strewing, 'density'>> & Omit<Strewing, 'dabs'>,
): void {
  let n = 0;
  const next = (): number => hashRandom(seed, n++);
  const box = growBox({ min: at, max: at }, radius);
  const around = growBox(box, TALL);
  const near = solids.filter((b) => boxesOverlap(brushBounds(b), around));
  for (const brush of near) {
    if (!boxesOverlap(brushBounds(brush), box)) continue;
    brushPlanes(brush).forEach((plane, f) => {
      const off = signedDistance(plane, at);
      if (dot(plane.normal, normal) < ALIKE || Math.abs(off) > radius * OFF || brush.faces[f]!.show) return;
      const winding = faceWinding(brush, f);
      const [s, t] = along(plane.normal);
      const middle = addScaled(at, plane.normal, -off);
      // Only where both the brush and the face are.
      const [[s0, s1], [t0, t1]] = ([s, t] as const).map((d) => {
        const [low, high] = reachOf(winding, middle, d);
        return [Math.max(low, -radius), Math.min(high, radius)] as const;
      }) as [readonly [number, number], readonly [number, number]];
      if (s0 >= s1 || t0 >= t1) return;
      const full = (TRIES * (s1 - s0) * (t1 - t0)) / spacing ** 2;
      // Where little is wanted few are thrown; a part of one is thrown as often.
      const tries = density === 1 ? Math.ceil(full) : Math.floor((full / TRIES) * density * 2 + next());
      for (let i = 0; i < tries; i++) {
        const p = addScaled(addScaled(middle, s, s0 + (s1 - s0) * next()), t, t0 + (t1 - t0) * next());
        if (distance(p, at) <= radius && isInside(winding, plane.normal, p, 0)) tryAt(p, plane.normal, next, near);
      }
    });
  }
}

/**
 * Strews props with a brush: round each place that it touched, on all faces there that look about the same way, none nearer to those of
 * their kind that stand there than the spacing. They join the group of those. A longer stroke strews its beginning the same way.
 */
export function strewProps(
  doc: MapDocument,
  { dabs, radius, density = 1, ...scatter }: Strewing,
  lookup: PropLookup,
): { doc: MapDocument; placed: number } {
  assertScatter(scatter);
  const { spacing, models } = scatter;
  if (!(radius >= 1 && radius <= 10_000))
    throw new EditError('scatter.radius', 'A brush is 1 cm to 100 m in radius. Type a number in that range.');
  if (!(density > 0 && density <= 1))
    throw new EditError('scatter.density', 'The density is a part, above 0 and up to 1. Type a number in that range.');
  if (dabs.length === 0) throw new EditError('scatter.faces', 'Drag over the surfaces that they are to stand on.');
  const wishes = thrownOn(doc, { dabs, radius, density, ...scatter }, lookup);
  if (wishes.length === 0) return { doc, placed: 0 };
  const { doc: out, made } = placeProps(doc, wishes, lookup);
  const reach = uniteBoxes(dabs.map(({ at }) => growBox({ min: at, max: at }, radius + spacing)));
  const group = kinOf(doc, models).find(
    (e) => boxContains(reach, e.at) && e.group && doc.groups.get(e.group)?.name === SCATTERED,
  )?.group;
  if (!group)
    return made.entities.length < 2
      ? { doc: out, placed: 1 }
      : { doc: groupPicked(out, { entities: new Set(made.entities) }, SCATTERED), placed: made.entities.length };
  const entities = new Map(out.entities);
  // What comes with lamps is a group of its own within that.
  const groups = new Map(out.groups);
  for (const id of made.entities) {
    const e = entities.get(id)!;
    if (e.group) groups.set(e.group, { ...groups.get(e.group)!, parent: group });
    else entities.set(id, { ...e, group });
  }
  return { doc: { ...out, entities, groups }, placed: made.entities.length };
}
