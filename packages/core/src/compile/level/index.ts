export * from './container.ts';
export * from './level.ts';
export * from './light-mix.ts';
export * from './underfoot.ts';
export * from './room-size.ts';
export * from './ledger.ts';
export * from './lux.ts';
export * from './probes.ts';
export {
  levelSees,
  markVisible,
  markVisibleProps,
  shutTriangles,
  sightOf,
  type Sight,
  type SightLookups,
} from './sight.ts';
export type { CellFigures } from './figures.ts';
export { levelCell, SOLID, trianglesOf } from './space.ts';
export { longLinesOf, portalOutline, portalsOn, witnessOf, type SightLine } from './why.ts';
export { closing, gatesOf, openAreas, type LevelGate } from './gates.ts';
export { decalsOf, NO_DECALS, throwDecals, type DecalAround, type LevelDecals, type ThrownDecals } from './decals.ts';
export { decalsOnProps, modelsToRead, type LevelMeshDecal } from './prop-decals.ts';
export {
  fileProps,
  chartOfProp,
  lightOnVertices,
  modelsLitOnThemselves,
  vertexLit,
  verticesLit,
  type FiledProp,
  type PropChart,
} from './props.ts';
