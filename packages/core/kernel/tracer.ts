/**
 * Rays against convex solids on a tree of four children a node, four children tested at once. Compiled to WebAssembly with SIMD by
 * `npm run generate`; the host (`src/compile/tracing/kernel.ts`) lays the tree out in memory.
 *
 * A node has 128 bytes: the least x of its four children, then y, z, the greatest x, y, z (six vectors of 32-bit floats), four links,
 * and the slots that are axis-aligned boxes (bits), the rest unused. A link ≥ 0 is the address of a node, a link < 0 is `~solid`. The
 * bounds of a box are the box: that the ray meets them ends it. Bounds of empty slots are inside out.
 * A solid has 8 bytes: the address of its planes and the number of their groups. A group has 64 bytes: the x, y, z of four normals
 * and their four distances. Planes along the axes are left out, since the bounds have them.
 * A ray has 32 bytes: origin, the greatest parameter, direction, and unused.
 */

let nodes: usize = 0;
let solids: usize = 0;
let stack: usize = 0;

/** Where the tree's root, the solids and a stack of 8 bytes an entry lie. */
export function setUp(root: usize, solidTable: usize, stackBase: usize): void {
  nodes = root;
  solids = solidTable;
  stack = stackBase;
}

/** One over a part of a direction, never infinite: zero times infinity would be no number. */
function reciprocal(d: f32): f32 {
  const most: f32 = 1e30;
  const one: f32 = 1;
  return abs(d) < 1e-30 ? (d < 0 ? -most : most) : one / d;
}

/** The greater of each pair. In this order of arguments what is no number is skipped. */
function greater(kept: v128, other: v128): v128 {
  return v128.pmax<f32>(kept, other);
}
function less(kept: v128, other: v128): v128 {
  return v128.pmin<f32>(kept, other);
}

function leastLane(v: v128): f32 {
  return min(
    min(f32x4.extract_lane(v, 0), f32x4.extract_lane(v, 1)),
    min(f32x4.extract_lane(v, 2), f32x4.extract_lane(v, 3)),
  );
}

function greatestLane(v: v128): f32 {
  return max(
    max(f32x4.extract_lane(v, 0), f32x4.extract_lane(v, 1)),
    max(f32x4.extract_lane(v, 2), f32x4.extract_lane(v, 3)),
  );
}

/**
 * Where a ray enters a solid after it has entered its bounds at `near` and before it leaves them at `away`, or −1: clipped by four
 * planes at a time (Cyrus & Beck, Generalized Two- and Three-Dimensional Clipping, 1978).
 */
function enter(solid: i32, ox: v128, oy: v128, oz: v128, dx: v128, dy: v128, dz: v128, near: f32, away: f32): f32 {
  const at = solids + ((<usize>solid) << 3);
  let group = <usize>load<u32>(at);
  const end = group + ((<usize>load<u32>(at, 4)) << 6);
  const zero = f32x4.splat(0);
  let enters = f32x4.splat(near);
  let leaves = f32x4.splat(away);
  for (; group < end; group += 64) {
    const nx = v128.load(group);
    const ny = v128.load(group, 16);
    const nz = v128.load(group, 32);
    const slope = f32x4.add(f32x4.add(f32x4.mul(nx, dx), f32x4.mul(ny, dy)), f32x4.mul(nz, dz));
    const height = f32x4.sub(
      v128.load(group, 48),
      f32x4.add(f32x4.add(f32x4.mul(nx, ox), f32x4.mul(ny, oy)), f32x4.mul(nz, oz)),
    );
    const t = f32x4.div(height, slope);
    const out = f32x4.gt(slope, zero);
    const into = f32x4.lt(slope, zero);
    // Beside a plane that the ray runs along, and before it.
    if (v128.any_true(v128.andnot(f32x4.lt(height, zero), v128.or(out, into)))) return -1;
    leaves = less(leaves, v128.bitselect(t, leaves, out));
    enters = greater(enters, v128.bitselect(t, enters, into));
  }
  const first = greatestLane(enters);
  return first < leastLane(leaves) ? first : -1;
}

