import { brushPlanes, type Brush } from '../../brush/index.ts';
import { OFF_SURFACE, type Vec3 } from '../../math/index.ts';
import { enterBrush } from '../tracing/index.ts';
import { Beam } from './beam.ts';
import { chartPoint, clipRectangle, GUTTER } from './charts.ts';
import { rowLight } from './face-light.ts';
import { sourceAt } from './light-sources.ts';
import { rayLight, type SourceAt } from './source-at.ts';
import { FAR, reachOfSky, type Light } from './lights.ts';
import { isSampled, samplePlace, spotOf, type Luxels } from './luxels.ts';
import { stopsSegment, type Occluders } from './occluders.ts';
import type { Unshaded } from './unshaded.ts';

/** What light meets on its way: brushes that show the sky are apart, since the sun comes in through them. */
export interface DirectScene {
  readonly all: Occluders;
  readonly solids: Occluders;
  readonly skies: Occluders;
  /** What is seen of lights that have some size, past all solids. */
  readonly unshaded: { readonly all: Unshaded; readonly solids: Unshaded };
}

/** What comes to the luxels of a chart for a strength of 1, lux: the mean over each, and over what of it is surface where that differs. */
export interface Direct {
  readonly share: Float64Array;
  readonly surface: ReadonlyMap<number, number>;
  /** What of it is red, green and blue, where something on its way tints it: 3 a luxel, the most 1. */
  readonly tints?: Float32Array;
  /** How much had to be looked at to find it: tiles, and places of luxels. */
  readonly work: number;
}

/**
 * How much of a lamp's or the sun's light comes to the luxels of a chart: lux for a strength of 1, the mean over where a luxel is
 * sampled; null when none does. Exact but for the rounding of doubles: a tile of luxels whose beam to the lamp holds no solid is wholly
 * lit, one all of whose corners are shaded by one convex solid is wholly dark, since the shadow of a convex solid is convex; any
 * other is cut in two. Single luxels try each of their places against the few solids that are left.
 */
export function directLight(luxels: Luxels, scene: DirectScene, light: Light): Direct | null {
  if (luxels.tree.empty) return null;
  const source = sourceAt(luxels, light);
  if (!source) return null;
  const met = light.type === 'parallel' ? 'solids' : 'all';
  const walk = new Walk(luxels, scene[met], source, scene.unshaded[met]);
  // The rays of a convex solid's faces never meet it but from behind, where they bring nothing.
  if (light.type === 'area') walk.leaveOut(light.brush);
  if (light.type === 'parallel') walk.comesThrough(scene.skies, light.towards);
  return walk.run();
}

/** Tiles up to this wide (cm) may be lit by a few of their luxels where a light is broad. */
const SMOOTH = 130;
/** They are when these differ by no more than this; or by more, by no more than `SLOPE`, as long as the middle is what the corners tell to `BENT`. */
const ALIKE = 0.04;
const SLOPE = 0.5;
const BENT = 0.01;

/** Of sixteen places of a luxel those that are tried first: some in each row and each column. */
const FEW = [0, 0, 3, 0, 1, 1, 2, 2, 0, 3, 3, 3];
/** A place that sees so much of a light sees all of it: the rest is rounding. */
const ALL = 1 - 1e-9;

const NO_SKIES: readonly Brush[] = [];

/** One walk through the tree of a chart's luxels. */
class Walk {
  private readonly beam: Beam;
  /** Made when a tile is lit: most lights do not reach most charts. */
  private out: Float64Array | null = null;
  private readonly surface = new Map<number, number>();
  /** What of a broad light comes to luxels, NaN where that was not asked yet. */
  private found: Float64Array | null = null;
  private readonly corners = new Float64Array(12);
  /** The solids of the tile at hand and of those it lies in, one list after the other. */
  private list: Int32Array;
  private skies: { readonly solids: Occluders; readonly beam: Beam; readonly towards: Vec3 } | null = null;
  private skyList: Int32Array = new Int32Array(0);
  private without = -1;
  private work = 0;
  /** Of the chart: where the lattice's origin lies, raised off the surface. */
  private readonly origin: Vec3;

  constructor(
    private readonly luxels: Luxels,
    private readonly solids: Occluders,
    private readonly source: SourceAt,
    private readonly unshaded: Unshaded,
  ) {
    this.beam = new Beam(solids, source.points);
    this.list = solids.scratch;
    const { normal } = luxels.chart.surface.plane;
    const o = chartPoint(luxels.chart, 0, 0);
    this.origin = [o[0] + normal[0] * OFF_SURFACE, o[1] + normal[1] * OFF_SURFACE, o[2] + normal[2] * OFF_SURFACE];
  }

