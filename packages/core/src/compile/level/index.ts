export * from './container.ts';
export * from './level.ts';
export * from './light-mix.ts';
