import type { Brush } from '../../brush/index.ts';
import { modelOf, propPose, type Entity, type Model } from '../../entity/index.ts';
import { factsOfProp, movingCarrier, propCorners, propOfBrush, type MapDocument } from '../../map/index.ts';
import type { MeshLookup, PropLookup, PropMesh } from '../../prop/index.ts';
import {
  layOutMesh,
  LUX_SCALE,
  unpackInto,
  type MeshCharts,
  type VertexLight,
  type VertexLit,
} from '../lighting/index.ts';
import { cellsReached, type Structure } from '../structure/index.ts';
import type { Level } from './level.ts';
import type { Drawn } from './seen.ts';
import type { KeptCells } from './space.ts';

/** From which cells the props of a level are seen, and the light on their vertices; which they are say `meta.props`. */
export interface LevelProps {
  readonly propCellFirst: Uint32Array;
  readonly propCell: Uint32Array;
  /**
   * The light on vertices of props that take it there, or on the luxels of their charts, and what switched lamps add: see `VertexLight`.
   * Those of lamp `i` follow `meta.propLamps`.
   */
  readonly propVertexFirst: Uint32Array;
  readonly propVertexLight: Uint32Array;
  readonly propLampFirst: Uint32Array;
  readonly propLampVertex: Uint32Array;
  readonly propLampLight: Float32Array;
  /** Of each prop how its model is laid out: {@link NO_CHART} for those that are not lit all over. None at all where no prop is. */
  readonly propChart: Uint16Array;
  /** Of each layout its width and height in luxels, and where the corners of the model’s triangles lie in it, in luxels. */
  readonly chartSize: Uint16Array;
  readonly chartCornerFirst: Uint32Array;
  readonly chartCorner: Float32Array;
}

/** Of a prop that is not lit all over. */
const NO_CHART = 0xffff;
/** A prop has no more luxels than about so many. */
const MOST_LUXELS = 8192;
/** Luxels on props are so many times as fine as on walls: what is small has small shadows. */
const FINER = 2;

/** A prop of a map, with the cells of a structure that it stands in. */
export interface FiledProp extends Drawn {
  readonly thing: string;
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
      const cells = cellsReached(structure, doc, propCorners(thing, lookup), thing.carrier);
      return [{ thing: thing.id, triangles: factsOfProp(model, lookup)?.triangles ?? 0, cells }];
    });
}

/** The model of a thing that takes light at its vertices or all over and stays where it is; one that moves is lit by where it is. */
const takesOnItself = (thing: Entity, doc: MapDocument): Model | null => {
  const model = modelOf(thing);
  if (!model || model.own || (model.litAt !== 'vertices' && model.litAt !== 'chart')) return null;
  return thing.carrier && movingCarrier(thing, (id) => doc.entities.get(id)) ? null : model;
};

/** The models whose vertices a build of a map has to know for their light. */
export const modelsLitOnThemselves = (doc: MapDocument): string[] => [
  ...new Set([...doc.entities.values()].flatMap((e) => takesOnItself(e, doc)?.name ?? [])),
];

/**
 * Of props those that are lit at their vertices or all over; null for the others, and where nobody knows the vertices. What cannot be laid out
 * is lit at its vertices. `luxel` is that of walls, cm.
 */
export function vertexLit(
  doc: MapDocument,
  filed: readonly FiledProp[],
  solids: readonly Brush[],
  meshes: MeshLookup,
  luxel: number,
): (VertexLit | null)[] {
  const layouts = new Map<string, MeshCharts | null>();
  const chartsOf = ({ name, scale }: Model, mesh: PropMesh): MeshCharts | null => {
    const key = `${name} ${scale}`;
    let charts = layouts.get(key);
    if (charts === undefined) layouts.set(key, (charts = layOutMesh(mesh, luxel / FINER / scale, MOST_LUXELS)));
    return charts;
  };
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
    const model = takesOnItself(thing, doc);
    const mesh = model ? meshes(model.name) : undefined;
    if (!model || !mesh) return null;
    const charts = model.litAt === 'chart' ? chartsOf(model, mesh) : null;
    return { mesh: charts ?? mesh, charts, pose: propPose(model, thing.at, thing.turn), solids: own.get(id) ?? [] };
  });
}

