import { EASES, type ParamSpec, type ParamSpecs } from './types.ts';

type JsonSchema = Readonly<Record<string, unknown>>;

const number = { type: 'number' } as const;
const triple = (range: object = {}) => ({ type: 'array', items: { ...number, ...range }, minItems: 3, maxItems: 3 });

/** JSON Schema of a parameter's values: what `paramFlaw` lets pass. */
export function paramSchema(spec: ParamSpec): JsonSchema {
  const about = { title: spec.label, description: spec.help, default: spec.initial };
  switch (spec.type) {
    case 'number':
      return { ...about, type: spec.measure === 'count' ? 'integer' : 'number', minimum: spec.min, maximum: spec.max };
    case 'switch':
      return { ...about, type: 'boolean' };
    case 'choice':
      return { ...about, enum: [...spec.choices] };
    case 'color':
      return { ...about, type: 'string', pattern: '^#[0-9a-fA-F]{6}$' };
    case 'text':
      return { ...about, type: 'string', maxLength: spec.longest, ...(spec.lines ? {} : { pattern: '^[^\\r\\n]*$' }) };
    case 'vector':
      return { ...about, ...triple({ minimum: spec.min, maximum: spec.max }) };
    case 'reference':
      return { ...about, type: 'string', maxLength: 128 };
    case 'list':
      return { ...about, type: 'array', maxItems: spec.most, items: paramSchema(spec.of) };
    case 'record':
      return { ...about, ...paramsSchema(spec.fields) };
    case 'keyframes':
      return {
        ...about,
        type: 'array',
        items: {
          type: 'object',
          required: ['at', 'move', 'turn'],
          properties: {
            at: { ...number, minimum: 0 },
            move: triple(),
            turn: triple(),
            ease: { enum: [...EASES] },
            hold: { ...number, minimum: 0, maximum: 3600 },
          },
        },
      };
  }
}

/** JSON Schema of an object of parameters. None must be there, and others may be. */
export const paramsSchema = (specs: ParamSpecs): JsonSchema => ({
  type: 'object',
  properties: Object.fromEntries(Object.entries(specs).map(([key, spec]) => [key, paramSchema(spec)])),
});
