export * from './tracer';
export * from './link-sums';
