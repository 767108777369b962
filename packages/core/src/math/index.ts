export * from './tolerances.ts';
export * from './vec3.ts';
export * from './plane.ts';
export * from './box.ts';
export * from './affine.ts';
export * from './winding.ts';
export * from './hash.ts';
export * from './bvh.ts';
