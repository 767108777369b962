export * from './findings.ts';
export { suggestSight, type Suggestion } from './suggest.ts';
