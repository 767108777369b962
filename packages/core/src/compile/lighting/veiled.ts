import { OFF_SURFACE, type Vec3 } from '../../math/index.ts';
import { chartPoint, chartReach } from './charts.ts';
import type { Direct } from './direct.ts';
import { sourceAt } from './light-sources.ts';
import { eachOnTheWay } from './light-ways.ts';
import { FAR, type Light } from './lights.ts';
import { spotOf, type Luxels } from './luxels.ts';
import type { Veils } from './veils.ts';

/**
 * What comes of a light to the luxels of a chart through leaves, nets and panes on its way: looked at from where each luxel stands, towards
 * as many places of the light as a first look takes.
 */
export function veiled(direct: Direct | null, luxels: Luxels, light: Light, all: Veils): Direct | null {
  if (!direct || all.none) return direct;
  const { chart, width } = luxels;
  const reach = chartReach(chart.surface, chart.size);
  const veils = all.among((tree, boxes, take) => eachOnTheWay(tree, boxes, reach, light, take));
  if (veils.none) return direct;
  const { normal } = chart.surface.plane;
  const source = sourceAt(luxels, light, true)!;
  const { targets } = source;
  // A face that glows does not stand in its own way.
  const own = light.type === 'area' ? light.brush : undefined;
  const part = (k: number): Vec3 => {
    const spot = spotOf(luxels, k);
    const on = chartPoint(chart, ...spot);
    const p: Vec3 = [on[0] + normal[0] * OFF_SURFACE, on[1] + normal[1] * OFF_SURFACE, on[2] + normal[2] * OFF_SURFACE];
    const count = source.aim(k % width, ...spot);
    let [sum, r, g, b] = [0, 0, 0, 0];
    for (let t = 0; t < count * 5; t += 5) {
      const [w, comes] = [targets[t + 3]!, targets[t + 4]!];
      if (comes === 0) continue;
      const way: Vec3 = [targets[t]! - w * p[0], targets[t + 1]! - w * p[1], targets[t + 2]! - w * p[2]];
      const through = veils.through(p, way, w ? 1 : FAR, own);
      sum += comes;
      r += comes * through[0];
      g += comes * through[1];
      b += comes * through[2];
    }
    return sum > 0 ? [r / sum, g / sum, b / sum] : [1, 1, 1];
  };
  const parts = new Map<number, number>();
  let tints: Float32Array | undefined;
  const share = direct.share.map((light, k) => {
    if (light === 0) return 0;
    const comes = part(k);
    const most = Math.max(...comes);
    if (most < 1) parts.set(k, most);
    if (comes.some((c) => c < most * ALIKE)) {
      tints ??= new Float32Array(direct.share.length * 3).fill(1);
      comes.forEach((c, i) => (tints![k * 3 + i] = c / most));
    }
    return light * most;
  });
  const surface = new Map([...direct.surface].map(([k, light]) => [k, light * (parts.get(k) ?? 1)]));
  return { ...direct, share, surface, ...(tints && { tints }) };
}

/** Colours whose parts differ by less are grey. */
const ALIKE = 1 - 1e-6;
