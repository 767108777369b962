import { applyAffine, type Vec3 } from '../../math/index.ts';
import { params, type ParamSpecs } from '../../params/index.ts';
import { COLLISION_WORDS, PROP_COLLISIONS } from '../../prop/index.ts';
import { defineKind, type Thing } from '../kind.ts';
import { PROP_STOPS, propTurn } from '../model.ts';
import { facing, seenFrom, type SpaceLine, type Stroke } from '../strokes.ts';

const specs = {
  model: params.reference('model', { label: 'Prop', help: 'Which of the props in Stock stands there' }),
  scale: params.quantity('×', 1, {
    label: 'Scale',
    help: 'So many times as large as it was made',
    min: 0.01,
    max: 20,
  }),
  up: params.way([0, 0, 1], {
    label: 'Its upright',
    help: 'The direction in which its upright points: 0 0 1 stands, others lean; how long it is does not count',
  }),
  collides: params.choice(['own', ...PROP_COLLISIONS], 'own', {
    label: 'Collides as',
    help: 'What of it holds people and shots back',
    names: { own: 'as it suits it', ...COLLISION_WORDS },
  }),
  stops: params.choice(PROP_STOPS, 'all', {
    label: 'Holds back',
    help: 'Whom what it collides as holds back',
    names: { all: 'everybody and everything', people: 'people alone', shots: 'shots and loose things alone' },
    shownWhen: ({ collides }) => collides !== 'none',
  }),
  shades: params.yesNo(true, { label: 'Casts a shadow', help: 'Light of a build does not go through it' }),
  takes: params.choice(['size', 'middle', 'corners', 'vertices', 'chart'], 'size', {
    label: 'Takes light',
    help: 'Where the light that it is seen by is found. At the corners of its box, light changes along it; at its vertices, shadows fall across it too, in builds and in the fine light of Lit; all over it they are as fine as on walls, and cost as much',
    names: {
      size: 'as its size asks for',
      middle: 'in its middle',
      corners: 'at the corners of its box',
      vertices: 'at its vertices',
      chart: 'all over, as walls do',
    },
  }),
  size: params.list(params.length(0, { label: 'Size', help: 'Along one axis', min: -100_000 }), {
    label: 'Size',
    help: 'How large it was when it was placed: least and greatest place along its axes, in cm',
    most: 6,
    initial: [-16, -16, 0, 16, 16, 32],
    shownWhen: () => false,
  }),
} satisfies ParamSpecs;

type Prop = Thing<typeof specs>;

/** The twelve edges of what it fills, from where it stands. */
function edges({ values, turn }: Prop): SpaceLine[] {
  const [x0 = -16, y0 = -16, z0 = 0, x1 = 16, y1 = 16, z1 = 32] = values.size;
  const m = propTurn(values.up, turn, values.scale);
  const at = (x: number, y: number, z: number): Vec3 => applyAffine(m, [x, y, z]);
  const ring = (z: number): Vec3[] => [at(x0, y0, z), at(x1, y0, z), at(x1, y1, z), at(x0, y1, z), at(x0, y0, z)];
  const [low, high] = [ring(z0), ring(z1)];
  return [low, high, ...[0, 1, 2, 3].map((k) => [low[k]!, high[k]!])];
}

const tick = (view: Parameters<typeof seenFrom>[0], turn: number): Stroke[] => {
  const [x, y] = seenFrom(view, facing(turn));
  return [
    {
      line: [
        [0, 0],
        [x * 9, y * 9],
      ],
    },
  ];
};

export const PROP_KIND = 'prop';

export const prop = defineKind({
  kind: PROP_KIND,
  label: 'Prop',
  help: 'A model from Stock: crates, lamps, boats, pieces of buildings. Choose one in Stock, Props.',
  family: 'Props',
  stock: 'props',
  body: 'props',
  standsAt: 0,
  facing: { label: 'Turn', help: 'Which way it is turned about its upright' },
  params: specs,
  symbol: (thing, view) => [
    { line: [[-4, 0], [0, 4], [4, 0], [0, -4]], closed: true, fill: 'paper' }, // prettier-ignore
    ...tick(view, thing.turn),
  ],
  mark: edges,
  model: ({ values }) => ({
    name: values.model,
    scale: values.scale,
    up: values.up,
    collision: values.collides === 'own' ? null : values.collides,
    stops: values.stops,
    shades: values.shades,
    litAt: values.takes === 'size' ? null : values.takes,
  }),
});
