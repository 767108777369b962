import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import {
  areasInSight,
  levelCell,
  lampShares,
  lookedAt,
  makeRoomSize,
  makeUnderfoot,
  isAway,
  placedIn,
  poseOfThing,
  worldOfLevel,
  type Entity,
  type Level,
  type Person,
  type Told,
  type Vec3,
} from '@yesca/core';
import type { PlayControls } from './controls.ts';
import { sharesUnder, type UnderSky } from './under-sky.ts';
import { Distance } from './Distance.tsx';
import { aimCamera, radians } from '../../scene/aim.ts';
import { Sounds } from '../../scene/sounds.ts';
import { makeFigures } from '../../scene/figures.ts';
import { makeLevelProps } from '../../scene/level-props.ts';
import { makeMovingLight } from '../../scene/moving-light.ts';
import { makePropDecals } from '../../scene/prop-decals.ts';
import { makeLevelMesh } from '../../scene/level-mesh.ts';
import { makeMirrors } from '../../scene/mirrors.ts';
import { lookInRelief, lookOf } from '../../scene/looks.ts';
import { picturePages } from '../../scene/picture-pages.ts';
import { playedFrom, playOn, walkerOf, type Played } from '../../scene/walker.ts';
import { substanceOf, useLibrary } from '../../state/library.ts';
import { useLitOptions } from '../../state/lit.ts';

/** Where a player begins: a place that was asked for, a chosen spawn, or the first one. */
export interface Begin {
  readonly at: Vec3;
  readonly yaw: number;
  readonly spawn: string | null;
}

/** What is told in every frame. */
export interface Frame {
  /** Where the player is, in which cell its eyes are, and how many faces are drawn. */
  readonly at: Vec3;
  readonly cell: number;
  readonly drawn: number;
  readonly told: readonly Told[];
  readonly person: Person;
  /** What can be used from here. */
  readonly ahead: Entity | null;
}

/** Turning by keys goes no further in a slow frame than in one of so many seconds. */
const LONGEST_FRAME = 0.1;

/** Lamps that fade are mixed into the light no more often than this, ms. */
const MIX_EVERY = 30;

