import './play.css';
import { Button, Select } from '@mantine/core';
import { Canvas } from '@react-three/fiber';
import { useEffect, useMemo, useRef, useState } from 'react';
import {
  entityKind,
  hintOf,
  levelCell,
  makeCollision,
  isSpawn,
  NO_PAGE,
  SKIES,
  fits as fitsIn,
  startPlayer,
  stepPlayer,
  TIME_STEP,
  usedBy,
  type Level,
  type Person,
  type Told,
  type Vec3,
} from '@yesca/core';
import { buildAndPlay } from '../../commands/playing.ts';
import { PlayControls } from './controls.ts';
import { ledgerLight, underSky, type LedgerLight } from './under-sky.ts';
import { LevelScene, type Begin, type Frame } from './LevelScene.tsx';
import { useCurrent } from '../../state/current.ts';
import { notifyError } from '../../state/notify.ts';

/** The key that changes the sky. */
const NEXT_SKY = 'KeyK';

/** Somebody who plays: the picture, what is written on it, and where to begin. */
export function Walk({
  level,
  build,
  old,
  begin: first,
  onLeave,
  onNext,
}: {
  level: Level;
  /** Its id. */
  build: string;
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
  const [skyId, setSky] = useState<string | null>(null);
  const [ledger, setLedger] = useState<LedgerLight | null>(null);
  const sky = useMemo(() => ledger && underSky(level, ledger, skyId), [level, ledger, skyId]);
  const showsSky = level.surfacePage.includes(NO_PAGE);
  const chooseSky = async (id: string | null) => {
    try {
      if (!ledger) setLedger(await ledgerLight(level, build));
      setSky(id);
      say(SKIES.find((s) => s.id === id)?.label ?? 'As it was built');
    } catch (error) {
      notifyError(error);
    }
  };
  /** The next of the skies that people know; after the last the level's own. */
  const nextSky = () => {
    if (showsSky) void chooseSky(SKIES[SKIES.findIndex((s) => s.id === skyId) + 1]?.id ?? null);
  };
  const [controls] = useState(() => new PlayControls(spawn.yaw));
  const hud = useRef<HTMLDivElement>(null);
  const page = useRef<HTMLDivElement>(null);
  const [walking, setWalking] = useState(false);
  const hint = useRef<HTMLDivElement>(null);
  const hinted = useRef(0);
  const vitals = useRef<HTMLDivElement>(null);
  const say = (text: string) => {
    hinted.current = performance.now();
    hint.current!.textContent = text;
  };
  const tell = ({ at, cell, drawn, told, ahead, person }: Frame) => {
    const element = hud.current;
    if (!element) return;
    vitals.current!.textContent = vitalsOf(person);
    const next = told.find(({ thing, signal }) => leadsOn(level, thing, signal));
    if (next) onNext();
    const said = saidOf(level, told);
    if (said) say(said);
    else if (performance.now() - hinted.current > HINT_STAYS)
      hint.current!.textContent = ahead && usedBy(ahead) ? `E · ${ahead.name || entityKind(ahead.kind)!.label}` : '';
    Object.assign(element.dataset, { at: at.map((x) => x.toFixed(2)).join(' '), cell, drawn });
    element.textContent = [
      `${level.meta.preset} build`,
      ...(old ? ['older than the map (Ctrl B builds)'] : []),
      ...(level.meta.sealed ? [] : ['leaks, nothing is culled']),
      `${drawn} of ${level.surfaceMaterial.length} faces drawn`,
      at.map((x) => Math.round(x)).join(' '),
    ].join(' · ');
  };
  const latest = useRef({ onLeave, nextSky });
  useEffect(() => {
    latest.current = { onLeave, nextSky };
  });

  useEffect(() => {
    const leave = () => {
      if (document.pointerLockElement) document.exitPointerLock();
      latest.current.onLeave();
    };
    const down = (e: KeyboardEvent) => {
      if (e.key === 'Escape') return leave();
      if (e.code === NEXT_SKY && !e.repeat) latest.current.nextSky();
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
        <LevelScene key={spawn.at.join()} level={level} sky={sky} start={spawn} controls={controls} tell={tell} />
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
              W A S D walk · Space jumps · C crouches · E uses · mouse or arrows look
              {showsSky && ' · K changes the sky'} · Esc goes back
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
            {showsSky && (
              <Select
                className="play-button"
                size="xs"
                aria-label="Under another sky"
                placeholder="Under another sky"
                clearable
                value={skyId}
                data={SKIES.map(({ id, label }) => ({ value: id, label }))}
                onChange={(id) => void chooseSky(id)}
              />
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
