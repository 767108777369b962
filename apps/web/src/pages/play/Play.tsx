import { Button, Group, Stack, Text, Title } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { readLevel, isSpawn, spawnOf, type Level, type Vec3 } from '@yesca/core';
import type { BuildRow, ProjectCard } from '@yesca/contract';
import { get } from '../../api/client.ts';
import { notify } from '../../state/notify.ts';
import { buildAndPlay, FROM_SPAWN } from '../../commands/playing.ts';
import { useBuild, isRunning } from '../build/useBuild.ts';
import { useContent } from '../build/useContent.ts';
import { Loading } from '../RouteState.tsx';
import type { Begin } from './LevelScene.tsx';
import { Walk } from './Walk.tsx';
import { useCurrent } from '../../state/current.ts';

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
      build={build.id}
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

function beginOf(level: Level, search: URLSearchParams): Begin {
  const at = search.get('at')?.split(' ').map(Number);
  const first = spawnOf(level);
  if (at?.length === 3 && at.every(Number.isFinite))
    return { at: at as unknown as Vec3, yaw: Number(search.get('turn') ?? first.yaw), spawn: null };
  const chosen = search.get(FROM_SPAWN) ?? useCurrent.getState().playSpawn;
  const spawn = level.meta.entities.find((e) => isSpawn(e) && e.id === chosen);
  return spawn ? { at: spawn.at, yaw: spawn.turn, spawn: spawn.id } : { ...first, spawn: null };
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
