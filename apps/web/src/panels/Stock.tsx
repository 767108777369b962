import {
  Anchor,
  Button,
  Group,
  Loader,
  SegmentedControl,
  Stack,
  Text,
  TextInput,
  Tooltip,
  UnstyledButton,
} from '@mantine/core';
import { useEffect, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link } from 'react-router';
import { ENTITY_KINDS } from '@yesca/core';
import { keptStore } from '../state/kept.ts';
import { KIND_DRAG } from '../state/drag.ts';
import { notify } from '../state/notify.ts';
import { KindSymbol } from '../fields/KindSymbol.tsx';
import { chooseTool } from '../tools/index.ts';
import { importWords, useImport } from './library/useImport.ts';
import { MaterialLibrary } from './library/MaterialLibrary.tsx';
import { useCurrent } from '../state/current.ts';
import { usePlaceOptions } from '../tools/place.ts';

type Shown = 'materials' | 'things';

/** Which half of Stock is open, kept in this browser. */
const useStockShows = keptStore<{ shown: Shown }>('stock', { shown: 'materials' }, ['shown']);

/** The heads under which kinds are listed, in the order in which they first come. */
const FAMILIES = [...new Set(ENTITY_KINDS.map((k) => k.family))];

/** The drawer of things to use: entities to place and materials to paint with. */
export function Stock() {
  const tool = useCurrent((s) => s.tool);
  const placed = usePlaceOptions((s) => s.what);
  const shown = useStockShows((s) => s.shown);
  // What a tool works with comes to hand with it.
  useEffect(() => {
    if (tool === 'place') useStockShows.setState({ shown: 'things' });
    if (tool === 'paint') useStockShows.setState({ shown: 'materials' });
  }, [tool]);
  const [search, setSearch] = useState('');
  const wanted = search.trim().toLowerCase();
  const found = ENTITY_KINDS.filter((k) => `${k.label} ${k.help}`.toLowerCase().includes(wanted));
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
        aria-label="What Stock shows"
        value={shown}
        data={[
          { value: 'materials', label: 'Materials' },
          { value: 'things', label: 'Things' },
        ]}
        onChange={(value) => useStockShows.setState({ shown: value as Shown })}
      />
      {shown === 'things' && (
        <section>
          <TextInput
            size="xs"
            mb={4}
            placeholder="Search things"
            aria-label="Search things"
            value={search}
            onChange={(e) => setSearch(e.currentTarget.value)}
          />
          {FAMILIES.map((family) => [family, found.filter((k) => k.family === family)] as const)
            .filter(([, kinds]) => kinds.length > 0)
            .map(([family, kinds]) => (
              <Stack gap={2} key={family} role="group" aria-label={family}>
                <span className="stock-family">{family}</span>
                <div className="stock-kinds">
                  {kinds.map((k) => {
                    return (
                      <Tooltip key={k.kind} label={k.help} position="right">
                        <UnstyledButton
                          className="row"
                          draggable
                          onDragStart={(e) => {
                            e.dataTransfer.setData(KIND_DRAG, k.kind);
                            e.dataTransfer.effectAllowed = 'copy';
                          }}
                          data-active={(tool === 'place' && placed === k.kind) || undefined}
                          onClick={() => {
                            usePlaceOptions.setState({ what: k.kind });
                            chooseTool('place');
                          }}
                        >
                          <KindSymbol kind={k.kind} size={18} />
                          {k.label}
                        </UnstyledButton>
                      </Tooltip>
                    );
                  })}
                </div>
              </Stack>
            ))}
          {found.length === 0 && (
            <Text size="xs" c="dimmed">
              Nothing is called that.
            </Text>
          )}
        </section>
      )}
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
          {busy ? (
            <Group gap={6} role="status">
              <Loader size="xs" />
              <Text size="xs" flex={1} truncate>
                {busy}
              </Text>
              <Button variant="default" size="compact-xs" onClick={stop}>
                Stop
              </Button>
            </Group>
          ) : null}
          <MaterialLibrary tall />
        </section>
      )}
    </Stack>
  );
}
