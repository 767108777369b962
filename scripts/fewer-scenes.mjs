/** The first of the scenes of each property, of random chains, of power cuts; `npm run unit` draws all of them. */
export const FEWER_SCENES = {
  YESCA_RUNS: '0.4',
  CUTS: '2',
  BRUSH_CHAINS: '500',
  NEAR_MISSES: '400',
  FUZZED: '2000',
};
