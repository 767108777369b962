import { Anchor, Button, Group, Tooltip } from '@mantine/core';
import { useDropzone } from 'react-dropzone';
import { Link } from 'react-router';
import { useCurrent } from '../state/current.ts';
import { notify } from '../state/notify.ts';
import { chooseTool } from '../tools/index.ts';
import { PLACED_PROP, STREWN, usePlaceOptions } from '../tools/place-options.ts';
import { Assemblies } from './Assemblies.tsx';
import { reportWords } from './library/imported-props.ts';
import { PropLibrary } from './library/PropLibrary.tsx';
import { UploadBusy } from './library/UploadBusy.tsx';
import { useModelImport } from './library/useImport.ts';

/** The models that can be placed: pressed one is placed next, dragged it is dropped on a pane. */
export function StockProps() {
  const { busy, stop, take } = useModelImport();
  const active = useCurrent((s) => s.tool === 'place');
  const chosen = usePlaceOptions((s) => (s.what === PLACED_PROP || s.what === STREWN ? s.prop : null));
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
        <Group justify="space-between" wrap="nowrap">
          <Tooltip label="Models of glTF 2.0: .glb, .gltf with its files, or a ZIP; they can also be dropped here">
            <Button variant="default" size="compact-xs" onClick={open}>
              Import models
            </Button>
          </Tooltip>
          <Tooltip label="Look at them closely; sizes, tags, collision and packs">
            <Anchor component={Link} to="/props" size="xs">
              Manage
            </Anchor>
          </Tooltip>
        </Group>
      )}
      <Assemblies />
      <PropLibrary
        chosen={active ? chosen : null}
        onChoose={(prop) => {
          usePlaceOptions.setState((s) => ({ what: s.what === STREWN ? STREWN : PLACED_PROP, prop }));
          chooseTool('place');
        }}
      />
    </section>
  );
}
