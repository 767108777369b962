import { cosSin, type Box, type Point2, type Vec3 } from '../math/index.ts';
import { BrushError } from './errors.ts';
import { hullOf } from './hull.ts';
import { checkExtent, extrude, ring } from './primitives.ts';
import { assertValid } from './solid.ts';
import type { Solid } from './types.ts';

const corners = (box: Box): [Point2, Point2] => [
  [box.min[0], box.min[1]],
  [box.max[0], box.max[1]],
];
const middle = (box: Box): Point2 => [(box.min[0] + box.max[0]) / 2, (box.min[1] + box.max[1]) / 2];
const towards = (from: Point2, to: Point2, t: number): Point2 => [
  from[0] + (to[0] - from[0]) * t,
  from[1] + (to[1] - from[1]) * t,
];

/** The convex solid between rings of equally many corners, one above the other, closed by an apex or a flat top. */
function loft(rings: readonly (readonly Vec3[])[], apex: Vec3 | null): Solid {
  const n = rings[0]!.length;
  const at = (k: number, i: number) => k * n + (i % n);
  const around = Array.from({ length: n }, (_, i) => i);
  const top = rings.length - 1;
  const loops: number[][] = [[...around].reverse()];
  for (let k = 0; k < top; k++)
    for (const i of around) loops.push([at(k, i), at(k, i + 1), at(k + 1, i + 1), at(k + 1, i)]);
  if (apex) for (const i of around) loops.push([at(top, i), at(top, i + 1), rings.length * n]);
  else loops.push(around.map((i) => at(top, i)));
  const solid: Solid = { vertices: [...rings.flat(), ...(apex ? [apex] : [])], loops };
  assertValid(solid);
  return solid;
}

/** A cone with `sides` faces on the base of a box; `top` is the part of the base that is left at the top (0 a point, below 1). */
export function coneSolid(box: Box, sides: number, top = 0): Solid {
  checkExtent(box);
  if (!(top >= 0 && top < 1))
    throw new BrushError('brush.coneTop', 'The top of a cone is 0 (a point) to just under 1 of its base.');
  const [low, high] = [box.min[2], box.max[2]];
  const base = ring(sides, ...corners(box));
  const c = middle(box);
  const foot = base.map(([x, y]): Vec3 => [x, y, low]);
  if (top === 0) return loft([foot], [c[0], c[1], high]);
  return loft([foot, base.map((p): Vec3 => [...towards(c, p, top), high])], null);
}

/** A spike: the four lower corners of a box drawn together into the middle of its top. */
export function spikeSolid(box: Box): Solid {
  checkExtent(box);
  const { min, max } = box;
  const [x, y] = middle(box);
  const foot: Vec3[] = [
    [min[0], min[1], min[2]],
    [max[0], min[1], min[2]],
    [max[0], max[1], min[2]],
    [min[0], max[1], min[2]],
  ];
  return loft([foot], [x, y, max[2]]);
}

/** The rings of half an ellipsoid over the base of a box, the base first, and its highest point. */
function domeRings(box: Box, sides: number, rings: number, size = 1): { rings: Vec3[][]; apex: Vec3 } {
  if (!Number.isInteger(rings) || rings < 1 || rings > 16)
    throw new BrushError('brush.rings', 'A dome has 1 to 16 rings. Type a whole number in that range.');
  const base = ring(sides, ...corners(box));
  const c = middle(box);
  const height = box.max[2] - box.min[2];
  const made = Array.from({ length: rings }, (_, k) => {
    const [across, up] = cosSin((90 * k) / rings);
    return base.map((p): Vec3 => [...towards(c, p, across * size), box.min[2] + height * up * size]);
  });
  return { rings: made, apex: [c[0], c[1], box.min[2] + height * size] };
}

/** Half an ellipsoid that fills a box, of `sides` by `rings` faces. */
export function domeSolid(box: Box, sides: number, rings: number): Solid {
  checkExtent(box);
  const { rings: made, apex } = domeRings(box, sides, rings);
  return loft(made, apex);
}

/**
 * A vault: a dome hollowed from below. The hollow is the dome shrunk towards the middle of its base, so that every joint
 * between two pieces is flat; `thickness` (cm) is that of the shell where it is thinnest.
 */
