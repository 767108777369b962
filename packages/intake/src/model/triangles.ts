import { Primitive } from '@gltf-transform/core';

/** Corners of triangles, by their numbers, of the ways in which a primitive may list them; null for points and lines. */
export function cornersOf(primitive: Primitive): number[] | null {
  const indices = primitive.getIndices();
  const count = indices ? indices.getCount() : (primitive.getAttribute('POSITION')?.getCount() ?? 0);
  const at = (k: number): number => (indices ? indices.getScalar(k) : k);
  const list = Array.from({ length: count }, (_, k) => at(k));
  switch (primitive.getMode()) {
    case Primitive.Mode.TRIANGLES:
      return list.slice(0, count - (count % 3));
    case Primitive.Mode.TRIANGLE_STRIP:
      return list.slice(2).flatMap((c, k) => (k % 2 === 0 ? [list[k]!, list[k + 1]!, c] : [list[k + 1]!, list[k]!, c]));
    case Primitive.Mode.TRIANGLE_FAN:
      return list.slice(2).flatMap((c, k) => [list[0]!, list[k + 1]!, c]);
    default:
      return null;
  }
}
