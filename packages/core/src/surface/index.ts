export * from './frame.ts';
