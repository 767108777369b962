import { addRoom, changeSettings, placeEntity } from '../../edit/index.ts';
import { emptyMap, type MapDocument } from '../../map/index.ts';
import { litMaterials as materials, litRooms } from '../../testing/lit-rooms.ts';
import { DRESS, rectangle, roomSpec } from '../../testing/rooms.ts';
import { buildLevel, type BuildResult } from '../build.ts';
import type { Fineness } from '../fineness.ts';
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

test('a glimpse tells how bright it is on the whole, bounces and all', () => {
  const doc = litRooms();
  const luxAll = (fineness: Fineness) => {
    const { lighting } = buildLevel(doc, fineness, {}, { materials });
    let [sum, area] = [0, 0];
    for (const place of lighting.places) {
      if (!place) continue;
      const { chart, page, x, y } = place;
      const { width, texels } = lighting.pages[page]!;
      for (let j = 0; j < chart.height; j++)
        for (let i = 0; i < chart.width; i++)
          sum += unpackRgb9e5(texels[(y + j) * width + x + i]!)[1] * LUX_SCALE * chart.size ** 2;
      area += chart.width * chart.height * chart.size ** 2;
    }
    return sum / area;
  };
  const [glimpse, sketch] = [luxAll('glimpse'), luxAll('sketch')];
  expect(Math.abs(glimpse / sketch - 1)).toBeLessThan(0.15);
});

test('what a glimpse guesses of bounces is right where light falls everywhere alike', () => {
  // A room whose faces all glow: on each falls π times what they give off, and of that what is reflected, again and again.
  let doc = addRoom(emptyMap('m'), roomSpec(rectangle(0, 0, 512, 512), { ceiling: 512 }), DRESS, 'a');
  doc = placeEntity(changeSettings(doc, { ambientLux: 0 }), 'spawn', [100, 100, 0], 0, 's');
  const white = (name: string) => ({
    name,
    width: 64,
    height: 64,
    texelsPerCm: 1,
    solidity: 'solid' as const,
    // Reflects a half, in linear light.
    average: '#bcbcbc',
    glow: 20,
  });
  const { lighting } = buildLevel(doc, 'glimpse', {}, { materials: white });
  const glow = 20 * Math.PI;
  for (const { chart, page, x, y } of lighting.places.filter((p) => p !== null)) {
    const { width, texels } = lighting.pages[page]!;
    const lux = unpackRgb9e5(texels[(y + (chart.height >> 1)) * width + x + (chart.width >> 1)]!)[1] * LUX_SCALE;
    expect(Math.abs(lux / (glow / (1 - 0.5029)) - 1)).toBeLessThan(0.12);
  }
});
