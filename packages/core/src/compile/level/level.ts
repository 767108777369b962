import { brushBounds, solidOf, stopsPlayers, type Brush, type Role, type Solid } from '../../brush/index.ts';
import { entityKind, type Entity } from '../../entity/index.ts';
import { bodiesOf, isMoving, partsOf, stillBrushes, type MapDocument, type Wire } from '../../map/index.ts';
import {
  addScaled,
  boxOf,
  cross,
  dot,
  length,
  planeFromLoop,
  scale,
  sub,
  type Box,
  type Vec3,
} from '../../math/index.ts';
import type { MeshLookup } from '../../prop/index.ts';
import { texelAt, type MaterialLookup } from '../../surface/index.ts';
import {
  lightAt,
  type LightLayer,
  type Lighting,
  type LightProbes,
  type Reflections,
  type VertexLight,
  type VertexLit,
} from '../lighting/index.ts';
import { areasOf, type BlockGrid, type Structure, type Surface } from '../structure/index.ts';
import type { Visibility } from '../visibility/index.ts';
import { NO_DECALS, throwDecals, type LevelDecals } from './decals.ts';
import { packGates, type LevelGate } from './gates.ts';
import { packFigures } from './figures.ts';
import { brushesOfRole } from './liquids.ts';
import { shutParting } from './seen.ts';
import { NO_PROP_DECALS, throwOnProps, type LevelPropDecals } from './prop-decals.ts';
import { NO_VERTEX_LIGHT, packProps, type FiledProp, type LevelProps } from './props.ts';
import type { Sight } from './sight.ts';
import { fanPoints, keptCells, packShapes, packTree } from './space.ts';
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
  /** What parts the inside, and how many parts it has: see `openAreas`. */
  readonly gates: readonly LevelGate[];
  readonly areas: number;
  /** Where one swims, and where one climbs. */
  readonly spaces: { readonly liquid: readonly Solid[]; readonly ladder: readonly Solid[] };
  readonly wires: readonly Wire[];
  /** Where the distant scenery is seen from, null where there is none. */
  readonly scenery: LevelScenery | null;
  /** Edge of the lattice on which light probes lie, cm. */
  readonly probeStep: number;
  /** Lamps of `probeLampFirst`. */
  readonly probeLamps: readonly string[];
  /** From where reflections are seen, in the order of `surfaceReflection`, and the size of the picture of `reflectionTexels`. */
  readonly reflections: Pick<Reflections, 'places' | 'width' | 'height'>;
  /** Things whose pictures lie on surfaces, those beneath first. */
  readonly decals: readonly string[];
  /** Things that are props, in the order of `propCellFirst`. */
  readonly props: readonly string[];
  /** Lamps of `propLampFirst`. */
  readonly propLamps: readonly string[];
  /** Lamps that play can switch, with the tiles of the pages that each adds to. */
  readonly layers: readonly Omit<LightLayer, 'texels'>[];
}

