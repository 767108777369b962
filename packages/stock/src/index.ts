export { DECAL_TAG, PICTURES, type Material, type Picture } from './materials/types.ts';
export { MATERIALS } from './materials/index.ts';
export { PROPS, propFacts, type Prop } from './props/list.ts';
export { TEMPLATES, PLAIN_DRESS, type Template } from './maps/templates.ts';
export { soundOf } from './sounds/recipes.ts';
export { wavFile } from './sounds/synth.ts';
export { firstRoom } from './maps/first-room.ts';
export { ropewalk } from './maps/ropewalk.ts';
export { tidemill } from './maps/tidemill/tidemill.ts';
