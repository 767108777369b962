export * from './facts.ts';
export * from './convex.ts';
export * from './mesh.ts';