/** Steps the player, moves the camera to its eyes, and draws what its cell may see. */
export function LevelScene({
  level,
  sky,
  start,
  controls,
  tell,
}: {
  level: Level;
  /** Null for the light as it was built. */
  sky: UnderSky | null;
  start: Begin;
  controls: PlayControls;
  tell: (now: Frame) => void;
}) {
  const { camera, gl, invalidate } = useThree();
  const materials = useLibrary((s) => s.materials);
  const mix = sky?.mix;
  const mesh = useMemo(() => {
    const pages = picturePages(gl, invalidate);
    return makeLevelMesh(level, pages, (name) => lookInRelief(pages, name, materials.get(name)), mix);
  }, [level, gl, invalidate, materials, mix]);
  const settings = sky?.settings ?? level.meta.settings;
  useEffect(() => mesh.follow(settings), [mesh, settings]);
  const relief = useLitOptions((s) => s.relief);
  const details = useLitOptions((s) => s.details);
  useEffect(
    () => mesh.expose({ stops: 0, bands: null, side: null, smooth: !relief, plain: !details }),
    [mesh, relief, details],
  );
  const mirrors = useMemo(() => makeMirrors(level, gl), [level, gl]);
  useEffect(() => () => mirrors.dispose(), [mirrors]);
  const world = useMemo(() => worldOfLevel(level), [level]);
  const underfoot = useMemo(() => makeUnderfoot(level), [level]);
  const roomSize = useMemo(() => makeRoomSize(level), [level]);
  const played = useRef<Played | null>(null);
  const heard = useRef<Sounds | null>(null);
  useEffect(() => () => heard.current?.close(), []);
  const figures = useMemo(() => makeFigures(level.meta.entities, level.meta.settings), [level]);
  useEffect(() => () => figures.dispose(), [figures]);
  const standing = useMemo(
    () => world.things.flatMap(({ entity }, k) => (figures.has(entity.id) ? [{ id: entity.id, k }] : [])),
    [world, figures],
  );
  const moving = useMemo(() => makeMovingLight(level, mesh, figures), [level, mesh, figures]);
  const props = useMemo(() => {
    const pages = picturePages(gl, invalidate);
    const look = (name: string) => lookOf(pages, name, materials.get(name));
    return makeLevelProps(level, world, makePropDecals(pages, level.meta.settings, look), details);
  }, [level, world, gl, invalidate, materials, details]);
  useEffect(() => () => props.dispose(), [props]);
  const shown = useRef({ cell: -3, areas: '', drawn: 0, mixed: 0, shares: '' });
  useEffect(() => {
    // Another mesh shows nothing yet.
    shown.current.cell = -3;
    shown.current.mixed = 0;
    shown.current.shares = '';
    return () => mesh.dispose();
  }, [mesh]);
  useFrame((_, delta) => {
    if (!played.current) {
      controls.face(start.yaw);
      played.current = playedFrom(world, start.at, start.yaw);
    }
    controls.turnByKeys(Math.min(delta, LONGEST_FRAME));
    const { input, uses } = controls.takeInput();
    const on = playOn(played.current, input, delta, uses);
    controls.turn(on.turned, 0);
    const eyes = on.eyes!;
    const { state } = played.current;
    const placed = placedIn(world, state);
    world.bodies.forEach(({ thing, part }, k) =>
      mesh.move(world.things[thing]!.entity.id, part, placed.poses[k]!, isAway(world, state, thing)),
    );
    for (const { id, k } of standing) figures.show(id, poseOfThing(world, state, k), isAway(world, state, k));
    const shares = lampShares(world, state);
    const told = [...shares.values()].join();
    moving.follow(
      world.bodies.map(({ thing, part }, k) => ({
        thing: world.things[thing]!.entity.id,
        part,
        pose: placed.poses[k]!,
      })),
      standing.map(({ id, k }) => ({ thing: id, part: 0, pose: poseOfThing(world, state, k) })),
      shares,
      told !== shown.current.shares,
    );
    const cell = levelCell(level, eyes);
    const open = areasInSight(level, world, state, placed, cell);
    const areas = open?.join('') ?? '';
    if (cell !== shown.current.cell || areas !== shown.current.areas) {
      props.show(cell, open);
      Object.assign(shown.current, { cell, areas, drawn: mesh.show(cell, open) });
      mirrors.show(mesh.drawn);
    }
    props.follow(placed.poses, (thing) => isAway(world, state, thing), shares, told !== shown.current.shares);
    shown.current.shares = told;
    const now = performance.now();
    if (now - shown.current.mixed > MIX_EVERY) {
      mesh.shine(sky ? sharesUnder(sky, shares) : shares);
      shown.current.mixed = now;
    }
    const sounds = (heard.current ??= new Sounds());
    sounds.listen(eyes, radians(controls.yaw));
    sounds.within(roomSize(cell));
    sounds.sound(world, state, on.told, delta, (feet) => substanceOf(underfoot(feet)));
    aimCamera(camera, eyes, radians(controls.yaw), radians(controls.pitch));
    const body = walkerOf(played.current)!;
    const ahead = lookedAt(world, placed, body, controls.yaw, controls.pitch);
    tell({
      at: body.at,
      cell,
      drawn: shown.current.drawn,
      told: on.told,
      person: state.people[0]!,
      ahead: ahead < 0 ? null : world.things[world.bodies[ahead]!.thing]!.entity,
    });
  });
  return (
    <>
      {[...mesh.meshes, mesh.decals, ...mirrors.meshes].map((m) => (
        <primitive key={m.uuid} object={m} />
      ))}
      <primitive object={figures.group} />
      <primitive object={props.group} />
      <Distance level={level} sky={mesh.sky} settings={settings} />
    </>
  );
}
