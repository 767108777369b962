import { brushBounds, solidOf, stopsPlayers, type Brush, type Role, type Solid } from '../../brush/index.ts';
import { entityKind, type Entity } from '../../entity/index.ts';
import { bodiesOf, isMoving, partsOf, type MapDocument, type Wire } from '../../map/index.ts';
import {
  boxOf,
  cross,
  dot,
  length,
  planeFromLoop,
  scale,
  sub,
  uniteBoxes,
  windingCentroid,
  type Box,
  type Vec3,
} from '../../math/index.ts';
import { texelAt } from '../../surface/index.ts';
import { lightAt, type LightLayer, type Lighting, type LightProbes, type Reflections } from '../lighting/index.ts';
import type { BlockGrid, Cell, Structure, Surface } from '../structure/index.ts';
import type { Visibility } from '../visibility/index.ts';
import { readContainer, writeContainer, type LevelArray } from './container.ts';

/** What a level says about itself besides its arrays. */
export interface LevelMeta {
  readonly name: string;
  readonly preset: string;
  readonly sealed: boolean;
  readonly materials: readonly string[];
  readonly entities: readonly Entity[];
  readonly settings: MapDocument['settings'];
  readonly pages: readonly (readonly [number, number])[];
  readonly grid: Pick<BlockGrid, 'edges'>;
  readonly cells: number;
  readonly colliders: readonly string[];
  /** What moves: its solids where they were drawn, and which surfaces are its own. */
  readonly bodies: readonly LevelBody[];
  readonly regions: readonly LevelRegion[];
  /** Where one swims, and where one climbs. */
  readonly spaces: { readonly liquid: readonly Solid[]; readonly ladder: readonly Solid[] };
  readonly wires: readonly Wire[];
  /** Edge of the lattice on which light probes lie, cm. */
  readonly probeStep: number;
  /** Lamps of `probeLampFirst`. */
  readonly probeLamps: readonly string[];
  /** From where reflections are seen, in the order of `surfaceReflection`, and the size of the picture of `reflectionTexels`. */
  readonly reflections: Pick<Reflections, 'places' | 'width' | 'height'>;
  /** Lamps that play can switch, with the tiles of the pages that each adds to. */
  readonly layers: readonly Omit<LightLayer, 'texels'>[];
}

/** Where a thing notices who is inside. */
export interface LevelRegion {
  readonly thing: string;
  readonly solids: readonly Solid[];
}

/** A part of a thing that moves. */
export interface LevelBody {
  readonly thing: string;
  readonly part: number;
  readonly bounds: Box;
  /** What of it holds players back. */
  readonly solids: readonly Solid[];
  /** Its surfaces, from the first to before the last. */
  readonly surfaces: readonly [number, number];
}

/**
 * Everything a runtime needs, as typed arrays (docs/formats/level.md lists their layout). Ranges are stored as
 * `first[i] … first[i + 1]`.
 */
export interface Level {
  readonly meta: LevelMeta;
  readonly position: Float32Array;
  readonly texel: Float32Array;
  readonly light: Float32Array;
  /** How much brighter a corner is than the light of its flat face, so that round things look round: of {@link WHOLE_GAIN}. */
  readonly gain: Uint8Array;
  readonly index: Uint32Array;
  readonly surfaceIndexFirst: Uint32Array;
  readonly surfaceMaterial: Uint16Array;
  readonly surfacePage: Uint16Array;
  readonly surfaceNormal: Float32Array;
  /** How much each reflects as a mirror, of 255. */
  readonly surfaceMirror: Uint8Array;
  /** Place of the reflections it shows, `NO_REFLECTION` for none. */
  readonly surfaceReflection: Uint16Array;
  readonly surfaceCellFirst: Uint32Array;
  readonly surfaceCell: Uint32Array;
  readonly blockRoot: Int32Array;
  readonly node: Int32Array;
  readonly plane: Float64Array;
  readonly leafCell: Int32Array;
  readonly cellBounds: Float32Array;
  readonly portalCells: Uint32Array;
  readonly portalFirst: Uint32Array;
  readonly portalPoint: Float32Array;
  readonly pvsWords: Uint32Array;
  readonly colliderFirst: Uint32Array;
  readonly colliderPlane: Float64Array;
  readonly colliderBounds: Float64Array;
  readonly lightTexels: Uint32Array;
  /** Of each of them the direction of what comes straight from lights, as long as its share: see `unpackDirection`. */
  readonly lightWays: Uint32Array;
  /** What is seen from the places of `meta.reflections`: see `Reflections`. */
  readonly reflectionTexels: Uint32Array;
  /** Places of light probes on their lattice, and their light: see `LightProbes`. */
  readonly probePlace: Int32Array;
  readonly probeLight: Float32Array;
  readonly probeLampFirst: Uint32Array;
  readonly probeLamp: Uint32Array;
  readonly probeLampLight: Float32Array;
  /** What each lamp of `meta.layers` gives at full strength as if its light were white, tile after tile. */
  readonly layerTexels: Uint32Array;
}

