import { changeEntity, changeSettings } from '../../edit/index.ts';
import type { MapDocument } from '../../map/index.ts';
import { dot } from '../../math/index.ts';
import { linearColor, LUMINANCE, type MaterialFacts } from '../../surface/index.ts';
import { litMaterials, litRooms } from '../../testing/lit-rooms.ts';
import { buildLevel } from '../build.ts';
import { readLevel } from '../level/index.ts';
import { unpackRgb9e5 } from './rgb9e5.ts';

interface Light {
  readonly color: string;
  /** Candela, lux or nits: what the color gives of it by its luminance. */
  readonly strength: number;
}

/** A light with red where its green was, green where its blue was, blue where its red was, and as much of each. */
function turned({ color, strength }: Light): Light {
  const to = `#${color.slice(3, 5)}${color.slice(5, 7)}${color.slice(1, 3)}`;
  const luminance = (c: string) => dot(LUMINANCE, linearColor(c));
  return { color: to, strength: (strength * luminance(to)) / luminance(color) };
}

/** Rooms in which everything has a colour of its own. */
function colored(bare: MapDocument, as: (light: Light) => Light): MapDocument {
  const lamp = (doc: MapDocument, id: string, color: string, candela: number): MapDocument => {
    const light = as({ color, strength: candela });
    return changeEntity(doc, id, { params: { color: light.color, candela: light.strength, lit: true } });
  };
  const air = as({ color: '#a0d0ff', strength: 6 });
  const sky = as({ color: '#80b0ff', strength: 30 });
  const sun = as({ color: '#ffe0b0', strength: 2000 });
  let doc = changeSettings(bare, {
    ambientLux: air.strength,
    ambientColor: air.color,
    skyNits: sky.strength,
    skyColor: sky.color,
  });
  doc = lamp(lamp(lamp(doc, 'a', '#ff9040', 300), 'b', '#30ff90', 120), 'c', '#6080ff', 200);
  return changeEntity(doc, 'sun', { params: { color: sun.color, lux: sun.strength } });
}

test('red, green and blue are treated alike on walls and in probes', () => {
  const bare = litRooms();
  const levels = [(light: Light) => light, turned].map((as) => {
    const materials = (name: string): MaterialFacts => {
      const known = litMaterials(name) ?? { name, width: 64, height: 64, texelsPerCm: 2, solidity: 'solid' as const };
      const { color, strength } = as({ color: known.average ?? '#906030', strength: known.glow ?? 0 });
      return { ...known, average: color, ...(known.glow ? { glow: strength } : {}) };
    };
    return readLevel(buildLevel(colored(bare, as), 'sketch', {}, { materials }).bytes);
  });
  const [first, second] = levels as [(typeof levels)[0], (typeof levels)[0]];
  /** How far the channels differ, by what they are and a hundredth of the most: sorted. */
  const off = (a: readonly number[], b: readonly number[]): number[] => {
    const floor = Math.max(...a) / 100;
    const next = (k: number) => a[k - (k % 3) + ((k + 1) % 3)]!;
    return b.map((y, k) => Math.abs(next(k) - y) / (Math.abs(next(k)) + floor)).sort((x, y) => x - y);
  };
  const [texels, turnedTexels] = [first, second].map((l) => [...l.lightTexels].flatMap((word) => unpackRgb9e5(word)));
  const walls = off(texels!, turnedTexels!);
  const probes = off([...first.probeLight], [...second.probeLight]);
  const of = (sorted: readonly number[], share: number) => sorted[Math.floor((sorted.length - 1) * share)]!;
  // Texels are told to a 500th of their brightest channel, and where to look closer is told by the luminance.
  expect([of(walls, 0.5), of(probes, 0.5)].every((d) => d < 0.005)).toBe(true);
  expect([of(walls, 0.95), of(probes, 0.95)].every((d) => d < 0.06)).toBe(true);
  expect(of(walls, 1)).toBeLessThan(0.12);
  expect(of(probes, 0.99)).toBeLessThan(0.15);
});