/** Who is at `from` in the map sees the scenery as from `at` in its own level, so many times as large. */
export interface LevelScenery {
  readonly scale: number;
  readonly at: Vec3;
  readonly from: Vec3;
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
export interface Level extends Omit<Sight, 'meta'>, LevelDecals, LevelPropDecals, LevelProps {
  readonly meta: LevelMeta;
  readonly texel: Float32Array;
  readonly light: Float32Array;
  /** How much brighter a corner is than the light of its flat face, so that round things look round: of {@link WHOLE_GAIN}. */
  readonly gain: Uint8Array;
  readonly surfaceMaterial: Uint16Array;
  readonly surfacePage: Uint16Array;
  /** How much each reflects as a mirror, of 255. */
  readonly surfaceMirror: Uint8Array;
  /** Place of the reflections it shows, `NO_REFLECTION` for none. */
  readonly surfaceReflection: Uint16Array;
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
  /** The level of the distant scenery as a file; empty where there is none. */
  readonly scenery: Uint8Array;
}

/** A corner's gain of 1. The most is 4. */
export const WHOLE_GAIN = 63;

/** Page number of surfaces that show the sky and carry no light. */
export const NO_PAGE = 0xffff;

/** Gathers the stages' results into a level. `visibility` is null for a leaking map: then nothing is culled. */
export function packLevel(
  doc: MapDocument,
  /** The solids of its props, where they are seen, what of them is lit on itself and by what light, and what they look like. */
  {
    solids: props,
    filed,
    lit,
    light,
    meshes,
  }: {
    readonly solids: readonly Brush[];
    readonly filed: readonly FiledProp[];
    readonly lit: readonly (VertexLit | null)[];
    readonly light: VertexLight;
    readonly meshes: MeshLookup | undefined;
  },
  preset: string,
  structure: Structure,
  visibility: Visibility | null,
  lighting: Lighting,
  probes: LightProbes,
  gains: readonly (Float32Array | null)[],
  reflections: Reflections,
  lookup: MaterialLookup,
  far: (LevelScenery & { readonly built: { readonly bytes: Uint8Array } }) | null = null,
): Level {
  const colliders = [...doc.brushes.values(), ...props]
    .filter((b) => stopsPlayers(b) && !isMoving(doc, b))
    .sort((a, b) => (a.id < b.id ? -1 : 1));
  const entities = [...doc.entities.values()].sort((a, b) => (a.id < b.id ? -1 : 1));
  const { edges } = structure.blocks;
  const kept = keptCells(structure);
  const bodies = packBodies(doc, props, structure);
  const materials = [...new Set(structure.surfaces.map((s) => s.material))].sort();
  const shapes = packShapes(structure.surfaces, kept.number);
  const looks = packSurfaces(structure.surfaces, materials, lighting, gains);
  const { things: decalThings, ...decals } = throwDecals(
    { meta: { materials, bodies }, ...shapes, ...looks },
    doc.entities.values(),
    {
      brushesOf: (surface) => structure.surfaces[surface]!.brushes,
      brush: (id) => doc.brushes.get(id),
      materials: lookup,
    },
  );
  const stuck = Array.from(decals.decalSurface, (surface, k) => ({
    triangles: (decals.decalIndexFirst[k + 1]! - decals.decalIndexFirst[k]!) / 3,
    cells: structure.surfaces[surface]!.cells,
  }));
  const onProps = throwOnProps(doc, decalThings, filed, lookup, meshes, lit);
  const areas = areasOf(structure, doc.brushes.values());
  const { gates, cellArea } = packGates(doc, areas, kept, lookup);
  const solids = stillBrushes(doc).filter((b) => b.role === 'structure');
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
      bodies,
      regions: regionsOf(doc),
      gates,
      areas: areas.count,
      spaces: spacesOf(doc),
      scenery: far && { scale: far.scale, at: far.at, from: far.from },
      wires: [...doc.wires.values()].sort((a, b) => (a.id < b.id ? -1 : 1)),
      probeStep: probes.step,
      probeLamps: probes.lamps,
      reflections: { places: reflections.places, width: reflections.width, height: reflections.height },
      decals: decalThings.map((t) => t.id),
      props: filed.map((p) => p.thing),
      propLamps: light.lamps,
      layers: lighting.layers.map(withoutTexels),
    },
    ...shapes,
    ...looks,
    ...decals,
    ...onProps.arrays,
    ...packProps(filed, kept, lit, light),
    ...packTree(structure, kept),
    cellArea,
    ...packFigures(
      doc,
      structure,
      [...stuck, ...onProps.stuck, ...filed],
      visibility,
      solids,
      kept,
      shutParting(gates, areas.count, cellArea),
    ),
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
    scenery: far?.built.bytes ?? NO_SCENERY,
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
export function spacesOf(doc: MapDocument): LevelMeta['spaces'] {
  const of = (role: Role) => brushesOfRole(doc, role).map(solidOf);
  return { liquid: of('liquid'), ladder: of('ladder') };
}

/** What of props rides on a part of a thing. */
export const propsOnPart = (props: readonly Brush[], thing: string, part: number): Brush[] =>
  props.filter((b) => b.owner?.id === thing && (b.owner.part ?? 0) === part);

function packBodies(doc: MapDocument, props: readonly Brush[], { surfaces, bodyFirst }: Structure): LevelBody[] {
  return bodiesOf(doc).map(({ thing, part, brushes, bounds }, k) => ({
    thing,
    part,
    bounds,
    solids: [...brushes, ...propsOnPart(props, thing, part)].filter(stopsPlayers).map(solidOf),
    surfaces: [bodyFirst[k] ?? surfaces.length, bodyFirst[k + 1] ?? surfaces.length],
  }));
}

/** How surfaces look: their materials and light. */
function packSurfaces(
  surfaces: readonly Surface[],
  materials: readonly string[],
  lighting: Lighting,
  gains: readonly (Float32Array | null)[],
) {
  const gain: number[] = [];
  const texel: number[] = [];
  const light: number[] = [];
  surfaces.forEach((s, i) => {
    const place = lighting.places[i];
    fanPoints(s).forEach((p, k) => {
      gain.push(Math.round((gains[i]?.[k] ?? 1) * WHOLE_GAIN));
      texel.push(...texelAt(s.frame, p));
      light.push(...(place ? lightAt(place, p, lighting.pages) : [0, 0]));
    });
  });
  return {
    texel: Float32Array.from(texel),
    light: Float32Array.from(light),
    gain: Uint8Array.from(gain),
    surfaceMaterial: Uint16Array.from(surfaces.map((s) => materials.indexOf(s.material))),
    surfacePage: Uint16Array.from(surfaces.map((_, i) => lighting.places[i]?.page ?? NO_PAGE)),
    surfaceMirror: Uint8Array.from(surfaces, (s) => Math.round(Math.min(1, s.mirror) * 255)),
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

const NO_SCENERY = new Uint8Array(0);

/** The level of the distant scenery; null where there is none, or the level is older than sceneries. */
export const sceneryLevel = ({ scenery }: Level): Level | null => (scenery?.length > 0 ? readLevel(scenery) : null);

/** From where in the level of the scenery it is seen by who is at `p` in the map. */
export const sceneryEye = ({ scale, at, from }: LevelScenery, p: Vec3): Vec3 => addScaled(at, sub(p, from), 1 / scale);

/** Reads a level file. Throws {@link LevelFileError}. */
export function readLevel(bytes: Uint8Array): Level {
  const { meta, arrays } = readContainer(bytes);
  // Levels of before these were told.
  const { cellSeenTriangles: cellShutTriangles, cellSeen } = arrays;
  const cellLiquidFirst = new Uint32Array((cellSeen?.length ?? 0) + 1);
  const ofBefore = {
    scenery: NO_SCENERY,
    cellShutTriangles,
    cellLiquidFirst,
    ...NO_DECALS,
    ...NO_PROP_DECALS,
    ...NO_VERTEX_LIGHT,
  };
  return { meta: { decals: [], propLamps: [], ...(meta as object) }, ...ofBefore, ...arrays } as unknown as Level;
}
