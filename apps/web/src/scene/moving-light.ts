import {
  applyAffine,
  boxCenter,
  entityKind,
  type Level,
  makeLevelProbes,
  type Pose,
  type ProbeLight,
  type Vec3,
} from '@yesca/core';
import type { Figures } from './figures.ts';
import type { LevelMesh } from './level-mesh.ts';

/** Light that what moves comes from or to is no less than this (lux times the first harmonic): nothing gets endlessly brighter. */
const LEAST = 0.2;
const MOST_TIMES = 8;

/** How far (cm) something moves before its light is looked up again. */
export const FAR_ENOUGH = 4;

/** Where a part of a thing, or its figure, is in play. */
export interface Moved {
  readonly thing: string;
  readonly part: number;
  readonly pose: Pose;
}

/** Gives what moves in play the light of where it is. */
export interface MovingLight {
  /** `shares` are those of lamps that can be switched; `anew` when they have changed. */
  readonly follow: (
    bodies: readonly Moved[],
    figures: readonly Moved[],
    shares: ReadonlyMap<string, number>,
    anew: boolean,
  ) => void;
}

export function makeMovingLight(
  level: Level,
  mesh: Pick<LevelMesh, 'carry'>,
  figures: Pick<Figures, 'light'>,
): MovingLight {
  const probes = makeLevelProbes(level);
  const light: ProbeLight = new Float32Array(27);
  const rest: ProbeLight = new Float32Array(27);
  const middles = new Map(level.meta.bodies.map((b) => [`${b.thing} ${b.part}`, boxCenter(b.bounds)]));
  const places = new Map(level.meta.entities.map((e): [string, Vec3] => [e.id, aboveGround(e.at)]));
  /** By thing, the place whose light it keeps. */
  const kept = new Map(
    level.meta.entities.flatMap((e): [string, Vec3][] => {
      const at = places.get(entityKind(e.kind)?.litAt(e) ?? '');
      return at ? [[e.id, at]] : [];
    }),
  );
  const last = new Map<string, Vec3>();
  /** Where it is now, when its light is to be looked up. */
  const moved = (key: string, at: Vec3, pose: Pose, anew: boolean): Vec3 | null => {
    const now = applyAffine(pose, at);
    const before = last.get(key);
    if (!anew && before && Math.hypot(now[0] - before[0], now[1] - before[1], now[2] - before[2]) < FAR_ENOUGH)
      return null;
    last.set(key, now);
    return now;
  };
  return {
    follow: (bodies, shown, shares, anew) => {
      for (const { thing, part, pose } of bodies) {
        const at = middles.get(`${thing} ${part}`);
        const keeps = kept.get(thing);
        const now = at && moved(`${thing} ${part}`, keeps ?? at, keeps ? STAYS : pose, anew);
        if (!now || !probes.lightAt(now, shares, light) || !probes.lightAt(at, shares, rest)) continue;
        const times = (c: 0 | 1 | 2) => Math.min(MOST_TIMES, Math.max(LEAST, light[c]!) / Math.max(LEAST, rest[c]!));
        mesh.carry(thing, part, [times(0), times(1), times(2)]);
      }
      for (const { thing, pose } of shown) {
        const at = places.get(thing);
        const now = at && moved(thing, at, pose, anew);
        if (now && probes.lightAt(now, shares, light)) figures.light(thing, light);
      }
    },
  };
}

/** Of what keeps the light of a place. */
const STAYS: Pose = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

/** Light is looked up so far above where a figure stands, cm. */
const ABOVE = 30;

/** Where the light of what stands at a place is looked up. */
export const aboveGround = ([x, y, z]: Vec3): Vec3 => [x, y, z + ABOVE];
