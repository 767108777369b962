import { litMaterials as materials, litRooms } from '../../testing/lit-rooms.ts';
import type { Vec3 } from '../../math/index.ts';
import { addScaled, scale, windingCentroid } from '../../math/index.ts';
import { buildLevel } from '../build.ts';
import { brightness, factorFor, layerColors, layerLuxAt, lightPlace, luxAt } from './index.ts';

const doc = litRooms();
const { level, ledger, structure } = buildLevel(doc, 'sketch', {}, { materials, ledger: true });

test('a place of a surface is found on the pages, one beside it or off it is not', () => {
  let asked = 0;
  structure.surfaces.forEach((s, i) => {
    if (s.sky) return;
    const middle = windingCentroid(s.winding);
    expect(lightPlace(level, [i], middle)).not.toBeNull();
    expect(lightPlace(level, [i], addScaled(middle, s.plane.normal, 3))).toBeNull();
    expect(lightPlace(level, [i], addScaled(middle, [1, 1, 1], 5000))).toBeNull();
    asked++;
  });
  expect(asked).toBeGreaterThan(20);
});

test('what the layers give at a place adds up to what its page has there', () => {
  const colors = layerColors(ledger!.layers, doc, materials);
  structure.surfaces.forEach((s, i) => {
    const place = s.sky ? null : lightPlace(level, [i], windingCentroid(s.winding));
    if (!place) return;
    const sum = [0, 0, 0];
    for (const layer of ledger!.layers)
      layerLuxAt(layer, place).forEach((c, k) => (sum[k]! += c * colors.get(layer.thing)![k]!));
    const page = luxAt(level.meta.pages, level.lightTexels, place);
    const most = Math.max(0.01, ...page);
    page.forEach((c, k) => expect(Math.abs(c - sum[k]!)).toBeLessThan(0.01 * most));
  });
});

test('a factor brings a place to so many lux, or says why none does', () => {
  expect(factorFor(40, 100, 80)).toEqual({ factor: 0.25 });
  expect(factorFor(20, 100, 80)).toEqual({ factor: 0 });
  expect(factorFor(5, 100, 80)).toEqual({ never: 'others', lux: 20 });
  expect(factorFor(40, 12, 0)).toEqual({ never: 'reach', lux: 12 });
  const lux: Vec3 = [10, 20, 30];
  expect(brightness(scale(lux, 2))).toBeCloseTo(2 * brightness(lux), 9);
});
