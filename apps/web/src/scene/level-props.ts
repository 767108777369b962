import { Group } from 'three';
import {
  applyAffine,
  boxCenter,
  composeAffine,
  decalsOf,
  makeLevelProbes,
  propSize,
  type Affine,
  type Level,
  type Pose,
  type Vec3,
  type World,
} from '@yesca/core';
import { propDecals } from '../state/decal-pieces.ts';
import type { PropDecals } from './prop-decals.ts';
import { LIT_ABOVE, makeProps, placedProps, type PlacedProp } from './props.ts';

/** The props of a level that is played. */
export interface LevelProps {
  readonly group: Group;
  /** Moves those that ride on something; `anew` when lamps were switched. */
  readonly follow: (poses: readonly Pose[], shares: ReadonlyMap<string, number>, anew: boolean) => void;
  readonly dispose: () => void;
}

export function makeLevelProps(level: Level, world: World, stuck: PropDecals, details: boolean): LevelProps {
  const { entities, settings } = level.meta;
  const all = placedProps(entities);
  const probes = makeLevelProbes(level);
  const scene = makeProps(settings);
  scene.show(all);
  const things = new Map(entities.map((e) => [e.id, e]));
  stuck.show(all, propDecals(decalsOf(entities), things, details));
  const middle = ({ thing, pose }: PlacedProp): Vec3 => {
    const [x, y, z] = applyAffine(pose, boxCenter(propSize(things.get(thing)!)));
    return [x, y, z + LIT_ABOVE];
  };
  /** What rides on a body that moves. */
  const riders = all.flatMap((prop) => {
    const carrier = things.get(prop.thing)?.carrier?.id;
    const body = world.bodies.findIndex((b) => b.part === 0 && world.things[b.thing]!.entity.id === carrier);
    return body < 0 ? [] : [{ prop, body }];
  });
  const light = new Float32Array(27);
  let first = true;
  return {
    group: new Group().add(scene.group, stuck.group),
    follow: (poses, shares, anew) => {
      for (const { prop, body } of riders) {
        const pose = composeAffine(poses[body]! as Affine, prop.pose);
        scene.move(prop.thing, pose);
        stuck.move(prop.thing, pose);
      }
      if (!anew && !first) return;
      first = false;
      for (const prop of all) {
        if (!probes.lightAt(middle(prop), shares, light)) continue;
        scene.light(prop.thing, light);
        stuck.light(prop.thing, light);
      }
    },
    dispose: () => {
      scene.dispose();
      stuck.dispose();
    },
  };
}
