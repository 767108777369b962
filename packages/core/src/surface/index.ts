export * from './frame.ts';
export * from './dress.ts';
