import { addScaled, dot, length, sub, windingCentroid, type Vec3 } from '../../math/index.ts';
import { Cancelled, type StageControl } from '../../jobs/index.ts';
import { locate, type Structure, type Surface } from '../structure/index.ts';
import type { LightFinder } from './light-finder.ts';
import { octahedralDirection, octahedralMeasure } from './octahedral.ts';
import { LUX_SCALE } from './pages.ts';
import { packRgb9e5 } from './rgb9e5.ts';

/** A place from which reflections are seen. */
export interface ReflectionPlace {
  readonly thing: string;
  readonly at: Vec3;
}

/** What is seen from places, for all that shines. */
export interface Reflections {
  readonly places: readonly ReflectionPlace[];
  /** A picture: of each place a block of {@link BLOCK}, so many to a row. */
  readonly width: number;
  readonly height: number;
  /** Shared-exponent colours of π times what is seen (nits), by `LUX_SCALE`: the lux on white that looks as bright. */
  readonly texels: Uint32Array;
  /** Of each surface the place whose reflections it shows, {@link NO_REFLECTION} for none. */
  readonly ofSurface: Uint16Array;
}

export const NO_REFLECTION = 0xffff;

/**
 * The squares of a block, each with all directions on it and a border of a texel that goes on over its edges: for roughnesses of 0, ¼, ½,
 * ¾ and 1. Left and upper corner in the block, and edge, without the border.
 */
export const SQUARES = [
  { x: 1, y: 1, edge: 32 },
  { x: 35, y: 1, edge: 16 },
  { x: 35, y: 19, edge: 16 },
  { x: 35, y: 37, edge: 8 },
  { x: 35, y: 47, edge: 8 },
] as const;
export const BLOCK = { width: 52, height: 56 } as const;
/** Blocks in a row of the picture. */
export const BLOCKS_ACROSS = 16;
/** The left and upper corner of a place's block. */
export const blockAt = (place: number): { left: number; top: number } => ({
  left: (place % BLOCKS_ACROSS) * BLOCK.width,
  top: Math.floor(place / BLOCKS_ACROSS) * BLOCK.height,
});

/** The picture of more places would be larger than graphics cards take: the rest are left out. */
export const MOST_REFLECTIONS = 2048;

/** Rays from a place to each texel of the sharpest square, across and down. */
const RAYS = 2;

/** What a face may be beside where it is drawn (cm), so that it does not stand in its own way. */
const OFF = 2;

/** Looks around from places, as far as they are open, and gives each surface the one whose reflections it shows. Throws `Cancelled`. */
export function traceReflections(
  structure: Structure,
  places: readonly ReflectionPlace[],
  finder: () => LightFinder,
  control: StageControl = {},
): Reflections {
  const open = places.length > 0 ? places.filter(({ at }) => finder().isOpen(at)).slice(0, MOST_REFLECTIONS) : [];
  const rows = Math.ceil(open.length / BLOCKS_ACROSS);
  const width = open.length > 0 ? Math.min(open.length, BLOCKS_ACROSS) * BLOCK.width : 0;
  const height = rows * BLOCK.height;
  const texels = new Uint32Array(width * height);
  open.forEach(({ at }, n) => {
    if (control.signal?.aborted) throw new Cancelled();
    const { left, top } = blockAt(n);
    const seen = lookAround(at, finder());
    SQUARES.forEach(({ x, y, edge }, level) => {
      const square = level === 0 ? seen : roughened(seen, SQUARES[0].edge, edge, level / (SQUARES.length - 1));
      for (let j = -1; j <= edge; j++)
        for (let i = -1; i <= edge; i++) {
          const k = overEdge(i, j, edge) * 3;
          texels[(top + y + j) * width + left + x + i] = packRgb9e5(
            (square[k]! * Math.PI) / LUX_SCALE,
            (square[k + 1]! * Math.PI) / LUX_SCALE,
            (square[k + 2]! * Math.PI) / LUX_SCALE,
          );
        }
    });
  });
  const ofSurface = new Uint16Array(structure.surfaces.length).fill(NO_REFLECTION);
  if (open.length > 0) {
    const cells = open.map(({ at }) => locate(structure.blocks, at));
    structure.surfaces.forEach((surface, s) => {
      if (!surface.sky) ofSurface[s] = placeFor(surface, open, cells, finder()) ?? NO_REFLECTION;
    });
  }
  return { places: open, width, height, texels, ofSurface };
}

