import './build.css';
import { Anchor, Button, Group, Progress, Stack, Text, Title, Tooltip } from '@mantine/core';
import { IconStack3, IconPlayerPlay } from '@tabler/icons-react';
import { Link, useParams } from 'react-router';
import { Bar, BarChart, CartesianGrid, Legend, Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { BuildRow } from '@yesca/contract';
import { STAGES, type Finding, type LightShare, type Preset } from '@yesca/core';
import { goToFinding } from '../../commands/viewing.ts';
import { FindingRow, hasPlace } from '../../panels/FindingRow.tsx';
import { EyePane } from '../../panes/EyePane.tsx';
import { SheetPane } from '../../panes/SheetPane.tsx';
import { isRunning, useBuild } from './useBuild.ts';
import { useContent } from './useContent.ts';
import { useCurrent } from '../../state/current.ts';
import { materialLabel } from '../../state/library.ts';

const PRESET_CARDS: readonly { readonly preset: Preset; readonly label: string; readonly gives: string }[] = [
  { preset: 'sketch', label: 'Sketch', gives: 'Walk it now: coarse visibility, 32 cm luxels, rough bounces' },
  { preset: 'review', label: 'Review', gives: 'Full visibility, 16 cm luxels, smooth shadows and bounces' },
  { preset: 'final', label: 'Final', gives: 'Full visibility, 8 cm luxels, the finest bounces' },
];

const seconds = (ms: number): string => (ms < 1000 ? `${Math.round(ms)} ms` : `${(ms / 1000).toFixed(1)} s`);
const total = (row: BuildRow): number => Object.values(row.times).reduce((a, b) => a + b, 0);
const STATUS = {
  waiting: 'waiting',
  running: 'building',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
  interrupted: 'interrupted',
} as const;

/** The run sheet: presets, stages, what was found and where, and how builds grew. */
export function Build() {
  const { mapId = '' } = useParams();
  const { builds, live, start, cancel } = useBuild(mapId);
  const preset = useCurrent((s) => s.preset);
  const setPreset = (p: Preset) => useCurrent.setState({ preset: p });
  const content = useContent();
  const isOld = (row: BuildRow | null | undefined) => !!row && content !== null && row.content !== content;
  const running = isRunning(live);
  const lastOf = (p: Preset) => builds?.find((b) => b.preset === p && b.status === 'done');
  return (
    <div className="build">
      <main className="build-sheet">
        <div className="presets" role="radiogroup" aria-label="Preset">
          {PRESET_CARDS.map((card) => {
            const last = lastOf(card.preset);
            return (
              <button
                key={card.preset}
                type="button"
                role="radio"
                aria-checked={preset === card.preset}
                className="preset"
                data-active={preset === card.preset || undefined}
                onClick={() => setPreset(card.preset)}
              >
                <strong>{card.label}</strong>
                <span className="quiet">{card.gives}</span>
                <span className="mono quiet preset-last">
                  {last
                    ? `last ${seconds(total(last))} · ${(last.report!.counts.bytes / 1024 / 1024).toFixed(2)} MB`
                    : 'not built yet'}
                  {isOld(last) && ' · older than the map'}
                </span>
              </button>
            );
          })}
        </div>
        <Group gap={8}>
          <Button
            size="sm"
            className="act"
            leftSection={<IconStack3 size={16} />}
            disabled={running}
            onClick={() => void start(preset)}
          >
            Build {preset}
          </Button>
          {running && live && (
            <Button size="sm" variant="default" onClick={() => void cancel(live.id)}>
              Cancel
            </Button>
          )}
          {live?.status === 'done' && (
            <Button
              size="sm"
              variant="default"
              component={Link}
              to={`/maps/${mapId}/play?build=${live.id}`}
              leftSection={<IconPlayerPlay size={15} />}
            >
              Walk this build
            </Button>
          )}
        </Group>
        {live && !running && isOld(live) && (
          <Text size="sm" className="build-old" data-testid="build-old">
            The map has changed since this build. Build again to walk what you see; Ctrl B builds and plays.
          </Text>
        )}
        {live ? <Run row={live} /> : <Empty />}
        {builds && builds.filter((b) => b.status === 'done').length > 1 && <History builds={builds} />}
      </main>
      <aside className="build-views" aria-label="Where">
        <div className="build-pane">
          <SheetPane kind="plan" />
        </div>
        <div className="build-pane">
          <EyePane />
        </div>
      </aside>
    </div>
  );
}

function Empty() {
  return (
    <Stack gap={4} maw={440}>
      <Title order={3}>Nothing built yet</Title>
      <Text size="sm">
        A build works out what is inside, what can be seen from where, and how the light falls. Start with Sketch: it
        takes a moment, and then the map can be walked.
      </Text>
    </Stack>
  );
}

function Run({ row }: { row: BuildRow }) {
  const over = !isRunning(row);
  const counts = row.report?.counts;
  const bounces = row.report?.bounces ?? [];
  return (
    <section className="run" data-testid="build-run" data-build={row.id} data-status={row.status}>
      <Group justify="space-between">
        <Group gap={8}>
          <Title order={3}>{row.preset[0]!.toUpperCase() + row.preset.slice(1)} build</Title>
          <span
            className="badge"
            data-state={row.status === 'done' ? (row.report?.sealed ? 'sealed' : 'leaking') : row.status}
          >
            {row.status === 'done' ? (row.report?.sealed ? 'sealed' : 'leaking') : STATUS[row.status]}
          </span>
        </Group>
        {over && (
          <Anchor size="xs" href={`/api/builds/${row.id}/log`} download>
            Download the raw log
          </Anchor>
        )}
      </Group>
      <div className="stages">
        {STAGES.map((stage) => {
          const done = row.status === 'done' ? 1 : (row.progress[stage] ?? 0);
          return (
            <div key={stage} className="stage">
              <span>{stage}</span>
              <Progress
                value={done * 100}
                size={8}
                radius={1}
                color={row.status === 'failed' ? 'var(--madder)' : done === 1 ? 'var(--verdigris)' : 'var(--indigo)'}
                aria-label={`${stage} progress`}
              />
              <span className="mono quiet">
                {row.times[stage] !== undefined
                  ? seconds(row.times[stage])
                  : done > 0
                    ? `${Math.round(done * 100)} %`
                    : '—'}
              </span>
            </div>
          );
        })}
      </div>
      {row.error && <Message message={{ id: 'build', severity: 'error', code: 'build', text: row.error }} />}
      {row.report?.messages.map((m, i) => (
        <Message key={i} message={m} />
      ))}
      {counts && (
        <dl className="counts mono">
          {(
            [
              ['surfaces', counts.surfaces],
              ['triangles', counts.triangles],
              ['cells', counts.cells],
              ['portals', counts.portals],
              ['luxels', counts.luxels],
              ['seen from a cell', `${Math.round(counts.seen * 100)} %`],
              ...(bounces.length > 0
                ? [
                    [
                      'bounces of light',
                      `${bounces.length}, then ${(bounces.at(-1)! * 100).toFixed(1)} % left`,
                    ] as const,
                  ]
                : []),
            ] as const
          ).map(([name, value]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd>{value.toLocaleString()}</dd>
            </div>
          ))}
        </dl>
      )}
      {row.report?.reflections && row.report.reflections.places > 0 && (
        <Text size="xs">
          {`${row.report.reflections.places} reflection ${row.report.reflections.places === 1 ? 'probe takes' : 'probes take'} ${Math.ceil(row.report.reflections.bytes / 1000)} kB.`}
        </Text>
      )}
      {row.report?.props && row.report.props.count > 0 && (
        <Text size="xs">
          {`${row.report.props.count} ${row.report.props.count === 1 ? 'prop stands there, of' : 'props stand there, of'} ${row.report.props.triangles.toLocaleString()} triangles together; their light is found at ${row.report.props.lit} ${row.report.props.lit === 1 ? 'place' : 'places'}.`}
        </Text>
      )}
      {bounces.length > 1 && <Bounces left={bounces} />}
      {row.report?.light && row.report.light.length > 0 && <Memory light={row.report.light} />}
    </section>
  );
}

/** How much of the light can still come after each bounce. */
function Bounces({ left }: { left: readonly number[] }) {
  const rows = [1, ...left].map((share, bounce) => ({ bounce, left: Math.round(share * 1000) / 10 }));
  return (
    <>
      <h3 className="panel-title">Light still on its way after each bounce, per cent</h3>
      <ResponsiveContainer width="100%" height={110}>
        <LineChart data={rows} margin={{ left: -18, right: 10, top: 6 }}>
          <CartesianGrid vertical={false} stroke="var(--rule)" />
          <XAxis dataKey="bounce" tick={{ fontSize: 10, fill: 'var(--ink-soft)' }} stroke="var(--rule-strong)" />
          <YAxis tick={{ fontSize: 10, fill: 'var(--ink-soft)' }} stroke="var(--rule-strong)" />
          <Line dataKey="left" stroke="var(--indigo)" strokeWidth={2} dot={{ r: 2 }} isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
    </>
  );
}

/** So many materials are told apart; what the others take is together. */
const MOST_MATERIALS = 8;
/** Bytes of a luxel in a level. */
const LUXEL_BYTES = 4;
const PARTS = { structure: 'var(--ink-soft)', detail: 'var(--indigo)', moving: 'var(--ochre)' } as const;

/** What the light of a build takes, by the materials it lies on and what they are part of. */
function Memory({ light }: { light: readonly LightShare[] }) {
  const rest = light.slice(MOST_MATERIALS);
  const sum = (part: keyof typeof PARTS) => rest.reduce((n, share) => n + share[part], 0);
  const rows = [
    ...light.slice(0, MOST_MATERIALS).map((share) => ({ ...share, material: materialLabel(share.material) })),
    ...(rest.length > 0
      ? [
          {
            material: `${rest.length} others`,
            structure: sum('structure'),
            detail: sum('detail'),
            moving: sum('moving'),
          },
        ]
      : []),
  ].map(({ material, ...parts }) => ({
    material,
    ...Object.fromEntries(Object.entries(parts).map(([part, n]) => [part, Math.round((n * LUXEL_BYTES) / 100) / 10])),
  }));
  return (
    <>
      <h3 className="panel-title">What light takes by material, kB</h3>
      <ResponsiveContainer width="100%" height={40 + rows.length * 20}>
        <BarChart data={rows} layout="vertical" margin={{ left: 40, right: 10, top: 4 }}>
          <CartesianGrid horizontal={false} stroke="var(--rule)" />
          <XAxis type="number" tick={{ fontSize: 10, fill: 'var(--ink-soft)' }} stroke="var(--rule-strong)" />
          <YAxis
            type="category"
            dataKey="material"
            width={90}
            interval={0}
            tick={{ fontSize: 10, fill: 'var(--ink-soft)' }}
            stroke="var(--rule-strong)"
          />
          <Legend wrapperStyle={{ fontSize: 11 }} iconSize={9} />
          {(Object.keys(PARTS) as (keyof typeof PARTS)[]).map((part) => (
            <Bar
              key={part}
              dataKey={part}
              stackId="light"
              fill={PARTS[part]}
              maxBarSize={14}
              isAnimationActive={false}
            />
          ))}
        </BarChart>
      </ResponsiveContainer>
    </>
  );
}

function Message({ message }: { message: Finding }) {
  return (
    <FindingRow finding={message}>
      {hasPlace(message) && (
        <Tooltip label="Show the place on the Plan and in the Eye">
          <Button size="compact-xs" variant="default" onClick={() => goToFinding(message)}>
            Go there
          </Button>
        </Tooltip>
      )}
    </FindingRow>
  );
}

const SHADES = {
  structure: 'var(--ink-soft)',
  visibility: 'var(--ochre)',
  lighting: 'var(--indigo)',
  level: 'var(--verdigris)',
} as const;

function History({ builds }: { builds: readonly BuildRow[] }) {
  const rows = builds
    .filter((b) => b.status === 'done')
    .slice(0, 20)
    .reverse()
    .map((b, i) => ({
      name: `${i + 1} ${b.preset}`,
      ...Object.fromEntries(STAGES.map((s) => [s, (b.times[s] ?? 0) / 1000])),
    }));
  return (
    <section>
      <h3 className="panel-title">Seconds a build took</h3>
      <ResponsiveContainer width="100%" height={150}>
        <BarChart data={rows} margin={{ left: -18, right: 4, top: 4 }}>
          <CartesianGrid vertical={false} stroke="var(--rule)" />
          <XAxis dataKey="name" tick={{ fontSize: 10, fill: 'var(--ink-soft)' }} stroke="var(--rule-strong)" />
          <YAxis tick={{ fontSize: 10, fill: 'var(--ink-soft)' }} stroke="var(--rule-strong)" />
          <Legend wrapperStyle={{ fontSize: 11 }} iconSize={9} />
          {STAGES.map((s) => (
            <Bar key={s} dataKey={s} stackId="time" fill={SHADES[s]} maxBarSize={34} isAnimationActive={false} />
          ))}
        </BarChart>
      </ResponsiveContainer>
    </section>
  );
}
