import './play.css';
import { Button, Group, Stack, Text, Title } from '@mantine/core';
import { Canvas, useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import {
  eyeOf,
  levelCell,
  makeCollision,
  readLevel,
  spawnOf,
  startPlayer,
  stepPlayer,
  TIME_STEP,
  type Level,
  type PlayerState,
} from '@yesca/core';
import { useBuild, isRunning } from '../build/useBuild.ts';
import { Loading } from '../RouteState.tsx';
import { makeLevelMesh } from './level-mesh.ts';

/** Degrees a pixel of mouse movement turns the view. */
const TURN = 0.11;
/** Steps caught up after a slow frame; beyond that the world waits. */
const MOST_STEPS = 24;

/** The level in first person, as the last finished build made it. */
export function Play() {
  const { mapId = '' } = useParams();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const { builds, live, start } = useBuild(mapId);
  const wanted = search.get('build');
  const build = wanted ? builds?.find((b) => b.id === wanted) : builds?.find((b) => b.status === 'done');
  const [level, setLevel] = useState<Level | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const id = build?.id;
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
    };
  }, [id]);
  const leave = () => void navigate(`/maps/${mapId}/shape`);
  if (problem) return <Notice title="This level cannot be walked" text={problem} onLeave={leave} />;
  if (!builds) return <Loading />;
  if (!build)
    return (
      <Notice
        title="Nothing to walk yet"
        text={isRunning(live) ? 'The build is on its way.' : 'The map has not been built. A sketch takes a moment.'}
        onLeave={leave}
      >
        {!isRunning(live) && (
          <Button className="act" onClick={() => void start('sketch')}>
            Build a sketch
          </Button>
        )}
      </Notice>
    );
  if (!level) return <Loading />;
  return <Walk key={build.id} level={level} onLeave={leave} />;
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

interface Controls {
  readonly keys: Set<string>;
  yaw: number;
  pitch: number;
  walking: boolean;
}

function Walk({ level, onLeave }: { level: Level; onLeave: () => void }) {
  const spawn = useMemo(() => spawnOf(level), [level]);
  const controls = useRef<Controls>({ keys: new Set(), yaw: spawn.yaw, pitch: 0, walking: false });
  const hud = useRef<HTMLDivElement>(null);
  const page = useRef<HTMLDivElement>(null);
  const [walking, setWalking] = useState(false);
  const leaveRef = useRef(onLeave);
  useEffect(() => {
    leaveRef.current = onLeave;
  }, [onLeave]);

  useEffect(() => {
    const c = controls.current;
    const leave = () => {
      if (document.pointerLockElement) document.exitPointerLock();
      leaveRef.current();
    };
    const down = (e: KeyboardEvent) => {
      if (e.key === 'Escape') return leave();
      c.keys.add(e.code);
      if (['Space', 'ArrowUp', 'ArrowDown'].includes(e.code)) e.preventDefault();
    };
    const up = (e: KeyboardEvent) => c.keys.delete(e.code);
    const mouse = (e: MouseEvent) => {
      if (!document.pointerLockElement) return;
      c.yaw -= e.movementX * TURN;
      c.pitch = Math.max(-89, Math.min(89, c.pitch - e.movementY * TURN));
    };
    let held = false;
    const lock = () => {
      const locked = document.pointerLockElement !== null;
      c.walking = locked;
      setWalking(locked);
      // The browser takes Esc for itself while it holds the pointer; losing the lock with the page in front means Esc.
      if (held && !locked) {
        c.keys.clear();
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
  }, []);

  const begin = async () => {
    const target = page.current!;
    try {
      await target.requestPointerLock({ unadjustedMovement: true });
    } catch {
      try {
        await target.requestPointerLock();
      } catch {
        // Without pointer lock the arrow keys turn.
        controls.current.walking = true;
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
        <LevelScene level={level} controls={controls} hud={hud} />
      </Canvas>
      <div ref={hud} className="play-hud mono" data-testid="hud" />
      {!walking && (
        <button type="button" className="play-start" onClick={() => void begin()} data-testid="walk">
          <strong>{level.meta.name}</strong>
          <span>Click to walk</span>
          <span className="quiet">W A S D walk · Space jumps · C crouches · mouse or arrows look · Esc goes back</span>
        </button>
      )}
    </div>
  );
}

/** Steps the player, moves the camera to its eyes, and draws what its cell may see. */
function LevelScene({
  level,
  controls,
  hud,
}: {
  level: Level;
  controls: RefObject<Controls>;
  hud: RefObject<HTMLDivElement | null>;
}) {
  const { camera, invalidate } = useThree();
  const mesh = useMemo(() => makeLevelMesh(level, invalidate), [level, invalidate]);
  const collision = useMemo(() => makeCollision(level), [level]);
  const player = useRef<PlayerState | null>(null);
  const clock = useRef({ left: 0, cell: -3, drawn: 0 });
  useEffect(() => () => mesh.dispose(), [mesh]);
  useFrame((_, delta) => {
    const c = controls.current;
    const { keys } = c;
    player.current ??= startPlayer(spawnOf(level).at, c.yaw);
    const turn = Number(keys.has('ArrowLeft')) - Number(keys.has('ArrowRight'));
    const tilt = Number(keys.has('ArrowUp')) - Number(keys.has('ArrowDown'));
    c.yaw += turn * 120 * Math.min(delta, 0.1);
    c.pitch = Math.max(-89, Math.min(89, c.pitch + tilt * 80 * Math.min(delta, 0.1)));
    const time = clock.current;
    time.left = Math.min(time.left + delta, MOST_STEPS * TIME_STEP);
    const input = {
      forward: c.walking ? Number(keys.has('KeyW')) - Number(keys.has('KeyS')) : 0,
      right: c.walking ? Number(keys.has('KeyD')) - Number(keys.has('KeyA')) : 0,
      jump: c.walking && keys.has('Space'),
      crouch: c.walking && (keys.has('KeyC') || keys.has('ShiftLeft')),
      yaw: c.yaw,
      pitch: c.pitch,
    };
    for (; time.left >= TIME_STEP; time.left -= TIME_STEP)
      player.current = stepPlayer(collision, player.current, input, TIME_STEP);
    const eye = eyeOf(player.current);
    const yaw = (c.yaw * Math.PI) / 180;
    const pitch = (c.pitch * Math.PI) / 180;
    camera.up.set(0, 0, 1);
    camera.position.set(...eye);
    camera.lookAt(
      eye[0] + Math.cos(yaw) * Math.cos(pitch),
      eye[1] + Math.sin(yaw) * Math.cos(pitch),
      eye[2] + Math.sin(pitch),
    );
    const cell = levelCell(level, eye);
    if (cell !== time.cell) {
      time.cell = cell;
      time.drawn = mesh.show(cell);
    }
    if (hud.current) {
      const { at } = player.current;
      hud.current.dataset.at = at.map((x) => x.toFixed(2)).join(' ');
      hud.current.dataset.cell = String(cell);
      hud.current.dataset.drawn = String(time.drawn);
      hud.current.textContent = `${level.meta.preset} build${level.meta.sealed ? '' : ' · leaks, nothing is culled'} · ${time.drawn} of ${level.surfaceMaterial.length} faces drawn · ${at.map((x) => Math.round(x)).join(' ')}`;
    }
  });
  return (
    <>
      {mesh.meshes.map((m) => (
        <primitive key={m.uuid} object={m} />
      ))}
    </>
  );
}
