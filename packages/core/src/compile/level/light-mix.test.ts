import { boxSolid } from '../../brush/index.ts';
import { addBrushes, addWire, changeEntity, placeEntity, removePicked } from '../../edit/index.ts';
import type { MapDocument } from '../../map/index.ts';
import { beginWorld, lampShares, newPerson, order, worldOfLevel } from '../../play/index.ts';
import { dressSolid } from '../../surface/index.ts';
import { play } from '../../testing/playing.ts';
import { twoRooms } from '../../testing/rooms.ts';
import { buildLevel } from '../build.ts';
import { unpackRgb9e5 } from '../lighting/index.ts';
import { mixLight, readLevel, writeLevel, type Level } from './index.ts';

/** Two rooms with a turned pillar; lamps in both, and two that shine into each other's light. */
function scene(): MapDocument {
  const pillar = dressSolid(boxSolid({ min: [180, 140, 0], max: [220, 180, 272] }), 'pillar', 'slate', {
    role: 'detail',
  });
  let doc = addBrushes(twoRooms(), [pillar]);
  doc = placeEntity(doc, 'spawn', [100, 40, 0], 0, 'spawn');
  doc = placeEntity(doc, 'pointLight', [100, 100, 200], 0, 'a');
  doc = placeEntity(doc, 'pointLight', [480, 60, 150], 0, 'b');
  doc = changeEntity(doc, 'b', { params: { color: '#ff4020', candela: 120 } });
  doc = placeEntity(doc, 'spotLight', [800, 100, 220], 0, 'c');
  return placeEntity(doc, 'sun', [700, 160, 240], 200, 'sun');
}
const dark = (doc: MapDocument, ...ids: string[]) =>
  ids.reduce((d, id) => changeEntity(d, id, { params: { lit: false } }), doc);
const level = (doc: MapDocument): Level => buildLevel(doc, 'sketch').level;
const mixed = (l: Level, shares: Record<string, number>): Uint32Array => {
  const mix = mixLight(l);
  mix.shine(new Map(Object.entries(shares)));
  return mix.texels;
};

/** The share of texels that are off by more than a part of their brightest channel. */
function off(a: Uint32Array, b: Uint32Array, part: number): number {
  expect(a.length).toBe(b.length);
  let wrong = 0;
  let all = 0;
  for (let k = 0; k < a.length; k++) {
    const [p, q] = [unpackRgb9e5(a[k]!), unpackRgb9e5(b[k]!)];
    const top = Math.max(...q);
    if (top < 1e-4) continue;
    all++;
    if (p.some((x, c) => Math.abs(x - q[c]!) > part * top)) wrong++;
  }
  return wrong / all;
}
/** Each lamp's light is found by itself: sums are off by the rounding of packed colours alone. */
const agree = (a: Uint32Array, b: Uint32Array) => expect(off(a, b, 0.01)).toBeLessThan(0.005);

test('what lamps add that play can switch comes to what a build gives in which they are as they are then', () => {
  const doc = scene();
  for (const direct of [true, false]) {
    const level = (of: MapDocument): Level => buildLevel(of, 'sketch', {}, { direct }).level;
    const switched = level(dark(doc, 'b', 'c'));
    expect(switched.meta.layers.map((l) => l.thing)).toEqual(['b', 'c']);
    // All dark: as if they were not there, to the last bit.
    const without = removePicked(doc, { entities: new Set(['b', 'c']) });
    expect(mixed(switched, {})).toEqual(level(without).lightTexels);
    // All lit, one lit, one at a part.
    agree(mixed(switched, { b: 1, c: 1 }), level(doc).lightTexels);
    const one = removePicked(doc, { entities: new Set(['c']) });
    agree(mixed(switched, { b: 1 }), level(one).lightTexels);
    const part = changeEntity(one, 'b', { params: { candela: 30 } });
    agree(mixed(switched, { b: 0.25 }), level(part).lightTexels);
    // And the yardstick sees a lamp that is missing.
    expect(off(mixed(switched, { c: 1 }), level(doc).lightTexels, 0.1)).toBeGreaterThan(0.1);
  }
});

test('lamps that are switched back and forth leave nothing behind, and only the pages change that they shine on', () => {
  const l = level(dark(scene(), 'b', 'c'));
  const mix = mixLight(l);
  const before = mix.texels.slice();
  expect(mix.shine(new Map([['b', 0.7]]))).not.toEqual([]);
  expect(mix.texels).not.toEqual(before);
  expect(mix.shine(new Map([['b', 0.7]]))).toEqual([]);
  mix.shine(new Map([['c', 1]]));
  mix.shine(
    new Map([
      ['b', 0],
      ['c', 0],
      ['nobody', 1],
    ]),
  );
  expect(mix.texels).toEqual(before);
  expect(l.lightTexels).toEqual(before);
});

test('only lamps that a wire leads to, or that are dark at first, are kept apart; a level in a file keeps them', () => {
  const doc = placeEntity(scene(), 'zone', [300, 100, 0], 0, 'z');
  expect(level(doc).meta.layers).toEqual([]);
  const wired = addWire(doc, { from: { thing: 'z', signal: 'entered' }, to: { thing: 'a', action: 'toggle' } });
  const l = level(wired);
  expect(l.meta.layers.map((x) => x.thing)).toEqual(['a']);
  const read = readLevel(writeLevel(l));
  expect(read.layerTexels).toEqual(l.layerTexels);
  const tiles = l.meta.layers.reduce((n, x) => n + x.tiles.length, 0);
  expect(l.layerTexels.length).toBe(tiles * 1024);
});

test('in play a lamp is switched and fades at an even pace, and says when it is there', () => {
  const doc = changeEntity(dark(scene(), 'b'), 'b', { params: { fades: 2 } });
  const world = worldOfLevel(level(doc));
  let state = beginWorld(world, [newPerson([100, 40, 0], 0)]);
  const share = () => lampShares(world, state).get('b');
  const told: string[] = [];
  const run = (seconds: number) => {
    const done = play(world, state, seconds);
    state = done.state;
    told.push(...done.told.map((t) => t.signal));
  };
  expect([share(), lampShares(world, state).get('a')]).toEqual([0, 1]);
  state = order(world, state, 'b', 'on');
  run(0.5);
  expect(share()).toBeCloseTo(0.25, 2);
  run(1.6);
  expect([share(), told.filter((t) => t === 'lit').length]).toEqual([1, 1]);
  state = order(world, state, 'b', 'fade', 0.4);
  run(2);
  expect(share()).toBe(0.4);
  state = order(world, state, 'b', 'toggle');
  run(0.4);
  expect(share()).toBeCloseTo(0.2, 2);
  state = order(world, state, 'b', 'toggle');
  run(3);
  expect(share()).toBe(1);
  // More than its own strength takes no longer, there and back.
  state = order(world, state, 'b', 'fade', 5);
  run(1);
  expect(share()).toBeCloseTo(3.5, 1);
  run(1);
  expect(share()).toBe(5);
  state = order(world, state, 'b', 'off');
  run(3);
  expect([share(), told.filter((t) => t === 'dark').length]).toEqual([0, 1]);
});
