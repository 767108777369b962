import { decalOnMesh, readyDecal, translation } from '@yesca/core';
import { fallsOn } from './prop-decals.ts';
import { plainDecal } from './testing.ts';

/** A triangle in the plane of x and y, and a decal of 4 × 4 cm that lies within it. */
const MESH = {
  places: Float32Array.of(0, 0, 0, 100, 0, 0, 0, 100, 0),
  normals: Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0, 1),
  index: Uint32Array.of(0, 1, 2),
};
const decal = plainDecal({ at: [530, 20, 0], across: [4, 0, 0], upward: [0, 4, 0], through: [0, 0, 8] });
const cut = decalOnMesh(readyDecal(decal, { width: 64, height: 64 })!, translation([500, 0, 0]), MESH)!;

test('light on a decal runs evenly between the vertices that its prop is lit at', () => {
  // So much at each vertex as a plane over the triangle: red grows with x, green with y.
  const falls = fallsOn(cut, Float32Array.of(10, 5, 1, 110, 5, 1, 10, 205, 1));
  for (let k = 0; k < falls.length; k += 3) {
    expect(falls[k]).toBeCloseTo(10 + (cut.position[k]! - 500), 3);
    expect(falls[k + 1]).toBeCloseTo(5 + 2 * cut.position[k + 1]!, 3);
    expect(falls[k + 2]).toBeCloseTo(1, 5);
  }
});

test('where no light at vertices is known, or of another model, none is told', () => {
  expect([...fallsOn(cut, null)].every((f) => f === -1)).toBe(true);
  expect([...fallsOn(cut, Float32Array.of(1, 1, 1, 2, 2, 2))].every((f) => f === -1)).toBe(true);
});
