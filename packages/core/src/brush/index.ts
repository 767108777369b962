export * from './types.ts';
export * from './errors.ts';
export * from './solid.ts';
export * from './primitives.ts';
export * from './hull.ts';
export * from './split.ts';
