import potpack from 'potpack';
import { addScaled, cross, dot, hypot, length, normalize, sub, type Point2, type Vec3 } from '../../math/index.ts';
import type { PropMesh } from '../../prop/index.ts';

/** A mesh laid out flat, so that a picture of its light can be kept. */
export interface MeshCharts {
  /** Of the picture, in luxels. */
  readonly width: number;
  readonly height: number;
  /** Where each corner of the mesh’s `index` lies in it, in luxels from its first corner. 2 a corner */
  readonly corners: Float32Array;
  /** Of each luxel, row by row, its place on the mesh and which way that faces; no way at all for luxels that nothing shows. Own space, 3 a luxel. */
  readonly places: Float32Array;
  readonly normals: Float32Array;
}

/** A chart takes triangles that lean from its first one by less than this (cosine): the light of no part is kept much coarser than that of others. */
const LEANS = 0.7;
/** Places of vertices nearer than this (cm) are one. */
const WELD = 1e-3;
/** Luxels beside a chart are filled as far as filtering reads them. */
const BESIDE = 1.5;
/** Places of one luxel may lie so many luxels apart: what lies farther off lies over it. */
const APART = 3;
/** So many edges are tried to lay a chart straight. */
const TURNS = 12;
/** A chart has at least so many luxels. */
const LEAST = 4;
/** By how much luxels grow while there would be too many, and how often at most. */
const GROWS = 1.3;
const TRIES = 9;

/** A triangle as charts see it. */
interface Facet {
  /** The first of its corners in `index`. */
  readonly first: number;
  readonly places: readonly [Vec3, Vec3, Vec3];
  readonly normal: Vec3;
  readonly area: number;
  /** Vertices of one place have one number. */
  readonly welded: readonly [number, number, number];
}

/** The corners of a triangle in a plane. */
type Flat = readonly [Point2, Point2, Point2];

/** Facets that lie beside each other without one over another, and where their corners lie in a plane (cm). */
interface Sheet {
  readonly facets: readonly Facet[];
  readonly flat: readonly Flat[];
}

/**
 * Lays a mesh out in charts with luxels of `luxel` cm, or larger ones where there would be more than `limit`; null where even large ones are too
 * many: it is all splinters. Charts grow from the largest triangle left over edges to those that lean alike and lie over none of it, and are
 * seen straight on from there.
 */
export function layOutMesh(mesh: PropMesh, luxel: number, limit: number): MeshCharts | null {
  const facets = facetsOf(mesh);
  if (facets.length === 0) return null;
  // Finer ones would be too many however well they lay.
  let size = Math.max(luxel, Math.sqrt(facets.reduce((sum, { area }) => sum + area, 0) / limit));
  for (let turn = 0; turn < TRIES; turn++, size *= GROWS) {
    const sheets = sheetsOf(facets, size);
    if (sheets.length * LEAST > limit) return null;
    const boxes = sheets.map((sheet, n) => {
      const along = [0, 1].map((k) => sheet.flat.flatMap((corners) => corners.map((p) => p[k]!)));
      const low = along.map(least) as [number, number];
      const extent = along.map((all, k) => most(all) - low[k]!);
      const [w, h] = extent.map((e) => Math.max(1, Math.ceil(e / size - 1e-4)) + 1) as [number, number];
      // The middles of its first and last luxels lie on its borders: what is read there is the light there.
      return { w, h, x: 0, y: 0, n, low, luxel: [extent[0]! / (w - 1), extent[1]! / (h - 1)] as const };
    });
    if (boxes.reduce((sum, { w, h }) => sum + w * h, 0) > limit) continue;
    const { w, h } = potpack(boxes);
    if (w * h <= limit * 1.5) return drawSheets(mesh, sheets, boxes, w, h);
  }
  return null;
}

function facetsOf({ places, index }: PropMesh): Facet[] {
  const known = new Map<string, number>();
  const at = (v: number): Vec3 => [places[v * 3]!, places[v * 3 + 1]!, places[v * 3 + 2]!];
  const weld = (p: Vec3): number => {
    const key = p.map((c) => Math.round(c / WELD)).join(' ');
    let n = known.get(key);
    if (n === undefined) known.set(key, (n = known.size));
    return n;
  };
  const out: Facet[] = [];
  for (let first = 0; first + 2 < index.length; first += 3) {
    const [a, b, c] = [at(index[first]!), at(index[first + 1]!), at(index[first + 2]!)];
    const square = cross(sub(b, a), sub(c, a));
    const area = length(square) / 2;
    // What has no area shows nothing.
    if (area < 1e-9) continue;
    out.push({ first, places: [a, b, c], normal: normalize(square), area, welded: [weld(a), weld(b), weld(c)] });
  }
  return out;
}

