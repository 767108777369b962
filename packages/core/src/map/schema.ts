import { ROLES, SHAPE_KINDS, STOPPABLE } from '../brush/index.ts';

export const MAP_FORMAT = 'yesca-map';
export const MAP_VERSION = 1;

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
const color = { type: 'string', pattern: '^#[0-9a-fA-F]{6}$' };

/** JSON Schema (draft 2020-12) of a map file, version 1. Unknown fields are allowed everywhere and kept. */
export const MAP_SCHEMA = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Yesca map, version 1',
  type: 'object',
  required: ['format', 'version', 'name', 'settings', 'rooms', 'openings', 'brushes', 'entities'],
  properties: {
    format: { const: MAP_FORMAT },
    version: { const: MAP_VERSION },
    name: { type: 'string', minLength: 1, maxLength: 200 },
    settings: {
      type: 'object',
      required: ['grid', 'ambientColor', 'ambientLux', 'skyColor'],
      properties: {
        grid: { type: 'number', exclusiveMinimum: 0, maximum: 512 },
        ambientColor: color,
        ambientLux: { type: 'number', minimum: 0, maximum: 100000 },
        skyColor: color,
        module: { type: 'number', exclusiveMinimum: 0, maximum: 4096 },
        texelsPerCm: { type: 'number', exclusiveMinimum: 0, maximum: 64 },
      },
    },
    rooms: {
      type: 'array',
      items: {
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
          released: { type: 'array', items: { type: 'string', maxLength: 128 } },
          layer: id,
        },
      },
    },
    openings: {
      type: 'array',
      items: {
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
      },
    },
    brushes: {
      type: 'array',
      items: {
        type: 'object',
        required: ['id', 'role', 'vertices', 'faces'],
        properties: {
          id,
          role: { enum: [...ROLES] },
          group: id,
          layer: id,
          stops: { type: 'array', items: { type: 'string', enum: [...STOPPABLE] }, uniqueItems: true },
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
                mirror: { type: 'number', exclusiveMinimum: 0, maximum: 1 },
                grain: { type: 'number', minimum: 0.125, maximum: 8 },
              },
            },
          },
          room: {
            type: 'object',
            required: ['id', 'part'],
            properties: { id, part: { type: 'string', maxLength: 128 }, released: { const: true } },
          },
        },
      },
    },
    entities: {
      type: 'array',
      items: {
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
        },
      },
    },
    groups: {
      type: 'array',
      items: {
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
      },
    },
    layers: {
      type: 'array',
      items: {
        type: 'object',
        required: ['id', 'name', 'visible', 'locked'],
        properties: { id, name, visible: { type: 'boolean' }, locked: { type: 'boolean' } },
      },
    },
    storeys: {
      type: 'array',
      items: {
        type: 'object',
        required: ['id', 'name', 'floor', 'cut'],
        properties: { id, name, floor: number, cut: { type: 'number', exclusiveMinimum: 0 } },
      },
    },
    views: {
      type: 'array',
      items: {
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
      },
    },
  },
} as const;
