import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import type { MapDocument } from '@yesca/core';
import { pointGeometry } from './eye-geometry.ts';
import { useInks } from './inks.ts';
import { RimmedPoints } from '../scene/RimmedPoints.tsx';
import { useToolOverlay } from './tool-overlay.ts';

/** What the active tool shows in the Eye, over everything: lines, and handles of a fixed size on screen. */
export function EyeOverlay({ doc }: { doc: MapDocument }) {
  const { invalidate } = useThree();
  const inks = useInks();
  const overlay = useToolOverlay(doc);
  const shown = useMemo(() => {
    const lines = (overlay.lines ?? []).filter((l) => (l.on ?? 'eye') === 'eye');
    const segments = (ink: 'indigo' | 'ember') =>
      lines.filter((l) => l.ink === ink).flatMap(({ points }) => points.slice(1).flatMap((to, i) => [points[i]!, to]));
    const dots = lines.flatMap((l) => (l.ends ? l.points : []));
    const marks = overlay.marks ?? [];
    return {
      indigo: pointGeometry(segments('indigo')),
      ember: pointGeometry(segments('ember')),
      free: pointGeometry([...marks.filter((m) => !m.chosen).map((m) => m.at), ...dots]),
      chosen: pointGeometry(marks.filter((m) => m.chosen).map((m) => m.at)),
    };
  }, [overlay]);
  useEffect(() => {
    invalidate();
    return () => Object.values(shown).forEach((geometry) => geometry.dispose());
  }, [shown, invalidate]);
  return (
    <>
      {(['indigo', 'ember'] as const).map((ink) => (
        <lineSegments key={ink} geometry={shown[ink]} renderOrder={4}>
          <lineBasicMaterial color={inks[ink]} depthTest={false} transparent opacity={0.8} />
        </lineSegments>
      ))}
      {/* Free ones are paper with an indigo rim; chosen ones indigo all through. */}
      <RimmedPoints geometry={shown.free} rim={inks.indigo} fill={inks.sheet} />
      <RimmedPoints geometry={shown.chosen} rim={inks.indigo} fill={inks.indigo} />
    </>
  );
}
