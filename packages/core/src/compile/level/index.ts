export * from './container.ts';
export * from './level.ts';
