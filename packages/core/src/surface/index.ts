export * from './frame.ts';
export * from './dress.ts';
export * from './material.ts';
export * from './mask.ts';
export * from './density.ts';
export * from './unfold.ts';
export * from './align.ts';
export * from './color.ts';
