import { BufferAttribute, BufferGeometry } from 'three';
import { decalOf, type Entity, type LevelDecals, type ThrownDecals } from '@yesca/core';
import type { BatchedLook } from './looks.ts';

/** Decals that are drawn at once: of one page, on what is drawn alike, with none between them. */
export interface DecalBatch {
  readonly key: string;
  /** What was given for the surfaces beneath. */
  readonly on: string;
  /** The pieces, by number, those beneath first. */
  readonly pieces: readonly number[];
}

/**
 * Gathers pieces that can be drawn at once: they keep their order where their things have different ones, and of equal ones where it costs
 * nothing. `on` tells apart what lies on what is drawn otherwise.
 */
export function batchDecals(
  { things, decalThing }: Pick<ThrownDecals, 'things' | 'decalThing'>,
  lookOf: (material: string) => BatchedLook,
  on: (piece: number) => string,
): DecalBatch[] {
  const out: (DecalBatch & { readonly pieces: number[]; readonly order: number })[] = [];
  decalThing.forEach((thing, piece) => {
    const { material, order } = decalOf(things[thing]!)!;
    const { key } = lookOf(material);
    const beneath = on(piece);
    let batch = out.findLast((b) => b.order !== order || (b.key === key && b.on === beneath));
    if (!batch || batch.order !== order || batch.key !== key || batch.on !== beneath)
      out.push((batch = { key, on: beneath, pieces: [], order }));
    batch.pieces.push(piece);
  });
  return out;
}

/** What corners of decals tell besides their light: places, pictures and inks. */
export function decalAttributes(
  decals: Omit<LevelDecals, 'decalLight' | 'decalSurface'> & { readonly things: readonly Entity[] },
  lookOf: (material: string) => BatchedLook,
): Readonly<Record<'position' | 'uv' | 'layer' | 'ink', BufferAttribute>> {
  const { decalPosition, decalTexel, decalInk, decalIndex, decalIndexFirst, decalThing, things } = decals;
  const corners = decalPosition.length / 3;
  const uv = new Float32Array(corners * 2);
  const layer = new Float32Array(corners);
  decalThing.forEach((thing, piece) => {
    const look = lookOf(decalOf(things[thing]!)!.material);
    for (let k = decalIndexFirst[piece]!; k < decalIndexFirst[piece + 1]!; k++) {
      const v = decalIndex[k]!;
      uv[v * 2] = decalTexel[v * 2]! / look.size[0];
      uv[v * 2 + 1] = decalTexel[v * 2 + 1]! / look.size[1];
      layer[v] = look.layer;
    }
  });
  return {
    position: new BufferAttribute(decalPosition, 3),
    uv: new BufferAttribute(uv, 2),
    layer: new BufferAttribute(layer, 1),
    ink: new BufferAttribute(decalInk, 4),
  };
}

/** A geometry of attributes. */
export function geometryOf(
  attributes: Readonly<Record<string, BufferAttribute>>,
  index: BufferAttribute,
): BufferGeometry {
  const geometry = new BufferGeometry();
  for (const [name, attribute] of Object.entries(attributes)) geometry.setAttribute(name, attribute);
  geometry.setIndex(index);
  return geometry;
}
