import type { DecalThrow } from '../../decal/index.ts';
import { modelOf, movedBox, propPose, type Entity } from '../../entity/index.ts';
import { propCorners, propTakesDecal, readyDecalOf, type MapDocument } from '../../map/index.ts';
import { boxesOverlap, boxOf } from '../../math/index.ts';
import { decalOnMesh, meshBounds, type MeshDecal, type MeshLookup, type PropLookup } from '../../prop/index.ts';
import type { MaterialLookup } from '../../surface/index.ts';
import type { MeshCharts, VertexLit } from '../lighting/index.ts';
import { decalsOf } from './decals.ts';
import { modelsLitOnThemselves, type FiledProp } from './props.ts';
import type { Level } from './level.ts';
import type { Drawn } from './seen.ts';

/** The decals on the props of a level as it was drawn: of each piece one decal on one prop, those that lie beneath first. */
export interface LevelPropDecals {
  readonly propDecalPosition: Float32Array;
  readonly propDecalNormal: Float32Array;
  /** In texels of the material's picture. */
  readonly propDecalTexel: Float32Array;
  /** As `decalInk`. */
  readonly propDecalInk: Float32Array;
  /** Between which three vertices of its prop a corner lies, and how much of each it has. */
  readonly propDecalVertex: Uint32Array;
  readonly propDecalShare: Float32Array;
  /** On a prop that is lit all over: where a corner lies in its layout, in luxels. */
  readonly propDecalChart: Float32Array;
  /** Corners of triangles. */
  readonly propDecalIndex: Uint32Array;
  /** Of each piece its triangles, the prop among `meta.props`, and the thing among `meta.decals`. No number at all where nobody looked. */
  readonly propDecalIndexFirst: Uint32Array;
  readonly propDecalProp: Uint32Array;
  readonly propDecalThing: Uint32Array;
}

/** Where decals on props were not looked for: whoever draws them cuts them. */
export const NO_PROP_DECALS: LevelPropDecals = {
  propDecalPosition: new Float32Array(0),
  propDecalNormal: new Float32Array(0),
  propDecalTexel: new Float32Array(0),
  propDecalInk: new Float32Array(0),
  propDecalVertex: new Uint32Array(0),
  propDecalShare: new Float32Array(0),
  propDecalChart: new Float32Array(0),
  propDecalIndex: new Uint32Array(0),
  propDecalIndexFirst: new Uint32Array(0),
  propDecalProp: new Uint32Array(0),
  propDecalThing: new Uint32Array(0),
};

/** The decals of a map that show something and may fall on props, by their places among all its decals. */
function* decalsForProps(
  things: readonly Entity[],
  materials: MaterialLookup,
): Generator<{ readonly thing: Entity; readonly k: number; readonly ready: DecalThrow }> {
  for (const [k, thing] of things.entries()) {
    const ready = readyDecalOf(thing, materials);
    if (ready && ready.decal.targets !== 'brushes') yield { thing, k, ready };
  }
}

/** The models that a build of a map has to know: those that are lit at their vertices or all over, and those that decals may fall on. */
export function modelsToRead(doc: MapDocument, props: PropLookup, materials: MaterialLookup): string[] {
  const decals = [...decalsForProps(decalsOf(doc.entities.values()), materials)];
  const names = new Set(modelsLitOnThemselves(doc));
  if (decals.length === 0) return [...names];
  for (const prop of doc.entities.values()) {
    const model = modelOf(prop);
    if (!model || model.own || names.has(model.name)) continue;
    const box = boxOf(propCorners(prop, props));
    if (decals.some(({ thing, ready }) => propTakesDecal(thing, prop) && boxesOverlap(ready.bounds, box)))
      names.add(model.name);
  }
  return [...names];
}

/** One decal on one prop. */
interface Stuck extends MeshDecal {
  readonly chart: readonly number[];
  readonly prop: number;
  readonly thing: number;
}

/** Where the corners of a decal lie in the layout of its prop. */
const inLayout = ({ face, share }: MeshDecal, charts: MeshCharts | null | undefined): number[] =>
  face.flatMap((t, k) =>
    [0, 1].map((c) =>
      [0, 1, 2].reduce((sum, n) => sum + (charts?.corners[(t * 3 + n) * 2 + c] ?? 0) * share[k * 3 + n]!, 0),
    ),
  );

