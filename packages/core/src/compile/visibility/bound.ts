import TinyQueue from 'tinyqueue';
import { ON_PLANE, type Vec3 } from '../../math/index.ts';
import { flatHull } from '../structure/index.ts';
import { Beam, emptyFlat, PolygonClip, type Flat } from './beam.ts';
import { reversed, roomFor, type Ports } from './ports.ts';

/** A window that leaves less than this of its port dark counts as all of it. */
const WHOLE = 0.9;

/** A window that grew this often is opened wholly, so that the work ends. */
const GROWN = 3;

/**
 * What may be seen through one port at a time: of every port ahead the window that its light comes through, as one polygon. Where light
 * comes several ways the windows are united, so each port is gone through a few times however many ways there are.
 * What is found is never too little.
 */
export class Reach {
  /** Ports that the light of the last start comes to, in the order in which they were found. */
  readonly reached: number[] = [];
  /** Beams that were cut for the last start. */
  spent = 0;
  private readonly ports: Ports;
  private readonly stamp: Int32Array;
  private readonly windowAt: Int32Array;
  private readonly windowCorners: Int32Array;
  private readonly grown: Uint8Array;
  private readonly waiting: Uint8Array;
  /** Ports to go on from, the nearest to the start first: along a line they come in this order, so that windows are whole in time. */
  private readonly queue: TinyQueue<number>;
  private readonly far: Float64Array;
  private turn = 0;
  private begun = 0;
  private windows = new Float64Array(4096);
  private used = 0;
  private readonly clip: PolygonClip;
  private readonly beam: Beam;
  /** Area of each port, twice, and what windows take of it. */
  private readonly area: Float64Array;
  private readonly source: Flat = emptyFlat(0);
  private readonly pass: Flat = emptyFlat(0);
  private readonly piece: Float64Array;

  constructor(ports: Ports) {
    this.ports = ports;
    this.stamp = new Int32Array(ports.count).fill(-1);
    this.windowAt = new Int32Array(ports.count);
    this.windowCorners = new Int32Array(ports.count);
    this.grown = new Uint8Array(ports.count);
    this.waiting = new Uint8Array(ports.count);
    this.far = new Float64Array(ports.count);
    this.queue = new TinyQueue<number>([], (a, b) => this.far[a]! - this.far[b]! || a - b);
    this.clip = new PolygonClip(roomFor(ports));
    this.beam = new Beam(this.clip.room);
    this.area = Float64Array.from({ length: ports.count }, (_, g) =>
      twiceArea(ports.point, ports.first[g]! * 3, ports.first[g + 1]! - ports.first[g]!, ports.plane, g * 4),
    );
    this.piece = new Float64Array(this.clip.room * 3);
  }

  /** Whether the last start's light comes to a port. */
  has(port: number): boolean {
    return this.stamp[port] === this.turn;
  }

  /** The window of a reached port, in `into`. */
  window(port: number, into: Flat): void {
    if (this.windowCorners[port] === 0) return portFlat(this.ports, port, into);
    into.points = this.windows;
    into.at = this.windowAt[port]!;
    into.corners = this.windowCorners[port]!;
  }