/** Whether anything solid lies on the segment from `o` along `d` for parameters from 0 to `far`. */
export function anyHit(ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, far: f32): i32 {
  const rx = reciprocal(dx);
  const ry = reciprocal(dy);
  const rz = reciprocal(dz);
  // Which of a box's two sides the ray meets first depends on its direction alone.
  const lowX: usize = rx < 0 ? 48 : 0;
  const lowY: usize = ry < 0 ? 64 : 16;
  const lowZ: usize = rz < 0 ? 80 : 32;
  const highX: usize = 48 - lowX;
  const highY: usize = 80 - lowY;
  const highZ: usize = 112 - lowZ;
  const vox = f32x4.splat(ox);
  const voy = f32x4.splat(oy);
  const voz = f32x4.splat(oz);
  const vrx = f32x4.splat(rx);
  const vry = f32x4.splat(ry);
  const vrz = f32x4.splat(rz);
  const zero = f32x4.splat(0);
  const end = f32x4.splat(far);
  const base = stack;
  let top = base;
  let node = nodes;
  while (true) {
    let near = f32x4.mul(f32x4.sub(v128.load(node + lowX), vox), vrx);
    let away = f32x4.mul(f32x4.sub(v128.load(node + highX), vox), vrx);
    near = greater(greater(zero, near), f32x4.mul(f32x4.sub(v128.load(node + lowY), voy), vry));
    away = less(less(end, away), f32x4.mul(f32x4.sub(v128.load(node + highY), voy), vry));
    near = greater(near, f32x4.mul(f32x4.sub(v128.load(node + lowZ), voz), vrz));
    away = less(away, f32x4.mul(f32x4.sub(v128.load(node + highZ), voz), vrz));
    let met = i32x4.bitmask(f32x4.lt(near, away));
    if (met & load<i32>(node, 112)) return 1;
    // The child met last is gone into at once; the others wait.
    let next: i32 = -1;
    while (met) {
      const slot = <usize>ctz(met);
      met &= met - 1;
      const link = load<i32>(node + (slot << 2), 96);
      if (link >= 0) {
        if (next >= 0) {
          store<i32>(top, next);
          top += 4;
        }
        next = link;
        continue;
      }
      // Lanes are chosen at compile time only: through memory above the stack.
      v128.store(top, near);
      v128.store(top, away, 16);
      const into = load<f32>(top + (slot << 2));
      const out = load<f32>(top + (slot << 2), 16);
      if (enter(~link, vox, voy, voz, f32x4.splat(dx), f32x4.splat(dy), f32x4.splat(dz), into, out) >= 0) return 1;
    }
    if (next < 0) {
      if (top === base) return 0;
      top -= 4;
      next = load<i32>(top);
    }
    node = <usize>next;
  }
}

/** {@link anyHit} for rays in a row; a byte each tells. */
export function anyHits(rays: usize, count: i32, out: usize): void {
  for (let i = 0; i < count; i++, rays += 32)
    store<u8>(
      out + i,
      anyHit(
        load<f32>(rays),
        load<f32>(rays, 4),
        load<f32>(rays, 8),
        load<f32>(rays, 16),
        load<f32>(rays, 20),
        load<f32>(rays, 24),
        load<f32>(rays, 12),
      ),
    );
}

/** The parameter of the hit that {@link firstHit} found last. */
let hitAt: f32 = 0;
export function lastHitAt(): f32 {
  return hitAt;
}

