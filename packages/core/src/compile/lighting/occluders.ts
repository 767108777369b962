import { brushBounds, brushPlanes, type Brush } from '../../brush/index.ts';
import { buildBvh, type Box, type Bvh } from '../../math/index.ts';

/** Convex solids that stop light, as flat numbers. Solids are told by their place. */
export interface Occluders {
  readonly brushes: readonly Brush[];
  readonly bvh: Bvh;
  readonly boxes: readonly Box[];
  /** Six a solid: least x, y, z, greatest x, y, z. */
  readonly bounds: Float64Array;
  /** Three a corner; those of solid `i` are `cornerFirst[i] … cornerFirst[i + 1]`. */
  readonly corners: Float64Array;
  readonly cornerFirst: Int32Array;
  /** Normal and distance of planes that are not along the axes: the bounds have those. */
  readonly planes: Float64Array;
  readonly planeFirst: Int32Array;
  /** Room for lists of solids, for who walks among them: one at a time. */
  scratch: Int32Array;
}

export function makeOccluders(brushes: readonly Brush[]): Occluders {
  const boxes = brushes.map(brushBounds);
  const corners: number[] = [];
  const planes: number[] = [];
  const cornerFirst = new Int32Array(brushes.length + 1);
  const planeFirst = new Int32Array(brushes.length + 1);
  brushes.forEach((brush, i) => {
    for (const v of brush.vertices) corners.push(v[0], v[1], v[2]);
    for (const { normal, distance } of brushPlanes(brush))
      if (!normal.some((c) => Math.abs(c) === 1)) planes.push(normal[0], normal[1], normal[2], distance);
    cornerFirst[i + 1] = corners.length / 3;
    planeFirst[i + 1] = planes.length / 4;
  });
  return {
    brushes,
    bvh: buildBvh(boxes),
    boxes,
    bounds: Float64Array.from(boxes.flatMap(({ min, max }) => [...min, ...max])),
    corners: Float64Array.from(corners),
    cornerFirst,
    planes: Float64Array.from(planes),
    planeFirst,
    scratch: new Int32Array(4 * brushes.length + 64),
  };
}

/** A ray that runs along a plane this near to it (cm) is behind it: none slips through where two solids touch. */
export const ALONG = 1e-4;

/**
 * Whether a solid lies on the segment from `o` along `d` for parameters from 0 to `far`; not when it is only touched by an end, but
 * when the segment runs along a face of it.
 */
export function stopsSegment(
  { bounds, planes, planeFirst }: Occluders,
  solid: number,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
  far: number,
): boolean {
  const q = solid * 6;
  let near = 0;
  let away = far;
  const flat = 1e-9 * (Math.abs(dx) + Math.abs(dy) + Math.abs(dz));
  for (let k = 0; k < 3; k++) {
    const o = k === 0 ? ox : k === 1 ? oy : oz;
    const d = k === 0 ? dx : k === 1 ? dy : dz;
    const low = bounds[q + k]! - o;
    const high = bounds[q + k + 3]! - o;
    if (d > flat) {
      if (low / d > near) near = low / d;
      if (high / d < away) away = high / d;
    } else if (d < -flat) {
      if (high / d > near) near = high / d;
      if (low / d < away) away = low / d;
    } else if (low > ALONG || high < -ALONG) return false;
  }
  if (near >= away) return false;
  for (let k = planeFirst[solid]! * 4; k < planeFirst[solid + 1]! * 4; k += 4) {
    const slope = planes[k]! * dx + planes[k + 1]! * dy + planes[k + 2]! * dz;
    const height = planes[k + 3]! - (planes[k]! * ox + planes[k + 1]! * oy + planes[k + 2]! * oz);
    if (slope > flat) {
      if (height / slope < away) away = height / slope;
    } else if (slope < -flat) {
      if (height / slope > near) near = height / slope;
    } else if (height < -ALONG) return false;
    if (near >= away) return false;
  }
  return true;
}
