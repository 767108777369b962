import { useMemo } from 'react';
import type { BufferGeometry } from 'three';
import { add, aroundIn, entityKind, star, type Entity, type MapDocument, type Vec3 } from '@yesca/core';
import { isSeenInEye, useLibrary } from '../state/library.ts';
import { surfaceView, useDisplay } from '../state/display.ts';
import { useEditor } from '../state/editor.ts';
import { pointGeometry } from './eye-geometry.ts';
import { useInks } from './inks.ts';

/** Things as their kinds mark them, in world space. */
function markLines(things: readonly Entity[], doc: MapDocument): BufferGeometry {
  const out: Vec3[] = [];
  for (const e of things)
    for (const line of entityKind(e.kind)?.mark(e, aroundIn(doc)) ?? star(12))
      line.forEach((p, i) => {
        if (i > 0) out.push(add(e.at, line[i - 1]!), add(e.at, p));
      });
  return pointGeometry(out);
}

/** The marks of those that are not picked; what is seen as it is needs none. */
function usePlainMarks(things: readonly Entity[], doc: MapDocument): BufferGeometry {
  const selected = useEditor((s) => s.selection.entities);
  const library = useLibrary((s) => s.props);
  const pictures = useDisplay((s) => surfaceView(s.eyeMode) === 'textured');
  return useMemo(
    () =>
      markLines(
        things.filter((e) => !selected.has(e.id) && !isSeenInEye(e, pictures)),
        doc,
      ),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- What is known of props decides which are marked.
    [things, doc, selected, library, pictures],
  );
}

/** What is not solid, in the Eye: entities as line marks, and the leak trail. */
export function EyeMarks({
  doc,
  still,
  live,
}: {
  doc: MapDocument;
  still: readonly Entity[];
  live: readonly Entity[];
}) {
  const inks = useInks();
  const selected = useEditor((s) => s.selection.entities);
  const trail = useEditor((s) => s.trail);
  const base = useEditor((s) => s.doc);
  const plain = usePlainMarks(still, base);
  const moved = usePlainMarks(live, doc);
  const picked = useMemo(
    () =>
      markLines(
        [...selected].flatMap((id) => doc.entities.get(id) ?? []),
        doc,
      ),
    [doc, selected],
  );
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
      {[plain, moved].map((geometry, k) => (
        <lineSegments key={k} geometry={geometry}>
          <lineBasicMaterial color="#3a2c12" />
        </lineSegments>
      ))}
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