/** A corner's gain of 1. The most is 4. */
export const WHOLE_GAIN = 63;

/** Page number of surfaces that show the sky and carry no light. */
export const NO_PAGE = 0xffff;

/** Gathers the stages' results into a level. `visibility` is null for a leaking map: then nothing is culled. */
export function packLevel(
  doc: MapDocument,
  preset: string,
  structure: Structure,
  visibility: Visibility | null,
  lighting: Lighting,
  probes: LightProbes,
  gains: readonly (Float32Array | null)[],
  reflections: Reflections,
): Level {
  const materials = [...new Set(structure.surfaces.map((s) => s.material))].sort();
  const colliders = [...doc.brushes.values()]
    .filter((b) => stopsPlayers(b) && !isMoving(doc, b))
    .sort((a, b) => (a.id < b.id ? -1 : 1));
  const entities = [...doc.entities.values()].sort((a, b) => (a.id < b.id ? -1 : 1));
  const { edges } = structure.blocks;
  const kept = keptCells(structure);
  return {
    meta: {
      name: doc.name,
      preset,
      sealed: structure.leak === null,
      materials,
      entities,
      settings: doc.settings,
      pages: lighting.pages.map((p) => [p.width, p.height] as const),
      grid: { edges },
      cells: kept.cells.length,
      colliders: colliders.map((b) => b.id),
      bodies: packBodies(doc, structure),
      regions: regionsOf(doc),
      spaces: spacesOf(doc),
      wires: [...doc.wires.values()].sort((a, b) => (a.id < b.id ? -1 : 1)),
      probeStep: probes.step,
      probeLamps: probes.lamps,
      reflections: { places: reflections.places, width: reflections.width, height: reflections.height },
      layers: lighting.layers.map(withoutTexels),
    },
    ...packSurfaces(structure.surfaces, materials, lighting, gains, kept.number),
    ...packTree(structure, kept),
    pvsWords: visibility ? visibility.rows : new Uint32Array(0),
    ...packColliders(colliders),
    lightTexels: joined(lighting.pages.map((p) => p.texels)),
    lightWays: joined(lighting.pages.map((p) => p.ways)),
    surfaceReflection: reflections.ofSurface,
    reflectionTexels: reflections.texels,
    probePlace: probes.place,
    probeLight: probes.light,
    probeLampFirst: probes.lampFirst,
    probeLamp: probes.lampProbe,
    probeLampLight: probes.lampLight,
    layerTexels: joined(lighting.layers.map((l) => l.texels)),
  };
}

/** What a level says of a layer besides its texels. */
export const withoutTexels = ({ texels: _, ...layer }: LightLayer): Omit<LightLayer, 'texels'> => layer;

/** The regions of a map's things, by thing. */
export const regionsOf = (doc: MapDocument): LevelRegion[] =>
  [...doc.entities.values()]
    .filter((e) => entityKind(e.kind)?.body === 'zone')
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .flatMap(({ id }) => {
      const solids = regionOf(doc, id);
      return solids.length ? [{ thing: id, solids }] : [];
    });

/** What a thing that is a region fills. */
export const regionOf = (doc: MapDocument, id: string): Solid[] => partsOf(doc, id).flat().map(solidOf);

/** The brushes of a map in which one moves otherwise, by what they are. */
export function spacesOf({ brushes }: MapDocument): LevelMeta['spaces'] {
  const of = (role: Role) =>
    [...brushes.values()]
      .filter((b) => b.role === role)
      .sort((a, b) => (a.id < b.id ? -1 : 1))
      .map(solidOf);
  return { liquid: of('liquid'), ladder: of('ladder') };
}

function packBodies(doc: MapDocument, { surfaces, bodyFirst }: Structure): LevelBody[] {
  return bodiesOf(doc).map(({ thing, part, brushes }, k) => ({
    thing,
    part,
    bounds: uniteBoxes(brushes.map(brushBounds)),
    solids: brushes.filter(stopsPlayers).map(solidOf),
    surfaces: [bodyFirst[k] ?? surfaces.length, bodyFirst[k + 1] ?? surfaces.length],
  }));
}

/** The cells that a level holds, and the number each of the structure's has in it, −2 for the void. */
interface KeptCells {
  readonly cells: readonly Cell[];
  readonly number: Int32Array;
}

/** Only the inside is kept: the void is neither entered nor drawn. In a leaking map everything open counts as inside. */
function keptCells({ cells }: Structure): KeptCells {
  const number = new Int32Array(cells.length).fill(VOID);
  let count = 0;
  cells.forEach((c, i) => {
    if (c.inside) number[i] = count++;
  });
  return { cells: cells.filter((c) => c.inside), number };
}

