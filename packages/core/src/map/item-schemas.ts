import { PART_KINDS, ROLES, SHAPE_KINDS, STOPPABLE } from '../brush/index.ts';

/** JSON Schema (draft 2020-12) of the items of each collection. Unknown fields are allowed everywhere and kept. */

const number = { type: 'number' };
const row = { type: 'array', items: number, minItems: 4, maxItems: 4 };
const point = { type: 'array', items: number, minItems: 3, maxItems: 3 };
const id = { type: 'string', minLength: 1, maxLength: 64 };
const name = { type: 'string', maxLength: 200 };
const point2 = { type: 'array', items: number, minItems: 2, maxItems: 2 };
const outline = { type: 'array', minItems: 3, maxItems: 256, items: point2 };
const section = {
  type: 'object',
  required: ['at', 'looks'],
  properties: { at: point2, looks: number, depth: { type: 'number', exclusiveMinimum: 0 } },
};

const partOfThing = {
  type: 'object',
  required: ['id'],
  properties: { id, part: { type: 'integer', minimum: 0, maximum: 63 } },
};
const whole = { type: 'integer', minimum: 0 };
const part = {
  type: 'object',
  required: ['kind', 'piece'],
  properties: { kind: { enum: [...PART_KINDS] }, side: whole, inset: id, piece: whole, segment: whole, cut: whole },
};

export const room = {
  type: 'object',
  required: ['id', 'name', 'footprint', 'floor', 'ceiling', 'wall', 'open'],
  properties: {
    id,
    name: { type: 'string', maxLength: 200 },
    footprint: outline,
    floor: number,
    ceiling: number,
    wall: { type: 'number', exclusiveMinimum: 0 },
    open: { type: 'boolean' },
    insets: {
      type: 'array',
      items: {
        type: 'object',
        required: ['id', 'footprint', 'height'],
        properties: { id, footprint: outline, height: number, fill: number },
      },
    },
    released: { type: 'array', items: part },
    layer: id,
  },
} as const;

export const opening = {
  type: 'object',
  required: ['id', 'rooms', 'side', 'at', 'width', 'height', 'sill'],
  properties: {
    id,
    rooms: { type: 'array', items: id, minItems: 1, maxItems: 2 },
    kind: { enum: ['door', 'window', 'arch'] },
    side: { type: 'integer', minimum: 0 },
    at: number,
    width: { type: 'number', exclusiveMinimum: 0 },
    height: { type: 'number', exclusiveMinimum: 0 },
    sill: { type: 'number', minimum: 0 },
    rise: { type: 'number', exclusiveMinimum: 0 },
  },
} as const;

export const brush = {
  type: 'object',
  required: ['id', 'role', 'vertices', 'faces'],
  properties: {
    id,
    role: { enum: [...ROLES] },
    group: id,
    layer: id,
    stops: { type: 'array', items: { type: 'string', enum: [...STOPPABLE] }, uniqueItems: true },
    shadow: { const: false },
    name: { type: 'string', maxLength: 200 },
    vertices: { type: 'array', items: point, minItems: 4, maxItems: 512 },
    faces: {
      type: 'array',
      minItems: 4,
      maxItems: 256,
      items: {
        type: 'object',
        required: ['id', 'loop', 'material', 'frame'],
        properties: {
          id: { type: 'integer', minimum: 0 },
          loop: { type: 'array', items: { type: 'integer', minimum: 0 }, minItems: 3, maxItems: 256 },
          material: { type: 'string', minLength: 1, maxLength: 128 },
          frame: { type: 'object', required: ['u', 'v'], properties: { u: row, v: row } },
          show: { enum: ['sky', 'unseen'] },
          reflection: id,
          mirror: { type: 'number', exclusiveMinimum: 0, maximum: 1 },
          grain: { type: 'number', minimum: 0.125, maximum: 8 },
        },
      },
    },
    room: {
      type: 'object',
      required: ['id', 'part'],
      properties: { id, part, released: { const: true } },
    },
    owner: partOfThing,
  },
} as const;

export const entity = {
  type: 'object',
  required: ['id', 'kind', 'at', 'turn', 'params'],
  properties: {
    id,
    kind: { type: 'string', minLength: 1, maxLength: 64 },
    at: point,
    turn: number,
    name: { type: 'string', maxLength: 200 },
    params: { type: 'object' },
    group: id,
    layer: id,
    carrier: partOfThing,
  },
} as const;

export const group = {
  type: 'object',
  required: ['id', 'name'],
  properties: {
    id,
    name,
    parent: id,
    shape: {
      type: 'object',
      required: ['kind', 'box', 'params'],
      properties: {
        kind: { enum: [...SHAPE_KINDS] },
        box: { type: 'object', required: ['min', 'max'], properties: { min: point, max: point } },
        params: { type: 'object', additionalProperties: { type: ['number', 'string', 'boolean'] } },
        outline,
        place: { type: 'array', items: number, minItems: 12, maxItems: 12 },
      },
    },
  },
} as const;

export const layer = {
  type: 'object',
  required: ['id', 'name', 'visible', 'locked'],
  properties: { id, name, visible: { type: 'boolean' }, locked: { type: 'boolean' } },
} as const;

export const storey = {
  type: 'object',
  required: ['id', 'name', 'floor', 'cut'],
  properties: { id, name, floor: number, cut: { type: 'number', exclusiveMinimum: 0 } },
} as const;

export const view = {
  type: 'object',
  required: ['id', 'name', 'centre', 'zoom', 'level', 'cutHeight', 'section'],
  properties: {
    id,
    name,
    centre: point,
    zoom: { type: 'number', exclusiveMinimum: 0 },
    level: number,
    cutHeight: number,
    section,
    eye: { type: 'object', required: ['at', 'towards'], properties: { at: point, towards: point } },
  },
} as const;

export const mood = {
  type: 'object',
  required: ['id', 'name', 'lights'],
  properties: {
    id,
    name,
    lights: {
      type: 'array',
      minItems: 1,
      maxItems: 20_000,
      items: {
        type: 'object',
        required: ['thing', 'strength'],
        properties: { thing: id, strength: { type: 'number', minimum: 0, maximum: 1_000_000 } },
      },
    },
  },
} as const;

const end = (what: string) => ({
  type: 'object',
  required: ['thing', what],
  properties: { thing: id, [what]: { type: 'string', minLength: 1, maxLength: 64 } },
});

export const wire = {
  type: 'object',
  required: ['id', 'from', 'to'],
  properties: {
    id,
    from: end('signal'),
    to: end('action'),
    delay: { type: 'number', minimum: 0, maximum: 3600 },
    times: { type: 'integer', minimum: 1 },
  },
} as const;
