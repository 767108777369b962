export * from './math/index.ts';
export * from './brush/index.ts';
export * from './surface/index.ts';
export * from './entity/index.ts';
export * from './map/index.ts';
export * from './edit/index.ts';
export * from './compile/index.ts';
