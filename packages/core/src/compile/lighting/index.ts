import type { AnyJob } from '../../jobs/index.ts';
import { directJob } from './direct-job.ts';
import { gatherJob } from './gather.ts';
import { hotJob } from './hot.ts';
import { linksJob } from './links.ts';

/** The jobs of the lighting stage: what a thread that helps with it has to know. */
export const LIGHTING_JOBS = [directJob, linksJob, hotJob, gatherJob] as unknown as readonly AnyJob[];

export { OTHERS } from './groups.ts';
export { lightLevel, TooFine, type Lighting } from './lighting.ts';
export { LightFinder } from './light-finder.ts';
export { lightProbes, NO_PROBES, type LightProbes } from './light-probes.ts';
export {
  BLOCK,
  BLOCKS_ACROSS,
  MOST_REFLECTIONS,
  NO_REFLECTION,
  SQUARES,
  traceReflections,
  type Reflections,
} from './reflections.ts';
export { layOutMesh, type MeshCharts } from './mesh-charts.ts';
export { vertexLight, type VertexLight, type VertexLit } from './vertex-light.ts';
export { glaring } from './glare.ts';
export { roundGains } from './rounded.ts';
export type { LightingInput, LightingOptions } from './input.ts';
export {
  addDirect,
  collectLights,
  EVEN,
  glowing,
  glowOf,
  makeLitScene,
  materialOfGlow,
  SKY,
  skyGlow,
  type Lights,
  type LitScene,
} from './lights.ts';
export { lightAt, LUX_SCALE, TILE, type ChartPlace, type LightLayer, type LightPage } from './pages.ts';
export { packRgb9e5, unpackInto, unpackRgb9e5 } from './rgb9e5.ts';
