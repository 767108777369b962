export * from './structure/index.ts';
