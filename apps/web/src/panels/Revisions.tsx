import { Button, Group, Loader, ScrollArea, Text, TextInput, UnstyledButton } from '@mantine/core';
import { useElementSize } from '@mantine/hooks';
import { modals } from '@mantine/modals';
import { useEffect, useMemo, useRef, useState } from 'react';
import useSWR, { mutate } from 'swr';
import type { RevisionRow } from '@yesca/contract';
import {
  drawnBrush,
  drawnBrushes,
  brushBounds,
  compareMaps,
  uniteBoxes,
  type Brush,
  type Comparison,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import { api, get } from '../api/client.ts';
import { parseMapFromServer } from '../api/document.ts';
import { traceOutline } from '../geometry/outline.ts';
import { inkPattern, useInks, type Inks } from '../panes/inks.ts';
import { sheetView, toScreen, type SheetView } from '../geometry/projection.ts';
import { callTo, useEditor } from '../state/editor.ts';
import { notifyError } from '../state/notify.ts';
import { saveNow } from '../state/saving.ts';
import { useCamera } from '../state/camera.ts';

/** Opens the list of saved revisions: name them, compare them with the map as it is, restore them. */
export function openRevisions(): void {
  const { mapId } = useEditor.getState();
  if (!mapId) return;
  modals.open({
    title: 'Revisions',
    size: '92vw',
    children: <Revisions mapId={mapId} />,
    classNames: { body: 'revisions' },
  });
}

const when = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });

function Revisions({ mapId }: { mapId: string }) {
  const path = `/api/maps/${mapId}/revisions`;
  const { data: rows, error } = useSWR(path, get<RevisionRow[]>);
  const [chosen, setChosen] = useState<number | null>(null);
  const { data: body } = useSWR(
    chosen === null ? null : `${path}/${chosen}`,
    get<{ version: number; document: string }>,
  );
  const doc = useEditor((s) => s.doc);
  const then = useMemo(() => (body ? parseMapFromServer(body.document) : null), [body]);
  const comparison = useMemo(() => (then ? compareMaps(then, doc) : null), [then, doc]);
  useEffect(() => {
    // What is on screen is to be in the list.
    void saveNow().then(() => mutate(path));
  }, [path]);
  if (error) throw error;
  if (!rows) return <Loader size="sm" />;
  const row = rows.find((r) => r.version === chosen);
  const restore = () => {
    if (then && useEditor.getState().run(callTo(then, `Restore revision ${chosen}`))) modals.closeAll();
  };
  return (
    <div className="revisions-columns">
      <ScrollArea className="revisions-list" type="auto">
        {rows.map((r) => (
          <UnstyledButton
            key={r.version}
            className="row"
            data-active={r.version === chosen || undefined}
            onClick={() => setChosen(r.version)}
          >
            <span className="mono quiet">{r.version}</span>
            <span className="row-label">{r.name ?? when.format(new Date(r.savedAt))}</span>
          </UnstyledButton>
        ))}
      </ScrollArea>
      <div className="revisions-compare">
        {!row && (
          <Text size="sm" c="dimmed">
            Every save is kept as a revision. Choose one to see what has changed since, to name it, or to go back to it.
          </Text>
        )}
        {row && (
          <>
            <Group justify="space-between" wrap="nowrap" align="flex-end">
              <NameField key={row.version} path={path} row={row} />
              <Button className="act" disabled={!then} onClick={restore}>
                Restore this revision
              </Button>
            </Group>
            {comparison && then ? (
              <>
                <Summary comparison={comparison} />
                <ComparePlan before={then} after={doc} comparison={comparison} />
              </>
            ) : (
              <Loader size="sm" />
            )}
          </>
        )}
      </div>
    </div>
  );
}

function NameField({ path, row }: { path: string; row: RevisionRow }) {
  const [name, setName] = useState(row.name ?? '');
  const save = () => {
    if (name.trim() === (row.name ?? '')) return;
    api('PATCH', `${path}/${row.version}`, { name: name.trim() })
      .then(() => mutate(path))
      .catch(notifyError);
  };
  return (
    <TextInput
      label={`Revision ${row.version}, saved ${when.format(new Date(row.savedAt))}`}
      placeholder="Name it to find it again"
      value={name}
      maxLength={200}
      w={340}
      onChange={(e) => setName(e.currentTarget.value)}
      onBlur={save}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') e.currentTarget.blur();
      }}
    />
  );
}

