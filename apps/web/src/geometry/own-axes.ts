import {
  applyAffine,
  composeAffine,
  cosSin,
  pickedBounds,
  rotation,
  scaling,
  translation,
  uniteBoxes,
  type Affine,
  type Box,
  type MapDocument,
  type Picked,
  type Vec3,
} from '@yesca/core';

/** Bounds in axes that are turned about the world's upright axis by some degrees; 0 are the world's own. */
export interface TransformBox {
  readonly box: Box;
  readonly turn: number;
}

const UPRIGHT: Vec3 = [0, 0, 0];

/** How the first picked brush is turned on the Plan, by its longest level edge: −45 to 45 degrees. */
export function ownTurn(doc: MapDocument, picked: Picked): number {
  const brush = doc.brushes.get([...(picked.brushes ?? [])][0] ?? '');
  if (!brush) return 0;
  let longest = 0;
  let turn = 0;
  for (const { loop } of brush.faces)
    loop.forEach((i, k) => {
      const [a, b] = [brush.vertices[i]!, brush.vertices[loop[(k + 1) % loop.length]!]!];
      const [x, y] = [b[0] - a[0], b[1] - a[1]];
      if (Math.abs(b[2] - a[2]) > 1e-6 || Math.hypot(x, y) <= longest + 1e-6) return;
      longest = Math.hypot(x, y);
      turn = (Math.atan2(y, x) * 180) / Math.PI;
    });
  const quarter = turn - Math.round(turn / 90) * 90;
  return Math.abs(quarter) < 1e-6 ? 0 : quarter;
}

/** The box round what is picked: in the world's axes, or with `own` in those of the first brush. Null when nothing has a place. */
export function transformBox(doc: MapDocument, picked: Picked, own: boolean): TransformBox | null {
  const box = pickedBounds(doc, picked);
  const turn = own && !picked.rooms?.size && !picked.entities?.size ? ownTurn(doc, picked) : 0;
  if (!box || turn === 0) return box && { box, turn: 0 };
  const back = rotation(2, -turn, UPRIGHT);
  const corners = [...picked.brushes!]
    .flatMap((id) => doc.brushes.get(id)?.vertices ?? [])
    .map((v) => applyAffine(back, v));
  return { box: uniteBoxes(corners.map((p) => ({ min: p, max: p }))), turn };
}

/** A point as it lies in turned axes. */
export function inAxes(p: Vec3, turn: number): Vec3 {
  if (turn === 0) return p;
  const [c, s] = cosSin(turn);
  return [p[0] * c + p[1] * s, p[1] * c - p[0] * s, p[2]];
}

/** The map that takes one box in turned axes to another, for what stands in the world. */
export function boxToBox(from: Box, to: Box, turn: number): Affine {
  const k = [0, 1, 2].map((i) => (to.max[i]! - to.min[i]!) / (from.max[i]! - from.min[i]!)) as unknown as Vec3;
  const moved: Vec3 = [to.min[0] - from.min[0], to.min[1] - from.min[1], to.min[2] - from.min[2]];
  const local = composeAffine(translation(moved), scaling(k, from.min));
  return composeAffine(rotation(2, turn, UPRIGHT), composeAffine(local, rotation(2, -turn, UPRIGHT)));
}
