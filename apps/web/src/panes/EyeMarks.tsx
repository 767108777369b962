import { useMemo } from 'react';
import { BufferAttribute, BufferGeometry } from 'three';
import type { MapDocument, Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { useInks } from './inks.ts';

const lines = (points: readonly Vec3[]): BufferGeometry => {
  const g = new BufferGeometry();
  g.setAttribute('position', new BufferAttribute(Float32Array.from(points.flat()), 3));
  return g;
};

/** Spawns as flags with a facing line, lights as small crosses of lines, in world space. */
function entityLines(doc: MapDocument, selected: ReadonlySet<string>, which: boolean): BufferGeometry {
  const out: Vec3[] = [];
  const to = (a: Vec3, ...rest: Vec3[]) => rest.reduce((p, q) => (out.push(p, q), q), a);
  for (const e of doc.entities.values()) {
    if (selected.has(e.id) !== which) continue;
    const [x, y, z] = e.at;
    if (e.kind === 'spawn') {
      const [c, s] = [Math.cos((e.turn * Math.PI) / 180), Math.sin((e.turn * Math.PI) / 180)];
      to([x, y, z], [x, y, z + 120], [x + c * 40, y + s * 40, z + 105], [x, y, z + 90]);
      to([x, y, z + 2], [x + c * 60, y + s * 60, z + 2]);
      for (let k = 0; k < 12; k++) {
        const at = (i: number): Vec3 => [
          x + Math.cos((i * Math.PI) / 6) * 20,
          y + Math.sin((i * Math.PI) / 6) * 20,
          z + 2,
        ];
        to(at(k), at(k + 1));
      }
    } else {
      const r = e.kind === 'sun' ? 26 : 12;
      for (const [dx, dy, dz] of [[1, 0, 0], [0, 1, 0], [0, 0, 1], [0.7, 0.7, 0], [0.7, -0.7, 0], [0, 0.7, 0.7], [0, 0.7, -0.7], [0.7, 0, 0.7], [0.7, 0, -0.7]] as const)
        to([x - dx * r, y - dy * r, z - dz * r], [x + dx * r, y + dy * r, z + dz * r]); // prettier-ignore
    }
  }
  return lines(out);
}

/** What is not solid, in the Eye: entities as line marks, and the leak trail. */
export function EyeMarks({ doc }: { doc: MapDocument }) {
  const inks = useInks();
  const selected = useEditor((s) => s.selection.entities);
  const trail = useEditor((s) => s.trail);
  const plain = useMemo(() => entityLines(doc, selected, false), [doc, selected]);
  const picked = useMemo(() => entityLines(doc, selected, true), [doc, selected]);
  const path = useMemo(() => lines((trail ?? []).flatMap((p, i, all) => (i === 0 ? [] : [all[i - 1]!, p]))), [trail]);
  return (
    <>
      <lineSegments geometry={plain}>
        <lineBasicMaterial color="#3a2c12" />
      </lineSegments>
      <lineSegments geometry={picked} renderOrder={3}>
        <lineBasicMaterial color={inks.indigo} depthTest={false} />
      </lineSegments>
      <lineSegments geometry={path} renderOrder={4}>
        <lineBasicMaterial color={inks.madder} depthTest={false} />
      </lineSegments>
    </>
  );
}