  /** The light comes from beyond the world, through faces that show the sky. */
  comesThrough(solids: Occluders, towards: Vec3): void {
    this.skies = { solids, beam: new Beam(solids, this.source.points), towards };
    this.skyList = solids.scratch;
  }

  /** A brush that is not in the light's way, since its own faces shine. */
  leaveOut(brush: string): void {
    this.without = this.solids.brushes.findIndex((b) => b.id === brush);
  }

  private dropped(from: number, to: number): number {
    let end = from;
    for (let i = from; i < to; i++) if (this.list[i] !== this.without) this.list[end++] = this.list[i]!;
    return end;
  }

  run(): Direct | null {
    this.visit(0, -1, 0, -1, 0);
    if (this.list.length > this.solids.scratch.length) this.solids.scratch = this.list;
    return this.out ? { share: this.out, surface: this.surface, work: this.work } : null;
  }

  /** Lights a tile. Its solids are among `list[from … to − 1]`, its skies among `skyList[…]`; `from` −1 for the first: among all. */
  private visit(node: number, from: number, to: number, skyFrom: number, skyTo: number): void {
    this.work++;
    const { tree, chart } = this.luxels;
    const n = node * 4;
    const [a0, b0, a1, b1] = [tree.places[n]!, tree.places[n + 1]!, tree.places[n + 2]!, tree.places[n + 3]!];
    if (this.source.isWeak(a0, b0, a1, b1)) return;
    const { normal } = chart.surface.plane;
    this.putCorner(0, a0, b0);
    this.putCorner(1, a1, b0);
    this.putCorner(2, a1, b1);
    this.putCorner(3, a0, b1);
    this.beam.aim(this.corners, ...normal);
    const own = Math.max(0, to);
    let end = own;
    if (from < 0) {
      end = this.beam.collect(this.list, own);
      if (this.without >= 0) end = this.dropped(own, end);
    } else {
      this.room(to + to - from);
      for (let i = from; i < to; i++) if (this.beam.meets(this.list[i]!)) this.list[end++] = this.list[i]!;
    }
    let skyEnd = Math.max(0, skyTo);
    const skyOwn = skyEnd;
    /** Whether all rays of the tile go out through one face of the sky, or meet none. */
    let known = true;
    let through: { readonly brush: number; readonly face: number } | null = null;
    if (this.skies) {
      const { beam } = this.skies;
      beam.aim(this.corners, ...normal);
      if (from < 0) skyEnd = beam.collect(this.skyList, skyOwn);
      else {
        if (this.skyList.length < skyTo * 2 - skyFrom) this.skyList = grown(this.skyList, skyTo * 2 - skyFrom);
        for (let i = skyFrom; i < skyTo; i++)
          if (beam.meets(this.skyList[i]!)) this.skyList[skyEnd++] = this.skyList[i]!;
      }
      if (skyEnd > skyOwn) {
        through = skyEnd === skyOwn + 1 ? this.oneFace(this.skyList[skyOwn]!) : null;
        known = through !== null;
        if (through) {
          const { brush, face } = through;
          if (this.skies.solids.brushes[brush]!.faces[face]!.show !== 'sky') return;
          end = this.leaveOutBeyond(own, end, brush, face);
        }
      }
    }
    if (known && end === own) return this.light(node);
    if (known && this.isShaded(own, end, through)) return;
    const [left, right] = [tree.children[node * 2]!, tree.children[node * 2 + 1]!];
    if (this.source.shape?.broad && a1 - a0 <= SMOOTH && b1 - b0 <= SMOOTH && this.isSmooth(node, own, end)) return;
    if (left < 0 && right < 0) return this.tryEach(node, own, end, skyOwn, skyEnd);
    if (left >= 0) this.visit(left, own, end, skyOwn, skyEnd);
    if (right >= 0) this.visit(right, own, end, skyOwn, skyEnd);
  }

  private dark(): Float64Array {
    return new Float64Array(this.luxels.width * this.luxels.height);
  }

  private room(most: number): void {
    if (this.list.length < most) this.list = grown(this.list, most);
  }

  private putCorner(corner: number, a: number, b: number): void {
    const { s, t } = this.luxels.chart;
    const { origin, corners } = this;
    for (let k = 0; k < 3; k++) corners[corner * 3 + k] = origin[k]! + s[k]! * a + t[k]! * b;
  }

