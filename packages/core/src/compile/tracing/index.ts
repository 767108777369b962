export { anyHit, enterBrush, firstHit, makeTracer, solidAt, type Hit, type Tracer } from './tracer.ts';
export { kernelRays } from './kernel.ts';
export { kernelStarts, startKernel } from './kernel-module.ts';
export { makeRays, plainRays, type Rays } from './rays.ts';
