export { lightingJob, type Lighting, type LightingInput, type LightingOptions } from './lighting.ts';
export { addDirect, collectLights, makeLitScene, type Lights, type LitScene } from './lights.ts';
export { lightAt, LUX_SCALE, TILE, type ChartPlace, type LightLayer, type LightPage } from './pages.ts';
export { packRgb9e5, unpackRgb9e5 } from './rgb9e5.ts';
