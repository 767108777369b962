import { Anchor, Button, Group, Loader, Stack, Text, Tooltip, UnstyledButton } from '@mantine/core';
import { useDropzone } from 'react-dropzone';
import { Link } from 'react-router';
import { ENTITY_KINDS } from '@yesca/core';
import { notify } from '../state/notify.ts';
import { KindSymbol } from '../fields/KindSymbol.tsx';
import { chooseTool } from '../tools/index.ts';
import { importWords, useImport } from './library/useImport.ts';
import { MaterialLibrary } from './library/MaterialLibrary.tsx';
import { useCurrent } from '../state/current.ts';
import { usePlaceOptions } from '../tools/place.ts';

/** The drawer of things to use: entities to place and materials to paint with. */
export function Stock() {
  const tool = useCurrent((s) => s.tool);
  const placed = usePlaceOptions((s) => s.what);
  const { busy, stop, take } = useImport();
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => void take(files).then((report) => report && notify(importWords(report), 'import')),
  });
  return (
    <Stack gap={10} p={10} className="stock">
      <section>
        <h3 className="panel-title">Things</h3>
        <Stack gap={2}>
          {ENTITY_KINDS.map((k) => {
            return (
              <Tooltip key={k.kind} label={k.help} position="right">
                <UnstyledButton
                  className="row"
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
        </Stack>
      </section>
      <section {...getRootProps({ className: 'stock-materials' })} data-drop={isDragActive || undefined}>
        <input {...getInputProps({ 'aria-label': 'Pictures to import', style: { display: 'none' } })} />
        <Group justify="space-between" wrap="nowrap">
          <h3 className="panel-title">Materials</h3>
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
    </Stack>
  );
}