/** The first solid on the segment from `o` along `d` for parameters from 0 to `far`, or −1; a solid that holds the origin is met at 0. */
export function firstHit(ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, far: f32): i32 {
  const rx = reciprocal(dx);
  const ry = reciprocal(dy);
  const rz = reciprocal(dz);
  const lowX: usize = rx < 0 ? 48 : 0;
  const lowY: usize = ry < 0 ? 64 : 16;
  const lowZ: usize = rz < 0 ? 80 : 32;
  const highX: usize = 48 - lowX;
  const highY: usize = 80 - lowY;
  const highZ: usize = 112 - lowZ;
  const vox = f32x4.splat(ox);
  const voy = f32x4.splat(oy);
  const voz = f32x4.splat(oz);
  const vrx = f32x4.splat(rx);
  const vry = f32x4.splat(ry);
  const vrz = f32x4.splat(rz);
  const vdx = f32x4.splat(dx);
  const vdy = f32x4.splat(dy);
  const vdz = f32x4.splat(dz);
  const zero = f32x4.splat(0);
  const base = stack;
  let top = base;
  let node = nodes;
  let best = far;
  let solid: i32 = -1;
  while (true) {
    let near = f32x4.mul(f32x4.sub(v128.load(node + lowX), vox), vrx);
    let away = f32x4.mul(f32x4.sub(v128.load(node + highX), vox), vrx);
    near = greater(greater(zero, near), f32x4.mul(f32x4.sub(v128.load(node + lowY), voy), vry));
    away = less(less(f32x4.splat(best), away), f32x4.mul(f32x4.sub(v128.load(node + highY), voy), vry));
    near = greater(near, f32x4.mul(f32x4.sub(v128.load(node + lowZ), voz), vrz));
    away = less(away, f32x4.mul(f32x4.sub(v128.load(node + highZ), voz), vrz));
    let met = i32x4.bitmask(f32x4.lt(near, away));
    if (met) {
      const boxes = load<i32>(node, 112);
      // Above the four entries that this node may add to the stack.
      const scratch = top + 32;
      v128.store(scratch, near);
      v128.store(scratch, away, 16);
      const own = top;
      // Solids first: they shorten the ray. Nodes wait in order, the nearest on top.
      let inner = 0;
      while (met) {
        const slot = <usize>ctz(met);
        const bit = met & -met;
        met &= met - 1;
        const link = load<i32>(node + (slot << 2), 96);
        if (link >= 0) {
          inner |= bit;
          continue;
        }
        const into = load<f32>(scratch + (slot << 2));
        if (into >= best) continue;
        if (boxes & bit) {
          best = into;
          solid = ~link;
          continue;
        }
        const out = load<f32>(scratch + (slot << 2), 16);
        const at = enter(~link, vox, voy, voz, vdx, vdy, vdz, into, min(out, best));
        if (at >= 0) {
          best = at;
          solid = ~link;
        }
      }
      while (inner) {
        const slot = <usize>ctz(inner);
        inner &= inner - 1;
        const at = load<f32>(scratch + (slot << 2));
        if (at >= best) continue;
        let place = top;
        while (place > own && load<f32>(place - 8, 4) < at) {
          store<u64>(place, load<u64>(place - 8));
          place -= 8;
        }
        store<i32>(place, load<i32>(node + (slot << 2), 96));
        store<f32>(place, at, 4);
        top += 8;
      }
    }
    // What lies behind the best hit since it was put there is left out.
    while (top > base && load<f32>(top - 8, 4) >= best) top -= 8;
    if (top === base) {
      hitAt = best;
      return solid;
    }
    top -= 8;
    node = <usize>load<i32>(top);
  }
}

/** {@link firstHit} for rays in a row; 8 bytes each: the solid and the parameter. */
export function firstHits(rays: usize, count: i32, out: usize): void {
  for (let i = 0; i < count; i++, rays += 32, out += 8) {
    store<i32>(
      out,
      firstHit(
        load<f32>(rays),
        load<f32>(rays, 4),
        load<f32>(rays, 8),
        load<f32>(rays, 16),
        load<f32>(rays, 20),
        load<f32>(rays, 24),
        load<f32>(rays, 12),
      ),
    );
    store<f32>(out, hitAt, 4);
  }
}
