/** Two things this near (cm) touch: no plane between them is worth anything. */
const TOUCHING = 0.01;
/** Separating planes are moved out by this much (cm): more than what touches, so that rounding never hides what can be seen. */
const SLACK = 0.03;

/** A plane through an edge and a point this near to it (cm) may lean anywhere: it is left out. */
const NEAR = 0.25;

/** A flat polygon in an array: three numbers a corner, counter-clockwise seen from the tip of its normal. */
export interface Flat {
  points: Float64Array;
  /** Place of its first number. */
  at: number;
  corners: number;
}

/** An empty polygon with room for so many corners. */
export const emptyFlat = (room: number): Flat => ({ points: new Float64Array(room * 3), at: 0, corners: 0 });

/** A polygon that is cut by planes. */
export class PolygonClip {
  /** What is left. */
  points: Float64Array;
  corners = 0;
  /** Corners there is room for. What would have more stays uncut, which errs towards too much. */
  readonly room: number;
  private spare: Float64Array;
  private readonly off: Float64Array;

  constructor(room: number) {
    this.room = room;
    this.points = new Float64Array(room * 3);
    this.spare = new Float64Array(room * 3);
    this.off = new Float64Array(room);
  }

  load({ points, at, corners }: Flat): void {
    for (let i = 0, n = corners * 3; i < n; i++) this.points[i] = points[at + i]!;
    this.corners = corners;
  }

  store(into: Flat): void {
    for (let i = 0, n = this.corners * 3; i < n; i++) into.points[into.at + i] = this.points[i]!;
    into.corners = this.corners;
  }

  /** Keeps what lies in front of a plane (`x·p ≥ distance`); false when nothing does. */
  cut(x: number, y: number, z: number, distance: number): boolean {
    const { points, off, corners } = this;
    let behind = 0;
    for (let i = 0, k = 0; i < corners; i++, k += 3) {
      const d = points[k]! * x + points[k + 1]! * y + points[k + 2]! * z - distance;
      off[i] = d;
      if (d < 0) behind++;
    }
    if (behind === 0) return true;
    if (behind === corners) return false;
    if (corners + 1 >= this.room) return true;
    const out = this.spare;
    let n = 0;
    let before = corners - 1;
    for (let i = 0; i < corners; before = i++) {
      const d = off[i]!;
      const e = off[before]!;
      if (d < 0 !== e < 0) {
        const t = e / (e - d);
        for (let c = 0; c < 3; c++) {
          const q = points[before * 3 + c]!;
          out[n * 3 + c] = q + (points[i * 3 + c]! - q) * t;
        }
        n++;
      }
      if (d >= 0) {
        out[n * 3] = points[i * 3]!;
        out[n * 3 + 1] = points[i * 3 + 1]!;
        out[n * 3 + 2] = points[i * 3 + 2]!;
        n++;
      }
    }
    this.spare = points;
    this.points = out;
    this.corners = n;
    return n >= 3;
  }
}

/**
 * A beam is all lines that pass a source and then a pass; the planes that touch both with one on either side bound it (Teller,
 * Visibility Computations in Densely Occluded Polyhedral Environments, 1992). It is moved out by the tolerance and unclear planes
 * are left out, so it is never too narrow.
 */
export class Beam {
  private readonly bounds: Float64Array;
  private count = 0;

  constructor(room: number) {
    this.bounds = new Float64Array(room * 8);
  }

  /**
   * Takes aim: the planes of the beam that comes from the source, which looks along `m`, and leaves through the pass, which looks along
   * `p` (places of normals in `planes`). The source must not lie in front of the pass. What lies beyond the pass can then be cut down.
   */
  aim(source: Flat, pass: Flat, planes: Float64Array, m: number, p: number): void {
    this.count = 0;
    this.rims(source, pass, planes, m, 1, 1);
    this.rims(pass, source, planes, p, -1, -1);
  }

  /** The same backwards: what of a source is still looked through by what comes to a polygon that is lit beyond the pass. */
  aimBack(lit: Flat, pass: Flat, planes: Float64Array, l: number, p: number): void {
    this.count = 0;
    this.rims(lit, pass, planes, l, -1, 1);
    this.rims(pass, lit, planes, p, 1, -1);
  }

  /** Keeps of the polygon what the beam lights that was aimed last; false when it lights nothing. */
  shine(clip: PolygonClip): boolean {
    const { bounds } = this;
    for (let i = 0, n = this.count * 4; i < n; i += 4)
      if (!clip.cut(bounds[i]!, bounds[i + 1]!, bounds[i + 2]!, bounds[i + 3]!)) return false;
    return true;
  }

  /**
   * Adds the planes through the edges of one polygon that touch the other. The other lies in front of it (`side` 1) or behind it (−1);
   * what lies on the other's side of the planes is kept (`keep` 1), or what lies on this one's (−1).
   */
  private rims(edges: Flat, other: Flat, planes: Float64Array, m: number, side: 1 | -1, keep: 1 | -1): void {
    const mx = planes[m]!;
    const my = planes[m + 1]!;
    const mz = planes[m + 2]!;
    const P = edges.points;
    const Q = other.points;
    const last = edges.at + (edges.corners - 1) * 3;
    const end = other.at + other.corners * 3;
    for (let i = edges.at; i <= last; i += 3) {
      const j = i === last ? edges.at : i + 3;
      const ax = P[i]!;
      const ay = P[i + 1]!;
      const az = P[i + 2]!;
      const ex = P[j]! - ax;
      const ey = P[j + 1]! - ay;
      const ez = P[j + 2]! - az;
      const long = Math.sqrt(ex * ex + ey * ey + ez * ez);
      if (long < 1e-4) continue;
      // Into the polygon from its edge.
      const sx = (my * ez - mz * ey) / long;
      const sy = (mz * ex - mx * ez) / long;
      const sz = (mx * ey - my * ex) / long;
      // Of the planes through the edge that touch the other, the one that leans in most has all of it beyond.
      let bestX = 0;
      let bestY = 0;
      let none = false;
      for (let k = other.at; k < end; k += 3) {
        const rx = Q[k]! - ax;
        const ry = Q[k + 1]! - ay;
        const rz = Q[k + 2]! - az;
        const x = rx * sx + ry * sy + rz * sz;
        const y = (rx * mx + ry * my + rz * mz) * side;
        if (y <= TOUCHING) {
          if (x > TOUCHING) {
            none = true;
            break;
          }
          continue;
        }
        if (bestY === 0 || x * bestY > bestX * y) {
          bestX = x;
          bestY = y;
        }
      }
      if (none || bestY === 0) continue;
      const l = Math.sqrt(bestX * bestX + bestY * bestY);
      if (l < NEAR) continue;
      const a = (keep * side * bestX) / l;
      const b = (-keep * bestY) / l;
      const nx = a * mx + b * sx;
      const ny = a * my + b * sy;
      const nz = a * mz + b * sz;
      if (this.count * 4 === this.bounds.length) return;
      this.bounds.set([nx, ny, nz, nx * ax + ny * ay + nz * az - SLACK], 4 * this.count++);
    }
  }
}
