export * from './findings.ts';
export { drawnOnAverage, suggestSight, type Suggestion } from './suggest.ts';