  /** Follows the light that enters through a port. Once `budget` beams are cut all ports ahead count as wholly open. */
  start(start: number, budget: number): void {
    const { ports, reached, waiting, clip, source, pass, queue } = this;
    const { to, out, outFirst, plane } = ports;
    this.turn++;
    this.begun = start;
    this.used = 0;
    this.spent = 0;
    reached.length = 0;
    const m = start * 4;
    const spread = (cell: number, through: number) => {
      const exact = through >= 0 && this.spent < budget;
      if (exact) {
        portFlat(ports, start, source);
        // What of the source looks through the window's plane.
        const p = through * 4;
        clip.load(source);
        if (!clip.cut(-plane[p]!, -plane[p + 1]!, -plane[p + 2]!, -plane[p + 3]! - ON_PLANE)) return;
        source.points = this.piece;
        source.at = 0;
        clip.store(source);
        this.window(through, pass);
        this.beam.aim(source, pass, plane, m, p);
      }
      for (let k = outFirst[cell]!; k < outFirst[cell + 1]!; k++) {
        const next = out[k]!;
        if (through >= 0 ? next === reversed(through) : next === reversed(start)) continue;
        const known = this.has(next);
        if (known && this.windowCorners[next] === 0) continue;
        if (!known && !isAhead(ports, start, next)) continue;
        this.spent++;
        if (this.spent > budget) {
          this.open(next, known);
          continue;
        }
        this.loadPort(next);
        if (!clip.cut(plane[m]!, plane[m + 1]!, plane[m + 2]!, plane[m + 3]! - ON_PLANE)) continue;
        if (exact && !this.beam.shine(clip)) continue;
        this.take(next, known);
      }
    };
    spread(to[start]!, -1);
    for (let port = queue.pop(); port !== undefined; port = queue.pop()) {
      waiting[port] = 0;
      spread(to[port]!, port);
    }
  }

  private loadPort(port: number): void {
    const { first, point } = this.ports;
    const at = first[port]! * 3;
    const corners = first[port + 1]! - first[port]!;
    const { points } = this.clip;
    for (let i = 0; i < corners * 3; i++) points[i] = point[at + i]!;
    this.clip.corners = corners;
  }

  /** A port is reached, as a whole. */
  private open(port: number, known: boolean): void {
    if (!known) this.meet(port);
    this.windowCorners[port] = 0;
    this.push(port);
  }

  private meet(port: number): void {
    this.reached.push(port);
    this.stamp[port] = this.turn;
    const { ball } = this.ports;
    const [a, b] = [this.begun * 4, port * 4];
    const [x, y, z] = [ball[a]! - ball[b]!, ball[a + 1]! - ball[b + 1]!, ball[a + 2]! - ball[b + 2]!];
    this.far[port] = x * x + y * y + z * z;
  }

  private push(port: number): void {
    if (this.waiting[port]) return;
    this.waiting[port] = 1;
    this.queue.push(port);
  }

  /** What the clip holds is lit of a port. */
  private take(port: number, known: boolean): void {
    const { clip, ports } = this;
    if (!known) {
      if (this.isWhole(port, clip.points, clip.corners)) return this.open(port, known);
      this.meet(port);
      this.grown[port] = 0;
      this.keep(port, clip.points, clip.corners);
      this.push(port);
      return;
    }
    if (this.covers(port)) return;
    const grown = ++this.grown[port]!;
    if (grown > GROWN) return this.open(port, known);
    const points: Vec3[] = [];
    const add = (from: Float64Array, at: number, corners: number) => {
      for (let i = 0; i < corners; i++) points.push([from[at + i * 3]!, from[at + i * 3 + 1]!, from[at + i * 3 + 2]!]);
    };
    add(this.windows, this.windowAt[port]!, this.windowCorners[port]!);
    add(clip.points, 0, clip.corners);
    const p = port * 4;
    const { plane } = ports;
    const hull = flatHull(points, [plane[p]!, plane[p + 1]!, plane[p + 2]!]);
    if (hull.length < 3 || hull.length >= clip.room) return this.open(port, known);
    const whole = Float64Array.from(hull.flat());
    if (this.isWhole(port, whole, hull.length)) return this.open(port, known);
    this.keep(port, whole, hull.length);
    this.push(port);
  }

  /** Whether a window is as good as all of its port: then it counts as that, and need not be looked at again. */
  private isWhole(port: number, points: Float64Array, corners: number): boolean {
    return twiceArea(points, 0, corners, this.ports.plane, port * 4) > WHOLE * this.area[port]!;
  }

  private keep(port: number, points: Float64Array, corners: number): void {
    if (this.used + corners * 3 > this.windows.length) {
      const more = new Float64Array(this.windows.length * 2);
      more.set(this.windows);
      this.windows = more;
    }
    for (let i = 0; i < corners * 3; i++) this.windows[this.used + i] = points[i]!;
    this.windowAt[port] = this.used;
    this.windowCorners[port] = corners;
    this.used += corners * 3;
  }