/** The cell of a point in a solid. */
export const SOLID = -1;
const VOID = -2;

function packSurfaces(
  surfaces: readonly Surface[],
  materials: readonly string[],
  lighting: Lighting,
  gains: readonly (Float32Array | null)[],
  number: Int32Array,
) {
  const gain: number[] = [];
  const position: number[] = [];
  const texel: number[] = [];
  const light: number[] = [];
  const index: number[] = [];
  const surfaceIndexFirst = [0];
  const cells: number[] = [];
  const surfaceCellFirst = [0];
  surfaces.forEach((s, i) => {
    const base = position.length / 3;
    // A fan round the middle never makes a flat triangle, even with corners on straight edges.
    const points = s.winding.length > 4 ? [...s.winding, windingCentroid(s.winding)] : s.winding;
    points.forEach((p, k) => {
      gain.push(Math.round((gains[i]?.[k] ?? 1) * WHOLE_GAIN));
      position.push(...p);
      texel.push(...texelAt(s.frame, p));
      const place = lighting.places[i];
      light.push(...(place ? lightAt(place, p, lighting.pages) : [0, 0]));
    });
    const n = s.winding.length;
    if (points.length > n) for (let k = 0; k < n; k++) index.push(base + n, base + k, base + ((k + 1) % n));
    else for (let k = 2; k < n; k++) index.push(base, base + k - 1, base + k);
    surfaceIndexFirst.push(index.length);
    cells.push(...s.cells.map((c) => number[c]!));
    surfaceCellFirst.push(cells.length);
  });
  return {
    position: Float32Array.from(position),
    texel: Float32Array.from(texel),
    light: Float32Array.from(light),
    gain: Uint8Array.from(gain),
    index: Uint32Array.from(index),
    surfaceIndexFirst: Uint32Array.from(surfaceIndexFirst),
    surfaceMaterial: Uint16Array.from(surfaces.map((s) => materials.indexOf(s.material))),
    surfacePage: Uint16Array.from(surfaces.map((_, i) => lighting.places[i]?.page ?? NO_PAGE)),
    surfaceNormal: Float32Array.from(surfaces.flatMap((s) => s.plane.normal)),
    surfaceMirror: Uint8Array.from(surfaces, (s) => Math.round(Math.min(1, s.mirror) * 255)),
    surfaceCellFirst: Uint32Array.from(surfaceCellFirst),
    surfaceCell: Uint32Array.from(cells),
  };
}

/** The blocks' trees in one table: children ≥ 0 are nodes, others leaf `−1 − child`. */
function packTree({ blocks, cells, portals }: Structure, kept: KeptCells) {
  const node: number[] = [];
  const plane: number[] = [];
  const leafCell: number[] = [];
  const blockRoot: number[] = [];
  blocks.blocks.forEach((block, b) => {
    const firstNode = node.length / 3;
    const firstPlane = plane.length / 4;
    const firstLeaf = leafCell.length;
    if (block.leafCell.every((c) => c >= 0 && kept.number[blocks.cellOf[c + blocks.firstCell[b]!]!] === VOID)) {
      // Nobody ever stands in here: the whole block is one leaf.
      leafCell.push(VOID);
      blockRoot.push(-1 - firstLeaf);
      return;
    }
    const child = (c: number) => (c >= 0 ? c + firstNode : c - firstLeaf);
    for (const n of block.nodes) node.push(n.plane + firstPlane, child(n.front), child(n.back));
    for (const p of block.planes) plane.push(...p.normal, p.distance);
    for (const c of block.leafCell) leafCell.push(c < 0 ? SOLID : kept.number[blocks.cellOf[c + blocks.firstCell[b]!]!]!);
    blockRoot.push(child(block.root));
  });
  const inner = portals.filter((p) => cells[p.a]!.inside && cells[p.b]!.inside);
  const portalFirst = [0];
  for (const p of inner) portalFirst.push(portalFirst.at(-1)! + p.winding.length);
  return {
    blockRoot: Int32Array.from(blockRoot),
    node: Int32Array.from(node),
    plane: Float64Array.from(plane),
    leafCell: Int32Array.from(leafCell),
    cellBounds: Float32Array.from(kept.cells.flatMap((c) => [...c.bounds.min, ...c.bounds.max])),
    portalCells: Uint32Array.from(inner.flatMap((p) => [kept.number[p.a]!, kept.number[p.b]!])),
    portalFirst: Uint32Array.from(portalFirst),
    portalPoint: Float32Array.from(inner.flatMap((p) => p.winding.flat())),
  };
}

/**
 * The planes against which a box is swept round a convex solid: the solid's faces, the box's axes, and the edge-pair planes
 * (an edge of the solid with an axis of the box) that touch it along that edge. Together these are all the faces a
 * Minkowski sum of the two can have. Only the direction and the solid's own extent are stored; a box of half size `h` moves
 * each plane out by `|n|·h`.
 */
