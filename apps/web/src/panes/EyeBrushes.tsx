import { useMantineColorScheme } from '@mantine/core';
import { useThree } from '@react-three/fiber';
import { memo, useEffect, useMemo } from 'react';
import { CustomBlending, DoubleSide, OneFactor, ZeroFactor } from 'three';
import { NATURAL_TEXELS_PER_CM, type Brush } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { useLibrary } from '../state/library.ts';
import { useView, type EyeMode } from '../state/view.ts';
import { batchBrushes, GHOST_BATCH, SKY_BATCH } from './eye-geometry.ts';
import { readInks, type Inks } from './inks.ts';
import { DENSITY_COLORS, surfaceMaterial } from './surface-shader.ts';
import { materialSize, materialTexture } from './textures.ts';

/** Brushes, drawn by material: textured, as clay, or with what the Eye's mode tells of their texture. */
export const EyeBrushes = memo(function EyeBrushes({ brushes, sky }: { brushes: readonly Brush[]; sky: string }) {
  const { invalidate } = useThree();
  const { colorScheme } = useMantineColorScheme();
  const mode = useView((s) => s.eyeMode);
  const inks = useMemo(() => (void colorScheme, readInks(document.documentElement)), [colorScheme]);
  // Sizes of pictures are part of the coordinates.
  const materials = useLibrary((s) => s.materials);
  const batches = useMemo(() => (void materials, batchBrushes(brushes, materialSize)), [brushes, materials]);
  useEffect(() => {
    invalidate();
    return () => batches.forEach((b) => b.geometry.dispose());
  }, [batches, invalidate]);
  return (
    <>
      {batches.map(({ material, geometry }) => (
        <mesh key={material} geometry={geometry} renderOrder={isSeeThrough(material) ? 1 : 0}>
          {material === GHOST_BATCH ? (
            <meshBasicMaterial color={inks.soft} transparent opacity={0.22} depthWrite={false} side={DoubleSide} />
          ) : material === SKY_BATCH ? (
            <meshBasicMaterial color={sky} />
          ) : (
            <Look name={material} mode={mode} inks={inks} />
          )}
        </mesh>
      ))}
    </>
  );
});

const isSeeThrough = (name: string): boolean => useLibrary.getState().materials.get(name)?.solidity === 'seeThrough';

/** Covered samples stay as opaque as what they cover, or the page would shine through the rims of leaves. */
const KEEP_ALPHA = {
  blending: CustomBlending,
  blendSrc: OneFactor,
  blendDst: ZeroFactor,
  blendSrcAlpha: OneFactor,
  blendDstAlpha: OneFactor,
} as const;

/** How one material looks in a mode of the Eye. */
function Look({ name, mode, inks }: { name: string; mode: EyeMode; inks: Inks }) {
  const { invalidate } = useThree();
  const facts = useLibrary((s) => s.materials.get(name));
  const wanted = useEditor((s) => s.doc.settings.texelsPerCm ?? NATURAL_TEXELS_PER_CM);
  const view = mode === 'texels' || mode === 'density' ? mode : null;
  const shader = useMemo(
    () => (view ? surfaceMaterial(view, materialTexture(name, invalidate), materialSize(name), wanted, { ink: inks.ink, ...DENSITY_COLORS }) : null), // prettier-ignore
    [view, name, wanted, inks, invalidate],
  );
  useEffect(() => () => shader?.dispose(), [shader]);
  if (shader) return <primitive key={view} object={shader} attach="material" />;
  const holes = facts?.solidity === 'cutOut';
  if (mode === 'clay' && !holes) return <meshBasicMaterial key="clay" vertexColors color="#d9cfbc" />;
  if (!facts) return <meshBasicMaterial key="missing" vertexColors color="#c3b6c9" />;
  const map = materialTexture(name, invalidate);
  return (
    <meshBasicMaterial
      key={`${facts.solidity} ${facts.glow ? 'glows' : ''}`}
      map={map}
      // What glows is as bright from all sides.
      vertexColors={!facts.glow}
      // Edges of holes are smoothed by the antialiasing's samples, not faded: nothing needs sorting.
      alphaTest={holes ? 0.5 : 0}
      alphaToCoverage={holes}
      {...(holes ? KEEP_ALPHA : {})}
      transparent={facts.solidity === 'seeThrough'}
      depthWrite={facts.solidity !== 'seeThrough'}
    />
  );
}
