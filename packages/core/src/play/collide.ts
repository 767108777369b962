import { buildBvh, type Box, type Bvh, type Vec3 } from '../math/index.ts';
import type { Level } from '../compile/index.ts';
import { PLAYER, SKIN, TOUCH } from './constants.ts';

/** The solid side of a level, ready for sweeps. */
export interface Collision {
  readonly bvh: Bvh;
  readonly first: Uint32Array;
  readonly planes: Float64Array;
  readonly stack: Int32Array;
  /** Solids that move, where they are now. Tried one by one: who sweeps gives those near by. */
  readonly moving?: readonly MovingSolid[];
}

/** A solid of something that moves, where it is now: its bounds, and its planes as {@link Collision} holds them. */
export interface MovingSolid {
  /** Which body it belongs to. */
  readonly body: number;
  readonly bounds: Box;
  readonly planes: Float64Array;
}

export function makeCollision(level: Pick<Level, 'colliderBounds' | 'colliderFirst' | 'colliderPlane'>): Collision {
  const boxes: Box[] = [];
  const b = level.colliderBounds;
  for (let i = 0; i < b.length; i += 6)
    boxes.push({ min: [b[i]!, b[i + 1]!, b[i + 2]!], max: [b[i + 3]!, b[i + 4]!, b[i + 5]!] });
  const bvh = buildBvh(boxes);
  return { bvh, first: level.colliderFirst, planes: level.colliderPlane, stack: new Int32Array(bvh.depth * 2 + 8) };
}

/** What a sweep met. Reused by the caller: read it before the next sweep. */
export interface Sweep {
  /** Part of the way that is free, 0 to 1. */
  fraction: number;
  nx: number;
  ny: number;
  nz: number;
  /** The same for floors alone: of several things met at once the one that can be stood on. 1 for none. */
  floorFraction: number;
  floorX: number;
  floorY: number;
  floorZ: number;
  /** The box was inside a solid from the start; which way out is shortest is in {@link Sweep.nx} and {@link Sweep.depth}. */
  stuck: boolean;
  /** How deep it was in, cm. */
  depth: number;
  /** Which collider that stands still was met, −1 for none. */
  collider: number;
  /** Of which moving body a solid was met, −1 for none; the same of the floor. */
  body: number;
  floorBody: number;
}

export const newSweep = (): Sweep => ({
  fraction: 1,
  nx: 0,
  ny: 0,
  nz: 0,
  floorFraction: 1,
  floorX: 0,
  floorY: 0,
  floorZ: 0,
  stuck: false,
  depth: 0,
  collider: -1,
  body: -1,
  floorBody: -1,
});

/**
 * Sweeps an upright box (centre `p`, half sizes `hx hy hz`) along `d` against every solid, exactly: each solid is grown by
 * the box (their Minkowski sum, whose planes the level holds) and the centre's path clipped against it. The box stops a
 * skin before what it meets. A box that starts inside a solid, or nearer than a skin, is held back from going deeper only.
 */
