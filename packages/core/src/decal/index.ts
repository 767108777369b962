export * from './types.ts';
export * from './throw.ts';
