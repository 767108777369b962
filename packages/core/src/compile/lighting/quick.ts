import type { Brush } from '../../brush/index.ts';
import { OFF_SURFACE } from '../../math/index.ts';
import { makeRays, type Rays } from '../tracing/index.ts';
import { chartPoint } from './charts.ts';
import type { Direct } from './direct.ts';
import { sourceAt } from './light-sources.ts';
import { rayLight } from './source-at.ts';
import { splitSkies, type Light } from './lights.ts';
import { isSampled, spotOf, type Luxels } from './luxels.ts';

/** What light meets, for rays. */
export interface QuickScene {
  readonly all: Rays;
  readonly solids: Rays;
  readonly skies: readonly Brush[];
}

export function makeQuickScene(brushes: readonly Brush[]): QuickScene {
  const { solids, skies } = splitSkies(brushes);
  return { all: makeRays(brushes), solids: makeRays(solids), skies };
}

/** One luxel of so many is tried first: where none of them is lit, the chart is taken to be dark. */
const TRIED = 5;

/**
 * As {@link directLight}, with a ray or a few from the middle of each luxel: for a first look while the map is worked on. Rough at the
 * edges of shadows, and it may overlook a spot of light that is smaller than a few luxels.
 */
export function quickLight(luxels: Luxels, scene: QuickScene, light: Light): Direct | null {
  const source = sourceAt(luxels, light, true);
  if (!source) return null;
  const { chart, used, width } = luxels;
  const { s, t } = chart;
  const { normal } = chart.surface.plane;
  const o = chartPoint(chart, 0, 0);
  const rays = light.type === 'parallel' ? scene.solids : scene.all;
  const { targets } = source;
  /** How much comes to a luxel of all that it could see. */
  const shareOf = (k: number): number => {
    const [a, b] = spotOf(luxels, k);
    if (source.isWeak(a, b, a, b)) return 0;
    const count = source.aim(k % width, a, b);
    const x = o[0] + s[0] * a + t[0] * b + normal[0] * OFF_SURFACE;
    const y = o[1] + s[1] * a + t[1] * b + normal[1] * OFF_SURFACE;
    const z = o[2] + s[2] * a + t[2] * b + normal[2] * OFF_SURFACE;
    return rayLight(targets, count, [x, y, z], scene.skies, (dx, dy, dz, far) => rays.anyHit(x, y, z, dx, dy, dz, far));
  };
  const share = new Float64Array(used.length);
  let lit = false;
  for (let step = 0; step < TRIED; step++) {
    for (let k = step; k < used.length; k += TRIED) {
      if (!used[k] || !isSampled(luxels, k)) continue;
      const seen = shareOf(k);
      share[k] = seen;
      lit ||= seen > 0;
    }
    if (!lit) return null;
  }
  return { share, surface: new Map(), work: used.length };
}