export function sweepBox(
  c: Collision,
  p: Vec3,
  hx: number,
  hy: number,
  hz: number,
  dx: number,
  dy: number,
  dz: number,
  out: Sweep,
): Sweep {
  out.fraction = 1;
  out.nx = out.ny = out.nz = 0;
  out.floorFraction = 1;
  out.stuck = false;
  out.depth = 0;
  out.collider = -1;
  out.body = -1;
  out.floorBody = -1;
  const [px, py, pz] = p;
  const ax = Math.min(px, px + dx) - hx - SKIN;
  const ay = Math.min(py, py + dy) - hy - SKIN;
  const az = Math.min(pz, pz + dz) - hz - SKIN;
  const bx = Math.max(px, px + dx) + hx + SKIN;
  const by = Math.max(py, py + dy) + hy + SKIN;
  const bz = Math.max(pz, pz + dz) + hz + SKIN;
  for (const {
    body,
    bounds: { min, max },
    planes,
  } of c.moving ?? NOTHING)
    if (min[0] <= bx && max[0] >= ax && min[1] <= by && max[1] >= ay && min[2] <= bz && max[2] >= az)
      sweepOne(planes, 0, planes.length, -1, body, px, py, pz, hx, hy, hz, dx, dy, dz, out);
  const { bounds, link, order } = c.bvh;
  if (order.length === 0) return out;
  const { stack } = c;
  let top = 0;
  let i = 0;
  for (;;) {
    const o = i * 6;
    if (
      bounds[o]! <= bx &&
      bounds[o + 3]! >= ax &&
      bounds[o + 1]! <= by &&
      bounds[o + 4]! >= ay &&
      bounds[o + 2]! <= bz &&
      bounds[o + 5]! >= az
    ) {
      const n = link[i * 2 + 1]!;
      const at = link[i * 2]!;
      if (n === 0) {
        stack[top++] = at;
        i++;
        continue;
      }
      for (let k = at; k < at + n; k++) {
        const item = order[k]!;
        const first = c.first[item]! * 4;
        sweepOne(c.planes, first, c.first[item + 1]! * 4, item, -1, px, py, pz, hx, hy, hz, dx, dy, dz, out);
      }
    }
    if (top === 0) return out;
    i = stack[--top]!;
  }
}

const NOTHING: readonly MovingSolid[] = [];

function sweepOne(
  planes: Float64Array,
  first: number,
  end: number,
  item: number,
  body: number,
  px: number,
  py: number,
  pz: number,
  hx: number,
  hy: number,
  hz: number,
  dx: number,
  dy: number,
  dz: number,
  out: Sweep,
): void {
  let enter = -1;
  let leave = 1;
  /** The plane through which the path comes in, and how far off it the box begins and by how much it comes nearer. */
  let plane = -1;
  let gap = 0;
  let approach = 0;
  /** Of a start inside: the side that is nearest, and how far the box ends up off it. */
  let nearest = -Infinity;
  let side = -1;
  let ends = 0;
  for (let k = first; k < end; k += 4) {
    const nx = planes[k]!;
    const ny = planes[k + 1]!;
    const nz = planes[k + 2]!;
    const reach = planes[k + 3]! + Math.abs(nx) * hx + Math.abs(ny) * hy + Math.abs(nz) * hz;
    const from = nx * px + ny * py + nz * pz - reach;
    const to = from + nx * dx + ny * dy + nz * dz;
    if (from > TOUCH) {
      // Stays off this side all the way, so off the solid.
      if (to > TOUCH) return;
      const f = (from - TOUCH) / (from - to);
      if (f > enter) {
        enter = f;
        plane = k;
        gap = from;
        approach = from - to;
      }
    } else {
      if (from > nearest) {
        nearest = from;
        side = k;
        ends = to;
      }
      if (to > TOUCH) {
        const f = (TOUCH - from) / (to - from);
        if (f < leave) leave = f;
      }
    }
  }
  let fraction: number;
  if (plane < 0) {
    if (nearest <= 0 && (!out.stuck || -nearest > out.depth)) {
      out.stuck = true;
      out.depth = -nearest;
      out.collider = item;
      out.body = body;
      out.fraction = 0;
      out.nx = planes[side]!;
      out.ny = planes[side + 1]!;
      out.nz = planes[side + 2]!;
    }
    // Out, or along: free to go.
    if (ends >= nearest - 1e-12) return;
    plane = side;
    fraction = 0;
  } else {
    if (enter >= leave) return;
    fraction = Math.max(0, (gap - SKIN) / approach);
  }
  if (fraction < out.floorFraction && planes[plane + 2]! >= PLAYER.floorNormal) {
    out.floorFraction = fraction;
    out.floorX = planes[plane]!;
    out.floorY = planes[plane + 1]!;
    out.floorZ = planes[plane + 2]!;
    out.floorBody = body;
  }
  if (out.stuck || fraction >= out.fraction) return;
  out.fraction = fraction;
  out.nx = planes[plane]!;
  out.ny = planes[plane + 1]!;
  out.nz = planes[plane + 2]!;
  out.collider = item;
  out.body = body;
}
