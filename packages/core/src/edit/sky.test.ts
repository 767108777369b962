import { lightOf } from '../entity/index.ts';
import { LUMINANCE, linearColor } from '../surface/index.ts';
import { emptyMap, parseMap, SKIES, skyLook, skyMean, writeMap } from '../map/index.ts';
import { changeSettings, placeEntity, takeSky } from './index.ts';

test('the light of a sky has the colour that a level floor under all of it sees', () => {
  const settings = { skyColor: '#8090c0', skyHorizon: '#f0b060' };
  const { zenith, horizon } = skyLook(settings);
  // Summed over rings of the dome as it is drawn, each with its solid angle and cosine.
  const sum = [0, 0, 0];
  const rings = 4000;
  for (let k = 0; k < rings; k++) {
    const z = (k + 0.5) / rings;
    const t = Math.min(1, z / 0.9);
    const share = t * t * (3 - 2 * t);
    for (let c = 0; c < 3; c++) sum[c]! += ((horizon[c]! + (zenith[c]! - horizon[c]!) * share) * 2 * z) / rings;
  }
  skyMean(settings).forEach((c, k) => expect(c).toBeCloseTo(sum[k]!, 3));
  // Clouds take the colour and leave the light.
  const grey = skyMean({ ...settings, skyClouds: 1 });
  const spread = (c: readonly number[]) => Math.max(...c) - Math.min(...c);
  expect(spread(grey)).toBeLessThan(0.25 * spread(sum));
  const light = (c: readonly number[]) => LUMINANCE.reduce((n, part, k) => n + part * c[k]!, 0);
  expect(light(grey)).toBeCloseTo(light(sum), 3);
});

test('without a colour of its own the horizon is that of the sky, paler', () => {
  const { horizon } = skyLook({ skyColor: '#8090c0' });
  linearColor('#8090c0').forEach((c, k) => expect(horizon[k]).toBeGreaterThan(c));
});

test('a sky that people know brings its light, the even light and its sun; everything stays as it is otherwise', () => {
  let doc = placeEntity(changeSettings(emptyMap('t'), { grid: 8 }), 'sun', [0, 0, 200], 200, 'sun');
  doc = placeEntity(doc, 'pointLight', [0, 0, 100], 0, 'a');
  for (const { id, settings, sun } of SKIES) {
    const under = takeSky(doc, id);
    expect(under.settings).toMatchObject({ ...settings, grid: 8 });
    expect(under.entities.get('sun')).toMatchObject({ turn: 200, params: sun });
    expect(lightOf(under.entities.get('sun')!)!.type).toBe('parallel');
    expect(under.entities.get('a')).toEqual(doc.entities.get('a'));
    expect(parseMap(writeMap(under)).settings).toEqual(under.settings);
  }
  expect(takeSky(emptyMap('none'), 'dusk').settings.skyHorizon).toBe('#d98f6a');
  expect(() => takeSky(doc, 'green')).toThrow(expect.objectContaining({ code: 'sky.unknown' }));
});
