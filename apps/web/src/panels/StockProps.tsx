import { Button, Text, Tooltip, UnstyledButton } from '@mantine/core';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import type { PropImportReport } from '@yesca/contract';
import type { Prop } from '@yesca/stock';
import { PROP_DRAG } from '../state/drag.ts';
import { useLibrary } from '../state/library.ts';
import { notify } from '../state/notify.ts';
import { propUrl, useProps } from '../state/remote.ts';
import { IMPORTED, isImported, removeProp, reportWords } from './library/imported-props.ts';
import { UploadBusy } from './library/UploadBusy.tsx';
import { useUpload } from './library/useUpload.ts';
import { hasWords, StockSearch } from './StockSearch.tsx';
import { chooseTool } from '../tools/index.ts';
import { PLACED_PROP, usePlaceOptions } from '../tools/place-options.ts';
import { useCurrent } from '../state/current.ts';

const COLLIDES = {
  none: 'stops nothing',
  box: 'collides as a box',
  hull: 'collides as one convex body',
  hulls: 'collides in parts',
} as const;

/** What is told of a prop: its size, triangles and collision. */
function factsLine({ bounds: { min, max }, triangles, collision, lights }: Prop): string {
  const size = [0, 1, 2].map((k) => Math.round(max[k]! - min[k]!)).join(' × ');
  return `${size} cm, ${triangles} triangles, ${COLLIDES[collision]}${lights.length > 0 ? ', shines' : ''}`;
}

/** The models that can be placed: pressed one is placed next, dragged it is dropped on a pane. */
export function StockProps() {
  const { error, mutate: reload } = useProps();
  const props = useLibrary((s) => s.props);
  const [search, setSearch] = useState('');
  const [tag, setTag] = useState<string | null>(null);
  const fits = hasWords(search);
  const all = [...props.values()];
  const counts = new Map<string, number>();
  for (const p of all) for (const t of p.tags) counts.set(t, (counts.get(t) ?? 0) + 1);
  const tags = [...counts].filter(([t, n]) => n > 2 || t === IMPORTED).map(([t]) => t);
  const found = all.filter((p) => (tag === null || p.tags.includes(tag)) && fits(`${p.label} ${p.tags.join(' ')}`));
  const { busy, stop, take } = useUpload<PropImportReport>('/api/props/import', reload);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => void take(files).then((report) => report && notify(reportWords(report), 'import')),
  });
  return (
    <section {...getRootProps({ className: 'stock-props' })} data-drop={isDragActive || undefined}>
      <input {...getInputProps({ 'aria-label': 'Models to import', style: { display: 'none' } })} />
      {busy ? (
        <UploadBusy busy={busy} stop={stop} />
      ) : (
        <Tooltip label="Models of glTF 2.0: .glb, .gltf with its files, or a ZIP; they can also be dropped here">
          <Button variant="default" size="compact-xs" onClick={open}>
            Import models
          </Button>
        </Tooltip>
      )}
      <StockSearch
        what="props"
        search={search}
        onSearch={setSearch}
        heads="Tags"
        names={tags.map((t) => ({ id: t, label: t }))}
        head={tag}
        onHead={setTag}
      />
      {error && all.length === 0 ? (
        <Text size="xs" c="var(--madder)">
          The props could not be loaded. Check that the server runs.
        </Text>
      ) : null}
      {found.length === 0 && all.length > 0 && (
        <Text size="xs" c="dimmed">
          No prop is called that. Clear the search or the tag.
        </Text>
      )}
      <div className="stock-prop-tiles">
        {found.map((p) => (
          <PropTile key={p.name} prop={p} reload={reload} />
        ))}
      </div>
    </section>
  );
}

function PropTile({ prop: p, reload }: { prop: Prop; reload: () => Promise<unknown> }) {
  const active = useCurrent((s) => s.tool === 'place');
  const chosen = usePlaceOptions((s) => s.what === PLACED_PROP && s.prop === p.name);
  return (
    <Tooltip
      label={`${p.label}: ${factsLine(p)}${isImported(p) ? '; Delete or a right click takes it from Stock' : ''}`}
      position="right"
    >
      <UnstyledButton
        className="stock-prop"
        draggable
        data-active={(active && chosen) || undefined}
        onDragStart={(e) => {
          e.dataTransfer.setData(PROP_DRAG, p.name);
          e.dataTransfer.effectAllowed = 'copy';
        }}
        onClick={() => {
          usePlaceOptions.setState({ what: PLACED_PROP, prop: p.name });
          chooseTool('place');
        }}
        onKeyDown={(e) => {
          if (e.key === 'Delete' && isImported(p)) void removeProp(p, reload);
        }}
        onContextMenu={(e) => {
          if (!isImported(p)) return;
          e.preventDefault();
          void removeProp(p, reload);
        }}
      >
        <img src={propUrl(p.name, 'webp')} alt="" width={64} height={64} loading="lazy" draggable={false} />
        <span>{p.label}</span>
      </UnstyledButton>
    </Tooltip>
  );
}