/** What changed since, in numbers beside the sign each has on the plan. */
export function Summary({ comparison: { added, removed, changed, others } }: { comparison: Comparison }) {
  const signs = [
    ['added', added.length],
    ['removed', removed.length],
    ['changed', changed.length],
  ] as const;
  const rest = others.added + others.removed + others.changed;
  return (
    <Group gap={18} my={8} data-testid="comparison">
      {signs.map(([what, n]) => (
        <Group key={what} gap={6}>
          <span className="compare-sign" data-what={what} />
          <Text size="xs">
            {n} {n === 1 ? 'brush' : 'brushes'} {what} since
          </Text>
        </Group>
      ))}
      {rest > 0 && (
        <Text size="xs" c="dimmed">
          and {rest} other {rest === 1 ? 'thing' : 'things'}
        </Text>
      )}
    </Group>
  );
}

/** The plan of both states: what stayed in thin ink, what was added, removed and changed each in a drawing style of its own. */
export function ComparePlan({
  before,
  after,
  comparison,
}: {
  before: MapDocument;
  after: MapDocument;
  comparison: Comparison;
}) {
  const { ref, width, height } = useElementSize();
  const canvas = useRef<HTMLCanvasElement>(null);
  const cutHeight = useCamera((s) => s.cutHeight);
  const level = useCamera((s) => s.level);
  const inks = useInks();
  useEffect(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx || width < 10 || height < 10) return;
    const all = [...before.brushes.values(), ...after.brushes.values()];
    const box = uniteBoxes(all.map(brushBounds));
    const span = [box.max[0] - box.min[0], box.max[1] - box.min[1]] as const;
    const zoom = all.length ? Math.min((width - 40) / Math.max(1, span[0]), (height - 40) / Math.max(1, span[1])) : 1;
    const centre = [(box.min[0] + box.max[0]) / 2, (box.min[1] + box.max[1]) / 2, 0] as const;
    const section = { at: [0, 0], looks: 90 } as const;
    const view = sheetView('plan', { centre, zoom, cutHeight, level, section }, width, height);
    drawComparison(ctx, view, inks, after, comparison);
  }, [before, after, comparison, width, height, cutHeight, level, inks]);
  return (
    <div ref={ref} className="revisions-plan">
      <canvas ref={canvas} width={width} height={height} aria-label="Plan of what changed" role="img" />
    </div>
  );
}

function drawComparison(
  ctx: CanvasRenderingContext2D,
  view: SheetView,
  inks: Inks,
  after: MapDocument,
  { added, removed, changed }: Comparison,
): void {
  ctx.fillStyle = inks.sheet;
  ctx.fillRect(0, 0, view.width, view.height);
  const touched = new Set([...added.map((b) => b.id), ...changed.map((c) => c.after.id)]);
  const { cut, faces } = drawnBrushes(
    [...after.brushes.values()].filter((b) => !touched.has(b.id)),
    view,
  );
  const path = (list: readonly Brush[]) => {
    ctx.beginPath();
    for (const brush of list) for (const o of drawnBrush(brush, view).outlines) trace(o.points);
  };
  const trace = (points: readonly Vec3[]) =>
    traceOutline(
      ctx,
      points.map((p) => toScreen(view, p)),
    );
  ctx.strokeStyle = inks.soft;
  ctx.globalAlpha = 0.35;
  ctx.lineWidth = 0.7;
  ctx.beginPath();
  for (const f of faces) trace(f.points);
  ctx.stroke();
  ctx.fillStyle = inks.soft;
  ctx.beginPath();
  for (const c of cut) for (const o of c.outlines) trace(o.points);
  ctx.fill();
  ctx.globalAlpha = 1;
  // Removed: a broken line with nothing in it. Changed: where it was in dots, where it is hatched. Added: a full heavy line on a stipple.
  path(removed);
  ctx.strokeStyle = inks.madder;
  ctx.lineWidth = 1.8;
  ctx.setLineDash([7, 4]);
  ctx.stroke();
  path(changed.map((c) => c.before));
  ctx.strokeStyle = inks.ochre;
  ctx.lineWidth = 1.4;
  ctx.setLineDash([1.5, 3]);
  ctx.stroke();
  ctx.setLineDash([]);
  path(changed.map((c) => c.after));
  ctx.fillStyle = inkPattern(ctx, 'hatch', inks.ochre, 'rgba(0,0,0,0)');
  ctx.fill();
  ctx.lineWidth = 1.2;
  ctx.stroke();
  path(added);
  ctx.fillStyle = inkPattern(ctx, 'stipple', inks.verdigris, 'rgba(0,0,0,0)');
  ctx.fill();
  ctx.strokeStyle = inks.verdigris;
  ctx.lineWidth = 2.4;
  ctx.stroke();
}
