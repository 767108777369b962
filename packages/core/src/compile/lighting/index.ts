export {
  lightAt,
  lightingJob,
  LUX_SCALE,
  TILE,
  type ChartPlace,
  type Lighting,
  type LightingInput,
  type LightingOptions,
  type LightLayer,
  type LightPage,
} from './lighting.ts';
export { addDirect, collectLights, makeLitScene, type Lights, type LitScene } from './lights.ts';
export { packRgb9e5, unpackRgb9e5 } from './rgb9e5.ts';
