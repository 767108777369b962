import { rankRegions, type Region } from './material.ts';

const region = (name: string, width: number, height: number): Region => ({ name, x: 0, y: 0, width, height });
const door = region('door', 128, 256);
const sign = region('sign', 256, 128);
const skirting = region('skirting', 1024, 64);

test('the least stretched region comes first', () => {
  expect(rankRegions([skirting, sign, door], 110, 220).map((c) => c.region.name)).toEqual(['door', 'sign', 'skirting']);
  expect(rankRegions([door, sign], 220, 110)[0]).toEqual({ region: sign, turned: false, stretch: 1 });
});

test('a region is laid on its side only where that stretches it much less', () => {
  // A leaf a little wider than high: upright it is stretched 2.2 times, on its side 1.8, which is not worth a lying door.
  expect(rankRegions([door], 110, 100)[0]!.turned).toBe(false);
  expect(rankRegions([door], 200, 100)[0]!.turned).toBe(true);
});

test('what is called like the use of a face comes before what only fits', () => {
  const choices = rankRegions([sign, door], 220, 110, 'Door leaf, north');
  expect(choices.map((c) => c.region.name)).toEqual(['door', 'sign']);
  expect(rankRegions([sign, door], 220, 110, 'indoors')[0]!.region).toBe(sign);
});
