import { ENTITY_KINDS, type EntityKind, type Port } from '../entity/index.ts';
import { MAP_SCHEMA } from '../map/index.ts';
import { paramsSchema, withUnit, type ParamSpec, type ParamSpecs } from '../params/index.ts';

/** The values a parameter may have, in words. */
function rangeOf(spec: ParamSpec): string {
  switch (spec.type) {
    case 'number': {
      const what = spec.measure === 'count' ? 'whole number, ' : '';
      return `${what}${spec.min} to ${withUnit(spec.max, spec.unit)}`;
    }
    case 'switch':
      return 'yes or no';
    case 'choice':
      return spec.choices.join(', ');
    case 'color':
      return '`#rrggbb`';
    case 'text':
      return `${spec.lines ? 'text' : 'one line'}, up to ${spec.longest} characters`;
    case 'vector':
      return { way: 'x, y, z from the thing, cm', place: 'x, y, z, cm', axis: 'x, y, z of a way to turn about' }[
        spec.means
      ];
    case 'reference':
      return `a ${spec.to}’s ${spec.to === 'material' || spec.to === 'sound' ? 'name' : 'id'}, or empty`;
    case 'list':
      return `up to ${spec.most}: ${rangeOf(spec.of)}`;
    case 'record':
      return `${Object.keys(spec.fields).join(', ')}, each as below`;
    case 'keyframes':
      return 'times with moves and turns';
  }
}

const initialOf = (spec: ParamSpec): string =>
  spec.initial === ''
    ? 'empty'
    : spec.type === 'list'
      ? spec.initial.map((v) => (typeof v === 'object' ? 'one' : String(v))).join(', ') || 'none'
      : spec.type === 'record'
        ? 'as below'
        : Array.isArray(spec.initial)
          ? spec.initial.join(', ') || 'none'
          : `${spec.initial as string}`;

const BODIES = { point: 'a point', brushes: 'brushes', props: 'props', zone: 'a region' } as const;

/** What else is known of a kind, in a line. */
function traitsOf(kind: EntityKind): string {
  const traits = [
    `stands as ${BODIES[kind.body]}`,
    kind.standsAt === 0 ? 'is placed on the surface' : `is placed ${kind.standsAt} cm above the surface`,
    kind.facing && `has a turn (${kind.facing.label.toLowerCase()})`,
    kind.floods ? 'must stand in the open: the inside is found from it' : 'may stand anywhere',
    kind.spawns && 'players begin there',
    kind.shines && 'shines',
  ];
  const text = traits.filter(Boolean).join('; ');
  return `${text[0]!.toUpperCase()}${text.slice(1)}.`;
}

function portsOf(title: string, ports: Readonly<Record<string, Port>>): string[] {
  const rows = Object.entries(ports).map(([key, p]) => `| \`${key}\` | ${p.label} | ${p.help} |`);
  return rows.length ? ['', `| ${title} | | |`, '|---|---|---|', ...rows] : [];
}

/** A line for each parameter; the values of records follow theirs, by their path. */
const rowsOf = (specs: ParamSpecs, path = ''): string[] =>
  Object.entries(specs).flatMap(([key, spec]) => {
    const name = `${path}${key}`;
    const inner = spec.type === 'list' && spec.of.type === 'record' ? spec.of : spec.type === 'record' ? spec : null;
    return [
      `| \`${name}\` | ${spec.label} | ${rangeOf(spec)} | ${initialOf(spec)} | ${spec.help} |`,
      ...(inner ? rowsOf(inner.fields, `${name}${spec.type === 'list' ? '[]' : ''}.`) : []),
    ];
  });

function kindOf(kind: EntityKind): string[] {
  const params = rowsOf(kind.params);
  return [
    `## ${kind.label}`,
    '',
    `![Its symbol on the Plan](symbols/${kind.kind}.svg)`,
    '',
    `\`${kind.kind}\` — ${kind.help}`,
    '',
    traitsOf(kind),
    ...(params.length
      ? ['', '| parameter | called | values | at first | what it does |', '|---|---|---|---|---|', ...params]
      : []),
    ...portsOf('signal', kind.signals),
    ...portsOf('action', kind.actions),
    '',
  ];
}

/** `docs/entities.md`: every kind of thing, from its own file. */
export const entitiesDocument = (): string =>
  [
    '# Kinds of things',
    '',
    'Made from `packages/core/src/entity/kinds/` by `npm run generate`; a test says when it is stale. Lengths in cm, angles in degrees. Parameters that a file',
    'leaves out have the value they have at first; kinds and parameters that a version does not know are kept as they are.',
    '',
    ...ENTITY_KINDS.flatMap(kindOf),
  ].join('\n');

/**
 * The JSON Schema of map files as it is published: what is enforced first, and with it what is then asked of each kind's
 * parameters (`paramFlaw`, which says it in better sentences than a schema does).
 */
export function publishedSchema(): unknown {
  const { entities } = MAP_SCHEMA.properties;
  const allOf = ENTITY_KINDS.map(({ kind, params }) => ({
    if: { properties: { kind: { const: kind } } },
    then: { properties: { params: paramsSchema(params) } },
  }));
  return {
    ...MAP_SCHEMA,
    properties: { ...MAP_SCHEMA.properties, entities: { ...entities, items: { ...entities.items, allOf } } },
  };
}
