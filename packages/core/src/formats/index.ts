export * from './plan-svg.ts';
export * from './symbol-svg.ts';
export * from './drawing/index.ts';
