export * from './types.ts';
export { SETTINGS } from './settings.ts';
export * from './ids.ts';
export * from './schema.ts';
export * from './file.ts';
export * from './changes.ts';
