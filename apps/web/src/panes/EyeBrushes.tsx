import { useThree } from '@react-three/fiber';
import { memo, useEffect, useMemo } from 'react';
import { DoubleSide, MeshBasicMaterial, type Material } from 'three';
import { NATURAL_TEXELS_PER_CM, type Brush } from '@yesca/core';
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
  const { page, layer } = pages.placeOf(name, size, facts.solidity === 'cutOut' ? 'transparent' : facts.average);
  return { key: pageKey(page, { solidity: facts.solidity, glow: !!facts.glow }), size, layer };
}

/** Brushes, drawn by the pages their pictures lie on: textured, as clay, or with what the Eye's mode tells of their texture. */
export const EyeBrushes = memo(function EyeBrushes({ brushes, sky }: { brushes: readonly Brush[]; sky: string }) {
  const { gl, invalidate } = useThree();
  const inks = useInks();
  const pages = picturePages(gl, invalidate);
  // Sizes of pictures are part of the coordinates.
  const materials = useLibrary((s) => s.materials);
  const batches = useMemo(() => {
    void materials;
    const looks = new Map<string, BatchedLook>();
    return batchBrushes(brushes, (name) => {
      let look = looks.get(name);
      if (!look) looks.set(name, (look = lookOf(pages, name)));
      return look;
    });
  }, [brushes, materials, pages]);
  useEffect(() => {
    invalidate();
    return () => batches.forEach((b) => b.geometry.dispose());
  }, [batches, invalidate]);
  return (
    <>
      {batches.map(({ key, geometry }) => (
        <mesh key={key} geometry={geometry} renderOrder={key.includes('seeThrough') ? 1 : 0}>
          <Look batch={key} pages={pages} sky={sky} inks={inks} />
        </mesh>
      ))}
    </>
  );
});

/** How a batch looks in a mode of the Eye. */
function Look({ batch, pages, sky, inks }: { batch: string; pages: PicturePages; sky: string; inks: Inks }) {
  const { invalidate } = useThree();
  const mode = useView((s) => s.eyeMode);
  const wanted = useEditor((s) => s.doc.settings.texelsPerCm ?? NATURAL_TEXELS_PER_CM);
  const material = useMemo(() => makeLook(batch, mode, pages, wanted, sky, inks), [batch, mode, pages, wanted, sky, inks]); // prettier-ignore
  useEffect(() => {
    invalidate();
    return () => material.dispose();
  }, [material, invalidate]);
  return <primitive object={material} attach="material" />;
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
    return new MeshBasicMaterial({ color: inks.soft, transparent: true, opacity: 0.22, depthWrite: false, side: DoubleSide }); // prettier-ignore
  if (batch === SKY_BATCH) return new MeshBasicMaterial({ color: sky });
  if (batch === MISSING.key) return new MeshBasicMaterial({ color: mode === 'clay' ? CLAY : '#c3b6c9', vertexColors: true }); // prettier-ignore
  const { page, kind } = readKey(batch);
  // Holes stay holes in clay too.
  if (mode === 'clay' && kind.solidity !== 'cutOut') return new MeshBasicMaterial({ color: CLAY, vertexColors: true });
  return pageMaterial(mode === 'clay' ? 'textured' : mode, kind, pages.texture(page), pages.size(page), wanted, inks.ink); // prettier-ignore
}

const CLAY = '#d9cfbc';
