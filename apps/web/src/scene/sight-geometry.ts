import { BufferAttribute, BufferGeometry } from 'three';
import { markVisible, type Sight } from '@yesca/core';

/** One byte a surface: whether it is drawn for whoever stands in a cell. */
export function seenSurfaces(sight: Sight, cell: number): Uint8Array {
  const marks = new Uint8Array(sight.surfaceCellFirst.length - 1);
  markVisible(sight, cell, marks);
  return marks;
}

/** The surfaces with a mark, shaded by the way they face: it is a drawing of space, not of materials. */
export function sightGeometry(sight: Sight, marks: Uint8Array, mark: number): BufferGeometry {
  const index: number[] = [];
  const color = new Float32Array(sight.position.length);
  for (let s = 0; s < marks.length; s++) {
    const [nx, ny, nz] = [
      sight.surfaceNormal[s * 3]!,
      sight.surfaceNormal[s * 3 + 1]!,
      sight.surfaceNormal[s * 3 + 2]!,
    ];
    const shade = 0.62 + 0.22 * nz + 0.1 * nx + 0.05 * ny;
    for (let k = sight.surfaceIndexFirst[s]!; k < sight.surfaceIndexFirst[s + 1]!; k++) {
      const v = sight.index[k]!;
      color.set([shade, shade, shade * 0.98], v * 3);
      if (marks[s] === mark) index.push(v);
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(sight.position, 3));
  geometry.setAttribute('color', new BufferAttribute(color, 3));
  geometry.setIndex(new BufferAttribute(Uint32Array.from(index), 1));
  return geometry;
}
