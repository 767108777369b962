import { brushPlanes } from '../../brush/index.ts';
import { hypot, type Vec3, type Winding } from '../../math/index.ts';
import type { Occluders } from './occluders.ts';

/** The faces and edges of convex solids as flat numbers, solids and their corners by the places that occluders give them. */
interface Hulls {
  /** Normal and distance, those of solid `i` are `faceFirst[i] … faceFirst[i + 1]`. 4 a face */
  readonly faces: Float64Array;
  readonly faceFirst: Int32Array;
  /** Two corners, the face in whose outline they come in this order, and the face on the other side, both among all. 4 an edge */
  readonly edges: Int32Array;
  readonly edgeFirst: Int32Array;
}

function makeHulls({ brushes, cornerFirst }: Occluders): Hulls {
  const faces: number[] = [];
  const edges: number[] = [];
  const faceFirst = new Int32Array(brushes.length + 1);
  const edgeFirst = new Int32Array(brushes.length + 1);
  brushes.forEach((brush, i) => {
    const first = faces.length / 4;
    for (const { normal, distance } of brushPlanes(brush)) faces.push(...normal, distance);
    const half = new Map<string, number>();
    brush.faces.forEach(({ loop }, f) => {
      loop.forEach((a, k) => half.set(`${a} ${loop[(k + 1) % loop.length]!}`, first + f));
    });
    for (const [key, face] of half) {
      const [a, b] = key.split(' ').map(Number) as [number, number];
      const other = half.get(`${b} ${a}`);
      if (other !== undefined && a < b) edges.push(cornerFirst[i]! + a, cornerFirst[i]! + b, face, other);
    }
    faceFirst[i + 1] = faces.length / 4;
    edgeFirst[i + 1] = edges.length / 4;
  });
  return { faces: Float64Array.from(faces), faceFirst, edges: Int32Array.from(edges), edgeFirst };
}

/** A corner this near to a plane (cm) lies on it. */
const ON = 1e-7;

/** Polygons in a row, used again for every place. */
class Pieces {
  corners = new Float64Array(1 << 12);
  /** Where each ends, in numbers. */
  ends = new Int32Array(1 << 8);
  count = 0;
  private filled = 0;

  clear(): void {
    this.count = 0;
    this.filled = 0;
  }

  /** Takes a polygon: so many numbers of a list. */
  add(list: Float64Array, from: number, to: number): void {
    const end = this.filled + to - from;
    if (end > this.corners.length) {
      const more = new Float64Array(2 * end);
      more.set(this.corners);
      this.corners = more;
    }
    if (this.count === this.ends.length) {
      const more = new Int32Array(2 * this.count);
      more.set(this.ends);
      this.ends = more;
    }
    for (let i = from, k = this.filled; i < to; i++, k++) this.corners[k] = list[i]!;
    this.ends[this.count++] = this.filled = end;
  }
}

/**
 * What of convex faces is seen from a place past convex solids: the faces without the solids' shadows. A shadow is convex: it is held by
 * the planes through the place and the edges of the solid's outline as it is seen from there, and by the faces that are seen. So what
 * is left of a convex face are convex pieces, and no rays need be sent (after Nishita & Nakamae, Half-Tone Representation of 3-D Objects
 * Illuminated by Area Sources, 1983).
 */
export class Unshaded {
  private now = new Pieces();
  private next = new Pieces();
  /** Planes that hold a shadow: normal and distance, the shadow behind them. */
  private planes = new Float64Array(4 * 64);
  private planeCount = 0;
  private rest = new Float64Array(3 * 128);
  private inside = new Float64Array(3 * 128);
  private outside = new Float64Array(3 * 128);
  private readonly heights = new Float64Array(128);

  /** What holds the faces at hand as they are seen from a place: an axis, and the half angle about it. */
  private readonly cone = { x: 0, y: 0, z: 0, cos: 1, sin: 0 };
  private readonly hulls: Hulls;

  constructor(private readonly solids: Occluders) {
    this.hulls = makeHulls(solids);
  }

  private keys = new Float64Array(64);

