import { Anchor, Group, SegmentedControl, Stack, Tooltip } from '@mantine/core';
import { useEffect } from 'react';
import { entityKind, type EntityKind } from '@yesca/core';
import { useDropzone } from 'react-dropzone';
import { Link } from 'react-router';
import { keptStore } from '../state/kept.ts';
import { notify } from '../state/notify.ts';
import { importWords, useImport } from './library/useImport.ts';
import { UploadBusy } from './library/UploadBusy.tsx';
import { MaterialLibrary } from './library/MaterialLibrary.tsx';
import { useCurrent } from '../state/current.ts';
import { StockDecals } from './StockDecals.tsx';
import { StockProps } from './StockProps.tsx';
import { StockThings } from './StockThings.tsx';
import { ASSEMBLY, PLACED_BILLBOARD, SHEET, STREWN, usePlaceOptions } from '../tools/place-options.ts';

type Shown = 'materials' | EntityKind['stock'];

/** Which part of Stock is open, kept in this browser. */
const useStockShows = keptStore<{ shown: Shown }>('stock', { shown: 'materials' }, ['shown']);

/** Where what is placed is chosen. */
function stockOf(what: string): Shown {
  if (what === STREWN || what === ASSEMBLY) return 'props';
  if (what === SHEET || what === PLACED_BILLBOARD) return 'materials';
  return entityKind(what)?.stock ?? 'things';
}

/** The drawer of things to use: materials to paint with, entities and props to place. */
export function Stock() {
  const tool = useCurrent((s) => s.tool);
  const shown = useStockShows((s) => s.shown);
  const what = usePlaceOptions((s) => s.what);
  // What a tool works with comes to hand with it.
  useEffect(() => {
    if (tool === 'place') useStockShows.setState({ shown: stockOf(what) });
    if (tool === 'paint') useStockShows.setState({ shown: 'materials' });
  }, [tool, what]);
  const { busy, stop, take } = useImport();
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => void take(files).then((report) => report && notify(importWords(report), 'import')),
  });
  return (
    <Stack gap={10} p={10} className="stock">
      <SegmentedControl
        size="xs"
        fullWidth
        className="stock-shows"
        // The list below gives way, not what it is chosen by.
        flex="none"
        aria-label="What Stock shows"
        value={shown}
        data={[
          { value: 'materials', label: 'Materials' },
          { value: 'things', label: 'Things' },
          { value: 'props', label: 'Props' },
          { value: 'decals', label: 'Decals' },
        ]}
        onChange={(value) => useStockShows.setState({ shown: value as Shown })}
      />
      {shown === 'things' && <StockThings />}
      {shown === 'props' && <StockProps />}
      {shown === 'decals' && <StockDecals />}
      {shown === 'materials' && (
        <section {...getRootProps({ className: 'stock-materials' })} data-drop={isDragActive || undefined}>
          <input {...getInputProps({ 'aria-label': 'Pictures to import', style: { display: 'none' } })} />
          <Group justify="space-between" wrap="nowrap">
            <span />
            <Tooltip label="Import, packs, tags and regions; pictures can also be dropped here">
              <Anchor component={Link} to="/materials" size="xs">
                Manage
              </Anchor>
            </Tooltip>
          </Group>
          {busy ? <UploadBusy busy={busy} stop={stop} /> : null}
          <MaterialLibrary tall />
        </section>
      )}
    </Stack>
  );
}
