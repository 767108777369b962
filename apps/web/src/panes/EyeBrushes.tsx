import { useThree } from '@react-three/fiber';
import { memo, useEffect, useMemo } from 'react';
import { MeshBasicMaterial, ShaderMaterial, type Material } from 'three';
import { INITIAL_SETTINGS, NATURAL_TEXELS_PER_CM, type Brush, type MapSettings } from '@yesca/core';
import { batchMaterial, drawOrder, lookOf, type BatchedLook } from '../scene/looks.ts';
import { picturePages, type PicturePages } from '../scene/picture-pages.ts';
import { followSky, skyMaterial } from '../scene/sky.ts';
import type { Chunks } from '../state/chunks.ts';
import { surfaceView, useDisplay } from '../state/display.ts';
import { useEditor } from '../state/editor.ts';
import { useLibrary } from '../state/library.ts';
import { batchBrushes, GHOST_BATCH, SKY_BATCH } from './eye-geometry.ts';
import { useInks } from './inks.ts';

/**
 * Brushes, drawn by the pages their pictures lie on: textured, as clay, or with what the Eye's mode tells of their texture.
 * `still` is what stands still, `live` what a gesture changes.
 */
export function EyeBrushes({ still, live, sky }: { still: Chunks; live: readonly Brush[]; sky: MapSettings }) {
  const { gl, invalidate } = useThree();
  const pages = picturePages(gl, invalidate);
  const looks = useLooks(pages, sky);
  // Sizes of pictures are part of the coordinates.
  const materials = useLibrary((s) => s.materials);
  const all = live.length > 0 ? [...still, live] : still;
  return all.map((brushes, i) => <Chunk key={i} {...{ brushes, pages, materials, looks }} />);
}

interface ChunkProps {
  readonly brushes: readonly Brush[];
  readonly pages: PicturePages;
  readonly materials: ReturnType<typeof useLibrary.getState>['materials'];
  readonly looks: (batch: string) => Material;
}

const Chunk = memo(function Chunk({ brushes, pages, materials, looks }: ChunkProps) {
  const { invalidate } = useThree();
  const batches = useMemo(() => {
    const known = new Map<string, BatchedLook>();
    return batchBrushes(brushes, (name) => {
      let look = known.get(name);
      if (!look) known.set(name, (look = lookOf(pages, name, materials.get(name))));
      return look;
    });
  }, [brushes, materials, pages]);
  useEffect(() => {
    invalidate();
    return () => batches.forEach((b) => b.geometry.dispose());
  }, [batches, invalidate]);
  return batches.map(({ key, geometry }) => (
    <mesh key={key} geometry={geometry} renderOrder={drawOrder(key)}>
      <primitive object={looks(key)} attach="material" />
    </mesh>
  ));
});

/** How batches look in the Eye's mode: one material for each, shared by all chunks. */
function useLooks(pages: PicturePages, sky: MapSettings): (batch: string) => Material {
  const { invalidate } = useThree();
  const { ink, soft } = useInks();
  // What light has not reached yet is seen by the light of the workroom.
  const view = useDisplay((s) => surfaceView(s.eyeMode));
  const wanted = useEditor((s) => s.doc.settings.texelsPerCm ?? NATURAL_TEXELS_PER_CM);
  const made = useMemo(() => {
    const known = new Map<string, Material>();
    const make = (batch: string): Material => {
      if (batch === GHOST_BATCH)
        return new MeshBasicMaterial({
          color: soft,
          transparent: true,
          opacity: 0.22,
          // From inside, regions and clip brushes would lie over all that is seen.
          depthWrite: false,
        });
      // What it shows is set below, whenever the sky changes.
      if (batch === SKY_BATCH) return skyMaterial(INITIAL_SETTINGS);
      return batchMaterial(pages, batch, { view, light: { by: 'shade' }, wanted, ink });
    };
    const of = (batch: string): Material => {
      let material = known.get(batch);
      if (!material) known.set(batch, (material = make(batch)));
      return material;
    };
    return { known, of };
  }, [view, pages, wanted, ink, soft]);
  useEffect(() => {
    const material = made.of(SKY_BATCH);
    if (material instanceof ShaderMaterial) followSky(material, sky);
    invalidate();
  }, [made, sky, invalidate]);
  useEffect(() => {
    invalidate();
    return () => made.known.forEach((m) => m.dispose());
  }, [made, invalidate]);
  return made.of;
}