function stuckOn(
  doc: MapDocument,
  things: readonly Entity[],
  filed: readonly FiledProp[],
  materials: MaterialLookup,
  meshes: MeshLookup,
  lit: readonly (VertexLit | null)[],
): Stuck[] {
  const standing = filed.flatMap(({ thing: id }, prop) => {
    const thing = doc.entities.get(id)!;
    const model = modelOf(thing);
    const mesh = model && !model.own && meshes(model.name);
    if (!model || !mesh) return [];
    const pose = propPose(model, thing.at, thing.turn);
    return [{ thing, prop, mesh, pose, box: movedBox(pose, meshBounds(mesh)) }];
  });
  return [...decalsForProps(things, materials)].flatMap(({ thing, k, ready }) =>
    standing.flatMap((on): Stuck | [] => {
      if (!boxesOverlap(ready.bounds, on.box) || !propTakesDecal(thing, on.thing)) return [];
      const cut = decalOnMesh(ready, on.pose, on.mesh);
      return cut ? { ...cut, chart: inLayout(cut, lit[on.prop]?.charts), prop: on.prop, thing: k } : [];
    }),
  );
}

/** Cuts the decals of a map to its props. `meshes` absent: nothing is known of what props look like. */
export function throwOnProps(
  doc: MapDocument,
  things: readonly Entity[],
  filed: readonly FiledProp[],
  materials: MaterialLookup,
  meshes: MeshLookup | undefined,
  lit: readonly (VertexLit | null)[],
): { readonly stuck: readonly Drawn[]; readonly arrays: LevelPropDecals } {
  if (!meshes) return { stuck: [], arrays: NO_PROP_DECALS };
  const found = stuckOn(doc, things, filed, materials, meshes, lit);
  const index: number[] = [];
  const first = [0];
  let corners = 0;
  for (const piece of found) {
    for (const k of piece.index) index.push(corners + k);
    corners += piece.position.length / 3;
    first.push(index.length);
  }
  const all = (of: (piece: Stuck) => readonly number[]): Float32Array => Float32Array.from(found.flatMap(of));
  return {
    stuck: found.map(({ index: { length }, prop }) => ({ triangles: length / 3, cells: filed[prop]!.cells })),
    arrays: {
      propDecalPosition: all((p) => p.position),
      propDecalNormal: all((p) => p.normal),
      propDecalTexel: all((p) => p.texel),
      propDecalInk: all((p) => p.ink),
      propDecalVertex: Uint32Array.from(found.flatMap((p) => p.vertex)),
      propDecalShare: all((p) => p.share),
      propDecalChart: all((p) => p.chart),
      propDecalIndex: Uint32Array.from(index),
      propDecalIndexFirst: Uint32Array.from(first),
      propDecalProp: Uint32Array.from(found, (p) => p.prop),
      propDecalThing: Uint32Array.from(found, (p) => p.thing),
    },
  };
}

/** A decal on a prop of a level: by the ids of both. */
export interface LevelMeshDecal extends Omit<MeshDecal, 'face'> {
  readonly prop: string;
  readonly decal: string;
  /** On a prop that is lit all over: where its corners lie in the layout of that, in luxels. */
  readonly chart: readonly number[];
}

/** The decals on the props of a level, those beneath first; null where the level does not tell them. */
export function decalsOnProps(level: Level): LevelMeshDecal[] | null {
  const { propDecalIndexFirst: first, propDecalProp, propDecalThing, propDecalIndex, meta } = level;
  if (first.length === 0) return null;
  let corner = 0;
  return Array.from(propDecalProp, (prop, k): LevelMeshDecal => {
    const from = corner;
    // Corners come in their order: the last triangle ends with the last one.
    corner = propDecalIndex[first[k + 1]! - 1]! + 1;
    const of = (list: Float32Array | Uint32Array, size: number): number[] => [
      ...list.subarray(from * size, corner * size),
    ];
    return {
      prop: meta.props[prop]!,
      decal: meta.decals[propDecalThing[k]!]!,
      position: of(level.propDecalPosition, 3),
      normal: of(level.propDecalNormal, 3),
      texel: of(level.propDecalTexel, 2),
      ink: of(level.propDecalInk, 4),
      vertex: of(level.propDecalVertex, 3),
      share: of(level.propDecalShare, 3),
      chart: of(level.propDecalChart, 2),
      index: Array.from(propDecalIndex.subarray(first[k], first[k + 1]), (v) => v - from),
    };
  });
}
