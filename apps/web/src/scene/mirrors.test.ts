/** @jest-environment jsdom */
import { buildLevel, placeEntity, setMirror, type FaceRef, type MapDocument } from '@yesca/core';
import { TEMPLATES } from '@yesca/stock';
import { Vector3, type Vector2, type WebGLRenderer } from 'three';
import { makeMirrors, mirrorPlanes } from './mirrors.ts';

const made = TEMPLATES.find((t) => t.key === 'two-rooms')!.make('Two');
const doc = placeEntity(made, 'spawn', [-300, 50, 0]);
/** The renderer is asked for its size alone until something is drawn. */
const GL = { getDrawingBufferSize: (to: Vector2) => to.set(800, 600) } as unknown as WebGLRenderer;
const floors = (of: MapDocument): FaceRef[] =>
  [...of.brushes.values()]
    .filter((b) => b.room && JSON.stringify(b.room.part).includes('floor'))
    .flatMap((b) => b.faces.map((f) => ({ brush: b.id, face: f.id })));

test('a map without mirrors has none', () => {
  const { level } = buildLevel(doc, 'sketch');
  expect(mirrorPlanes(level)).toEqual([]);
  expect(makeMirrors(level, GL).meshes).toEqual([]);
});

test('flush floors that reflect are one mirror in their plane, drawn while some of them is', () => {
  expect(floors(doc).length).toBeGreaterThan(6);
  const { level } = buildLevel(setMirror(doc, floors(doc), 0.4), 'sketch');
  const up = mirrorPlanes(level).filter(({ surfaces }) => level.surfaceNormal[surfaces[0]! * 3 + 2]! > 0.99);
  expect(up).toHaveLength(1);
  expect(up[0]!.strength).toBeCloseTo(0.4, 2);
  const mirrors = makeMirrors(level, GL);
  const k = mirrorPlanes(level).findIndex((p) => p.surfaces[0] === up[0]!.surfaces[0]);
  const mesh = mirrors.meshes[k]!;
  // In its own frame the plane is flat, and back in the world its corners are the level's.
  const position = mesh.geometry.getAttribute('position');
  const corners = new Set<string>();
  for (let i = 0; i < position.count; i++) {
    const p = new Vector3().fromBufferAttribute(position, i);
    expect(Math.abs(p.z)).toBeLessThan(1e-3);
    corners.add(p.applyMatrix4(mesh.matrix).toArray().map(Math.round).join());
  }
  const expected = new Set(
    up[0]!.surfaces.flatMap((s) =>
      [...level.index.subarray(level.surfaceIndexFirst[s], level.surfaceIndexFirst[s + 1])].map((v) =>
        [0, 1, 2].map((c) => Math.round(level.position[v * 3 + c]!)).join(),
      ),
    ),
  );
  expect(corners).toEqual(expected);
  const drawn = new Uint8Array(level.surfaceMaterial.length);
  mirrors.show(drawn);
  expect(mesh.visible).toBe(false);
  drawn[up[0]!.surfaces.at(-1)!] = 1;
  mirrors.show(drawn);
  expect(mesh.visible).toBe(true);
  mirrors.dispose();
});
