import { boxSolid, type Brush } from '../../brush/index.ts';
import { addBrushes, addRoom, changeEntity, changeSettings, placeEntity } from '../../edit/index.ts';
import { emptyMap, type MapDocument } from '../../map/index.ts';
import { rotation, type Vec3 } from '../../math/index.ts';
import { coverAt, dressSolid, maskOf, transformBrush, type MaterialFacts } from '../../surface/index.ts';
import { DRESS, rectangle, roomSpec } from '../../testing/rooms.ts';
import { buildLevel, type BuildResult } from '../build.ts';
import { brightness, lightPlace, luxAt } from '../level/index.ts';
import { probe } from '../probe.ts';
import { LOST, veilOf, Veils } from './veils.ts';

const facts = { width: 64, height: 64, texelsPerCm: 1 };
const grey = '8'.repeat(1024);
/** The left half of each row hides everything. */
const half = `${'f'.repeat(16)}${'0'.repeat(16)}`.repeat(32);
const materials = (name: string): MaterialFacts | undefined =>
  ({
    gauze: { ...facts, name, solidity: 'cutOut' as const, mask: grey },
    blind: { ...facts, width: 256, height: 256, name, solidity: 'cutOut' as const, mask: half },
    glass: { ...facts, name, solidity: 'seeThrough' as const },
    slate: { ...facts, name, solidity: 'solid' as const },
    lamp: { ...facts, name, solidity: 'solid' as const, average: '#ffffff', glow: 5000 },
  })[name];

const blueGlass = (name: string): MaterialFacts | undefined =>
  name === 'glass' ? { ...materials(name)!, average: '#3c5ac8' } : materials(name);

const hall = (open = false): MapDocument => {
  const doc = addRoom(emptyMap('hall'), roomSpec(rectangle(0, 0, 800, 800), { ceiling: 400, open }), DRESS);
  return placeEntity(changeSettings(doc, { ambientLux: 0, skyNits: 0 }), 'spawn', [700, 700, 0], 0, 's');
};
const lit = (doc: MapDocument): MapDocument =>
  changeEntity(placeEntity(doc, 'pointLight', [400, 400, 300], 0, 'l'), 'l', { params: { candela: 500 } });
const sheet = (
  material: string,
  more: Partial<Brush> = {},
  min: Vec3 = [300, 300, 150],
  max: Vec3 = [500, 500, 151],
) => ({
  ...dressSolid(boxSolid({ min, max }), 'sheet', material, { role: 'detail' }),
  ...more,
});
const build = (doc: MapDocument): BuildResult => buildLevel(doc, 'review', {}, { direct: true, materials });
function lux({ level }: BuildResult, p: Vec3): number {
  return brightness(luxAt(level.meta.pages, level.lightTexels, lightPlace(level, level.surfaceMaterial.keys(), p)!));
}

test('a picture’s mask tells how much of it hides what is behind, square by square', () => {
  // A picture of 64 by 32 whose right third is empty.
  const rgba = new Uint8Array(64 * 32 * 4).map((_, i) => (i % 4 === 3 && Math.floor(i / 4) % 64 < 43 ? 255 : 0));
  const mask = maskOf(rgba, 64, 32);
  expect(mask).toHaveLength(1024);
  const cover = (u: number, v: number) => coverAt({ solidity: 'cutOut', mask }, u, v);
  expect([cover(0.2, 0.1), cover(0.6, 0.9), cover(0.8, 0.5), cover(1.2, -3.5)]).toEqual([1, 1, 0, 1]);
  const all = Array.from({ length: 400 }, (_, i) => cover((i + 0.5) / 400, 0.3)).reduce((a, b) => a + b) / 400;
  expect(all).toBeCloseTo(43 / 64, 1);
  // A single pixel is all of the picture; of what nothing is known something is taken.
  expect(maskOf([0, 0, 0, 136], 1, 1)).toBe('8'.repeat(1024));
  // Each of fifteen steps has the seventeen opacities about it.
  for (let a = 0; a < 256; a++) expect(maskOf([9, 9, 9, a], 1, 1)[0]).toBe(Math.round(a / 17).toString(16));
  expect(coverAt({ solidity: 'solid' }, 0, 0)).toBe(1);
  expect(coverAt({ solidity: 'seeThrough' }, 0, 0)).toBeGreaterThan(0);
});

