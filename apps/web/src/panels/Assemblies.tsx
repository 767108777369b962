import './library/library.css';
import { Button, Group, Menu, Text, Tooltip, UnstyledButton } from '@mantine/core';
import { useState } from 'react';
import { mutate } from 'swr';
import { useDropzone } from 'react-dropzone';
import type { AssemblyBody, AssemblyRow } from '@yesca/contract';
import { assemblyOf } from '@yesca/core';
import { api } from '../api/client.ts';
import { fileName, saveFile } from '../api/save-file.ts';
import { useAssembly } from '../state/assembly.ts';
import { useCurrent } from '../state/current.ts';
import { useEditor } from '../state/editor.ts';
import { notify, notifyError } from '../state/notify.ts';
import { useAssemblies } from '../state/remote.ts';
import { asPicked } from '../state/selection.ts';
import { chooseTool } from '../tools/index.ts';
import { ASSEMBLY, usePlaceOptions } from '../tools/place-options.ts';
import { askName } from './ask-name.tsx';
import { deleteAsked } from './library/delete-asked.ts';
import { MenuAt } from './MenuAt.tsx';
import { PlanAt } from './PlanPicture.tsx';

/** The selection as an assembly's text; null, and it is told, where it cannot be one. */
function selectionText(): string | null {
  const { doc, selection } = useEditor.getState();
  try {
    return assemblyOf(doc, asPicked(selection));
  } catch (error) {
    notifyError(error);
    return null;
  }
}

const reload = () => mutate('/api/assemblies');

/** Does something about assemblies on the server; what it refuses is told. */
async function doing(work: () => Promise<unknown>, said?: string): Promise<void> {
  try {
    await work();
    await reload();
    if (said) notify(said, 'assembly');
  } catch (error) {
    notifyError(error);
  }
}

const keep = (label: string, document: string) =>
  doing(() => api('POST', '/api/assemblies', { label, document }), `${label} is in Stock now.`);

/** Asks what the selection is called, and keeps it in Stock. */
export function keepSelection(): void {
  const text = selectionText();
  if (text) askName('Keep the selection in Stock', 'Assembly', (name) => void keep(name, text));
}

const countWords = ({ brushes, things }: AssemblyRow): string =>
  [
    ...(brushes ? [`${brushes} ${brushes === 1 ? 'brush' : 'brushes'}`] : []),
    ...(things ? [`${things} ${things === 1 ? 'thing' : 'things'}`] : []),
  ].join(', ');

async function takeInHand({ id, label }: AssemblyRow): Promise<void> {
  try {
    const { document: text } = await api<AssemblyBody>('GET', `/api/assemblies/${id}`);
    useAssembly.setState({ inHand: { id, label, text } });
    usePlaceOptions.setState({ what: ASSEMBLY });
    chooseTool('place');
  } catch (error) {
    notifyError(error);
  }
}

/** What of maps was kept to be placed again: pressed it is placed next. */
export function Assemblies() {
  const { data: rows = [] } = useAssemblies();
  const active = useCurrent((s) => s.tool === 'place');
  const placing = usePlaceOptions((s) => s.what === ASSEMBLY);
  const inHand = useAssembly((s) => s.inHand);
  const selected = useEditor(({ selection: s }) => s.brushes.size + s.entities.size + s.rooms.size > 0);
  const [menu, setMenu] = useState<{ row: AssemblyRow; x: number; y: number } | null>(null);
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    // Models are dropped on what lies round it.
    noDragEventsBubbling: true,
    onDrop: (files) =>
      void Promise.all(files.map(async (f) => keep(f.name.replace(/(\.yesca)?\.json$/i, ''), await f.text()))),
  });
  return (
    <section {...getRootProps({ className: 'stock-props' })} data-drop={isDragActive || undefined}>
      <input {...getInputProps({ 'aria-label': 'Map files to keep as assemblies', style: { display: 'none' } })} />
      <Group justify="space-between" wrap="nowrap">
        <span className="stock-family">Assemblies</span>
        <Tooltip label="Keeps what is selected in Stock, to be placed again here and in other maps; map files can also be dropped here">
          <Button variant="default" size="compact-xs" disabled={!selected} onClick={keepSelection}>
            Keep the selection
          </Button>
        </Tooltip>
      </Group>
      {rows.length === 0 && (
        <Text size="xs" c="dimmed">
          Select props, brushes and things that belong together, and keep them here to place them again.
        </Text>
      )}
      <div className="stock-prop-tiles">
        {rows.map((row) => (
          <Tooltip key={row.id} label={`${row.label}: ${countWords(row)}`} position="right">
            <UnstyledButton
              className="stock-prop"
              data-active={(active && placing && inHand?.id === row.id) || undefined}
              onClick={() => void takeInHand(row)}
              onContextMenu={(e) => {
                e.preventDefault();
                setMenu({ row, x: e.clientX, y: e.clientY });
              }}
              onKeyDown={(e) => {
                if (e.key === 'Delete') void removeAssembly(row);
              }}
            >
              <span className="stock-assembly">
                <PlanAt address={row.drawing} empty="" />
              </span>
              <span>{row.label}</span>
            </UnstyledButton>
          </Tooltip>
        ))}
      </div>
      {menu && <AssemblyMenu at={menu} selected={selected} onClose={() => setMenu(null)} />}
    </section>
  );
}

async function removeAssembly({ id, label }: AssemblyRow): Promise<void> {
  try {
    if (!(await deleteAsked(label, `/api/assemblies/${id}`, 'What was placed of it stays in the maps.'))) return;
    if (useAssembly.getState().inHand?.id === id) useAssembly.setState({ inHand: null });
    await reload();
    notify(`${label} is no longer in Stock.`, 'assembly');
  } catch (error) {
    notifyError(error);
  }
}

/** What can be done with an assembly. */
function AssemblyMenu({
  at,
  selected,
  onClose,
}: {
  at: { row: AssemblyRow; x: number; y: number };
  selected: boolean;
  onClose: () => void;
}) {
  const { row } = at;
  const change = (body: object, said: string) => doing(() => api('PATCH', `/api/assemblies/${row.id}`, body), said);
  return (
    <MenuAt at={at} onClose={onClose}>
      <Menu.Item onClick={() => void takeInHand(row)}>Place it</Menu.Item>
      <Menu.Item
        disabled={!selected}
        onClick={() => {
          const document = selectionText();
          if (document) void change({ document }, `${row.label} is what was selected from now on.`);
        }}
      >
        Keep the selection in its place
      </Menu.Item>
      <Menu.Item
        onClick={() =>
          askName('Rename the assembly', row.label, (label) => void change({ label }, `It is called ${label} now.`))
        }
      >
        Rename …
      </Menu.Item>
      <Menu.Item
        onClick={() =>
          void doing(async () => {
            const { document } = await api<AssemblyBody>('GET', `/api/assemblies/${row.id}`);
            saveFile(fileName(row.label, '.yesca.json'), document);
          })
        }
      >
        Save as a map file
      </Menu.Item>
      <Menu.Item onClick={() => void removeAssembly(row)}>Delete …</Menu.Item>
    </MenuAt>
  );
}
