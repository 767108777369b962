import type { MapDocument } from '../../map/index.ts';
import { litMaterials as materials, litRooms } from '../../testing/lit-rooms.ts';
import { buildLevel, type BuildResult, type Fineness } from '../build.ts';
import { LUX_SCALE, unpackRgb9e5 } from './index.ts';

/** The mean lux of each surface of more than a quarter of a square metre, by its place among all. */
function means(doc: MapDocument, fineness: Fineness): Map<number, number> {
  const { lighting, structure }: BuildResult = buildLevel(doc, fineness, {}, { materials });
  const out = new Map<number, number>();
  structure.surfaces.forEach((_, s) => {
    const place = lighting.places[s];
    if (!place || place.chart.width * place.chart.height < 4) return;
    const { width, texels } = lighting.pages[place.page]!;
    let sum = 0;
    for (let j = 0; j < place.chart.height; j++)
      for (let i = 0; i < place.chart.width; i++)
        sum += unpackRgb9e5(texels[(place.y + j) * width + place.x + i]!)[1] * LUX_SCALE;
    out.set(s, sum / (place.chart.width * place.chart.height));
  });
  return out;
}

test('a glance shows each surface about as bright as a build does', () => {
  const doc = litRooms();
  const [glance, sketch] = [means(doc, 'glance'), means(doc, 'sketch')];
  expect(glance.size).toBe(sketch.size);
  expect(glance.size).toBeGreaterThan(12);
  const all = (m: Map<number, number>) => [...m.values()].reduce((n, x) => n + x, 0);
  expect(Math.abs(all(glance) / all(sketch) - 1)).toBeLessThan(0.05);
  for (const [s, lux] of sketch) expect(Math.abs(glance.get(s)! - lux)).toBeLessThan(0.2 * lux + 2);
});