test('lamps, the sun and faces that glow are dimmed by what they come through, as much as it covers', () => {
  const part = 1 - 8 / 15;
  const sunny = changeEntity(placeEntity(hall(true), 'sun', [0, 0, 0], 0, 'sun'), 'sun', { params: { height: 80 } });
  const glow = dressSolid(boxSolid({ min: [380, 380, 300], max: [420, 420, 310] }), 'glow', 'lamp', { role: 'detail' });
  for (const doc of [lit(hall()), sunny, addBrushes(hall(), [glow])])
    for (const degrees of [0, 27]) {
      const veil = transformBrush(sheet('gauze'), rotation(2, degrees, [400, 400, 0]), true)!;
      const [bare, dim] = [build(doc), build(addBrushes(doc, [veil]))];
      for (const p of [
        [400, 400, 0],
        [380, 420, 0],
      ] as Vec3[])
        expect(lux(dim, p) / lux(bare, p)).toBeCloseTo(part, 2);
      // Beside its shadow nothing changes.
      expect(lux(dim, [40, 60, 0]) / lux(bare, [40, 60, 0])).toBeCloseTo(1, 3);
    }
});

test('the shadow is that of the picture, where geometry says', () => {
  // At two texels a cm the picture repeats every 128 cm, hiding what is west in each: seen from a lamp at 300 over a floor, twice as wide
  // from 150 up.
  const [bare, dim] = [build(lit(hall())), build(addBrushes(lit(hall()), [sheet('blind')]))];
  let [dark, bright] = [0, 0];
  for (let x = 310; x < 490; x += 4) {
    const at = x % 128;
    // Away from the edges of its stripes by more than what is between two luxels.
    if (Math.min(Math.abs(at - 64), at, 128 - at) < 18) continue;
    // Seen from the top of the sheet, where light enters it.
    const floor = 400 + (x - 400) * (300 / 149);
    if (floor < 100 || floor > 700) continue;
    const share = lux(dim, [floor, 400, 0]) / lux(bare, [floor, 400, 0]);
    if (at < 64) {
      expect(share).toBeLessThan(0.05);
      dark++;
    } else {
      expect(share).toBeGreaterThan(0.95);
      bright++;
    }
  }
  expect(Math.min(dark, bright)).toBeGreaterThan(4);
});

test('a pane lets light in, a board that casts no shadow all of it, and structure none', () => {
  const share = (more: Partial<Brush>, material: string) =>
    lux(build(addBrushes(lit(hall()), [sheet(material, more)])), [400, 400, 0]) /
    lux(build(lit(hall())), [400, 400, 0]);
  expect(share({}, 'glass')).toBeCloseTo(1 - coverAt({ solidity: 'seeThrough' }, 0, 0), 2);
  expect(share({ shadow: false }, 'slate')).toBeCloseTo(1, 3);
  expect(share({ shadow: false }, 'gauze')).toBeCloseTo(1, 3);
  expect(share({ role: 'structure' }, 'gauze')).toBe(0);
  expect(share({}, 'slate')).toBe(0);
  // The light that is asked for at a point says the same.
  const doc = addBrushes(lit(hall()), [sheet('glass')]);
  const [answer] = probe(doc, build(doc), [{ at: [400, 400, 0], normal: [0, 0, 1] }], materials);
  expect(brightness(answer!.illuminance as Vec3) / lux(build(doc), [400, 400, 0])).toBeCloseTo(1, 1);
});

