import {
  addRoom,
  brightness,
  buildLevel,
  changeEntity,
  emptyMap,
  lightPlace,
  luxAt,
  mixLayers,
  placeEntity,
  readLedger,
  takeSky,
  writeLedger,
  type Level,
  type MapDocument,
  type Point2,
  type Vec3,
} from '@yesca/core';
import { sharesUnder, underSky } from './under-sky.ts';

const corners: Point2[] = [
  [0, 0],
  [400, 0],
  [400, 400],
  [0, 400],
];

function yard(): MapDocument {
  const room = { footprint: corners, floor: 0, ceiling: 272, wall: 16, open: true };
  const open = addRoom(emptyMap('Yard'), room, { floor: 'oak-plank', wall: 'limewash', ceiling: 'slate' });
  const lamp = placeEntity(open, 'pointLight', [60, 60, 150], 0, 'lamp');
  return placeEntity(placeEntity(lamp, 'spawn', [200, 200, 0], 0, 's'), 'sun', [200, 200, 200], 200, 'sun');
}

/** Under another sky, with the sun where it stood: its shadows are those of the build. */
function under(sky: string): MapDocument {
  const day = takeSky(yard(), 'fair');
  const { height, spread } = day.entities.get('sun')!.params;
  return changeEntity(takeSky(day, sky), 'sun', { params: { height, spread } });
}

const PLACES: readonly Vec3[] = [[100, 100, 0], [330, 70, 0], [200, 330, 0], [400, 200, 120], [0, 200, 90]]; // prettier-ignore

const seen = (level: Level, texels: Uint32Array): Vec3[] =>
  PLACES.map((p) => luxAt(level.meta.pages, texels, lightPlace(level, level.surfaceMaterial.keys(), p)!));

test('a level that was built by day is under each other sky what a build with the sun in its place is, and its own again', () => {
  const built = buildLevel(takeSky(yard(), 'fair'), 'sketch', {}, { ledger: true });
  const { level } = built;
  const { layers } = readLedger(writeLedger(built.ledger!));
  const mix = mixLayers(level.meta.pages, new Uint32Array(level.lightTexels.length), layers);
  for (const sky of ['night', 'dusk', 'overcast', null]) {
    const look = underSky(level, { layers, mix }, sky);
    mix.shine(sharesUnder(look, new Map()));
    const other = sky === null ? built : buildLevel(under(sky), 'sketch');
    expect(look.settings.skyColor).toBe(other.level.meta.settings.skyColor);
    const [ours, theirs] = [seen(level, mix.texels), seen(other.level, other.level.lightTexels)];
    ours.forEach((lux, i) => expect(brightness(lux) / brightness(theirs[i]!)).toBeCloseTo(1, 1));
    const all = (list: readonly Vec3[]) => list.reduce((sum, lux) => sum + brightness(lux), 0);
    expect(Math.abs(all(ours) / all(theirs) - 1)).toBeLessThan(0.01);
  }
  // A lamp that is put out stays out under another sky.
  const night = underSky(level, { layers, mix }, 'night');
  const lit = () => brightness(seen(level, mix.texels)[0]!);
  mix.shine(sharesUnder(night, new Map([['lamp', 1]])));
  const before = lit();
  mix.shine(sharesUnder(night, new Map([['lamp', 0]])));
  expect(lit()).toBeLessThan(0.2 * before);
});
