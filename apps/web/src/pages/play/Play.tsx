import './play.css';
import { Button, Group, Select, Stack, Text, Title } from '@mantine/core';
import { Canvas, useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import {
  entityKind,
  hintOf,
  areasInSight,
  levelCell,
  lampShares,
  lookedAt,
  makeRoomSize,
  makeUnderfoot,
  makeCollision,
  readLevel,
  isSpawn,
  spawnOf,
  fits as fitsIn,
  isAway,
  placedIn,
  poseOfThing,
  startPlayer,
  stepPlayer,
  TIME_STEP,
  usedBy,
  worldOfLevel,
  type Entity,
  type Level,
  type Person,
  type Told,
  type Vec3,
} from '@yesca/core';
import type { BuildRow, ProjectCard } from '@yesca/contract';
import { get } from '../../api/client.ts';
import { notify } from '../../state/notify.ts';
import { buildAndPlay, FROM_SPAWN } from '../../commands/playing.ts';
import { useBuild, isRunning } from '../build/useBuild.ts';
import { useContent } from '../build/useContent.ts';
import { Loading } from '../RouteState.tsx';
import { PlayControls } from './controls.ts';
import { Distance } from './Distance.tsx';
import { aimCamera, radians } from '../../scene/aim.ts';
import { Sounds } from '../../scene/sounds.ts';
import { makeFigures } from '../../scene/figures.ts';
import { makeMovingLight } from '../../scene/moving-light.ts';
import { makeLevelMesh } from '../../scene/level-mesh.ts';
import { makeMirrors } from '../../scene/mirrors.ts';
import { lookInRelief } from '../../scene/looks.ts';
import { picturePages } from '../../scene/picture-pages.ts';
import { playedFrom, playOn, walkerOf, type Played } from '../../scene/walker.ts';
import { substanceOf, useLibrary } from '../../state/library.ts';
import { useCurrent } from '../../state/current.ts';
import { useLitOptions } from '../../state/lit.ts';

/** Turning by keys goes no further in a slow frame than in one of so many seconds. */
const LONGEST_FRAME = 0.1;

/** The level in first person, as the last finished build made it. */
export function Play() {
  const { mapId = '' } = useParams();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const { builds, live, start, cancel } = useBuild(mapId);
  const content = useContent();
  const order = search.get('fresh') ? (search.get('go') ?? '0') : null;
  const ordered = useRef<string | null>(null);
  /** The build that was ordered by this visit. */
  const [mine, setMine] = useState<string | null>(null);
  const { preset } = useCurrent.getState();
  useEffect(() => {
    if (order === null || ordered.current === order) return;
    ordered.current = order;
    setMine(null);
    void start(preset).then(setMine);
  }, [order, preset, start]);
  const wanted = order === null ? search.get('build') : mine;
  const waiting = order !== null && (mine === null || (live?.id === mine && isRunning(live)));
  const build = waiting
    ? undefined
    : wanted
      ? (builds?.find((b) => b.id === wanted) ?? (live?.id === wanted ? live : undefined))
      : builds?.find((b) => b.status === 'done');
  const [level, setLevel] = useState<Level | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const id = build?.status === 'done' ? build.id : undefined;
  useEffect(() => {
    if (!id) return;
    let gone = false;
    fetch(`/api/builds/${id}/level`)
      .then(async (r) =>
        r.ok
          ? readLevel(new Uint8Array(await r.arrayBuffer()))
          : Promise.reject(new Error('This build has no level. Build the map again.')),
      )
      .then((l) => !gone && setLevel(l))
      .catch((e: Error) => !gone && setProblem(e.message));
    return () => {
      gone = true;
      setLevel(null);
      setProblem(null);
    };
  }, [id]);
  const leave = () => void navigate(`/maps/${mapId}/shape`);
  /** On to the project's next map that was built; back to the Shelf from the last. */
  const goOn = async () => {
    const projects = await get<ProjectCard[]>('/api/projects');
    const maps = projects.find((p) => p.maps.some((m) => m.id === mapId))?.maps ?? [];
    const next = maps[maps.findIndex((m) => m.id === mapId) + 1];
    if (next) notify(`On to ${next.name}.`);
    else notify('That was the last map of the project.');
    void navigate(next ? `/maps/${next.id}/play?fresh=1&go=${Date.now() % 1e6}` : '/');
  };
  const buildNow = (
    <Button className="act" onClick={buildAndPlay}>
      Build and play ({preset})
    </Button>
  );
  if (problem)
    return (
      <Notice title="This level cannot be walked" text={problem} onLeave={leave}>
        {buildNow}
      </Notice>
    );
  if (waiting || (!build && isRunning(live)))
    return (
      <Notice
        title="Building"
        text={live && isRunning(live) ? progressOf(live) : 'The build is on its way.'}
        onLeave={leave}
      >
        {live && isRunning(live) && (
          <Button variant="default" onClick={() => void cancel(live.id)}>
            Cancel the build
          </Button>
        )}
      </Notice>
    );
  if (!builds) return <Loading />;
  if (!build || build.status !== 'done')
    return (
      <Notice
        title="Nothing to walk yet"
        text={build?.error ?? 'The map has not been built. A sketch takes a moment.'}
        onLeave={leave}
      >
        {buildNow}
      </Notice>
    );
  if (!level) return <Loading />;
  const old = content !== null && build.content !== content;
  return (
    <Walk
      key={build.id}
      level={level}
      old={old}
      begin={beginOf(level, search)}
      onLeave={leave}
      onNext={() => void goOn()}
    />
  );
}

/** How far a build has come, in words. */
const progressOf = (row: BuildRow): string =>
  `${row.preset} build: ${
    Object.entries(row.progress)
      .map(([stage, done]) => `${stage} ${Math.round((done ?? 0) * 100)} %`)
      .join(', ') || 'waiting for its turn'
  }`;

/** Where a player begins: a place that was asked for, a chosen spawn, or the first one. */
interface Begin {
  readonly at: Vec3;
  readonly yaw: number;
  readonly spawn: string | null;
}

function beginOf(level: Level, search: URLSearchParams): Begin {
  const at = search.get('at')?.split(' ').map(Number);
  const first = spawnOf(level);
  if (at?.length === 3 && at.every(Number.isFinite))
    return { at: at as unknown as Vec3, yaw: Number(search.get('turn') ?? first.yaw), spawn: null };
  const chosen = search.get(FROM_SPAWN) ?? useCurrent.getState().playSpawn;
  const spawn = level.meta.entities.find((e) => isSpawn(e) && e.id === chosen);
  return spawn ? { at: spawn.at, yaw: spawn.turn, spawn: spawn.id } : { ...first, spawn: null };
}

/** Why somebody who begins there cannot move, as a sentence; null when they can. */
function cannotMove(level: Level, at: Vec3): string | null {
  const collision = makeCollision(level);
  const feet: Vec3 = [at[0], at[1], at[2] + 1];
  // Who begins a little in a wall is pushed out of it: what counts is whether walking leads anywhere.
  const getsAway = Array.from({ length: 8 }, (_, k) => k * 45).some((yaw) => {
    let s = startPlayer(at, yaw);
    for (let i = 0; i < 60; i++)
      s = stepPlayer(collision, s, { forward: 1, right: 0, jump: false, crouch: false, yaw, pitch: 0 }, TIME_STEP);
    return Math.hypot(s.at[0] - at[0], s.at[1] - at[1]) > 30;
  });
  if (!getsAway && !fitsIn(collision, feet, true))
    return 'You begin inside a solid, and cannot move from there. Move the spawn into the open, or play from another place.';
  if (!getsAway)
    return 'There is no room to walk where you begin. Move the spawn to a freer place, or play from another one.';
  if (fitsIn(collision, feet, true) && !fitsIn(collision, feet, false))
    return 'It is too low here to stand: crouch (C) to get out, or move the spawn.';
  if (level.meta.sealed && levelCell(level, [at[0], at[1], at[2] + 50]) < 0)
    return 'You begin outside the map, in the void. Move the spawn into a room, or play from another place.';
  return null;
}

function Notice({
  title,
  text,
  onLeave,
  children,
}: {
  title: string;
  text: string;
  onLeave: () => void;
  children?: React.ReactNode;
}) {
  return (
    <Stack align="flex-start" gap={10} p={60} maw={520}>
      <Title order={2}>{title}</Title>
      <Text>{text}</Text>
      <Group gap={8}>
        {children}
        <Button variant="default" onClick={onLeave}>
          Back to Shape
        </Button>
      </Group>
    </Stack>
  );
}

function Walk({
  level,
  old,
  begin: first,
  onLeave,
  onNext,
}: {
  level: Level;
  old: boolean;
  begin: Begin;
  onLeave: () => void;
  /** An exit was taken. */
  onNext: () => void;
}) {
  const [spawn, setSpawn] = useState(first);
  const spawns = level.meta.entities.filter(isSpawn);
  const trouble = useMemo(() => cannotMove(level, spawn.at), [level, spawn]);
  const choose = (id: string | null) => {
    const chosen = spawns.find((e) => e.id === id);
    if (!chosen) return;
    useCurrent.setState({ playSpawn: chosen.id });
    setSpawn({ at: chosen.at, yaw: chosen.turn, spawn: chosen.id });
  };
  const [controls] = useState(() => new PlayControls(spawn.yaw));
  const hud = useRef<HTMLDivElement>(null);
  const page = useRef<HTMLDivElement>(null);
  const [walking, setWalking] = useState(false);
  const hint = useRef<HTMLDivElement>(null);
  const hinted = useRef(0);
  const vitals = useRef<HTMLDivElement>(null);
  const tell = ({ at, cell, drawn, told, ahead, person }: Frame) => {
    const element = hud.current;
    if (!element) return;
    vitals.current!.textContent = vitalsOf(person);
    const next = told.find(({ thing, signal }) => leadsOn(level, thing, signal));
    if (next) onNext();
    const said = saidOf(level, told);
    const line = hint.current!;
    if (said) {
      hinted.current = performance.now();
      line.textContent = said;
    } else if (performance.now() - hinted.current > HINT_STAYS)
      line.textContent = ahead && usedBy(ahead) ? `E · ${ahead.name || entityKind(ahead.kind)!.label}` : '';
    Object.assign(element.dataset, { at: at.map((x) => x.toFixed(2)).join(' '), cell, drawn });
    element.textContent = [
      `${level.meta.preset} build`,
      ...(old ? ['older than the map (Ctrl B builds)'] : []),
      ...(level.meta.sealed ? [] : ['leaks, nothing is culled']),
      `${drawn} of ${level.surfaceMaterial.length} faces drawn`,
      at.map((x) => Math.round(x)).join(' '),
    ].join(' · ');
  };
  const leaveRef = useRef(onLeave);
  useEffect(() => {
    leaveRef.current = onLeave;
  }, [onLeave]);

  useEffect(() => {
    const leave = () => {
      if (document.pointerLockElement) document.exitPointerLock();
      leaveRef.current();
    };
    const down = (e: KeyboardEvent) => {
      if (e.key === 'Escape') return leave();
      controls.press(e.code, e.repeat);
      if (['Space', 'ArrowUp', 'ArrowDown'].includes(e.code)) e.preventDefault();
    };
    const up = (e: KeyboardEvent) => controls.keys.delete(e.code);
    const mouse = (e: MouseEvent) => {
      if (!document.pointerLockElement) return;
      controls.moveMouse(e.movementX, e.movementY);
    };
    let held = false;
    const lock = () => {
      const locked = document.pointerLockElement !== null;
      controls.walk(locked);
      setWalking(locked);
      // The browser takes Esc for itself while it holds the pointer; losing the lock with the page in front means Esc.
      if (held && !locked) {
        controls.keys.clear();
        if (document.hasFocus()) leave();
      }
      held = locked;
    };
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('mousemove', mouse);
    document.addEventListener('pointerlockchange', lock);
    return () => {
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('mousemove', mouse);
      document.removeEventListener('pointerlockchange', lock);
    };
  }, [controls]);

  const begin = async () => {
    const target = page.current!;
    try {
      await target.requestPointerLock({ unadjustedMovement: true });
    } catch {
      try {
        await target.requestPointerLock();
      } catch {
        // Without pointer lock the arrow keys turn.
        controls.walk(true);
        setWalking(true);
      }
    }
  };

  return (
    <div ref={page} className="play" data-testid="play">
      <Canvas
        dpr={[0.5, 1.5]}
        gl={{ antialias: false, preserveDrawingBuffer: true }}
        camera={{ fov: 80, near: 2, far: 60_000 }}
      >
        <LevelScene key={spawn.at.join()} level={level} start={spawn} controls={controls} tell={tell} />
      </Canvas>
      <div ref={hud} className="play-hud mono" data-testid="hud" />
      <div ref={vitals} className="play-vitals mono" data-testid="vitals" />
      <div ref={hint} className="play-hint" role="status" data-testid="hint" />
      {!walking && (
        <>
          <button
            type="button"
            className="play-cover"
            aria-label="Walk"
            onClick={() => void begin()}
            data-testid="walk"
          />
          <div className="play-start">
            <strong>{level.meta.name}</strong>
            <span className="play-go">Click anywhere to walk</span>
            <span className="quiet">
              W A S D walk · Space jumps · C crouches · E uses · mouse or arrows look · Esc goes back
            </span>
            {trouble && (
              <span className="play-trouble" role="alert">
                {trouble}
              </span>
            )}
            {old && (
              <span className="play-trouble" data-testid="play-old">
                This build is older than the map.{' '}
                <Button size="compact-xs" variant="default" className="play-button" onClick={buildAndPlay}>
                  Build and play — Ctrl B
                </Button>
              </span>
            )}
            {spawns.length > 1 && (
              <Select
                className="play-button"
                size="xs"
                aria-label="Begin at"
                allowDeselect={false}
                placeholder="Begin at a spawn"
                value={spawn.spawn}
                data={spawns.map((e, i) => ({ value: e.id, label: e.name ?? `Spawn ${i + 1}` }))}
                onChange={choose}
              />
            )}
          </div>
        </>
      )}
    </div>
  );
}

/** What is told in every frame. */
interface Frame {
  /** Where the player is, in which cell its eyes are, and how many faces are drawn. */
  readonly at: Vec3;
  readonly cell: number;
  readonly drawn: number;
  readonly told: readonly Told[];
  readonly person: Person;
  /** What can be used from here. */
  readonly ahead: Entity | null;
}

/** What a player is told of what happened: why something does not open, in a sentence. */
const saidOf = (level: Level, told: readonly Told[]): string | null =>
  told
    .map(({ thing, signal }) => {
      const e = level.meta.entities.find(({ id }) => id === thing);
      return e ? hintOf(e, signal) : null;
    })
    .findLast((hint) => hint !== null) ?? null;

/** Whether a signal takes the player out of the map. */
function leadsOn(level: Level, thing: string, signal: string): boolean {
  const e = level.meta.entities.find(({ id }) => id === thing);
  return e !== undefined && entityKind(e.kind)?.leads === signal;
}

/** What a player has, in a line. */
const vitalsOf = ({ health, armour, oil, tokens, keys }: Person): string =>
  [
    `${Math.ceil(health)} health`,
    armour > 0 && `${Math.ceil(armour)} armour`,
    oil > 0 && `${oil} oil`,
    tokens > 0 && `${tokens} token${tokens === 1 ? '' : 's'}`,
    ...keys,
  ]
    .filter(Boolean)
    .join(' · ');

/** How long (ms) such a sentence stays. */
const HINT_STAYS = 2500;

/** Lamps that fade are mixed into the light no more often than this, ms. */
const MIX_EVERY = 30;

/** Steps the player, moves the camera to its eyes, and draws what its cell may see. */
function LevelScene({
  level,
  start,
  controls,
  tell,
}: {
  level: Level;
  start: Begin;
  controls: PlayControls;
  tell: (now: Frame) => void;
}) {
  const { camera, gl, invalidate } = useThree();
  const materials = useLibrary((s) => s.materials);
  const mesh = useMemo(() => {
    const pages = picturePages(gl, invalidate);
    return makeLevelMesh(level, pages, (name) => lookInRelief(pages, name, materials.get(name)));
  }, [level, gl, invalidate, materials]);
  const relief = useLitOptions((s) => s.relief);
  useEffect(() => mesh.expose({ stops: 0, bands: null, side: null, smooth: !relief }), [mesh, relief]);
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
    shown.current.shares = told;
    const now = performance.now();
    if (now - shown.current.mixed > MIX_EVERY) {
      mesh.shine(shares);
      shown.current.mixed = now;
    }
    const sounds = (heard.current ??= new Sounds());
    sounds.listen(eyes, radians(controls.yaw));
    const cell = levelCell(level, eyes);
    sounds.within(roomSize(cell));
    sounds.sound(world, state, on.told, delta, (feet) => substanceOf(underfoot(feet)));
    aimCamera(camera, eyes, radians(controls.yaw), radians(controls.pitch));
    const open = areasInSight(level, world, state, placed, cell);
    const areas = open?.join('') ?? '';
    if (cell !== shown.current.cell || areas !== shown.current.areas) {
      Object.assign(shown.current, { cell, areas, drawn: mesh.show(cell, open) });
      mirrors.show(mesh.drawn);
    }
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
      {[...mesh.meshes, ...mirrors.meshes].map((m) => (
        <primitive key={m.uuid} object={m} />
      ))}
      <primitive object={figures.group} />
      <Distance level={level} sky={mesh.sky} />
    </>
  );
}
