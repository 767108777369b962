import { boxSolid, extrude, type Solid } from '../brush/index.ts';
import { cosSinOf, hypot, type Box, type Point2 } from '../math/index.ts';
import type { PropFacts } from '../prop/index.ts';

/** How a billboard turns: always to the eye, to it about its upright, or not at all, of two planes through one another. */
export const BILLBOARD_FACINGS = ['always', 'upright', 'crossed'] as const;
export type BillboardFacing = (typeof BILLBOARD_FACINGS)[number];

/** A picture that stands as a prop. */
export interface Billboard {
  readonly material: string;
  /** Which region of the picture; empty for all of it. */
  readonly region: string;
  readonly faces: BillboardFacing;
  /** Of the picture, cm. */
  readonly width: number;
  readonly height: number;
  /** sRGB, `#rrggbb`. */
  readonly tint: string;
}

/** What a billboard can fill however it is looked at, about its pivot: its foot, or its middle where it always faces. */
export function billboardBounds({ faces, width, height }: Pick<Billboard, 'faces' | 'width' | 'height'>): Box {
  if (faces === 'always') {
    const r = hypot(width, height, 0) / 2;
    return { min: [-r, -r, -r], max: [r, r, r] };
  }
  return { min: [-width / 2, -width / 2, 0], max: [width / 2, width / 2, height] };
}

/** Sides of the round body that stands for what turns. */
const SIDES = 12;
/** How thick planes are taken to be that can be pointed at, cm. */
const THIN = 1;

/** What stands for a billboard where it is drawn and pointed at: what it sweeps as it turns, or its two planes. */
function bodies({ faces, width, height }: Pick<Billboard, 'faces' | 'width' | 'height'>): Solid[] {
  const r = width / 2;
  const low = faces === 'always' ? -height / 2 : 0;
  if (faces !== 'crossed') {
    const ring = Array.from({ length: SIDES }, (_, k): Point2 => {
      const [c, s] = cosSinOf(((k + 0.5) / SIDES) * 2 * Math.PI);
      return [c * r, s * r];
    });
    return [extrude(ring, low, low + height)];
  }
  const thin = Math.min(THIN, width) / 2;
  return [
    boxSolid({ min: [-r, -thin, 0], max: [r, thin, height] }),
    boxSolid({ min: [-thin, -r, 0], max: [thin, r, height] }),
  ];
}

/** What is known of a billboard as of any prop: it holds nobody back. */
export const billboardFacts = (of: Pick<Billboard, 'faces' | 'width' | 'height'>): PropFacts => ({
  name: '',
  label: 'Billboard',
  bounds: billboardBounds(of),
  triangles: of.faces === 'crossed' ? 4 : 2,
  collision: 'none',
  hulls: bodies(of),
  substance: 'plant',
  lights: [],
});
