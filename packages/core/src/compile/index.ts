export * from './structure/index.ts';
export * from './visibility/index.ts';
export * from './tracing/index.ts';
export * from './lighting/index.ts';
export * from './level/index.ts';
export * from './build.ts';
export * from './probe.ts';