test('what is kept of earlier builds knows a veil that moved, and one that became another', () => {
  const kept = new Map<string, unknown>();
  const store = {
    get: (key: string) => kept.get(key),
    put: (key: string, value: unknown) => void kept.set(key, value),
    hash: (text: string) => text,
  };
  const doc = lit(hall());
  const [away, other] = [sheet('gauze', {}, [100, 100, 150], [300, 300, 151]), sheet('blind')];
  for (const veil of [sheet('gauze'), away, other, sheet('blind', { shadow: false })]) {
    const map = addBrushes(doc, [veil]);
    const with_ = buildLevel(map, 'sketch', { kept: store as never }, { direct: true, materials }).bytes;
    expect(Buffer.compare(with_, buildLevel(map, 'sketch', {}, { direct: true, materials }).bytes)).toBe(0);
  }
});

describe('coloured glass', () => {
  const blue = (name: string): MaterialFacts | undefined =>
    name === 'glass'
      ? { ...facts, name, solidity: 'seeThrough', mask: grey, average: '#3c5ac8' }
      : name === 'clear'
        ? { ...facts, name, solidity: 'seeThrough', mask: '2'.repeat(1024), average: '#3c5ac8' }
        : { ...facts, name, solidity: 'solid', average: '#808080' };
  const rgb = ({ level }: BuildResult, p: Vec3): Vec3 =>
    luxAt(level.meta.pages, level.lightTexels, lightPlace(level, level.surfaceMaterial.keys(), p)!);
  const under = (material: string, direct: boolean, preset: 'review' | 'sketch' = 'review') => {
    const white = changeEntity(lit(hall()), 'l', { params: { color: '#ffffff' } });
    const doc = material ? addBrushes(white, [sheet(material)]) : white;
    return buildLevel(doc, preset, {}, { direct, materials: blue });
  };
  /** Red, green and blue of `#3c5ac8` in linear light, by blue. */
  const linear = (hex: number) => ((hex / 255 + 0.055) / 1.055) ** 2.4;
  const tint = [0x3c, 0x5a, 0xc8].map((c) => linear(c) / linear(0xc8));

  test('dims white light and tints it by its colour, the clearer the less, and nothing beside it', () => {
    const bare = under('', true);
    for (const [material, cover] of [
      ['glass', 8 / 15],
      ['clear', 2 / 15],
    ] as const) {
      const seen = rgb(under(material, true), [400, 400, 0]);
      const tinted = Math.min(1, 2 * cover);
      tint.forEach((t, c) => {
        const part = (1 - cover) * (1 - tinted + tinted * t);
        expect(seen[c]! / rgb(bare, [400, 400, 0])[c]!).toBeCloseTo(part, 2);
      });
      const [r, , b] = rgb(under(material, true), [40, 60, 0]);
      expect(r / b).toBeCloseTo(1, 2);
    }
  });

  test('what bounces of it is tinted as well, and the light that is asked for says the same', () => {
    const built = under('glass', false, 'sketch');
    const bare = under('', false, 'sketch');
    // On the ceiling above the lamp, which is white itself: more blue comes back from the floor than red, as far as it came through.
    const [[r, , b], [r0, , b0]] = [rgb(built, [400, 400, 400]), rgb(bare, [400, 400, 400])];
    expect(b / r).toBeGreaterThan((b0 / r0) * 1.002);
    const doc = addBrushes(changeEntity(lit(hall()), 'l', { params: { color: '#ffffff' } }), [sheet('glass')]);
    const [answer] = probe(doc, built, [{ at: [400, 400, 0], normal: [0, 0, 1] }], blue);
    const [pr, , pb] = answer!.illuminance as Vec3;
    expect(pr / pb).toBeCloseTo(tint[0]!, 1);
  });
});