  /** The face of a sky brush by which the rays of all four corners, and so of the whole tile, enter it; null when they differ. */
  private oneFace(brush: number): { brush: number; face: number } | null {
    const { solids, towards } = this.skies!;
    let face = -1;
    for (let c = 0; c < 12; c += 3) {
      const from: Vec3 = [this.corners[c]!, this.corners[c + 1]!, this.corners[c + 2]!];
      const hit = enterBrush(solids.brushes[brush]!, from, towards, FAR);
      if (!hit || hit.face < 0 || (face >= 0 && hit.face !== face)) return null;
      face = hit.face;
    }
    return { brush, face };
  }

  /** Takes solids that lie wholly beyond a face off the end of the list: light has come in before them. */
  private leaveOutBeyond(from: number, to: number, brush: number, face: number): number {
    const { corners, cornerFirst } = this.solids;
    const { normal, distance } = this.skyPlane(brush, face);
    let end = from;
    for (let i = from; i < to; i++) {
      const solid = this.list[i]!;
      let beyond = true;
      for (let c = cornerFirst[solid]! * 3; beyond && c < cornerFirst[solid + 1]! * 3; c += 3)
        beyond = normal[0] * corners[c]! + normal[1] * corners[c + 1]! + normal[2] * corners[c + 2]! <= distance;
      if (!beyond) this.list[end++] = solid;
    }
    return end;
  }

  private skyPlane(brush: number, face: number) {
    return brushPlanes(this.skies!.solids.brushes[brush]!)[face]!;
  }

  /** Whether one solid shades all four corners, and so all of the tile. */
  private isShaded(from: number, to: number, through: { brush: number; face: number } | null): boolean {
    const { corners, source } = this;
    const plane = through && this.skyPlane(through.brush, through.face);
    next: for (let i = from; i < to; i++) {
      for (let c = 0; c < 12; c += 3) {
        const [x, y, z] = [corners[c]!, corners[c + 1]!, corners[c + 2]!];
        for (const [sx, sy, sz, w] of source.points) {
          const [dx, dy, dz] = [sx - w * x, sy - w * y, sz - w * z];
          const far = plane
            ? (plane.distance - plane.normal[0] * x - plane.normal[1] * y - plane.normal[2] * z) /
              (plane.normal[0] * dx + plane.normal[1] * dy + plane.normal[2] * dz)
            : w
              ? 1
              : FAR;
          if (!stopsSegment(this.solids, this.list[i]!, x, y, z, dx, dy, dz, far)) continue next;
        }
      }
      return true;
    }
    return false;
  }

