import { applyAffine, type Vec3 } from '../../math/index.ts';
import { params, type ParamSpecs } from '../../params/index.ts';
import { BILLBOARD_FACINGS, billboardFacts } from '../billboard.ts';
import { defineKind, type Thing } from '../kind.ts';
import { lacksPicture, pictureParams } from '../picture-params.ts';
import { propTurn } from '../model.ts';
import { facing, seenFrom, type SpaceLine } from '../strokes.ts';

const specs = {
  ...pictureParams,
  faces: params.choice(BILLBOARD_FACINGS, 'upright', {
    label: 'Faces',
    help: 'Whether it turns to whoever looks at it, or stands as two thin planes through one another',
    names: {
      always: 'always who looks',
      upright: 'who looks, about its upright',
      crossed: 'crosswise, standing still',
    },
  }),
  width: params.length(64, { label: 'Width', help: 'Width of its picture', min: 1, max: 10_000 }),
  height: params.length(64, { label: 'Height', help: 'Height of its picture', min: 1, max: 10_000 }),
  up: params.way([0, 0, 1], {
    label: 'Its upright',
    help: 'The direction in which its upright points: 0 0 1 stands, others lean; how long it is does not count',
    shownWhen: ({ faces }) => faces !== 'always',
  }),
  tint: params.color('#ffffff', { label: 'Tint', help: 'The colour that the picture is multiplied by' }),
  shades: params.yesNo(false, {
    label: 'Casts a shadow',
    help: 'Light of a build comes through the holes of its picture alone, as if it stood crosswise',
    shownWhen: ({ faces }) => faces !== 'always',
  }),
} satisfies ParamSpecs;

type Billboard = Thing<typeof specs>;

/** Its picture as somebody in the south sees it; across that the other one, or the ring that it turns in. */
function lines({ values, turn }: Billboard): SpaceLine[] {
  const { width, height, faces } = values;
  const m = propTurn(values.up, faces === 'crossed' ? turn : 0, 1);
  const [r, low] = [width / 2, faces === 'always' ? -height / 2 : 0];
  const plane = (x: number, y: number): SpaceLine =>
    (
      [
        [-r, low],
        [r, low],
        [r, low + height],
        [-r, low + height],
        [-r, low],
      ] as const
    ).map(([s, z]) => applyAffine(m, [x * s, y * s, z]));
  if (faces === 'crossed') return [plane(1, 0), plane(0, 1)];
  const ring: SpaceLine = Array.from({ length: 17 }, (_, k): Vec3 => {
    const [c, s] = facing((k / 16) * 360);
    return applyAffine(m, [c * r, s * r, low]);
  });
  return [plane(1, 0), ring];
}

export const BILLBOARD_KIND = 'billboard';

export const billboard = defineKind({
  kind: BILLBOARD_KIND,
  label: 'Billboard',
  help: 'A picture that turns to whoever looks, or two thin planes through one another: bushes, smoke, halos, what stands far away. It is lit and holds nobody back.',
  family: 'Props',
  body: 'props',
  standsAt: 0,
  facing: { label: 'Turn', help: 'Which way it is turned about its upright, of one that stands crosswise' },
  params: specs,
  symbol: (_, view) => {
    const [x, y] = seenFrom(view, [0, 0, 1]);
    const upright = Math.abs(x) + Math.abs(y) > 0.5;
    return upright
      ? [
          { line: [[-6, -6], [6, -6], [6, 7], [-6, 7]], closed: true, fill: 'paper' }, // prettier-ignore
          { line: [[-3, -6], [-3, 3]] }, // prettier-ignore
          { line: [[3, -6], [3, 0]] }, // prettier-ignore
        ]
      : [
          { circle: 7, fill: 'paper' },
          { line: [[-7, 0], [7, 0]] }, // prettier-ignore
          { line: [[-4, -3], [-7, 0], [-4, 3]] }, // prettier-ignore
        ];
  },
  mark: lines,
  model: ({ values }) => {
    const { material, region, faces, width, height, tint } = values;
    return {
      name: `${material} ${region} ${faces} ${width} ${height} ${tint}`,
      scale: 1,
      up: faces === 'always' ? [0, 0, 1] : values.up,
      collision: null,
      stops: 'all',
      shades: values.shades && faces !== 'always',
      litAt: 'middle',
      own: billboardFacts(values),
      picture: { material, region, faces, width, height, tint },
    };
  },
  flaws: ({ values: { material } }) => lacksPicture(material, 'Choose its material in Particulars.'),
});
