import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { BufferAttribute, Group, Mesh, type Material } from 'three';
import { type Brush, type Entity } from '@yesca/core';
import { batchDecals, decalAttributes, geometryOf } from '../scene/decals.ts';
import { batchMaterial, decalOrder, drawOrder, lookOf, type BatchedLook } from '../scene/looks.ts';
import { picturePages, type PicturePages } from '../scene/picture-pages.ts';
import type { Chunks } from '../state/chunks.ts';
import { decalPieces, type ThingDecal } from '../state/decal-pieces.ts';
import { surfaceView, useDisplay } from '../state/display.ts';
import { useLibrary } from '../state/library.ts';
import { shadeOf } from './eye-geometry.ts';

/** Decals on brushes that are seen by the light of the workroom. */
export function EyeDecals({
  things,
  still,
  live,
}: {
  things: ReadonlyMap<string, Entity>;
  still: Chunks;
  live: readonly Brush[];
}) {
  const { gl, invalidate } = useThree();
  const pages = picturePages(gl, invalidate);
  const materials = useLibrary((s) => s.materials);
  const shown = useDisplay((s) => surfaceView(s.eyeMode) === 'textured');
  const made = useMemo(() => {
    const known = new Map<string, Material>();
    const of = (key: string): Material => {
      let material = known.get(key);
      if (!material) known.set(key, (material = decalMaterial(pages, key)));
      return material;
    };
    return { known, of };
  }, [pages]);
  useEffect(() => () => made.known.forEach((m) => m.dispose()), [made]);
  const group = useMemo(() => {
    const pieces = shown ? decalPieces(things.values(), still, live) : [];
    const looks = new Map<string, BatchedLook>();
    const look = (name: string): BatchedLook => {
      let known = looks.get(name);
      if (!known) looks.set(name, (known = lookOf(pages, name, materials.get(name))));
      return known;
    };
    const on = ({ beneath }: ThingDecal): number => drawOrder(look(beneath).key);
    return groupOf(pieces, look, on, made.of);
  }, [things, still, live, shown, materials, pages, made]);
  useEffect(() => {
    invalidate();
    return () => group.children.forEach((m) => (m as Mesh).geometry.dispose());
  }, [group, invalidate]);
  return <primitive object={group} />;
}

const decalMaterial = (pages: PicturePages, key: string): Material =>
  batchMaterial(pages, key, { view: 'textured', light: { by: 'shade' }, decal: true });

const NO_DECALS = new Group();

/** Pieces as meshes, those beneath first. */
function groupOf(
  pieces: readonly ThingDecal[],
  look: (material: string) => BatchedLook,
  on: (piece: ThingDecal) => number,
  materialOf: (key: string) => Material,
): Group {
  if (pieces.length === 0) return NO_DECALS;
  const group = new Group();
  const things = [...new Set(pieces.map((p) => p.thing))];
  const place = new Map(things.map((t, k) => [t, k]));
  const index: number[] = [];
  const first = [0];
  let corners = 0;
  for (const { winding } of pieces) {
    for (let k = 2; k < winding.length; k++) index.push(corners, corners + k - 1, corners + k);
    first.push(index.length);
    corners += winding.length;
  }
  const arrays = {
    things,
    decalPosition: Float32Array.from(pieces.flatMap((p) => p.winding.flat())),
    decalTexel: Float32Array.from(pieces.flatMap((p) => p.texels.flat())),
    decalInk: Float32Array.from(pieces.flatMap((p) => p.inks.flat())),
    decalIndex: Uint32Array.from(index),
    decalIndexFirst: Uint32Array.from(first),
    decalThing: Uint32Array.from(pieces, (p) => place.get(p.thing)!),
  };
  const attributes = {
    ...decalAttributes(arrays, look),
    color: new BufferAttribute(Float32Array.from(pieces.flatMap((p) => p.winding.flatMap(() => shadeOf(p.normal)))), 3),
  };
  const batches = batchDecals(arrays, look, (k) => String(on(pieces[k]!)));
  batches.forEach(({ key, on: beneath, pieces: own }, k) => {
    const part = own.flatMap((p) => index.slice(first[p], first[p + 1]));
    const mesh = new Mesh(geometryOf(attributes, new BufferAttribute(Uint32Array.from(part), 1)), materialOf(key));
    mesh.renderOrder = decalOrder(Number(beneath), k, batches.length);
    mesh.frustumCulled = false;
    group.add(mesh);
  });
  return group;
}
