import { brushBounds, brushPlanes, DRAWN_ROLES, faceWinding, type Brush } from '../brush/index.ts';
import { readyDecal, type DecalPiece, type DecalThrow } from '../decal/index.ts';
import { decalOf, modelOf, type Entity } from '../entity/index.ts';
import type { MapDocument } from './types.ts';
import { boxesOverlap } from '../math/index.ts';
import type { MaterialLookup } from '../surface/index.ts';

/** A part of a face of a brush that shows a decal. */
export interface FaceDecal extends DecalPiece {
  readonly brush: string;
  readonly face: number;
  /** What the face itself shows. */
  readonly beneath: string;
}

/** Whether a thing's decal may fall on a brush: one that rides on something falls on that alone. */
export function takesDecal(thing: Entity, brush: Brush, lookup: MaterialLookup): boolean {
  const decal = decalOf(thing);
  if (!decal || decal.targets === 'props' || !DRAWN_ROLES.has(brush.role)) return false;
  if (thing.carrier && brush.owner?.id !== thing.carrier.id) return false;
  if (decal.targets === 'chosen') return decal.brushes.includes(brush.id);
  // What lets light through all over or in holes takes those alone for which it was chosen.
  return brush.role !== 'liquid' && !brush.faces.every((f) => lookup(f.material)?.solidity === 'cutOut');
}

/** The thing's decal made ready to be thrown; null where it shows nothing. */
export function readyDecalOf(thing: Entity, lookup: MaterialLookup): DecalThrow | null {
  const decal = decalOf(thing);
  return decal?.material && decal.opacity > 0 ? readyDecal(decal, lookup(decal.material)) : null;
}

/** What of the faces of a brush shows a decal that falls on it. */
export function decalOnBrush(ready: DecalThrow, brush: Brush, lookup: MaterialLookup): FaceDecal[] {
  if (!boxesOverlap(ready.bounds, brushBounds(brush))) return [];
  return brush.faces.flatMap((face, k) => {
    if (face.show) return [];
    if (ready.decal.targets !== 'chosen' && lookup(face.material)?.solidity === 'cutOut') return [];
    const pieces = ready.on(faceWinding(brush, k), brushPlanes(brush)[k]!.normal);
    return pieces.map((piece): FaceDecal => ({ ...piece, brush: brush.id, face: face.id, beneath: face.material }));
  });
}

/** Whether a thing's decal may fall on a prop. */
export function propTakesDecal(thing: Entity, prop: Entity): boolean {
  const decal = decalOf(thing);
  if (!decal || decal.targets === 'brushes' || modelOf(prop)?.picture) return false;
  if (thing.carrier && prop.carrier?.id !== thing.carrier.id) return false;
  return decal.targets !== 'chosen' || decal.things.includes(prop.id);
}

/** The material whose picture a decal or a billboard shows; empty for none, and for what is neither. */
export const pictureOf = (thing: Entity): string => decalOf(thing)?.material ?? modelOf(thing)?.picture?.material ?? '';

/** How many decals and billboards show the picture of each material. */
export function pictureCounts({ entities }: Pick<MapDocument, 'entities'>): Map<string, number> {
  const counts = new Map<string, number>();
  for (const thing of entities.values()) {
    const name = pictureOf(thing);
    if (name) counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  return counts;
}

/** How a map uses a material, in words: `2 faces, 1 picture`. */
export const usedWords = ({ faces, pictures }: { readonly faces: number; readonly pictures: number }): string =>
  [
    ...(faces ? [`${faces} ${faces === 1 ? 'face' : 'faces'}`] : []),
    ...(pictures ? [`${pictures} ${pictures === 1 ? 'picture' : 'pictures'}`] : []),
  ].join(', ');
