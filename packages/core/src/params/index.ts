export * from './types.ts';
export * as params from './builders.ts';
export { paramSchema, paramsSchema } from './schema.ts';
export {
  eachField,
  initialValues,
  nearestValue,
  paramFlaw,
  readValues,
  sameValue,
  shownParams,
  withUnit,
} from './values.ts';
