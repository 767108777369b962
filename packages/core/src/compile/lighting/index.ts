export {
  lightAt,
  lightingJob,
  LUX_SCALE,
  type ChartPlace,
  type Lighting,
  type LightingInput,
  type LightingOptions,
  type LightPage,
} from './lighting.ts';
export { addDirect, collectLights, makeLitScene, type Lights, type LitScene } from './lights.ts';
export { packRgb9e5, unpackRgb9e5 } from './rgb9e5.ts';
