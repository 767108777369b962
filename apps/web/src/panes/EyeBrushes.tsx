import { useThree } from '@react-three/fiber';
import { memo, useEffect, useMemo } from 'react';
import { DoubleSide, MeshBasicMaterial, type Material } from 'three';
import { NATURAL_TEXELS_PER_CM, type Brush } from '@yesca/core';
import type { Chunks } from '../state/chunks.ts';
import { useEditor } from '../state/editor.ts';
import { useLibrary } from '../state/library.ts';
import { useView, type EyeMode } from '../state/view.ts';
import { batchBrushes, GHOST_BATCH, SKY_BATCH, type BatchedLook } from './eye-geometry.ts';
import { useInks, type Inks } from './inks.ts';
import { pageMaterial, type PageKind } from './page-shader.ts';
import { picturePages, type PicturePages } from './picture-pages.ts';

/** Faces whose material the library does not have. */
const MISSING: BatchedLook = { key: '~missing', size: [512, 512], layer: 0 };

/** What of materials is drawn together: those on one page that let light through alike. */
const pageKey = (page: number, { solidity, glow }: PageKind): string => `${page} ${solidity}${glow ? ' glows' : ''}`;
const readKey = (key: string): { page: number; kind: PageKind } => {
  const [page, solidity, glow] = key.split(' ') as [string, PageKind['solidity'], string | undefined];
  return { page: Number(page), kind: { solidity, glow: glow !== undefined } };
};

function lookOf(pages: PicturePages, name: string): BatchedLook {
  const facts = useLibrary.getState().materials.get(name);
  if (!facts) return MISSING;
  const size = [facts.width, facts.height] as const;
  // Nothing stands in for what is mostly holes.
  const { page, layer } = pages.placeOf(name, size, facts.solidity === 'cutOut' ? null : facts.average);
  return { key: pageKey(page, { solidity: facts.solidity, glow: !!facts.glow }), size, layer };
}

/**
 * Brushes, drawn by the pages their pictures lie on: textured, as clay, or with what the Eye's mode tells of their texture.
 * `still` is what stands still, `live` what a gesture changes.
 */
export function EyeBrushes({ still, live, sky }: { still: Chunks; live: readonly Brush[]; sky: string }) {
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
  readonly materials: ReadonlyMap<string, unknown>;
  readonly looks: (batch: string) => Material;
}

const Chunk = memo(function Chunk({ brushes, pages, materials, looks }: ChunkProps) {
  const { invalidate } = useThree();
  const batches = useMemo(() => {
    void materials;
    const known = new Map<string, BatchedLook>();
    return batchBrushes(brushes, (name) => {
      let look = known.get(name);
      if (!look) known.set(name, (look = lookOf(pages, name)));
      return look;
    });
  }, [brushes, materials, pages]);
  useEffect(() => {
    invalidate();
    return () => batches.forEach((b) => b.geometry.dispose());
  }, [batches, invalidate]);
  return batches.map(({ key, geometry }) => (
    <mesh key={key} geometry={geometry} renderOrder={key.includes('seeThrough') ? 1 : 0}>
      <primitive object={looks(key)} attach="material" />
    </mesh>
  ));
});

/** How batches look in the Eye's mode: one material for each, shared by all chunks. */
function useLooks(pages: PicturePages, sky: string): (batch: string) => Material {
  const { invalidate } = useThree();
  const inks = useInks();
  const mode = useView((s) => s.eyeMode);
  const wanted = useEditor((s) => s.doc.settings.texelsPerCm ?? NATURAL_TEXELS_PER_CM);
  const made = useMemo(() => {
    const known = new Map<string, Material>();
    const of = (batch: string): Material => {
      let material = known.get(batch);
      if (!material) known.set(batch, (material = makeLook(batch, mode, pages, wanted, sky, inks)));
      return material;
    };
    return { known, of };
  }, [mode, pages, wanted, sky, inks]);
  useEffect(() => {
    invalidate();
    return () => made.known.forEach((m) => m.dispose());
  }, [made, invalidate]);
  return made.of;
}

function makeLook(
  batch: string,
  mode: EyeMode,
  pages: PicturePages,
  wanted: number,
  sky: string,
  inks: Inks,
): Material {
  if (batch === GHOST_BATCH)
    return new MeshBasicMaterial({
      color: inks.soft,
      transparent: true,
      opacity: 0.22,
      depthWrite: false,
      side: DoubleSide,
    });
  if (batch === SKY_BATCH) return new MeshBasicMaterial({ color: sky });
  if (batch === MISSING.key)
    return new MeshBasicMaterial({ color: mode === 'clay' ? CLAY : '#c3b6c9', vertexColors: true });
  const { page, kind } = readKey(batch);
  // Holes stay holes in clay too.
  if (mode === 'clay' && kind.solidity !== 'cutOut') return new MeshBasicMaterial({ color: CLAY, vertexColors: true });
  return pageMaterial(mode === 'clay' ? 'textured' : mode, kind, pages, page, wanted, inks.ink);
}

const CLAY = '#d9cfbc';
