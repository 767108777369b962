import { useMemo } from 'react';
import type { BufferGeometry } from 'three';
import { add, aroundIn, entityKind, star, type MapDocument, type Vec3 } from '@yesca/core';
import { isSeenInEye, useLibrary } from '../state/library.ts';
import { surfaceView, useDisplay } from '../state/display.ts';
import { useEditor } from '../state/editor.ts';
import { pointGeometry } from './eye-geometry.ts';
import { useInks } from './inks.ts';

/** Things as their kinds mark them, in world space. */
function entityLines(doc: MapDocument, selected: ReadonlySet<string>, which: boolean, pictures = true): BufferGeometry {
  const out: Vec3[] = [];
  for (const e of doc.entities.values()) {
    if (selected.has(e.id) !== which) continue;
    // What is seen as it is needs no mark until it is picked.
    if (!which && isSeenInEye(e, pictures)) continue;
    for (const line of entityKind(e.kind)?.mark(e, aroundIn(doc)) ?? star(12))
      line.forEach((p, i) => {
        if (i > 0) out.push(add(e.at, line[i - 1]!), add(e.at, p));
      });
  }
  return pointGeometry(out);
}

/** What is not solid, in the Eye: entities as line marks, and the leak trail. */
export function EyeMarks({ doc }: { doc: MapDocument }) {
  const inks = useInks();
  const selected = useEditor((s) => s.selection.entities);
  const trail = useEditor((s) => s.trail);
  const library = useLibrary((s) => s.props);
  const pictures = useDisplay((s) => surfaceView(s.eyeMode) === 'textured');
  // eslint-disable-next-line react-hooks/exhaustive-deps -- What is known of props decides which are marked.
  const plain = useMemo(() => entityLines(doc, selected, false, pictures), [doc, selected, library, pictures]);
  const picked = useMemo(() => entityLines(doc, selected, true), [doc, selected]);
  const wires = useMemo(
    () =>
      pointGeometry(
        [...doc.wires.values()].flatMap(({ from, to }) => {
          const [a, b] = [doc.entities.get(from.thing), doc.entities.get(to.thing)];
          return a && b && (selected.has(a.id) || selected.has(b.id)) ? [a.at, b.at] : [];
        }),
      ),
    [doc, selected],
  );
  const path = useMemo(
    () => pointGeometry((trail ?? []).flatMap((p, i, all) => (i === 0 ? [] : [all[i - 1]!, p]))),
    [trail],
  );
  return (
    <>
      <lineSegments geometry={plain}>
        <lineBasicMaterial color="#3a2c12" />
      </lineSegments>
      <lineSegments geometry={picked} renderOrder={3}>
        <lineBasicMaterial color={inks.indigo} depthTest={false} />
      </lineSegments>
      <lineSegments geometry={wires} renderOrder={4}>
        <lineBasicMaterial color={inks.ember} depthTest={false} />
      </lineSegments>
      <lineSegments geometry={path} renderOrder={4}>
        <lineBasicMaterial color={inks.madder} depthTest={false} />
      </lineSegments>
    </>
  );
}
