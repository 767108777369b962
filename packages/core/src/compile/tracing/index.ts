export { anyHit, enterBrush, firstHit, makeTracer, solidAt, type Hit, type Tracer } from './tracer.ts';
