import { LUMINANCE } from '../../surface/index.ts';
import { addScaled, dot, irradianceOf, normalize, type Vec3 } from '../../math/index.ts';
import type { Surface } from '../structure/index.ts';
import type { LightFinder } from './light-finder.ts';

/** Faces that meet at less than this are meant to be round: the cosine of 40°. Those that meet at next to nothing are one. */
const ROUND = 0.766;
const FLAT = 0.99996;

/** Light is looked at so far off the corner, cm. */
const OFF = 4;

/** How much brighter or darker a corner may be than its face. */
const LEAST = 0.25;
const MOST = 4;

/** Dimmer than this (lux) nothing tells how much brighter one side is. */
const DARK = 0.02;

/** The light at a place, from every side. */
type LightThere = ReturnType<LightFinder['parts']>;

/**
 * How much brighter each corner of a surface is on a round thing than on its flat faces: so light runs on over the edges of columns, barrels
 * and balls. Null for what is not round. `lightAt` gives the light at a place; null where nothing is known of it.
 *
 * A face is round when it goes over into two others at least: where a ramp meets a floor both stay flat.
 */
export function roundGains(
  surfaces: readonly Surface[],
  lightAt: (p: Vec3) => LightThere | null,
): (Float32Array | null)[] {
  const corners = new Map<string, number[]>();
  const keyOf = (p: Vec3): string => p.map((c) => Math.round(c * 20)).join(' ');
  const keys = surfaces.map((s) => s.winding.map(keyOf));
  surfaces.forEach((s, i) => {
    if (s.sky) return;
    for (const key of new Set(keys[i])) {
      const list = corners.get(key);
      if (list) list.push(i);
      else corners.set(key, [i]);
    }
  });
  const bend = (i: number, j: number): number => dot(surfaces[i]!.plane.normal, surfaces[j]!.plane.normal);
  /** Faces that share an edge with a face and go over into it. */
  const beside = surfaces.map((s, i): ReadonlySet<number> => {
    const shared = new Map<number, number>();
    if (s.sky) return new Set();
    for (const key of new Set(keys[i]))
      for (const j of corners.get(key)!) if (j !== i) shared.set(j, (shared.get(j) ?? 0) + 1);
    return new Set([...shared].flatMap(([j, n]) => (n >= 2 && bend(i, j) > ROUND && bend(i, j) < FLAT ? [j] : [])));
  });
  /** Several pieces of one face count once. */
  const waysOn = beside.map((list) => new Set([...list].map((j) => wayOf(surfaces[j]!.plane.normal))).size);
  const isRound = (i: number, j: number): boolean => waysOn[i]! >= 2 && waysOn[j]! >= 2 && beside[i]!.has(j);
  return surfaces.map((s, i) => {
    if (waysOn[i]! < 2) return null;
    const gains = new Float32Array(s.winding.length).fill(1);
    let any = false;
    s.winding.forEach((p, k) => {
      const normal = roundNormal(i, corners.get(keys[i]![k]!)!, surfaces, isRound);
      const light = normal && lightAt(addScaled(p, normal, OFF));
      if (!normal || !light) return;
      const [flat, round] = [brightness(light, s.plane.normal), brightness(light, normal)];
      if (Math.max(flat, round) < DARK) return;
      gains[k] = Math.min(MOST, Math.max(LEAST, round / Math.max(flat, 1e-6)));
      any = true;
    });
    return any ? gains : null;
  });
}

/** Names normals: those of pieces of one face alike. */
const wayOf = (normal: Vec3): string => normal.map((c) => Math.round(c * 1e3)).join(' ');

/** The normal of a round thing at a corner: the mean of all faces there that go over into one another from a face on; null where none does. */
function roundNormal(
  face: number,
  around: readonly number[],
  surfaces: readonly Surface[],
  isRound: (i: number, j: number) => boolean,
): Vec3 | null {
  const found = [face];
  for (let n = 0; n < found.length; n++)
    for (const j of around) if (!found.includes(j) && isRound(found[n]!, j)) found.push(j);
  if (found.length === 1) return null;
  const normals = new Map<string, Vec3>();
  for (const j of found) {
    const { normal } = surfaces[j]!.plane;
    normals.set(wayOf(normal), normal);
  }
  const sum = [...normals.values()].reduce((a, b) => [a[0] + b[0], a[1] + b[1], a[2] + b[2]]);
  return normalize(sum);
}

/** What the eye makes of the light on a surface with a normal. */
const brightness = ({ straight, rest }: LightThere, normal: Vec3): number =>
  LUMINANCE.reduce((sum, weight, c) => {
    const direct = straight.reduce((n, { way, light }) => n + light[c]! * Math.max(0, dot(way, normal)), 0);
    return sum + weight * (irradianceOf(rest, normal, c, 3) + direct);
  }, 0);
