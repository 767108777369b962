import './sight.css';
import { Button, Group, Progress, Select, Switch, Text, Title, Tooltip, UnstyledButton } from '@mantine/core';
import { useEffect } from 'react';
import { Link, useParams } from 'react-router';
import { Bar, BarChart, CartesianGrid, Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { boxOf, distance, longLinesOf, type MapDocument, type Sight, type SightLine, type Vec3 } from '@yesca/core';
import { frameMap, goToStorey, reveal } from '../../commands/viewing.ts';
import { STEP_OPACITY } from '../../panes/draw-cells.ts';
import { SheetPane } from '../../panes/SheetPane.tsx';
import type { PanePointer } from '../../tools/tool.ts';
import { whenLaidOut } from '../../state/pane-sizes.ts';
import { useCamera } from '../../state/camera.ts';
import { useEditor } from '../../state/editor.ts';
import { useBuilds } from '../../state/remote.ts';
import {
  cellAt,
  MEASURES,
  scaleOf,
  STEPS,
  useSight,
  useSightOptions,
  whySeen,
  type Measure,
} from '../../state/sight.ts';
import { Suggestions } from './Suggestions.tsx';
import { eyesAt, SightView } from './SightView.tsx';
import { number, roomNameAt } from './words.ts';
import { useSightSource, type SightSource } from './useSightSource.ts';

const middleOf = (sight: Sight, cell: number): Vec3 =>
  [0, 1, 2].map((k) => (sight.cellBounds[cell * 6 + k]! + sight.cellBounds[cell * 6 + 3 + k]!) / 2) as unknown as Vec3;

/** What a cell is called: by its room, and where its middle lies. */
function nameOf(sight: Sight, cell: number, rooms: MapDocument['rooms']): string {
  const middle = middleOf(sight, cell);
  return `${roomNameAt(rooms, middle) ?? 'Cell'} at ${middle.slice(0, 2).map(number).join(', ')}`;
}

/** Shows a cell on the Plan, whose cut goes through it then. */
function showCell(sight: Sight, cell: number): void {
  const [low, high] = [2, 5].map((k) => sight.cellBounds[cell * 6 + k]!) as [number, number];
  const { level, cutHeight } = useCamera.getState();
  if (level + cutHeight <= low || level + cutHeight >= high)
    goToStorey(low, Math.max(1, Math.min(cutHeight, (high - low) / 2)));
  const middle = middleOf(sight, cell);
  reveal({ min: middle, max: middle });
}

/** What is seen from where, and what it costs. */
export function SightPage() {
  const { mapId = '' } = useParams();
  const source = useSightSource(mapId);
  const sight = useSight((s) => s.sight);
  const live = useSightOptions((s) => s.live);
  useEffect(() => {
    useSight.setState({ shown: true });
    // The whole map at first; whoever goes back finds the drawing as it was.
    const { centre, zoom, level, cutHeight, section } = useCamera.getState();
    whenLaidOut(frameMap);
    // The tools' keys have no meaning here; undo has.
    const key = (e: KeyboardEvent) => {
      if (e.key === 'Escape') useSight.setState({ pin: null, goal: null, line: null });
      if (!(e.ctrlKey || e.metaKey) || e.altKey || e.key.toLowerCase() !== 'z') return;
      e.preventDefault();
      if (e.shiftKey) useEditor.getState().redoOne();
      else useEditor.getState().undoOne();
    };
    window.addEventListener('keydown', key);
    return () => {
      window.removeEventListener('keydown', key);
      useCamera.setState({ centre, zoom, level, cutHeight, section });
      // The pin stays: the Eye shows what is seen from it among its cells.
      useSight.setState({ shown: false, sight: null, goal: null, hovered: -1, line: null, proposal: null });
    };
  }, []);
  return (
    <div className="sight">
      <section className="sight-plan" aria-label="Cells">
        <SheetPane kind="plan" points={POINTS} />
        <Storeys />
      </section>
      <aside className="sight-side">
        <Group justify="space-between" wrap="nowrap">
          <Title order={3}>Sight</Title>
          <Tooltip label="Work sight out from the map as it is now, after every edit; otherwise that of the last build is shown">
            <Switch
              size="xs"
              label="Live"
              checked={live}
              onChange={(e) => useSightOptions.setState({ live: e.currentTarget.checked })}
            />
          </Tooltip>
        </Group>
        <Source source={source} mapId={mapId} />
        {sight && <Scale sight={sight} />}
        {sight && <Pinned sight={sight} />}
        <div className="sight-eye">
          <SightView />
        </div>
        {sight && <Suggestions />}
        {sight && <Costliest sight={sight} />}
        {sight && <Lines sight={sight} />}
        {sight && <Charts sight={sight} />}
        <Builds mapId={mapId} />
      </aside>
    </div>
  );
}

const POINTS = {
  press: (p: PanePointer) => {
    const { sight, pin } = useSight.getState();
    if (!sight) return;
    const at = eyesAt(sight, [p.raw[0], p.raw[1], useCamera.getState().level]);
    if (cellAt(sight, at) < 0) return;
    // With Shift the other point: is it seen from the pin?
    useSight.setState(p.shift && pin ? { goal: at } : { pin: at });
  },
  hover: (p: PanePointer | null) => {
    const { sight, hovered } = useSight.getState();
    const { level, cutHeight } = useCamera.getState();
    const cell = sight && p ? cellAt(sight, [p.raw[0], p.raw[1], level + cutHeight]) : -1;
    if (cell !== hovered) useSight.setState({ hovered: cell });
  },
};

function Source({ source, mapId }: { source: SightSource; mapId: string }) {
  const goLive = () => useSightOptions.setState({ live: true });
  if (source.state === 'working')
    return (
      <Progress
        value={Math.max(5, source.done * 100)}
        size={6}
        radius={1}
        color="var(--indigo)"
        aria-label="Working out sight"
        data-testid="sight-working"
      />
    );
  if (source.state === 'shown') return null;
  const words = {
    open: 'Nothing closes this map off, so everything is drawn from everywhere. Close the hole it leaks through, or draw a room and put a spawn in it.',
    unbuilt: 'This map was not built yet. Build it, or turn on Live to see what it would be.',
    old: 'The last build is older than this page and says nothing of cells. Build again, or turn on Live.',
  }[source.state];
  return (
    <div className="sight-empty" data-testid="sight-empty">
      <Text size="sm">{words}</Text>
      <Group gap={6} mt={6}>
        {source.state === 'open' ? (
          <Button size="compact-sm" variant="default" component={Link} to={`/maps/${mapId}/shape`}>
            Go to Shape
          </Button>
        ) : (
          <>
            <Button size="compact-sm" variant="default" component={Link} to={`/maps/${mapId}/build`}>
              Go to Build
            </Button>
            <Button size="compact-sm" variant="default" onClick={goLive}>
              Turn on Live
            </Button>
          </>
        )}
      </Group>
    </div>
  );
}

function Scale({ sight }: { sight: Sight }) {
  const measure = useSightOptions((s) => s.measure);
  const { from, high } = scaleOf(sight, measure);
  const { unit, tip } = MEASURES[measure];
  return (
    <div>
      <Select
        size="xs"
        label="Cells are tinted by"
        description={tip}
        allowDeselect={false}
        value={measure}
        data={(Object.keys(MEASURES) as Measure[]).map((value) => ({ value, label: MEASURES[value].label }))}
        onChange={(value) => value && useSightOptions.setState({ measure: value as Measure })}
      />
      <div className="sight-scale mono" aria-label="Scale">
        {STEP_OPACITY.map((opacity, k) => (
          <span key={k}>
            <i style={{ opacity }} />
            {number(from(k))}
            {k === STEPS - 1 && ` – ${number(high)}${unit}`}
          </span>
        ))}
      </div>
      <div className="sight-legend">
        <span>
          <i className="sight-portal" /> portal
        </span>
        {sight.meta.gates.length > 0 && (
          <span>
            <i className="sight-gate" /> gate
            {sight.meta.gates.some((g) => g.bodies.length === 0) && ', dashed: never closes'}
          </span>
        )}
      </div>
    </div>
  );
}

/** What is known of the pin, and whether the other point is seen from it. */
function Pinned({ sight }: { sight: Sight }) {
  const state = useSight();
  const cell = state.pin ? cellAt(sight, state.pin) : state.hovered;
  const all = sight.index.length / 3;
  const why = whySeen(state);
  const shut = sight.cellShutTriangles[cell]!;
  if (cell < 0)
    return (
      <Text size="xs" className="quiet">
        {number(sight.meta.cells)} cells, {number(all)} triangles. Hover a cell for its figures; press to pin A and look
        from there; Shift and press to ask whether B is seen from A; Esc clears both.
      </Text>
    );
  return (
    <div className="sight-pinned" data-testid="sight-pinned" data-cell={cell}>
      <Text size="sm">
        {state.pin ? 'From A' : 'From here'} <b className="mono">{number(sight.cellSeen[cell]!)}</b> of{' '}
        {number(sight.meta.cells)} cells and <b className="mono">{number(sight.cellSeenTriangles[cell]!)}</b> of{' '}
        {number(all)} triangles are drawn
        {shut < sight.cellSeenTriangles[cell]! && (
          <>
            , <b className="mono">{number(shut)}</b> while doors stand closed in their gates
          </>
        )}
        ; the longest line is <b className="mono">{number(sight.cellLongest[cell]!)} cm</b>.
      </Text>
      <Text size="xs" className="quiet">
        The cell itself has {number(sight.cellFaces[cell]!)} faces, {number(sight.cellTriangles[cell]!)} triangles,{' '}
        {number(sight.cellLights[cell]!)} lights.{fillingOf(sight, cell)}
      </Text>
      {why && (
        <Text size="sm" data-testid="sight-why" data-answer={why.answer}>
          {why.answer === 'same' && 'A and B are in one cell: nothing stands between its corners.'}
          {why.answer === 'no' && 'B is not seen from A: no line leads from the one cell to the other.'}
          {why.answer === 'unproven' &&
            'B may be seen from A: no line was found that proves it, and none could be ruled out.'}
          {why.answer === 'yes' &&
            `B’s cell is seen from A’s: the dashed line leads there through ${why.portals.length} ${why.portals.length === 1 ? 'portal' : 'portals'}, ${number(distance(...why.line))} cm from cell to cell.`}
        </Text>
      )}
    </div>
  );
}

/** What of a cell liquids fill, in words. */
function fillingOf({ cellLiquidFirst, cellLiquidShare }: Sight, cell: number): string {
  const filled = cellLiquidShare
    .subarray(cellLiquidFirst[cell], cellLiquidFirst[cell + 1])
    .reduce((all, share) => all + share, 0);
  return filled > 0 ? ` A liquid fills ${Math.max(1, Math.round(Math.min(1, filled) * 100))} % of it.` : '';
}

function Costliest({ sight }: { sight: Sight }) {
  const measure = useSightOptions((s) => s.measure);
  const rooms = useEditor((s) => s.doc.rooms);
  const values = sight[measure];
  const top = Array.from(values.keys())
    .sort((a, b) => values[b]! - values[a]! || a - b)
    .slice(0, 6);
  return (
    <section>
      <h3 className="panel-title">Most {MEASURES[measure].label.toLowerCase()}</h3>
      {top.map((cell) => (
        <UnstyledButton
          key={cell}
          className="sight-row"
          onClick={() => {
            useSight.setState({ pin: middleOf(sight, cell) });
            showCell(sight, cell);
          }}
        >
          <span>{nameOf(sight, cell, rooms)}</span>
          <span className="mono">{number(values[cell]!) + MEASURES[measure].unit}</span>
        </UnstyledButton>
      ))}
    </section>
  );
}

function Lines({ sight }: { sight: Sight }) {
  const picked = useSight((s) => s.line);
  const lines = longLinesOf(sight).slice(0, 8);
  const isPicked = (line: SightLine) =>
    picked !== null && distance(line[0], picked[0]) + distance(line[1], picked[1]) < 1;
  return (
    <section>
      <h3 className="panel-title">Longest lines of sight</h3>
      {lines.map((line, i) => (
        <UnstyledButton
          key={i}
          className="sight-row"
          data-active={isPicked(line) || undefined}
          aria-pressed={isPicked(line)}
          onClick={() => {
            useSight.setState({ line: isPicked(line) ? null : line });
            reveal(boxOf(line));
          }}
        >
          <span>
            {number(line[0][0])}, {number(line[0][1])} to {number(line[1][0])}, {number(line[1][1])}
          </span>
          <span className="mono">{number(distance(...line))} cm</span>
        </UnstyledButton>
      ))}
    </section>
  );
}

const TICK = { fontSize: 10, fill: 'var(--ink-soft)' };

/** How many cells there are of each step of the scale, and the costliest of each storey. */
function Charts({ sight }: { sight: Sight }) {
  const measure = useSightOptions((s) => s.measure);
  const storeys = useEditor((s) => s.doc.storeys);
  const { step, from } = scaleOf(sight, measure);
  const counts = new Array<number>(STEPS).fill(0);
  for (const v of sight[measure]) counts[step(v)]!++;
  const floors = byStorey(sight, measure, storeys);
  return (
    <section>
      <h3 className="panel-title">Cells by {MEASURES[measure].label.toLowerCase()}</h3>
      <Bars rows={counts.map((cells, k) => ({ name: `${number(from(k))} +`, cells }))} value="cells" />
      {floors.length > 1 && (
        <>
          <h3 className="panel-title">Most in each storey</h3>
          <Bars rows={floors} value="most" />
        </>
      )}
    </section>
  );
}

function Bars({ rows, value }: { rows: readonly { readonly name: string }[]; value: string }) {
  return (
    <ResponsiveContainer width="100%" height={110}>
      <BarChart data={rows as { name: string }[]} margin={{ left: -18, right: 4, top: 4 }}>
        <CartesianGrid vertical={false} stroke="var(--rule)" />
        <XAxis dataKey="name" tick={TICK} interval={0} stroke="var(--rule-strong)" />
        <YAxis tick={TICK} stroke="var(--rule-strong)" allowDecimals={false} />
        <Bar dataKey={value} fill="var(--indigo)" maxBarSize={26} isAnimationActive={false} />
      </BarChart>
    </ResponsiveContainer>
  );
}

function byStorey(sight: Sight, measure: Measure, storeys: MapDocument['storeys']): { name: string; most: number }[] {
  const floors = [...storeys.values()].sort((a, b) => a.floor - b.floor);
  return floors.map(({ name, floor }, i) => {
    const top = floors[i + 1]?.floor ?? Infinity;
    let most = 0;
    for (let c = 0; c < sight.meta.cells; c++) {
      const z = middleOf(sight, c)[2];
      if (z >= floor && z < top) most = Math.max(most, sight[measure][c]!);
    }
    return { name, most };
  });
}

/** How much is seen from a cell, build after build. */
function Builds({ mapId }: { mapId: string }) {
  const { data: builds } = useBuilds(mapId);
  const rows = (builds ?? [])
    .filter((b) => b.status === 'done' && b.report?.sealed)
    .slice(0, 20)
    .reverse()
    .map((b, i) => ({ name: `${i + 1}`, seen: Math.round(b.report!.counts.seen * 1000) / 10 }));
  if (rows.length < 2) return null;
  return (
    <section>
      <h3 className="panel-title">Per cent of the map seen from a cell, build after build</h3>
      <ResponsiveContainer width="100%" height={100}>
        <LineChart data={rows} margin={{ left: -18, right: 10, top: 6 }}>
          <CartesianGrid vertical={false} stroke="var(--rule)" />
          <XAxis dataKey="name" tick={TICK} stroke="var(--rule-strong)" />
          <YAxis tick={TICK} stroke="var(--rule-strong)" />
          <Line dataKey="seen" stroke="var(--indigo)" strokeWidth={2} dot={{ r: 2 }} isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
    </section>
  );
}

/** The storeys of the map: the Plan is cut through one of them. */
function Storeys() {
  const storeys = useEditor((s) => s.doc.storeys);
  const level = useCamera((s) => s.level);
  const floors = [...storeys.values()].sort((a, b) => a.floor - b.floor);
  if (floors.length < 2) return null;
  return (
    <div className="sight-storeys" role="group" aria-label="Storeys">
      {floors.map((s) => (
        <Button
          key={s.id}
          size="compact-xs"
          variant={s.floor === level ? 'filled' : 'default'}
          aria-pressed={s.floor === level}
          onClick={() => goToStorey(s.floor, s.cut)}
        >
          {s.name}
        </Button>
      ))}
    </div>
  );
}