export function vaultSolids(box: Box, sides: number, rings: number, thickness: number): Solid[] {
  checkExtent(box);
  const least = Math.min((box.max[0] - box.min[0]) / 2, (box.max[1] - box.min[1]) / 2, box.max[2] - box.min[2]);
  checkThickness(thickness, least);
  const outer = domeRings(box, sides, rings);
  const inner = domeRings(box, sides, rings, 1 - thickness / least);
  const out: Solid[] = [];
  for (let k = 0; k < rings; k++)
    for (let i = 0; i < sides; i++) {
      const j = (i + 1) % sides;
      const part = (d: { rings: Vec3[][]; apex: Vec3 }): Vec3[] => [
        d.rings[k]![i]!,
        d.rings[k]![j]!,
        ...(k + 1 < rings ? [d.rings[k + 1]![j]!, d.rings[k + 1]![i]!] : [d.apex]),
      ];
      out.push(valid(hullOf([...part(outer), ...part(inner)])));
    }
  return out;
}

export function checkThickness(thickness: number, below: number): void {
  if (!(thickness >= 0.5 && thickness < below))
    throw new BrushError(
      'brush.thickness',
      `The thickness must be 0.5 cm or more and less than ${Math.round(below * 100) / 100} cm here, or nothing stays hollow.`,
    );
}

const valid = (solid: Solid): Solid => {
  assertValid(solid);
  return solid;
};

/**
 * Corners along a part of a ring that fills a rectangle: outer and inner ones, from `start` degrees counter-clockwise over
 * `degrees`. Parts of a circle are stretched so that they touch all four sides; `width` (cm) is that of the ring where the
 * rectangle has the proportions of the part.
 */
export function sector(
  box: Box,
  count: number,
  start: number,
  degrees: number,
  innerRadius: (outerRadius: number) => number,
): { outer: Point2[]; inner: Point2[] } {
  const place = Array.from({ length: count + 1 }, (_, i) => cosSin(start + (degrees * i) / count));
  const size = [box.max[0] - box.min[0], box.max[1] - box.min[1]] as const;
  // How far the part reaches depends a little on the inner radius, and that on the size: settled in a few rounds.
  let ratio = 0;
  let low: [number, number] = [0, 0];
  let span: [number, number] = [1, 1];
  for (let round = 0; round < 12; round++) {
    const all = place.flatMap(([x, y]) => [[x, y] as const, [x * ratio, y * ratio] as const]);
    low = [Math.min(...all.map((p) => p[0])), Math.min(...all.map((p) => p[1]))];
    span = [Math.max(...all.map((p) => p[0])) - low[0], Math.max(...all.map((p) => p[1])) - low[1]];
    const radius = (size[0] / span[0] + size[1] / span[1]) / 2;
    ratio = Math.max(0, Math.min(0.999, innerRadius(radius) / radius));
  }
  const put = (x: number, y: number): Point2 => {
    const t = (v: number, axis: 0 | 1) => {
      const part = (v - low[axis]) / span[axis];
      return part < 1e-9 ? box.min[axis] : part > 1 - 1e-9 ? box.max[axis] : box.min[axis] + part * size[axis];
    };
    return [t(x, 0), t(y, 1)];
  };
  return { outer: place.map(([x, y]) => put(x, y)), inner: place.map(([x, y]) => put(x * ratio, y * ratio)) };
}

/** A pipe or, with fewer than 360 degrees, a curved wall: one upright brush a side. */
export function pipeSolids(box: Box, sides: number, thickness: number, degrees = 360, start = 0): Solid[] {
  checkExtent(box);
  if (!(degrees >= 5 && degrees <= 360))
    throw new BrushError('brush.angle', 'The angle is 5 to 360 degrees. Type a number in that range.');
  let outer: Point2[];
  let inner: Point2[];
  if (degrees === 360) {
    checkThickness(thickness, Math.min(box.max[0] - box.min[0], box.max[1] - box.min[1]) / 2);
    outer = ring(sides, ...corners(box));
    inner = ring(
      sides,
      [box.min[0] + thickness, box.min[1] + thickness],
      [box.max[0] - thickness, box.max[1] - thickness],
    );
    outer.push(outer[0]!);
    inner.push(inner[0]!);
  } else {
    if (!Number.isInteger(sides) || sides < 1 || sides > 64)
      throw new BrushError('brush.sides', 'A curved wall has 1 to 64 sides. Type a whole number in that range.');
    let least = 0;
    ({ outer, inner } = sector(box, sides, start, degrees, (radius) => {
      least = radius;
      return radius - thickness;
    }));
    checkThickness(thickness, least);
  }
  return outer.slice(1).map((to, i) => {
    const outline = [outer[i]!, to, inner[i + 1]!, inner[i]!];
    return extrude(outline, box.min[2], box.max[2]);
  });
}
