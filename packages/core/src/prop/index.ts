export * from './facts.ts';
