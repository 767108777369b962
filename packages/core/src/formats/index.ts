export * from './plan-svg.ts';
export * from './symbol-svg.ts';
