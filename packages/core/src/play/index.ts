export * from './constants.ts';
export * from './collide.ts';
export * from './player.ts';
export * from './recording.ts';
export * from './measure.ts';
export { worldOfLevel, worldOfMap, type World, type WorldBody, type WorldThing } from './world.ts';
export * from './step.ts';
