import { ALONG, type Occluders } from './occluders.ts';

/** Side planes a beam may have: one an edge of the tile, and the tile's own. */
const MOST_PLANES = 5;

/**
 * All segments from a flat tile with four corners to a source: their convex hull, as points and as planes that hold it. A source is a
 * list of points in homogeneous coordinates: a lamp's place with the last one 1, a direction (of the sun) with the last one 0; a
 * source of some size is the corners of what holds it. Used again for every tile: nothing is allocated.
 */
export class Beam {
  /** Four numbers a point of the source. */
  readonly source: Float64Array;
  private readonly count: number;
  /** The tile's corners, in order round it. */
  private readonly tile = new Float64Array(12);
  private readonly planes = new Float64Array(MOST_PLANES * 4);
  private planeCount = 0;
  private readonly bounds = new Float64Array(6);
  /** What holds the source: it reaches without end where a direction leads. */
  private readonly reach = Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);

  constructor(
    private readonly solids: Occluders,
    source: readonly (readonly [number, number, number, number])[],
  ) {
    this.source = Float64Array.from(source.flat());
    this.count = source.length;
    const { reach } = this;
    for (const point of source)
      for (let k = 0; k < 3; k++) {
        const c = point[k]!;
        const [least, most] = point[3] === 0 ? [c < 0 ? -Infinity : Infinity, c > 0 ? Infinity : -Infinity] : [c, c];
        if (least < reach[k]!) reach[k] = least;
        if (most > reach[k + 3]!) reach[k + 3] = most;
      }
  }

  /** Aims from a tile: its corners in order, and the outward normal of the surface it lies on. */
  aim(corners: Float64Array, nx: number, ny: number, nz: number): void {
    const { tile, source, bounds, planes, reach } = this;
    const end = this.count * 4;
    for (let i = 0; i < 12; i++) tile[i] = corners[i]!;
    for (let k = 0; k < 3; k++) {
      const a = tile[k]!;
      const b = tile[k + 3]!;
      const c = tile[k + 6]!;
      const d = tile[k + 9]!;
      bounds[k] = Math.min(a, b, c, d, reach[k]!) - ALONG;
      bounds[k + 3] = Math.max(a, b, c, d, reach[k + 3]!) + ALONG;
    }
    // Nothing of it lies behind the tile.
    planes[0] = -nx;
    planes[1] = -ny;
    planes[2] = -nz;
    planes[3] = -(nx * tile[0]! + ny * tile[1]! + nz * tile[2]!);
    this.planeCount = 1;
    const mx = (tile[0]! + tile[6]!) / 2;
    const my = (tile[1]! + tile[7]!) / 2;
    const mz = (tile[2]! + tile[8]!) / 2;
    for (let e = 0; e < 4; e++) {
      const a = e * 3;
      const b = e === 3 ? 0 : a + 3;
      const px = tile[a]!;
      const py = tile[a + 1]!;
      const pz = tile[a + 2]!;
      const ex = tile[b]! - px;
      const ey = tile[b + 1]! - py;
      const ez = tile[b + 2]! - pz;
      // The plane through the edge that has the whole source on its inner side: it turns outward from point to point.
      let found = false;
      let cx = 0;
      let cy = 0;
      let cz = 0;
      let distance = 0;
      for (let q = 0; q < end; q += 4) {
        const w = source[q + 3]!;
        if (found && cx * source[q]! + cy * source[q + 1]! + cz * source[q + 2]! <= distance * w + 1e-9) continue;
        const sx = source[q]! - w * px;
        const sy = source[q + 1]! - w * py;
        const sz = source[q + 2]! - w * pz;
        const x = ey * sz - ez * sy;
        const y = ez * sx - ex * sz;
        const z = ex * sy - ey * sx;
        const long = Math.sqrt(x * x + y * y + z * z);
        if (long < 1e-9) continue;
        const out = x * (px - mx) + y * (py - my) + z * (pz - mz) > 0 ? 1 / long : -1 / long;
        cx = x * out;
        cy = y * out;
        cz = z * out;
        distance = cx * px + cy * py + cz * pz;
        found = true;
      }
      // Where the source reaches behind the tile there may be no such plane: the beam is then held by the others.
      for (let q = 0; found && q < end; q += 4)
        found = cx * source[q]! + cy * source[q + 1]! + cz * source[q + 2]! <= distance * source[q + 3]! + 1e-9;
      if (!found) continue;
      const at = this.planeCount++ * 4;
      planes[at] = cx;
      planes[at + 1] = cy;
      planes[at + 2] = cz;
      planes[at + 3] = distance;
    }
  }

  /** Whether a box given as six bounds may lie in the beam: false only when it certainly does not. */
  private meetsBox(b: Float64Array, at: number): boolean {
    const { bounds, planes } = this;
    for (let k = 0; k < 3; k++) if (b[at + k]! > bounds[k + 3]! || b[at + k + 3]! < bounds[k]!) return false;
    for (let p = 0; p < this.planeCount * 4; p += 4) {
      const x = planes[p]!;
      const y = planes[p + 1]!;
      const z = planes[p + 2]!;
      const least = x * b[x > 0 ? at : at + 3]! + y * b[y > 0 ? at + 1 : at + 4]! + z * b[z > 0 ? at + 2 : at + 5]!;
      if (least > planes[p + 3]! + ALONG) return false;
    }
    return true;
  }

  /** Whether a solid may lie in the beam: false only when a plane of either parts them. */
  meets(solid: number): boolean {
    const { bounds, corners, cornerFirst, planes, planeFirst } = this.solids;
    if (!this.meetsBox(bounds, solid * 6)) return false;
    const from = planeFirst[solid]!;
    const to = planeFirst[solid + 1]!;
    if (from === to) return true;
    for (let p = 0; p < this.planeCount * 4; p += 4) {
      const x = this.planes[p]!;
      const y = this.planes[p + 1]!;
      const z = this.planes[p + 2]!;
      const d = this.planes[p + 3]! + ALONG;
      let apart = true;
      for (let c = cornerFirst[solid]! * 3; apart && c < cornerFirst[solid + 1]! * 3; c += 3)
        apart = x * corners[c]! + y * corners[c + 1]! + z * corners[c + 2]! > d;
      if (apart) return false;
    }
    for (let p = from * 4; p < to * 4; p += 4)
      if (this.before(planes[p]!, planes[p + 1]!, planes[p + 2]!, planes[p + 3]!)) return false;
    return true;
  }

  /** Whether the whole beam lies before a plane. */
  private before(x: number, y: number, z: number, d: number): boolean {
    const { tile, source, count } = this;
    const beyond = d + ALONG;
    for (let i = 0; i < 12; i += 3) if (x * tile[i]! + y * tile[i + 1]! + z * tile[i + 2]! < beyond) return false;
    for (let i = 0; i < count * 4; i += 4)
      if (x * source[i]! + y * source[i + 1]! + z * source[i + 2]! < beyond * source[i + 3]!) return false;
    return true;
  }

  /** Appends all solids that may lie in the beam to a list from `at` on; gives where it then ends. */
  collect(list: Int32Array, at: number): number {
    const { bounds, link, order } = this.solids.bvh;
    if (order.length === 0) return at;
    const stack = [0];
    let end = at;
    while (stack.length) {
      const i = stack.pop()!;
      if (!this.meetsBox(bounds, i * 6)) continue;
      const n = link[i * 2 + 1]!;
      const first = link[i * 2]!;
      if (n === 0) stack.push(first, i + 1);
      for (let s = first; s < first + n; s++) if (this.meets(order[s]!)) list[end++] = order[s]!;
    }
    return end;
  }
}