  /** Whether a port's window holds what the clip holds. */
  private covers(port: number): boolean {
    const { windows, clip } = this;
    const { plane } = this.ports;
    const [mx, my, mz] = [plane[port * 4]!, plane[port * 4 + 1]!, plane[port * 4 + 2]!];
    const at = this.windowAt[port]!;
    const corners = this.windowCorners[port]!;
    for (let i = 0; i < corners; i++) {
      const a = at + i * 3;
      const b = at + ((i + 1) % corners) * 3;
      const [ex, ey, ez] = [
        windows[b]! - windows[a]!,
        windows[b + 1]! - windows[a + 1]!,
        windows[b + 2]! - windows[a + 2]!,
      ];
      const [sx, sy, sz] = [my * ez - mz * ey, mz * ex - mx * ez, mx * ey - my * ex];
      const least = -ON_PLANE * Math.sqrt(ex * ex + ey * ey + ez * ez);
      for (let k = 0; k < clip.corners * 3; k += 3) {
        const d =
          (clip.points[k]! - windows[a]!) * sx +
          (clip.points[k + 1]! - windows[a + 1]!) * sy +
          (clip.points[k + 2]! - windows[a + 2]!) * sz;
        if (d < least) return false;
      }
    }
    return true;
  }
}

/** Twice the area of a flat polygon whose normal stands in `planes`. */
function twiceArea(points: Float64Array, at: number, corners: number, planes: Float64Array, p: number): number {
  let [x, y, z] = [0, 0, 0];
  const [ox, oy, oz] = [points[at]!, points[at + 1]!, points[at + 2]!];
  for (let k = at + 3, end = at + corners * 3 - 3; k < end; k += 3) {
    const [ax, ay, az] = [points[k]! - ox, points[k + 1]! - oy, points[k + 2]! - oz];
    const [bx, by, bz] = [points[k + 3]! - ox, points[k + 4]! - oy, points[k + 5]! - oz];
    x += ay * bz - az * by;
    y += az * bx - ax * bz;
    z += ax * by - ay * bx;
  }
  return x * planes[p]! + y * planes[p + 1]! + z * planes[p + 2]!;
}

/** A port's whole outline, in `into`. */
export function portFlat({ first, point }: Ports, port: number, into: Flat): void {
  into.points = point;
  into.at = first[port]! * 3;
  into.corners = first[port + 1]! - first[port]!;
}

/** Whether a line that goes through one port may go on through another: the other begins in front of it and it ends behind the other. */
export function isAhead(ports: Ports, port: number, other: number): boolean {
  const { plane } = ports;
  const [g, o] = [port * 4, other * 4];
  // Of two that lie in one plane and look the same way one may be looked through after the other, along the plane.
  const alike = plane[g]! * plane[o]! + plane[g + 1]! * plane[o + 1]! + plane[g + 2]! * plane[o + 2]! > 0.999;
  const least = alike ? -ON_PLANE : ON_PLANE;
  return reaches(ports, other, port, 1, least) && reaches(ports, port, other, -1, least);
}

/** Whether a port's outline reaches farther than `least` in front of another's plane (`side` 1) or behind it (−1). */
function reaches(
  { first, point, plane, ball }: Ports,
  port: number,
  other: number,
  side: 1 | -1,
  least: number,
): boolean {
  const p = other * 4;
  const x = plane[p]! * side;
  const y = plane[p + 1]! * side;
  const z = plane[p + 2]! * side;
  const d = plane[p + 3]! * side + least;
  const b = port * 4;
  const middle = ball[b]! * x + ball[b + 1]! * y + ball[b + 2]! * z - d;
  if (middle > 0) return true;
  if (middle + ball[b + 3]! <= 0) return false;
  for (let i = first[port]! * 3, end = first[port + 1]! * 3; i < end; i += 3)
    if (point[i]! * x + point[i + 1]! * y + point[i + 2]! * z > d) return true;
  return false;
}
