export * from './facts.ts';
export * from './convex.ts';
export * from './decal-on-mesh.ts';
export * from './drawn.ts';
export * from './mesh.ts';
