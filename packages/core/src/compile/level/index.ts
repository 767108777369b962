export * from './container.ts';
export * from './level.ts';
export * from './light-mix.ts';
export * from './underfoot.ts';
export * from './room-size.ts';
export * from './ledger.ts';
export * from './lux.ts';
export * from './probes.ts';