const edgeKey = (a: number, b: number): string => (a < b ? `${a} ${b}` : `${b} ${a}`);
const edgesOf = ({ welded: [a, b, c] }: Facet): string[] => [edgeKey(a, b), edgeKey(b, c), edgeKey(c, a)];

function sheetsOf(facets: readonly Facet[], size: number): Sheet[] {
  const beside = new Map<string, Facet[]>();
  for (const facet of facets)
    for (const edge of edgesOf(facet)) {
      const list = beside.get(edge);
      if (list) list.push(facet);
      else beside.set(edge, [facet]);
    }
  const done = new Set<Facet>();
  return facets
    .toSorted((a, b) => b.area - a.area || a.first - b.first)
    .flatMap((seed): Sheet | [] => (done.has(seed) ? [] : growSheet(seed, beside, done, size)));
}

/** Grows a sheet from a facet. */
function growSheet(seed: Facet, beside: ReadonlyMap<string, readonly Facet[]>, done: Set<Facet>, size: number): Sheet {
  const s = normalize(sub(seed.places[1], seed.places[0]));
  const t = cross(seed.normal, s);
  /** The place of each luxel that is read of what is there so far. */
  const taken = new Map<string, Vec3>();
  const facets: Facet[] = [];
  const flat: Flat[] = [];
  const queue = [seed];
  while (queue.length > 0) {
    const facet = queue.shift()!;
    if (done.has(facet)) continue;
    const own = facet.places.map((p): Point2 => [dot(p, s) / size, dot(p, t) / size]) as unknown as Flat;
    const covers: (readonly [string, Vec3])[] = [];
    let over = false;
    eachLuxel(own, (i, j, shares) => {
      const [key, place] = [`${i} ${j}`, between(facet.places, shares)];
      const other = taken.get(key);
      if (!other) covers.push([key, place]);
      else over ||= length(sub(other, place)) > APART * size;
    });
    if (over) continue;
    for (const [key, place] of covers) taken.set(key, place);
    done.add(facet);
    facets.push(facet);
    flat.push(own.map(([x, y]): Point2 => [x * size, y * size]) as unknown as Flat);
    for (const edge of edgesOf(facet))
      for (const next of beside.get(edge)!)
        if (!done.has(next) && dot(next.normal, seed.normal) > LEANS) queue.push(next);
  }
  return { facets, flat: straightened(flat) };
}

/** A sheet turned so that the box round it is as small as it gets with one of its edges along the box. */
function straightened(flat: readonly Flat[]): Flat[] {
  const edges = flat.flatMap(([a, b, c]) => [sideOf(a, b), sideOf(b, c), sideOf(c, a)]);
  let best = { area: Infinity, way: [1, 0] as Point2 };
  for (const { way } of edges.sort((x, y) => y.long - x.long).slice(0, TURNS)) {
    const area = [0, 1].reduce((product, k) => {
      const along = flat.flat().map((p) => turnedTo(p, way)[k]!);
      return product * (most(along) - least(along));
    }, 1);
    if (area < best.area - 1e-6) best = { area, way };
  }
  return flat.map((corners) => corners.map((p) => turnedTo(p, best.way)) as unknown as Flat);
}

function sideOf(a: Point2, b: Point2): { readonly long: number; readonly way: Point2 } {
  const [x, y] = [b[0] - a[0], b[1] - a[1]];
  const long = hypot(x, y);
  return { long, way: [x / long, y / long] };
}

/** A place seen with a way as the first axis. */
const turnedTo = ([x, y]: Point2, [c, s]: Point2): Point2 => [x * c + y * s, y * c - x * s];

const least = (all: readonly number[]): number => all.reduce((a, b) => Math.min(a, b), Infinity);
const most = (all: readonly number[]): number => all.reduce((a, b) => Math.max(a, b), -Infinity);

