export * from './types.ts';
export { BLOCK_SIZE, locate, type BlockCache } from './grid.ts';
export { buildStructure, isSealed, placesOf } from './structure.ts';
export { cellVolume, clipCell, flatHull, orderRound } from './polyhedron.ts';
export type { Block } from './block.ts';
export * from './bodies.ts';
export { areasOf, sidesOf, type Areas } from './gates.ts';
