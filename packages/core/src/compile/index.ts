export * from './structure/index.ts';
export * from './visibility/index.ts';
export * from './tracing/index.ts';
export * from './lighting/index.ts';
export * from './level/index.ts';
export { PRESETS, type Fineness, type Preset } from './fineness.ts';
export type { BuildReport, LightShare } from './report.ts';
export * from './build.ts';
export * from './probe.ts';
