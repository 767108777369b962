export * from './types.ts';
export * from './catalogue.ts';
export * from './color.ts';
export { lightReach } from './point-light.ts';
export { sunDirection } from './sun.ts';
