import 'reflect-metadata';
export * from './requests.ts';
export * from './responses.ts';
