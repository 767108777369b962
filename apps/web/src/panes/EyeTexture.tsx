import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import type { MapDocument, Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { useView } from '../state/view.ts';
import { textureBox } from '../tools/texture-box.ts';
import { pointGeometry } from './eye-geometry.ts';
import { useInks } from './inks.ts';
import { RimmedPoints } from './RimmedPoints.tsx';

/** While Paint is on: the box of handles over the first selected face, with which its picture is moved, scaled and turned. */
export function EyeTexture({ doc }: { doc: MapDocument }) {
  const { invalidate } = useThree();
  const on = useView((s) => s.tool === 'paint');
  const faces = useEditor((s) => s.selection.faces);
  const inks = useInks();
  const shown = useMemo(() => {
    const box = on ? textureBox(doc, faces) : null;
    if (!box) return null;
    const c = box.corners;
    const knob = box.grips.at(-1)!.at;
    const top = box.grips[1]!.at;
    const lines: Vec3[] = [...c.flatMap((p, i) => [p, c[(i + 1) % 4]!]), top, knob];
    return { lines: pointGeometry(lines), points: pointGeometry(box.grips.map((g) => g.at)) };
  }, [on, doc, faces]);
  useEffect(() => {
    invalidate();
    return () => {
      shown?.lines.dispose();
      shown?.points.dispose();
    };
  }, [shown, invalidate]);
  if (!shown) return null;
  return (
    <>
      <lineSegments geometry={shown.lines} renderOrder={4}>
        <lineBasicMaterial color={inks.indigo} depthTest={false} transparent opacity={0.8} />
      </lineSegments>
      <RimmedPoints geometry={shown.points} rim={inks.indigo} fill={inks.sheet} />
    </>
  );
}