const between = (of: readonly Vec3[], shares: Vec3): Vec3 =>
  of.reduce<Vec3>((sum, v, k) => addScaled(sum, v, shares[k]!), [0, 0, 0]);

/** Every luxel that is read of a triangle (in luxels), with what is nearest to its middle there: shares of the corners, and how far off it is. */
function eachLuxel(flat: Flat, tell: (i: number, j: number, shares: Vec3, far: number) => void): void {
  const from = (k: 0 | 1) => Math.floor(Math.min(...flat.map((p) => p[k])) - BESIDE);
  const to = (k: 0 | 1) => Math.ceil(Math.max(...flat.map((p) => p[k])) + BESIDE);
  for (let j = from(1); j < to(1); j++)
    for (let i = from(0); i < to(0); i++) {
      const { shares, far } = nearestIn(flat, [i + 0.5, j + 0.5]);
      if (far < BESIDE) tell(i, j, shares, far);
    }
}

/** How much a place has of each corner of a triangle: below zero beyond the side across. */
function sharesOf([a, b, c]: Flat, [x, y]: Point2): Vec3 {
  const twice = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
  const v = ((x - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (y - a[1])) / twice;
  const w = ((b[0] - a[0]) * (y - a[1]) - (x - a[0]) * (b[1] - a[1])) / twice;
  return [1 - v - w, v, w];
}

/** Of a triangle the place nearest to another by its shares, and how far off that is. */
function nearestIn(flat: Flat, p: Point2): { readonly shares: Vec3; readonly far: number } {
  const shares = sharesOf(flat, p);
  if (Math.min(...shares) >= 0) return { shares, far: 0 };
  let best = { shares, far: Infinity };
  for (let k = 0; k < 3; k++) {
    const [a, b] = [flat[k]!, flat[(k + 1) % 3]!];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const whole = dx * dx + dy * dy;
    const along = whole > 0 ? Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / whole)) : 0;
    const [x, y] = [a[0] + dx * along - p[0], a[1] + dy * along - p[1]];
    const far = hypot(x, y);
    if (far >= best.far) continue;
    const own: [number, number, number] = [0, 0, 0];
    own[k] = 1 - along;
    own[(k + 1) % 3] = along;
    best = { shares: own, far };
  }
  return best;
}

/** Where a sheet lies in the picture, in luxels; `low` are its least places in its own plane and `luxel` the edges of its luxels, cm. */
interface Box {
  readonly n: number;
  readonly w: number;
  readonly h: number;
  readonly x: number;
  readonly y: number;
  readonly low: readonly [number, number];
  readonly luxel: readonly [number, number];
}

function drawSheets(
  { normals, index }: PropMesh,
  sheets: readonly Sheet[],
  boxes: readonly Box[],
  width: number,
  height: number,
): MeshCharts {
  const corners = new Float32Array(index.length * 2);
  const [places, ways] = [new Float32Array(width * height * 3), new Float32Array(width * height * 3)];
  const nearest = new Float32Array(width * height).fill(BESIDE);
  const way = (v: number): Vec3 => [normals[v * 3]!, normals[v * 3 + 1]!, normals[v * 3 + 2]!];
  for (const { n, w, h, x, y, low, luxel } of boxes) {
    const { facets, flat } = sheets[n]!;
    facets.forEach((facet, f) => {
      const drawn = flat[f]!.map((p): Point2 => [
        (p[0] - low[0]) / luxel[0] + 0.5,
        (p[1] - low[1]) / luxel[1] + 0.5,
      ]) as unknown as Flat;
      drawn.forEach((p, k) => corners.set([x + p[0], y + p[1]], (facet.first + k) * 2));
      eachLuxel(drawn, (i, j, shares, far) => {
        const at = (y + j) * width + x + i;
        if (i < 0 || j < 0 || i >= w || j >= h || far >= nearest[at]!) return;
        nearest[at] = far;
        places.set(between(facet.places, shares), at * 3);
        const leans = between(
          [0, 1, 2].map((k) => way(index[facet.first + k]!)),
          shares,
        );
        ways.set(length(leans) > 1e-6 ? normalize(leans) : facet.normal, at * 3);
      });
    });
  }
  return { width, height, corners, places, normals: ways };
}