  /** Puts those of some solids first that look largest from a place: most of what is hidden is hidden by few. */
  sort(list: Int32Array, from: number, to: number, [px, py, pz]: Vec3): void {
    const { bounds } = this.solids;
    if (this.keys.length < to - from) this.keys = new Float64Array(2 * (to - from));
    const { keys } = this;
    for (let k = from; k < to; k++) {
      const solid = list[k]!;
      const b = solid * 6;
      let [size, away] = [0, 0];
      for (let c = 0; c < 3; c++) {
        const p = c === 0 ? px : c === 1 ? py : pz;
        const [low, high] = [bounds[b + c]!, bounds[b + c + 3]!];
        const beside = p < low ? low - p : p > high ? p - high : 0;
        size += (high - low) ** 2;
        away += beside * beside;
      }
      const key = size / (away + 1);
      // Into its place among those before.
      let n = k - from;
      for (; n > 0 && keys[n - 1]! < key; n--) {
        keys[n] = keys[n - 1]!;
        list[from + n] = list[from + n - 1]!;
      }
      keys[n] = key;
      list[from + n] = solid;
    }
  }

  /** The sum of a function over what of faces is seen from a place past some solids: `list[from … to − 1]`. */
  sum(
    p: Vec3,
    faces: readonly Winding[],
    list: Int32Array,
    from: number,
    to: number,
    of: (corners: Float64Array, from: number, to: number) => number,
  ): number {
    this.now.clear();
    for (const face of faces) {
      face.forEach((corner, k) => this.rest.set(corner, k * 3));
      this.now.add(this.rest, 0, face.length * 3);
    }
    this.aim(p, faces);
    for (let k = from; k < to && this.now.count > 0; k++) if (this.mayShade(p, list[k]!)) this.shade(p, list[k]!);
    let sum = 0;
    for (let i = 0, start = 0; i < this.now.count; start = this.now.ends[i++]!)
      sum += of(this.now.corners, start, this.now.ends[i]!);
    return sum;
  }

  /** Finds the cone that holds faces as they are seen from a place. */
  private aim([px, py, pz]: Vec3, faces: readonly Winding[]): void {
    const { cone } = this;
    let [x, y, z, count] = [0, 0, 0, 0];
    for (const face of faces)
      for (const [cx, cy, cz] of face) {
        const far = hypot(cx - px, cy - py, cz - pz);
        x += (cx - px) / far;
        y += (cy - py) / far;
        z += (cz - pz) / far;
        count++;
      }
    const long = hypot(x, y, z);
    cone.x = x / long;
    cone.y = y / long;
    cone.z = z / long;
    cone.cos = 1;
    // Faces all about a place are held by no cone.
    if (!(long > 1e-3 * count)) cone.cos = -1;
    else
      for (const face of faces)
        for (const [cx, cy, cz] of face) {
          const far = hypot(cx - px, cy - py, cz - pz);
          const cos = ((cx - px) * cone.x + (cy - py) * cone.y + (cz - pz) * cone.z) / far;
          if (!(cos >= cone.cos)) cone.cos = cos || -1;
        }
    cone.sin = Math.sqrt(Math.max(0, 1 - cone.cos * cone.cos));
  }

  /** Whether a solid may be before the faces that were aimed at: false only when the ball that holds it is beside their cone. */
  private mayShade([px, py, pz]: Vec3, solid: number): boolean {
    const { x, y, z, cos, sin } = this.cone;
    // What is wider than half of all there is to see holds everything.
    if (cos <= 0) return true;
    const { bounds } = this.solids;
    const b = solid * 6;
    const [hx, hy, hz] = [
      bounds[b + 3]! - bounds[b]!,
      bounds[b + 4]! - bounds[b + 1]!,
      bounds[b + 5]! - bounds[b + 2]!,
    ];
    const [dx, dy, dz] = [bounds[b]! + hx / 2 - px, bounds[b + 1]! + hy / 2 - py, bounds[b + 2]! + hz / 2 - pz];
    const r2 = (hx * hx + hy * hy + hz * hz) / 4 + ON;
    const away2 = dx * dx + dy * dy + dz * dz;
    if (away2 <= r2) return true;
    const along = dx * x + dy * y + dz * z;
    // The angle to its middle, beside that of the cone and half of that under which the ball is seen.
    const across = Math.sqrt(Math.max(0, away2 - along * along));
    return along * cos + across * sin > 0 && across * cos - along * sin <= Math.sqrt(r2);
  }

  private plane(x: number, y: number, z: number, distance: number): void {
    const at = this.planeCount * 4;
    if (at === this.planes.length) {
      const more = new Float64Array(2 * at);
      more.set(this.planes);
      this.planes = more;
    }
    this.planes[at] = x;
    this.planes[at + 1] = y;
    this.planes[at + 2] = z;
    this.planes[at + 3] = distance;
    this.planeCount++;
  }

