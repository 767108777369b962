export * from './constants.ts';
export * from './collide.ts';
export * from './player.ts';
export * from './recording.ts';
export * from './measure.ts';
