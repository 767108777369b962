import fc from 'fast-check';
import { dot, irradianceOf, length, scale, type Vec3 } from '@yesca/core';
import { farLight, PREVIEW_LIGHTS } from './preview-light.ts';

const share = fc.double({ min: -1, max: 1, noNaN: true });
const way: fc.Arbitrary<Vec3> = fc.tuple(share, share, share).filter((v) => length(v) > 0.1);

test('what is even falls on every side alike; light from far off falls as the second order of its cosine', () => {
  fc.assert(
    fc.property(way, way, (from, normal) => {
      const n = scale(normal, 1 / length(normal));
      const light = farLight({ from, lux: [300, 100, 0], even: [20, 0, 50] });
      const cos = dot(n, scale(from, 1 / length(from)));
      // max(0, cos) up to the second order: 1/4 + cos/2 + (5/32)(3 cos² - 1).
      const part = 1 / 4 + cos / 2 + (5 / 32) * (3 * cos * cos - 1);
      expect(irradianceOf(light, n, 0, 3)).toBeCloseTo(Math.max(0, 300 * part + 20), 3);
      expect(irradianceOf(light, n, 1, 3)).toBeCloseTo(Math.max(0, 100 * part), 3);
      expect(irradianceOf(light, n, 2, 3)).toBeCloseTo(50, 3);
    }),
  );
});

test('dusk is dimmer than noon from above, and warmer from its side', () => {
  const at = (light: keyof typeof PREVIEW_LIGHTS, n: Vec3, c = 0) => irradianceOf(PREVIEW_LIGHTS[light], n, c, 3);
  expect(at('dusk', [0, 0, 1])).toBeLessThan(at('noon', [0, 0, 1]) / 2);
  expect(at('dusk', [-1, 0, 0]) / at('dusk', [-1, 0, 0], 2)).toBeGreaterThan(1.5);
});