  /** The planes that hold a solid and its shadow. */
  private outline([px, py, pz]: Vec3, solid: number): void {
    const { faces, faceFirst, edges, edgeFirst } = this.hulls;
    const { corners } = this.solids;
    this.planeCount = 0;
    const isSeen = (face: number): boolean => {
      const f = face * 4;
      return faces[f]! * px + faces[f + 1]! * py + faces[f + 2]! * pz > faces[f + 3]!;
    };
    for (let e = edgeFirst[solid]!; e < edgeFirst[solid + 1]!; e++) {
      const seen = isSeen(edges[e * 4 + 2]!);
      if (seen === isSeen(edges[e * 4 + 3]!)) continue;
      const a = edges[e * 4]! * 3;
      const b = edges[e * 4 + 1]! * 3;
      const [ax, ay, az] = [corners[a]! - px, corners[a + 1]! - py, corners[a + 2]! - pz];
      const [bx, by, bz] = [corners[b]! - px, corners[b + 1]! - py, corners[b + 2]! - pz];
      let x = ay * bz - az * by;
      let y = az * bx - ax * bz;
      let z = ax * by - ay * bx;
      const long = Math.sqrt(x * x + y * y + z * z);
      // An edge that points at the place: its neighbours hold the shadow.
      if (long < 1e-9) continue;
      const turn = (seen ? 1 : -1) / long;
      x *= turn;
      y *= turn;
      z *= turn;
      this.plane(x, y, z, x * px + y * py + z * pz);
    }
    for (let f = faceFirst[solid]!; f < faceFirst[solid + 1]!; f++)
      if (isSeen(f)) this.plane(faces[f * 4]!, faces[f * 4 + 1]!, faces[f * 4 + 2]!, faces[f * 4 + 3]!);
  }

  private heightsOf(list: Float64Array, from: number, to: number, plane: number): { above: boolean; below: boolean } {
    const { planes, heights } = this;
    const [x, y, z, d] = [planes[plane]!, planes[plane + 1]!, planes[plane + 2]!, planes[plane + 3]!];
    let [above, below] = [false, false];
    for (let k = from, n = 0; k < to; k += 3, n++) {
      const h = x * list[k]! + y * list[k + 1]! + z * list[k + 2]! - d;
      heights[n] = h;
      if (h > ON) above = true;
      else if (h < -ON) below = true;
    }
    return { above, below };
  }

  /** Takes a solid's shadow off all pieces. */
  private shade(p: Vec3, solid: number): void {
    this.outline(p, solid);
    const { now, next } = this;
    next.clear();
    for (let i = 0, start = 0; i < now.count; start = now.ends[i++]!) this.cut(now.corners, start, now.ends[i]!);
    [this.now, this.next] = [next, now];
  }

  /** Puts what of a piece lies beyond any of the planes among the next ones. */
  private cut(list: Float64Array, from: number, to: number): void {
    const end = this.planeCount * 4;
    // Most pieces are not in the shadow at all: they stay whole.
    for (let plane = 0; plane < end; plane += 4)
      if (!this.heightsOf(list, from, to, plane).below) return this.next.add(list, from, to);
    let count = to - from;
    for (let k = 0; k < count; k++) this.rest[k] = list[from + k]!;
    for (let plane = 0; plane < end && count > 0; plane += 4) {
      const { above, below } = this.heightsOf(this.rest, 0, count, plane);
      if (!above) continue;
      if (!below) return this.next.add(this.rest, 0, count);
      count = this.split(count);
    }
  }

  /** Divides what is left of a piece by the plane that its heights are of: what lies beyond is kept, what lies behind stays in hand. */
  private split(count: number): number {
    const { rest, inside, outside, heights } = this;
    let [i, o] = [0, 0];
    const n = count / 3;
    for (let k = 0; k < n; k++) {
      const m = k + 1 < n ? k + 1 : 0;
      const [h, g] = [heights[k]!, heights[m]!];
      for (let c = 0; c < 3; c++) {
        if (h <= ON) inside[i + c] = rest[k * 3 + c]!;
        if (h >= -ON) outside[o + c] = rest[k * 3 + c]!;
      }
      if (h <= ON) i += 3;
      if (h >= -ON) o += 3;
      if ((h > ON && g < -ON) || (h < -ON && g > ON)) {
        const t = h / (h - g);
        for (let c = 0; c < 3; c++)
          inside[i + c] = outside[o + c] = rest[k * 3 + c]! + (rest[m * 3 + c]! - rest[k * 3 + c]!) * t;
        i += 3;
        o += 3;
      }
    }
    if (o >= 9) this.next.add(outside, 0, o);
    [this.rest, this.inside] = [inside, rest];
    return i >= 9 ? i : 0;
  }
}
