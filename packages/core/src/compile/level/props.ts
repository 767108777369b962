import type { Brush } from '../../brush/index.ts';
import { modelOf, propPose, type Entity, type Model } from '../../entity/index.ts';
import { factsOfProp, movingCarrier, propOfBrush, propSize, type MapDocument } from '../../map/index.ts';
import { applyAffine, boxCorners, type Vec3 } from '../../math/index.ts';
import type { MeshLookup, PropLookup } from '../../prop/index.ts';
import { LUX_SCALE, unpackInto, type VertexLight, type VertexLit } from '../lighting/index.ts';
import { cellsReached, type Structure } from '../structure/index.ts';
import type { Level } from './level.ts';
import type { Drawn } from './seen.ts';
import type { KeptCells } from './space.ts';

/** From which cells the props of a level are seen, and the light on their vertices; which they are say `meta.props`. */
export interface LevelProps {
  readonly propCellFirst: Uint32Array;
  readonly propCell: Uint32Array;
  /** The light on vertices of props that take it there, and what switched lamps add: see `VertexLight`. Those of lamp `i` follow `meta.propLamps`. */
  readonly propVertexFirst: Uint32Array;
  readonly propVertexLight: Uint32Array;
  readonly propLampFirst: Uint32Array;
  readonly propLampVertex: Uint32Array;
  readonly propLampLight: Float32Array;
}

/** A prop of a map, with the cells of a structure that it stands in. */
export interface FiledProp extends Drawn {
  readonly thing: string;
}

/** The corners of the box of a prop where it stands: of what nobody knows those of the box that it had when it was placed. */
export function cornersOfProp(thing: Entity, model: Model, lookup: PropLookup): Vec3[] {
  const pose = propPose(model, thing.at, thing.turn);
  return boxCorners(factsOfProp(model, lookup)?.bounds ?? propSize(thing)).map((p) => applyAffine(pose, p));
}

/**
 * The props of a map, each filed in every cell inside that its box touches as it stands, wherever what it rides on can take it: the place of
 * its pivot does not count. Of what nobody knows the box that it had when it was placed is taken, and no triangles.
 */
export function fileProps(doc: MapDocument, structure: Structure, lookup: PropLookup): FiledProp[] {
  return [...doc.entities.values()]
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .flatMap((thing) => {
      const model = modelOf(thing);
      if (!model) return [];
      const cells = cellsReached(structure, doc, cornersOfProp(thing, model, lookup), thing.carrier);
      return [{ thing: thing.id, triangles: factsOfProp(model, lookup)?.triangles ?? 0, cells }];
    });
}

/** Whether a thing is a model that takes light at its vertices and stays where it is; one that moves is lit by where it is. */
const takesAtVertices = (thing: Entity, doc: MapDocument): boolean => {
  const model = modelOf(thing);
  return (
    model?.litAt === 'vertices' && !model.own && !(thing.carrier && movingCarrier(thing, (id) => doc.entities.get(id)))
  );
};

/** The models whose vertices a build of a map has to know. */
export const modelsLitAtVertices = (doc: MapDocument): string[] => [
  ...new Set([...doc.entities.values()].filter((e) => takesAtVertices(e, doc)).map((e) => modelOf(e)!.name)),
];

/** Of props those that are lit at their vertices; null for the others, and where nobody knows the vertices. */
export function vertexLit(
  doc: MapDocument,
  filed: readonly FiledProp[],
  solids: readonly Brush[],
  meshes: MeshLookup,
): (VertexLit | null)[] {
  const own = new Map<string, Brush[]>();
  for (const brush of solids) {
    const id = propOfBrush(brush);
    if (id === null) continue;
    const list = own.get(id);
    if (list) list.push(brush);
    else own.set(id, [brush]);
  }
  return filed.map(({ thing: id }) => {
    const thing = doc.entities.get(id)!;
    const model = modelOf(thing);
    const mesh = model && takesAtVertices(thing, doc) ? meshes(model.name) : undefined;
    if (!model || !mesh) return null;
    return { mesh, pose: propPose(model, thing.at, thing.turn), solids: own.get(id) ?? [] };
  });
}

export function packProps(filed: readonly FiledProp[], { number }: KeptCells, lit: VertexLight): LevelProps {
  const first = [0];
  const cells: number[] = [];
  for (const prop of filed) {
    for (const cell of prop.cells) cells.push(number[cell]!);
    first.push(cells.length);
  }
  return {
    propCellFirst: Uint32Array.from(first),
    propCell: Uint32Array.from(cells),
    propVertexFirst: lit.first,
    propVertexLight: lit.light,
    propLampFirst: lit.lampFirst,
    propLampVertex: lit.lampVertex,
    propLampLight: lit.lampLight,
  };
}

/** Of levels of before vertices were lit. */
export const NO_VERTEX_LIGHT = {
  propVertexFirst: new Uint32Array(0),
  propVertexLight: new Uint32Array(0),
  propLampFirst: new Uint32Array(1),
  propLampVertex: new Uint32Array(0),
  propLampLight: new Float32Array(0),
} satisfies Partial<LevelProps>;

/** On how many vertices of the prop at a place of `meta.props` the light is known: of none, where it is not lit at them. */
export const verticesLit = ({ propVertexFirst: first }: Level, prop: number): number =>
  (first[prop + 1] ?? 0) - (first[prop] ?? 0);

/**
 * The light on each vertex of the prop at a place of `meta.props`, lux in red, green and blue, as lamps that can be switched shine now
 * (shares of their strength); null of a prop that is not lit at its vertices.
 */
export function lightOnVertices(level: Level, prop: number, shares: ReadonlyMap<string, number>): Float32Array | null {
  const count = verticesLit(level, prop);
  if (count === 0) return null;
  const from = level.propVertexFirst[prop]!;
  const to = from + count;
  const out = new Float32Array(count * 3);
  for (let k = from; k < to; k++)
    unpackInto(out, (k - from) * 3, level.propVertexLight[k]!, LUX_SCALE, LUX_SCALE, LUX_SCALE);
  level.meta.propLamps.forEach((thing, lamp) => {
    const share = shares.get(thing) ?? 0;
    const tint = level.meta.layers.find((l) => l.thing === thing)?.tint;
    if (share === 0 || !tint) return;
    const end = level.propLampFirst[lamp + 1]!;
    // Vertices come in their order.
    for (let n = atLeast(level.propLampVertex, from, level.propLampFirst[lamp]!, end); n < end; n++) {
      const vertex = level.propLampVertex[n]!;
      if (vertex >= to) break;
      for (let c = 0; c < 3; c++) out[(vertex - from) * 3 + c]! += level.propLampLight[n]! * share * tint[c]!;
    }
  });
  return out;
}

/** The first of ordered numbers in a range that is no less than another. */
function atLeast(list: Uint32Array, least: number, from: number, to: number): number {
  let [low, high] = [from, to];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (list[middle]! < least) low = middle + 1;
    else high = middle;
  }
  return low;
}
