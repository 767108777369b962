import {
  BILLBOARD_FACINGS,
  BILLBOARD_KIND,
  DECAL_KIND,
  ENTITY_KINDS,
  params,
  PROP_KIND,
  type ParamValues,
} from '@yesca/core';
import { options } from '../state/kept.ts';

/** What is placed that is a model from Stock, or a picture thrown on surfaces. */
export const PLACED_PROP = PROP_KIND;
export const PLACED_DECAL = DECAL_KIND;
const isProp = (values: ParamValues): boolean => values.what === PLACED_PROP;
const isDecal = (values: ParamValues): boolean => values.what === PLACED_DECAL;
const isEither = (values: ParamValues): boolean => isProp(values) || isDecal(values);

/** A picture that stands by itself: of the active material. */
export const PLACED_BILLBOARD = BILLBOARD_KIND;
const isBillboard = (values: ParamValues): boolean => values.what === PLACED_BILLBOARD;

/** What is strewn with a brush: a prop of Stock, many times. */
export const STREWN = 'strewn';
const isStrewn = (values: ParamValues): boolean => values.what === STREWN;

/** What is placed that is kept in Stock as an assembly: the one in hand. */
export const ASSEMBLY = 'assembly';

/** What is placed that is no thing: a thin brush of the active material. */
export const SHEET = 'sheet';
const isSheet = (values: ParamValues): boolean => values.what === SHEET;
const sheetSide = (label: string) =>
  params.length(0, {
    label,
    help: `${label} of the picture`,
    none: 'natural',
    max: 4096,
    shownWhen: (v) => isSheet(v) || isBillboard(v),
  });

/** What a click puts down, and how a thin sheet is made. */
export const usePlaceOptions = options('place', {
  what: params.choice<string>([...ENTITY_KINDS.map((k) => k.kind), STREWN, ASSEMBLY, SHEET], ENTITY_KINDS[0]!.kind, {
    label: 'Thing to place',
    help: 'What a click puts down; a billboard and a thin sheet show the active material, such as reed or ivy',
    names: {
      ...Object.fromEntries(ENTITY_KINDS.map((k) => [k.kind, k.label])),
      [STREWN]: 'Props, strewn',
      [ASSEMBLY]: 'Assembly',
      [SHEET]: 'Thin sheet',
    },
  }),
  width: sheetSide('Width'),
  height: sheetSide('Height'),
  prop: params.reference('model', {
    label: 'Prop',
    help: 'Which of the props in Stock',
    shownWhen: (v) => isProp(v) || isStrewn(v),
    initial: 'crate',
  }),
  picture: params.reference('material', {
    label: 'Decal',
    help: 'Whose picture it shows',
    shownWhen: isDecal,
    initial: 'stencil-marks',
  }),
  region: params.text('arrow', {
    label: 'Region',
    help: 'Which region of the picture; none for all',
    shownWhen: isDecal,
  }),
  turn: params.angle(0, {
    label: 'Turn',
    help: 'About its upright, or on the surface',
    shownWhen: (v) => isEither(v) || v.what === ASSEMBLY,
  }),
  scale: params.quantity('×', 1, {
    label: 'Scale',
    help: 'So many times as large as it was made',
    min: 0.05,
    max: 20,
    shownWhen: isEither,
  }),
  rounds: params.yesNo(true, {
    label: 'Round edges',
    help: 'Beside an edge it is laid round it, half on either side',
    shownWhen: isDecal,
  }),
  aligned: params.yesNo(false, {
    label: 'Leans with the surface',
    help: 'Its upright stands square to the surface; otherwise it stands upright',
    shownWhen: (v) => isProp(v) || isStrewn(v),
  }),
  stepped: params.yesNo(false, {
    label: 'On the module',
    help: 'It stands at whole modules of the map, whose size is among the map’s particulars',
    shownWhen: isProp,
  }),
  radius: params.length(150, {
    label: 'Radius',
    help: 'How wide the brush is that strews them: half of its width',
    min: 8,
    max: 4000,
    shownWhen: isStrewn,
  }),
  spacing: params.length(64, {
    label: 'Spacing',
    help: 'From one to the next, at least',
    min: 1,
    max: 10_000,
    shownWhen: isStrewn,
  }),
  density: params.part(0.5, {
    label: 'Density a stroke',
    help: 'How much of the room one stroke takes; 1 fills it, less is filled by going over it again',
    min: 0.01,
    shownWhen: isStrewn,
  }),
  spread: params.part(0.2, {
    label: 'Sizes differ by',
    help: '0.2 is from 0.8 to 1.2 times as large',
    max: 0.95,
    shownWhen: isStrewn,
  }),
  joins: params.yesNo(true, {
    label: 'Joins its neighbours',
    help: 'Its sockets meet those of others; beside one that stands square to it, it moves flush with it and in line',
    shownWhen: isProp,
  }),
  faces: params.choice(BILLBOARD_FACINGS, 'upright', {
    label: 'Faces',
    help: 'Whether it turns to whoever looks at it, or stands as two planes through one another',
    names: { always: 'always who looks', upright: 'who looks, about its upright', crossed: 'crosswise' },
    shownWhen: isBillboard,
  }),
  crosswise: params.yesNo(false, {
    label: 'Crosswise',
    help: 'Two sheets through one another, so that it looks full from all sides',
    shownWhen: isSheet,
  }),
});