/** How props that are lit all over are laid out: each layout once. */
function packCharts(
  lit: readonly (VertexLit | null)[],
): Pick<LevelProps, 'propChart' | 'chartSize' | 'chartCornerFirst' | 'chartCorner'> {
  const layouts = [...new Set(lit.flatMap((l) => l?.charts ?? []))];
  const first = [0];
  for (const { corners } of layouts) first.push(first.at(-1)! + corners.length / 2);
  const chartCorner = new Float32Array(first.at(-1)! * 2);
  layouts.forEach(({ corners }, k) => chartCorner.set(corners, first[k]! * 2));
  return {
    propChart: Uint16Array.from(layouts.length > 0 ? lit : [], (l) =>
      l?.charts ? layouts.indexOf(l.charts) : NO_CHART,
    ),
    chartSize: Uint16Array.from(layouts.flatMap(({ width, height }) => [width, height])),
    chartCornerFirst: Uint32Array.from(first),
    chartCorner,
  };
}

export function packProps(
  filed: readonly FiledProp[],
  { number }: KeptCells,
  lit: readonly (VertexLit | null)[],
  light: VertexLight,
): LevelProps {
  const first = [0];
  const cells: number[] = [];
  for (const prop of filed) {
    for (const cell of prop.cells) cells.push(number[cell]!);
    first.push(cells.length);
  }
  return {
    propCellFirst: Uint32Array.from(first),
    propCell: Uint32Array.from(cells),
    propVertexFirst: light.first,
    propVertexLight: light.light,
    propLampFirst: light.lampFirst,
    propLampVertex: light.lampVertex,
    propLampLight: light.lampLight,
    ...packCharts(lit),
  };
}

/** Of levels of before props were lit on themselves. */
export const NO_VERTEX_LIGHT = {
  propVertexFirst: new Uint32Array(0),
  propVertexLight: new Uint32Array(0),
  propLampFirst: new Uint32Array(1),
  propLampVertex: new Uint32Array(0),
  propLampLight: new Float32Array(0),
  propChart: new Uint16Array(0),
  chartSize: new Uint16Array(0),
  chartCornerFirst: new Uint32Array(1),
  chartCorner: new Float32Array(0),
} satisfies Partial<LevelProps>;

/** How a model that is lit all over is laid out. */
export interface PropChart {
  /** Its place among the layouts of the level. */
  readonly number: number;
  /** In luxels. */
  readonly width: number;
  readonly height: number;
  /** Where the corners of its triangles lie in it, in luxels. 2 a corner */
  readonly corners: Float32Array;
}

/** How the prop at a place of `meta.props` is laid out; null where it is not lit all over. */
export function chartOfProp(level: Level, prop: number): PropChart | null {
  const number = level.propChart[prop] ?? NO_CHART;
  if (number === NO_CHART) return null;
  const [from, to] = [level.chartCornerFirst[number]!, level.chartCornerFirst[number + 1]!];
  return {
    number,
    width: level.chartSize[number * 2]!,
    height: level.chartSize[number * 2 + 1]!,
    corners: level.chartCorner.subarray(from * 2, to * 2),
  };
}

/** On how many vertices or luxels of the prop at a place of `meta.props` the light is known: on none, where it is not lit on itself. */
export const verticesLit = ({ propVertexFirst: first }: Level, prop: number): number =>
  (first[prop + 1] ?? 0) - (first[prop] ?? 0);

/**
 * The light on each vertex of the prop at a place of `meta.props`, or on each luxel of how it is laid out, row by row: lux in red, green and blue,
 * as lamps that can be switched shine now (shares of their strength); null of a prop that is not lit on itself.
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
