import { add, cosine, cosSinOf, cross, hypot, length, normalize, scale, sub, type Vec3 } from '../../math/index.ts';
import { params, type ParamSpecs, type ValuesOf } from '../../params/index.ts';
import { coneHandle, sideOf, wayHandle } from '../handles.ts';
import { defineKind, type Around } from '../kind.ts';
import { coloured, dimReach, ends, extent, size, strength, tinted, tintOf } from '../lamps.ts';
import { arrow, round, seenFrom, type SpaceLine } from '../strokes.ts';
import { lampActions, lampBehaviour, lampSignals, switching } from '../switching.ts';
import type { Entity } from '../types.ts';

const CONE = { min: 1, max: 170 } as const;

const specs = {
  ...coloured('#ffe9c9', 'Colour of the light'),
  candela: strength(600),
  size,
  ends,
  cone: params.angle(60, { label: 'Cone', help: 'Full angle within which it shines, in degrees', ...CONE }),
  soft: params.part(0.3, {
    label: 'Soft edge',
    help: 'How much of the cone fades towards its edge: 0 is a hard edge, 1 fades from the middle',
  }),
  target: params.reference('thing', {
    label: 'Aims at',
    help: 'A thing it always points at, wherever either is moved',
  }),
  aim: params.way([0, 0, -200], {
    label: 'Aim',
    help: 'The point it shines at, in cm from the lamp',
    shownWhen: (values) => values.target === '',
  }),
  ...switching,
} satisfies ParamSpecs;

type Values = ValuesOf<typeof specs>;

const MARK_LENGTH = 60;

/** From the lamp to what it shines at: the thing it aims at while there is one, else its own point. */
function aimOf({ at, values }: Entity & { readonly values: Values }, around: Around): Vec3 {
  const target = values.target === '' ? undefined : around.thing(values.target);
  const way = target ? sub(target.at, at) : values.aim;
  return length(way) > 1e-3 ? way : [0, 0, -1];
}

/** The cone's edges from the lamp: four lines and the round they end on, `reach` cm along its axis or along its sides, whichever is nearer. */
function coneLines(aim: Vec3, full: number, reach: number): SpaceLine[] {
  const axis = normalize(aim);
  const side = sideOf(axis);
  const up = cross(side, axis);
  const half = (full * Math.PI) / 360;
  const [cosHalf, sinHalf] = cosSinOf(half);
  const rim = (c: number, s: number): Vec3 =>
    add(scale(axis, cosHalf * reach), add(scale(side, c * sinHalf * reach), scale(up, s * sinHalf * reach)));
  const ring = round(24, rim);
  return [...[0, 6, 12, 18].map((k): SpaceLine => [[0, 0, 0], ring[k]!]), ring];
}

export const spotLight = defineKind({
  kind: 'spotLight',
  label: 'Spot light',
  help: 'Shines in a cone from one point towards another, or towards a thing, and fades with the square of the distance.',
  family: 'Light',
  strength: 'candela',
  standsAt: 220,
  floods: true,
  params: specs,
  presets: [
    { label: 'Hand torch', values: { candela: 1500, kelvin: 5500, cone: 22, soft: 0.6, size: 4 } },
    { label: 'Reading lamp', values: { candela: 200, kelvin: 2700, cone: 80, soft: 0.4, size: 8 } },
    { label: 'Ceiling lamp', values: { candela: 400, kelvin: 3000, cone: 120, soft: 0.6, size: 25 } },
    { label: 'Street lamp', values: { candela: 1200, kelvin: 2000, cone: 140, soft: 0.5, size: 30 } },
    { label: 'Flood lamp', values: { candela: 6000, kelvin: 4500, cone: 100, soft: 0.4, size: 40 } },
    { label: 'Lighthouse', values: { candela: 60_000, kelvin: 5000, cone: 8, soft: 0.3, size: 60 } },
  ],
  signals: lampSignals,
  actions: lampActions,
  behaviour: lampBehaviour,
  symbol: (lamp, view, around) => {
    const [x, y] = seenFrom(view, normalize(aimOf(lamp, around)));
    const l = hypot(x, y);
    // Seen along its axis a spot is a round in a round; from the side a shade that opens where it shines.
    if (l < 0.2) return [{ circle: 7.5, fill: 'paper' }, { circle: 3 }];
    const at = (along: number, across: number) =>
      [(x / l) * along - (y / l) * across, (y / l) * along + (x / l) * across] as const;
    return [
      { line: [at(-5, 3), at(5, 7.5), at(5, -7.5), at(-5, -3)], closed: true, fill: 'paper' },
      ...arrow([x, y], 8, 8 + 14 * l),
    ];
  },
  mark: (lamp, around) => {
    const aim = aimOf(lamp, around);
    return [...coneLines(aim, lamp.values.cone, 36), [[0, 0, 0], scale(normalize(aim), MARK_LENGTH)]];
  },
  reach: (lamp, around) => [
    ...coneLines(aimOf(lamp, around), lamp.values.cone, dimReach(lamp.values)).map((line) => ({ line })),
  ],
  handles: (lamp, around) => {
    const aim = aimOf(lamp, around);
    // What aims at a thing is aimed by moving that thing.
    const free = lamp.values.target === '' || !around.thing(lamp.values.target);
    return [...(free ? [wayHandle('aim', 'Aim', aim)] : []), coneHandle('cone', 'Cone', aim, lamp.values.cone, CONE)];
  },
  light: (lamp, around) => {
    const { candela, cone, soft } = lamp.values;
    const half = (cone * Math.PI) / 360;
    return {
      type: 'point',
      at: lamp.at,
      intensity: tinted(tintOf(lamp.values), candela),
      ...extent(lamp.values),
      cone: {
        axis: normalize(aimOf(lamp, around)),
        inner: cosine(half * (1 - soft)),
        outer: cosine(half),
      },
    };
  },
  flaws: ({ id, values }, around) => {
    if (values.target === '') return [];
    if (values.target === id)
      return [
        {
          code: 'aimsAtItself',
          severity: 'warning',
          text: (name) => `${name} aims at itself. Choose another thing, or none.`,
        },
      ];
    if (around.thing(values.target)) return [];
    return [
      {
        code: 'aimsAtNothing',
        severity: 'warning',
        text: (name) => `${name} aims at a thing that is no longer in the map. Choose another, or none.`,
      },
    ];
  },
});
