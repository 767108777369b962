export { anyHit, enterBrush, firstHit, makeTracer, solidAt, type Hit, type Tracer } from './tracer.ts';
export { kernelRays, kernelStarts } from './kernel.ts';
export { makeRays, plainRays, type Rays } from './rays.ts';
