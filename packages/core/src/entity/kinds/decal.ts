import { DECAL_TARGETS, decalCorners, outlineOf, WHOLE_OUTLINE } from '../../decal/index.ts';
import { addScaled, length, scale, type Point2, type Vec3 } from '../../math/index.ts';
import { params, type ParamSpecs } from '../../params/index.ts';
import { boxHandles } from '../box-handles.ts';
import { defineKind, type Thing } from '../kind.ts';
import { lacksPicture, pictureParams } from '../picture-params.ts';
import { seenFrom, type SpaceLine } from '../strokes.ts';

/** What it shows and its box are set by fields and handles of their own. */
const own = () => false;

const specs = {
  ...pictureParams,
  across: params.way([64, 0, 0], {
    label: 'Across',
    help: 'From the left edge of the picture to its right one, in cm',
    shownWhen: own,
  }),
  upward: params.way([0, 64, 0], {
    label: 'Upward',
    help: 'From the foot of the picture to its top, in cm',
    shownWhen: own,
  }),
  through: params.way([0, 0, 32], {
    label: 'Through',
    help: 'Through the box within which it is seen, out of the surface that it lies on, in cm',
    shownWhen: own,
  }),
  opacity: params.part(1, { label: 'Opacity', help: 'How much it hides of what is beneath' }),
  tint: params.color('#ffffff', { label: 'Tint', help: 'The colour that the picture is multiplied by' }),
  order: params.integer(0, {
    label: 'Order',
    help: 'Where decals meet, the one with more lies on top',
    min: -100,
    max: 100,
  }),
  angle: params.angle(60, {
    label: 'Angle limit',
    help: 'Faces that look aside from it by more degrees stay free: 0 for those alone that look the same way, 180 for all',
    max: 180,
  }),
  fade: params.angle(0, {
    label: 'Fades over',
    help: 'Within so many degrees of the angle limit it fades; 0 ends at once',
    max: 180,
  }),
  backs: params.yesNo(false, {
    label: 'On backs too',
    help: 'It also falls on faces that look away from it, as far as the angle limit goes',
    shownWhen: ({ angle }) => (angle as number) > 90,
  }),
  targets: params.choice(DECAL_TARGETS, 'all', {
    label: 'Falls on',
    help: 'On what of all that lies in its box',
    names: { all: 'everything', brushes: 'brushes only', props: 'props only', chosen: 'what was chosen' },
  }),
  brushes: params.list(params.reference('brush', { label: 'Brush', help: 'It falls on this one' }), {
    label: 'Chosen brushes',
    help: 'The brushes that it falls on',
    most: 256,
    shownWhen: own,
  }),
  things: params.list(params.reference('thing', { label: 'Thing', help: 'It falls on this one' }), {
    label: 'Chosen things',
    help: 'The props that it falls on',
    most: 256,
    shownWhen: own,
  }),
  fine: params.yesNo(false, {
    label: 'Only at full detail',
    help: 'Left out of play where details are off',
  }),
  outline: params.list(params.quantity('', 0, { label: 'Place', help: 'In parts of the picture', min: 0, max: 1 }), {
    label: 'Outline',
    help: 'What of the picture is there: corners in parts of it from its lower left one, across and up in turn',
    most: 128,
    shownWhen: own,
  }),
  inks: params.list(
    params.record(
      {
        color: params.color('#ffffff', { label: 'Colour', help: 'What the picture is multiplied by there' }),
        opacity: params.part(1, { label: 'Opacity', help: 'How much of it is there' }),
      },
      { label: 'Corner', help: 'How a corner is tinted' },
    ),
    {
      label: 'Corners',
      help: 'How each corner of it is tinted, from the lower left one round by the right',
      most: 64,
      shownWhen: own,
    },
  ),
} satisfies ParamSpecs;

type DecalThing = Thing<typeof specs>;

/** Corners of a list of numbers, two each. */
const cornersOf = (numbers: readonly number[]): Point2[] =>
  Array.from({ length: numbers.length >> 1 }, (_, k) => [numbers[2 * k]!, numbers[2 * k + 1]!]);

const shapeOf = ({ values }: DecalThing) => ({
  at: [0, 0, 0] as Vec3,
  across: values.across,
  upward: values.upward,
  through: values.through,
});

/** Its outline on the surface, the box about it, and an arrow out of it. */
function lines(thing: DecalThing): SpaceLine[] {
  const { across, upward, through } = thing.values;
  const corners = decalCorners(shapeOf(thing));
  const ring = (from: number): Vec3[] => [0, 1, 2, 3, 0].map((k) => corners[from + k]!);
  const outline = outlineOf({ outline: cornersOf(thing.values.outline) });
  const onSurface = outline.map(([a, b]) => addScaled(scale(across, a - 0.5), upward, b - 0.5));
  return [
    ring(0),
    ring(4),
    ...[0, 1, 2, 3].map((k): SpaceLine => [corners[k]!, corners[4 + k]!]),
    ...(outline === WHOLE_OUTLINE ? [] : [[...onSurface, onSurface[0]!]]),
    [[0, 0, 0], scale(through, 0.5)],
  ];
}

export const DECAL_KIND = 'decal';

export const decal = defineKind({
  kind: DECAL_KIND,
  label: 'Decal',
  help: 'A picture thrown on what lies in its box: signs, stains, stripes. Choose one in Stock, Decals.',
  family: 'Props',
  stock: 'decals',
  standsAt: 0,
  params: specs,
  symbol: (thing, view) => {
    const [x, y] = seenFrom(view, thing.values.through);
    const l = Math.max(1e-6, length(thing.values.through));
    return [
      { line: [[-4, -4], [4, -4], [4, 4], [-4, 4]], closed: true, fill: 'paper' }, // prettier-ignore
      { line: [[-4, -4], [4, 4]] }, // prettier-ignore
      { line: [[0, 0], [(x / l) * 9, (y / l) * 9]] }, // prettier-ignore
    ];
  },
  mark: lines,
  handles: (thing) => boxHandles(thing.values),
  flaws: ({ values: { material } }) => lacksPicture(material, 'Choose its material, or a decal in Stock.'),
  decal: ({ at, values: { outline, ...values } }) => ({ ...values, at, outline: cornersOf(outline) }),
});
