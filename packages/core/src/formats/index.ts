export * from './plan-svg.ts';