/** The place chosen for a surface; else the nearest in one of its cells; else the nearest that sees it. */
function placeFor(
  surface: Surface,
  places: readonly ReflectionPlace[],
  cells: readonly (number | 'solid' | 'beyond')[],
  finder: LightFinder,
): number | null {
  const chosen = places.findIndex((p) => p.thing === surface.reflection);
  if (chosen >= 0) return chosen;
  const { normal } = surface.plane;
  const middle = addScaled(windingCentroid(surface.winding), normal, OFF);
  const nearest = places
    .map(({ at }, n) => ({ n, at, far: length(sub(at, middle)) }))
    // What lies behind a face does not see what it shows.
    .filter(({ at }) => dot(sub(at, middle), normal) > -OFF)
    .sort((a, b) => a.far - b.far || a.n - b.n);
  const near =
    nearest.find(({ n }) => surface.cells.includes(cells[n] as number)) ??
    nearest.find(({ at }) => finder.sees(middle, at));
  return near?.n ?? null;
}

/** The light that comes from all directions to a place, nits, on the sharpest square: three numbers a texel. */
function lookAround(at: Vec3, finder: LightFinder): Float64Array {
  const { edge } = SQUARES[0];
  const fine = edge * RAYS;
  const ways = new Float64Array(fine * fine * 3);
  for (let j = 0, k = 0; j < fine; j++)
    for (let i = 0; i < fine; i++, k += 3) ways.set(octahedralDirection((i + 0.5) / fine, (j + 0.5) / fine), k);
  const seen = finder.look(at, ways);
  const out = new Float64Array(edge * edge * 3);
  for (let j = 0; j < fine; j++)
    for (let i = 0; i < fine; i++)
      for (let c = 0; c < 3; c++)
        out[(Math.floor(j / RAYS) * edge + Math.floor(i / RAYS)) * 3 + c]! += seen[(j * fine + i) * 3 + c]! / RAYS ** 2;
  return out;
}

const squareWays = new Map<number, Float64Array>();

/** Of each texel of a square its direction and what it takes up of all: four numbers. */
function waysOf(edge: number): Float64Array {
  const known = squareWays.get(edge);
  if (known) return known;
  const ways = new Float64Array(edge * edge * 4);
  for (let j = 0, k = 0; j < edge; j++)
    for (let i = 0; i < edge; i++, k += 4) {
      const [u, v] = [(i + 0.5) / edge, (j + 0.5) / edge];
      ways.set(octahedralDirection(u, v), k);
      ways[k + 3] = octahedralMeasure(u, v);
    }
  squareWays.set(edge, ways);
  return ways;
}

/**
 * What a surface of a roughness reflects that looks the way it is looked at from: the mean by where its microfacets send light
 * (Trowbridge–Reitz), as if the view were along its normal.
 */
export function roughened(seen: Float64Array, from: number, edge: number, roughness: number): Float64Array {
  const a2 = roughness ** 4;
  const count = from * from;
  const ways = waysOf(from);
  const out = new Float64Array(edge * edge * 3);
  for (let j = 0, to = 0; j < edge; j++)
    for (let i = 0; i < edge; i++, to += 3) {
      const [x, y, z] = octahedralDirection((i + 0.5) / edge, (j + 0.5) / edge);
      let all = 0;
      for (let k = 0; k < count; k++) {
        const cos = x * ways[k * 4]! + y * ways[k * 4 + 1]! + z * ways[k * 4 + 2]!;
        if (cos <= 0) continue;
        // Of the half vector: its cosine's square is (1 + cos) / 2.
        const d = ((1 + cos) / 2) * (a2 - 1) + 1;
        const weight = (cos * ways[k * 4 + 3]!) / (d * d);
        all += weight;
        for (let c = 0; c < 3; c++) out[to + c]! += weight * seen[k * 3 + c]!;
      }
      for (let c = 0; c < 3; c++) out[to + c]! /= all;
    }
  return out;
}

/** The texel of a square that lies at a column and row that may be one beyond its edges: what goes on there lies mirrored on the same edge. */
function overEdge(i: number, j: number, edge: number): number {
  const last = edge - 1;
  let [x, y] = [i, j];
  if (x < 0 || x > last) {
    x = x < 0 ? 0 : last;
    y = last - y;
  }
  if (y < 0 || y > last) {
    // A corner is the same from both sides.
    y = y < 0 ? 0 : last;
    x = last - x;
  }
  return y * edge + x;
}
