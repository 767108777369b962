import { Group } from 'three';
import {
  applyAffine,
  composeAffine,
  decalOf,
  decalsOnProps,
  decalsOf,
  entityKind,
  length,
  makeLevelProbes,
  movingCarrier,
  markVisibleProps,
  sub,
  type Affine,
  type Level,
  type Pose,
  type Vec3,
  type World,
} from '@yesca/core';
import { propDecals } from '../state/decal-pieces.ts';
import { makeCutProps } from './cut-props.ts';
import { litProps } from './lit-props.ts';
import type { PropDecal, PropDecals } from './prop-decals.ts';
import { aboveGround, FAR_ENOUGH } from './moving-light.ts';
import { lightOfProp, makeProps, meanLight, placedProps, type PlacedProp } from './props.ts';

/** Of what is away nothing is left to be drawn. */
const NOWHERE: Affine = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0];

/** The props of a level that is played. */
export interface LevelProps {
  readonly group: Group;
  /** Draws those that may be seen from a cell: see `markVisibleProps`. */
  readonly show: (cell: number, open: Uint8Array | null) => void;
  /** Moves those that ride on something, by the poses of bodies and whether a thing is away; `anew` when lamps were switched. */
  readonly follow: (
    poses: readonly Pose[],
    isAway: (thing: number) => boolean,
    shares: ReadonlyMap<string, number>,
    anew: boolean,
  ) => void;
  readonly dispose: () => void;
}

export function makeLevelProps(
  level: Level,
  world: World,
  stuck: PropDecals,
  details: boolean,
  make: typeof makeProps = makeProps,
): LevelProps {
  const { entities, settings } = level.meta;
  const all = placedProps(entities);
  const probes = makeLevelProbes(level);
  /** Places among the level's props. A level that does not tell them draws all. */
  const filed = new Map((level.meta.props ?? []).map((thing, k) => [thing, k]));
  const placeOf = (thing: string): number => filed.get(thing) ?? -1;
  const lit = litProps(level);
  const scene = make(settings);
  scene.litOnThemselves(lit.of);
  const things = new Map(entities.map((e) => [e.id, e]));
  const told = decalsOnProps(level);
  const standing = new Map(all.map((prop) => [prop.thing, prop]));
  // A level that does not tell what falls on props leaves it to be found.
  const cut = told ? null : makeCutProps(stuck);
  cut?.show(all, propDecals(decalsOf(entities), things, details));
  if (told)
    stuck.stick(
      told.flatMap((cut): PropDecal | [] => {
        const [prop, decal] = [standing.get(cut.prop), decalOf(things.get(cut.decal)!)!];
        if (!prop || (decal.fine && !details)) return [];
        const own = lit.of(prop);
        return { prop, material: decal.material, cut, layout: own === 'vertices' ? null : own };
      }),
    );
  const marks = new Uint8Array(filed.size);
  let shown = all;
  scene.show(shown);
  /** Where the light of what rides on a thing is found before that moves, and whether it stays so. */
  const keptPlaces = (carrier: string, { litAt }: PlacedProp) => {
    const thing = things.get(carrier)!;
    const keeps = things.get(entityKind(thing.kind)?.litAt(thing) ?? '');
    return { stays: keeps !== undefined, litAt: keeps ? litAt.map((): Vec3 => aboveGround(keeps.at)) : litAt };
  };
  /** What rides on a body that moves. */
  const riders = all.flatMap((prop) => {
    const on = movingCarrier(things.get(prop.thing)!, (id) => things.get(id));
    const body = on
      ? world.bodies.findIndex((b) => b.part === on.part && world.things[b.thing]!.entity.id === on.id)
      : -1;
    return body < 0 ? [] : [{ prop, body, ...keptPlaces(on!.id, prop) }];
  });
  /** Those whose light is no longer the one they are seen by. */
  const stale = new Set(all);
  /** Where the light of what rides is found, as far as that has moved. */
  const places = new Map(riders.map(({ prop, litAt }) => [prop, litAt]));
  return {
    group: new Group().add(scene.group, stuck.group),
    show: (cell, open) => {
      markVisibleProps(level, cell, marks, open);
      shown = all.filter(({ thing }) => marks[placeOf(thing)] !== 0);
      scene.show(shown);
      stuck.see(new Set(shown));
    },
    follow: (poses, isAway, shares, anew) => {
      for (const { prop, body, stays, litAt } of riders) {
        const pose = isAway(world.bodies[body]!.thing) ? NOWHERE : composeAffine(poses[body]! as Affine, prop.pose);
        scene.move(prop.thing, pose);
        stuck.move(prop.thing, pose);
        if (stays) continue;
        const now = litAt.map((p) => applyAffine(poses[body]! as Affine, p));
        if (now.every((p, k) => length(sub(p, places.get(prop)![k]!)) < FAR_ENOUGH)) continue;
        places.set(prop, now);
        stale.add(prop);
      }
      if (anew) all.forEach((prop) => stale.add(prop));
      if (stale.size === 0) return;
      for (const prop of shown) {
        if (!stale.delete(prop)) continue;
        const light = lightOfProp(places.has(prop) ? { ...prop, litAt: places.get(prop)! } : prop, probes, shares);
        if (!light) continue;
        const onItself = lit.falls(prop, shares);
        scene.light(prop.thing, light, onItself);
        stuck.light(prop.thing, meanLight(light), onItself);
      }
    },
    dispose: () => {
      scene.dispose();
      cut?.dispose();
      stuck.dispose();
    },
  };
}
