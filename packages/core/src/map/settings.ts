import { NATURAL_TEXELS_PER_CM } from '../surface/index.ts';
import { params, type ParamSpecs } from '../params/index.ts';

/** What can be set for a map as a whole. */
export const SETTINGS = {
  grid: params.length(16, { label: 'Grid', help: 'What things snap to', min: 0.01, max: 512 }),
  module: params.length(0, {
    label: 'Module',
    help: 'A size in which lengths can be read and typed: 4m is four modules; empty for none',
    min: 0.01,
    max: 4096,
    none: 'none',
  }),
  texelsPerCm: params.quantity('tx/cm', NATURAL_TEXELS_PER_CM, {
    label: 'Texture density',
    help: 'Texels a metre that faces should have: the checks and the Eye’s Density measure by it',
    min: 0.01,
    max: 64,
    shown: { unit: 'tx/m', times: 100 },
  }),
  ambientColor: params.color('#c9d4e6', { label: 'Ambient colour', help: 'Colour of the even light everywhere' }),
  ambientLux: params.quantity('lx', 4, {
    label: 'Ambient light',
    help: 'Even light everywhere, in lux',
    min: 0,
    max: 100_000,
  }),
  bounced: params.quantity('×', 1, {
    label: 'Bounced light',
    help: 'How strong light is that bounces: 1 is as it is, 0 none, 2 twice as much, for the look of it',
    min: 0,
    max: 4,
  }),
  skyColor: params.color('#bcd3e6', { label: 'Sky colour', help: 'Colour of faces that show the sky' }),
  skyHorizon: params.color('#d8f3ff', { label: 'Horizon', help: 'Colour of the sky above the horizon' }),
  skyClouds: params.part(0, { label: 'Clouds', help: 'How much of the sky clouds cover, 0 to 1' }),
  skyNits: params.quantity('nt', 0, {
    label: 'Sky light',
    help: 'How bright the sky is that shines in through faces that show it, in nits: an overcast evening is 30, a clear day 3000; 0 lets only the sun in',
    min: 0,
    max: 100_000,
  }),
  fogReach: params.length(0, {
    label: 'Fog ends sight',
    help: 'How far one sees through the fog: of what is there a twentieth is left to see; 0 for none',
    min: 0,
    max: 1_000_000,
  }),
  fogColor: params.color('#c3ccd2', {
    label: 'Fog colour',
    help: 'What far things fade into',
    shownWhen: (v) => typeof v.fogReach === 'number' && v.fogReach > 0,
  }),
} satisfies ParamSpecs;
