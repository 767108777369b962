import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import type { BufferGeometry } from 'three';
import type { MapDocument, Vec3 } from '@yesca/core';
import { RimmedPoints } from '../scene/RimmedPoints.tsx';
import { pointGeometry } from './eye-geometry.ts';
import { useInks } from './inks.ts';
import { useToolOverlay } from './tool-overlay.ts';

/** A geometry of points, made anew when they change; null where there are none: nothing is then drawn. */
function usePoints(points: readonly Vec3[], changed: unknown): BufferGeometry | null {
  const { invalidate } = useThree();
  // The points follow from what changed alone.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const geometry = useMemo(() => (points.length > 0 ? pointGeometry(points) : null), [changed]);
  useEffect(() => {
    invalidate();
    return () => geometry?.dispose();
  }, [geometry, invalidate]);
  return geometry;
}

function Lines({ points, changed, color }: { points: readonly Vec3[]; changed: unknown; color: string }) {
  const geometry = usePoints(points, changed);
  if (!geometry) return null;
  return (
    <lineSegments geometry={geometry} renderOrder={4}>
      <lineBasicMaterial color={color} depthTest={false} transparent opacity={0.8} />
    </lineSegments>
  );
}

function Points({ points, changed, fill }: { points: readonly Vec3[]; changed: unknown; fill: string }) {
  const { indigo } = useInks();
  const geometry = usePoints(points, changed);
  return geometry && <RimmedPoints geometry={geometry} rim={indigo} fill={fill} />;
}

/** What the active tool shows in the Eye, over everything: lines, and handles of a fixed size on screen. */
export function EyeOverlay({ doc }: { doc: MapDocument }) {
  const inks = useInks();
  const { lines, marks } = useToolOverlay(doc);
  const segments = (ink: 'indigo' | 'ember') =>
    lines.filter((l) => l.ink === ink).flatMap(({ points }) => points.slice(1).flatMap((to, i) => [points[i]!, to]));
  const of = (chosen: boolean) => marks.filter((m) => (m.chosen ?? false) === chosen).map((m) => m.at);
  return (
    <>
      <Lines points={segments('indigo')} changed={lines} color={inks.indigo} />
      <Lines points={segments('ember')} changed={lines} color={inks.ember} />
      {/* Free ones are paper with an indigo rim; chosen ones indigo all through. */}
      <Points points={of(false)} changed={marks} fill={inks.sheet} />
      <Points points={lines.flatMap((l) => (l.ends ? l.points : []))} changed={lines} fill={inks.sheet} />
      <Points points={of(true)} changed={marks} fill={inks.indigo} />
    </>
  );
}
