export * from './facts.ts';
export * from './convex.ts';