  /** A tile that sees all of the light. */
  private light(node: number): void {
    const out = (this.out ??= this.dark());
    const { tree, width } = this.luxels;
    const [i0, j0, i1, j1] = tree.luxels.subarray(node * 4, node * 4 + 4) as unknown as [
      number,
      number,
      number,
      number,
    ];
    const { size, s0, t0 } = this.luxels.chart;
    const all = (1 << (this.luxels.samples ** 2)) - 1;
    for (let j = j0; j < j1; j++)
      for (let i = i0; i < i1; i++) {
        const k = j * width + i;
        const [a, b] = [(s0 + i - GUTTER) * size, (t0 + j - GUTTER) * size];
        const whole = this.luxels.mask[k] === all;
        if (whole && this.source.isFar(a, b, size) && Number.isNaN(this.luxels.beyond[k * 2]!)) {
          out[k] = this.source.lux(a + size / 2, b + size / 2);
          continue;
        }
        if (!whole || !this.source.isNear(a, b, size)) {
          out[k] = this.mean(i, j, this.source.lux);
          continue;
        }
        const corner = (u: number, v: number) => [a + u * size, b + v * size] as const;
        out[k] = this.source.over([corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)]);
        if (this.luxels.area[k]! > 0 && this.luxels.area[k]! < size * size)
          this.surface.set(k, this.source.over(clipRectangle(this.luxels.chart.outline, a, b, a + size, b + size)));
      }
  }

  /**
   * Lights a small tile at once by five of its luxels, where they tell all of it: its corners and its middle are all dark, or all about as
   * bright. The shadows of what is broad are broad as well.
   */
  private isSmooth(node: number, from: number, to: number): boolean {
    const { luxels } = this;
    const { tree, width, mask, samples, beyond } = luxels;
    const [i0, j0, i1, j1] = [0, 1, 2, 3].map((k) => tree.luxels[node * 4 + k]!) as [number, number, number, number];
    if (i1 - i0 < 2 && j1 - j0 < 2) return false;
    const middle = ((j0 + j1) >> 1) * width + ((i0 + i1) >> 1);
    const corners = [j0 * width + i0, j0 * width + i1 - 1, (j1 - 1) * width + i0, (j1 - 1) * width + i1 - 1];
    if (![...corners, middle].every((k) => isSampled(luxels, k))) return false;
    this.unshaded.sort(this.list, from, to, this.placeAt(...spotOf(luxels, middle)));
    const seen = [...corners, middle].map((k) => this.knownAt(k, from, to));
    // From far away rays tell.
    if (!seen.every((v) => v !== null)) return false;
    const values = seen as [number, number, number, number, number];
    const [low, high] = [Math.min(...values), Math.max(...values)];
    if (high === 0) return true;
    if (high - low > ALIKE * high) {
      const mean = (values[0] + values[1] + values[2] + values[3]) / 4;
      if (high - low > SLOPE * high || Math.abs(values[4] - mean) > BENT * high) return false;
      // What stands near throws a shadow that may fall between them.
      if (this.isNearby(node, from, to)) return false;
    }
    const all = (1 << (samples * samples)) - 1;
    for (let j = j0; j < j1; j++)
      for (let i = i0; i < i1; i++) {
        const k = j * width + i;
        if (mask[k] !== all || !Number.isNaN(beyond[k * 2]!)) return false;
      }
    const out = (this.out ??= this.dark());
    for (let j = j0; j < j1; j++)
      for (let i = i0; i < i1; i++) {
        const u = i1 - i0 > 1 ? (i - i0) / (i1 - i0 - 1) : 0;
        const v = j1 - j0 > 1 ? (j - j0) / (j1 - j0 - 1) : 0;
        out[j * width + i] =
          (values[0] * (1 - u) + values[1] * u) * (1 - v) + (values[2] * (1 - u) + values[3] * u) * v;
      }
    return true;
  }

  /** What of a broad light comes to where a luxel stands: found once. */
  private knownAt(k: number, from: number, to: number): number | null {
    const found = (this.found ??= new Float64Array(this.luxels.width * this.luxels.height).fill(NaN));
    if (!Number.isNaN(found[k]!)) return found[k]!;
    const value = this.seenFrom(...spotOf(this.luxels, k), from, to, NO_SKIES);
    if (value !== null) found[k] = value;
    return value;
  }

  /** Whether any of some solids stands as near to a tile as the tile is wide. */
  private isNearby(node: number, from: number, to: number): boolean {
    const { corners } = this;
    const { bounds } = this.solids;
    const { places } = this.luxels.tree;
    const wide = Math.max(places[node * 4 + 2]! - places[node * 4]!, places[node * 4 + 3]! - places[node * 4 + 1]!);
    const edge = (axis: number, of: (...values: number[]) => number) =>
      of(corners[axis]!, corners[3 + axis]!, corners[6 + axis]!, corners[9 + axis]!);
    const low = [0, 1, 2].map((axis) => edge(axis, Math.min) - wide);
    const high = [0, 1, 2].map((axis) => edge(axis, Math.max) + wide);
    for (let i = from; i < to; i++) {
      const b = this.list[i]! * 6;
      if (
        bounds[b]! < high[0]! &&
        bounds[b + 3]! > low[0]! &&
        bounds[b + 1]! < high[1]! &&
        bounds[b + 4]! > low[1]! &&
        bounds[b + 2]! < high[2]! &&
        bounds[b + 5]! > low[2]!
      )
        return true;
    }
    return false;
  }

  /** A place of the chart in the world, a little off the surface. */
  private placeAt(a: number, b: number): Vec3 {
    const { origin } = this;
    const { s, t } = this.luxels.chart;
    return [origin[0] + s[0] * a + t[0] * b, origin[1] + s[1] * a + t[1] * b, origin[2] + s[2] * a + t[2] * b];
  }

  /** What of a light of some size comes to a place; null for one that rays are sent to. */
  private seenFrom(a: number, b: number, from: number, to: number, skies: readonly Brush[]): number | null {
    this.work++;
    const { list } = this;
    const { shape } = this.source;
    if (!shape?.isClose(a, b)) return null;
    const p = this.placeAt(a, b);
    const far = shape.towards && skies.length > 0 ? reachOfSky(skies, p, shape.towards) : FAR;
    if (far < 0) return 0;
    const normal = shape.normal(p);
    const sum = this.unshaded.sum(p, shape.faces(p, far), list, from, to, (row, first, end) =>
      rowLight(row, first, end, p, normal),
    );
    return shape.light(a, b, p, sum);
  }

  /** A luxel that sees some of it, or does not: each place by itself. */
  private tryEach(node: number, from: number, to: number, skyFrom: number, skyTo: number): void {
    const { tree, width } = this.luxels;
    const { source } = this;
    const [i, j] = [tree.luxels[node * 4]!, tree.luxels[node * 4 + 1]!];
    const skies = Array.from(this.skyList.subarray(skyFrom, skyTo), (k) => this.skies!.solids.brushes[k]!);
    const { shape } = source;
    if (shape) this.unshaded.sort(this.list, from, to, this.placeAt(...spotOf(this.luxels, j * width + i)));
    let n = 0;
    const known = shape?.broad ? this.found?.[j * width + i] : undefined;
    if (known !== undefined && !Number.isNaN(known)) {
      if (known > 0) (this.out ??= this.dark())[j * width + i] = known;
      return;
    }
    const come = (a: number, b: number): number => {
      const whole = this.seenFrom(a, b, from, to, skies);
      if (whole !== null) return whole;
      const p = this.placeAt(a, b);
      const [x, y, z] = p;
      return rayLight(source.targets, source.aim(n++, a, b), p, skies, (dx, dy, dz, far) => {
        for (let k = from; k < to; k++)
          if (stopsSegment(this.solids, this.list[k]!, x, y, z, dx, dy, dz, far)) return true;
        return false;
      });
    };
    const value = shape?.broad ? this.atSpot(i, j, come) : ((shape && this.alike(i, j, come)) ?? this.mean(i, j, come));
    if (value > 0) (this.out ??= this.dark())[j * width + i] = value;
  }

  /** What comes to a whole luxel of many places when a few of them tell that it sees all of the light or nothing; null when they do not. */
  private alike(i: number, j: number, of: (a: number, b: number) => number): number | null {
    const { chart, samples, mask, beyond, width } = this.luxels;
    const k = j * width + i;
    if (samples < 4 || mask[k] !== (1 << (samples * samples)) - 1 || !Number.isNaN(beyond[k * 2]!)) return null;
    // Where rays tell, each place asks another part of the light.
    if (!this.source.shape!.isClose(...spotOf(this.luxels, k))) return null;
    let lit = 0;
    for (let n = 0; n < FEW.length; n += 2) {
      const a = samplePlace(chart.s0, i, FEW[n]!, samples, chart.size);
      const b = samplePlace(chart.t0, j, FEW[n + 1]!, samples, chart.size);
      const come = of(a, b);
      if (come > 0 && come < ALL * this.source.lux(a, b)) return null;
      if (n > 0 && come > 0 !== lit > 0) return null;
      lit += Number(come > 0);
    }
    return lit > 0 ? this.mean(i, j, this.source.lux) : 0;
  }

  /** A function where a luxel stands. */
  private readonly atSpot = (i: number, j: number, of: (a: number, b: number) => number): number => {
    const k = j * this.luxels.width + i;
    return isSampled(this.luxels, k) ? of(...spotOf(this.luxels, k)) : 0;
  };

  /** The mean of a function over where a luxel is sampled, carried on to its middle. */
  private readonly mean = (i: number, j: number, of: (a: number, b: number) => number): number => {
    const { chart, samples, mask, only, beyond, width } = this.luxels;
    const k = j * width + i;
    const bits = mask[k]!;
    let sum = 0;
    let count = 0;
    for (let v = 0, bit = 1; bits && v < samples; v++) {
      const b = samplePlace(chart.t0, j, v, samples, chart.size);
      for (let u = 0; u < samples; u++, bit <<= 1) {
        if (!(bits & bit)) continue;
        sum += of(samplePlace(chart.s0, i, u, samples, chart.size), b);
        count++;
      }
    }
    if (count === 0) {
      if (Number.isNaN(only[k * 2]!)) return 0;
      sum = of(only[k * 2]!, only[k * 2 + 1]!);
      count = 1;
    }
    const near = sum / count;
    if (Number.isNaN(beyond[k * 2]!)) return near;
    const far = of(beyond[k * 2]!, beyond[k * 2 + 1]!);
    // Twice as bright or dark so near by is the edge of a shadow, which does not go on.
    return near < 2 * far && far < 2 * near ? 2 * near - far : near;
  };
}

function grown(list: Int32Array, most: number): Int32Array<ArrayBuffer> {
  const out = new Int32Array(2 * most);
  out.set(list);
  return out;
}