describe('light that bounces', () => {
  /** What a wall between lets through of it, and what is behind comes back but for a little: walls are dark. */
  const dark = (mask: string) => (name: string) =>
    ({
      net: { ...facts, name, solidity: 'cutOut' as const, mask: mask.repeat(1024), average: '#000000' },
      plaster: { ...facts, name, solidity: 'solid' as const, average: '#505050' },
    })[name];
  const split = addBrushes(
    changeEntity(
      placeEntity(
        placeEntity(
          addRoom(emptyMap('split'), roomSpec(rectangle(0, 0, 800, 400), { ceiling: 300 }), {
            floor: 'plaster',
            wall: 'plaster',
            ceiling: 'plaster',
          }),
          'spawn',
          [200, 100, 0],
          0,
          's',
        ),
        'pointLight',
        [200, 200, 150],
        0,
        'l',
      ),
      'l',
      { params: { candela: 900, color: '#ffffff' } },
    ),
    [sheet('net', {}, [400, 0, 0], [401, 400, 300])],
  );
  const unlit = changeSettings(split, { ambientLux: 0, skyNits: 0 });
  /** The mean of what bounces to the far wall, and to the floor before it. */
  const bounced = (mask: string): number => {
    const own = dark(mask);
    const [whole, direct] = [false, true].map((only) =>
      buildLevel(unlit, 'review', {}, { direct: only, materials: own, probes: false }),
    ) as [BuildResult, BuildResult];
    const places = Array.from({ length: 40 }, (_, i): Vec3 => {
      const y = 20 + ((i * 97) % 360);
      return i % 2 ? [800, y, 20 + ((i * 53) % 260)] : [520 + ((i * 31) % 260), y, 0];
    });
    return places.reduce((sum, p) => sum + lux(whole, p) - lux(direct, p), 0) / places.length;
  };
  const bare = bounced('0');

  test('is stopped by a net without holes, and by another as much as it covers', () => {
    expect(bare).toBeGreaterThan(1);
    // The net stands on patches of the floor that reach out on both sides.
    expect(bounced('f')).toBeLessThan(0.02 * bare);
    // What went to and fro through it is dimmed more than once: of walls as dark as these that is a little.
    const part = bounced('8') / bare;
    expect(part).toBeLessThan(1.02 * (1 - 8 / 15));
    expect(part).toBeGreaterThan(0.9 * (1 - 8 / 15));
  });
});

test('a ray ends on a net as often as that covers, in coloured glass as often as that swallows it, else behind', () => {
  const veils = ['gauze', 'glass'].map((material, i) =>
    veilOf(sheet(material, {}, [300 + i * 50, 0, 0], [301 + i * 50, 100, 100]), blueGlass)!,
  );
  const [from, along]: [Vec3, Vec3] = [
    [200, 50, 50],
    [1, 0, 0],
  ];
  const all = new Veils(veils);
  const counts = { net: 0, pane: 0, lost: 0, through: 0 };
  const rays = 20_000;
  for (let k = 0; k < rays; k++) {
    const end = all.ends(from, along, 400, (k + 0.5) / rays);
    counts[end === null ? 'through' : end === LOST ? 'lost' : end.veil === 0 ? 'net' : 'pane']++;
    if (end !== null && end !== LOST) expect(end.at).toBeCloseTo(end.veil === 0 ? 100 : 150, 9);
  }
  const part = all.through(from, along, 400);
  const luminance = 0.2126 * part[0] + 0.7152 * part[1] + 0.0722 * part[2];
  expect(counts.net / rays).toBeCloseTo(8 / 15, 3);
  expect(counts.pane / rays).toBeCloseTo((7 / 15) * coverAt({ solidity: 'seeThrough' }, 0, 0), 3);
  expect(counts.through / rays).toBeCloseTo(luminance, 3);
  expect(counts.lost).toBeGreaterThan(0);
  // What lies beyond the end is not met.
  expect(all.ends(from, along, 90, 0.999)).toBeNull();
});