export const sweepPlanes = (brush: Brush): number[] => sweepPlanesOf(solidOf(brush));

/** The same of a solid without faces that are dressed. */
export function sweepPlanesOf({ vertices, loops }: Solid): number[] {
  const out: number[] = [];
  const add = (n: Vec3, d: number) => {
    for (let i = 0; i < out.length; i += 4)
      if (Math.abs(out[i]! - n[0]) + Math.abs(out[i + 1]! - n[1]) + Math.abs(out[i + 2]! - n[2]) < 1e-7) return;
    out.push(...n, d);
  };
  const { min, max } = boxOf(vertices);
  for (let i = 0; i < 3; i++) {
    const n: [number, number, number] = [0, 0, 0];
    n[i] = 1;
    add(n, max[i]!);
    add([-n[0], -n[1], -n[2]], -min[i]!);
  }
  for (const loop of loops) {
    const plane = planeFromLoop(loop.map((i) => vertices[i]!));
    if (plane) add(plane.normal, plane.distance);
  }
  if (out.length === 24) return out;
  for (const loop of loops)
    loop.forEach((from, k) => {
      const to = loop[(k + 1) % loop.length]!;
      if (from > to) return;
      const edge = sub(vertices[to]!, vertices[from]!);
      for (const axis of [
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ] as const) {
        const c = cross(edge, axis);
        const l = length(c);
        if (l < 1e-6) continue;
        for (const sign of [1, -1]) {
          const n = scale(c, sign / l);
          const d = dot(n, vertices[from]!);
          if (vertices.every((v) => dot(n, v) <= d + 1e-6)) add(n, d);
        }
      }
    });
  return out;
}

/** The solids of a map packed for sweeps: bounds, and planes grown by a point. */
export function packColliders(brushes: readonly Brush[]) {
  const planes = brushes.map(sweepPlanes);
  const first = [0];
  for (const p of planes) first.push(first.at(-1)! + p.length / 4);
  return {
    colliderFirst: Uint32Array.from(first),
    colliderPlane: Float64Array.from(planes.flat()),
    colliderBounds: Float64Array.from(brushes.flatMap((b) => [...brushBounds(b).min, ...brushBounds(b).max])),
  };
}

export function joined(parts: readonly Uint32Array[]): Uint32Array {
  const out = new Uint32Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/** A level as a file. The same level always gives the same bytes. */
export function writeLevel({ meta, ...arrays }: Level): Uint8Array {
  return writeContainer(meta, arrays as unknown as Record<string, LevelArray>);
}

/** Reads a level file. Throws {@link LevelFileError}. */
export function readLevel(bytes: Uint8Array): Level {
  const { meta, arrays } = readContainer(bytes);
  return { meta, ...arrays } as unknown as Level;
}

/** The cell at a point: its number, −1 in a solid, −2 in the void and outside the world. */
export function levelCell(level: Level, p: ArrayLike<number>): number {
  const { edges } = level.meta.grid;
  let block = 0;
  for (let axis = 2; axis >= 0; axis--) {
    const e = edges[axis]!;
    if (!(p[axis]! >= e[0]! && p[axis]! < e[e.length - 1]!)) return VOID;
    let k = 0;
    while (e[k + 1]! <= p[axis]!) k++;
    block = block * (e.length - 1) + k;
  }
  let at = level.blockRoot[block]!;
  const { node, plane, leafCell } = level;
  while (at >= 0) {
    const k = node[at * 3]! * 4;
    const front = plane[k]! * p[0]! + plane[k + 1]! * p[1]! + plane[k + 2]! * p[2]! >= plane[k + 3]!;
    at = node[at * 3 + (front ? 1 : 2)]!;
  }
  return leafCell[-1 - at]!;
}

/** Whether a cell may be seen from another; everything may in a level without visibility. */
export function levelSees(level: Level, from: number, to: number): boolean {
  if (level.pvsWords.length === 0) return true;
  const words = (level.meta.cells + 31) >> 5;
  return (level.pvsWords[from * words + (to >> 5)]! & (1 << (to & 31))) !== 0;
}

/** Marks in `out` (one byte a surface) what is to be drawn for a viewer in a cell; everything when outside all cells. */
export function markVisible(level: Level, cell: number, out: Uint8Array): void {
  const n = level.surfaceMaterial.length;
  if (cell < 0 || level.pvsWords.length === 0) return void out.fill(1);
  for (let i = 0; i < n; i++) {
    let seen = 0;
    for (let k = level.surfaceCellFirst[i]!; k < level.surfaceCellFirst[i + 1]!; k++)
      if (levelSees(level, cell, level.surfaceCell[k]!)) seen = 1;
    out[i] = seen;
  }
}
