import './materials.css';
import {
  ActionIcon,
  Anchor,
  Button,
  Group,
  Menu,
  Select,
  SimpleGrid,
  Stack,
  TagsInput,
  Text,
  Title,
  Tooltip,
} from '@mantine/core';
import { modals } from '@mantine/modals';
import { IconDots, IconUpload } from '@tabler/icons-react';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useSearchParams } from 'react-router';
import useSWR from 'swr';
import type { ImportReport, MaterialUse, PackRow } from '@yesca/contract';
import { SUBSTANCES } from '@yesca/core';
import type { Material } from '@yesca/stock';
import { api, ApiError, get } from '../../api/client.ts';
import { useMaterials, usePacks } from '../../state/remote.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { TextField } from '../../fields/TextField.tsx';
import { askName } from '../../panels/ask-name.tsx';
import { MaterialLibrary } from '../../panels/library/MaterialLibrary.tsx';
import { UploadBusy } from '../../panels/library/UploadBusy.tsx';
import { useImport } from '../../panels/library/useImport.ts';
import { useLibrary } from '../../state/library.ts';
import { notify, notifyError } from '../../state/notify.ts';
import { PageHead } from '../PageHead.tsx';
import { LitPreview } from './LitPreview.tsx';
import { RegionEditor } from './RegionEditor.tsx';

/** All materials: looked at, imported, described, packed and removed. */
export function Materials() {
  const { mutate: reload } = useMaterials();
  const { data: packs, mutate: reloadPacks } = usePacks();
  const materials = useLibrary((s) => s.materials);
  const [params, setParams] = useSearchParams();
  const [report, setReport] = useState<ImportReport | null>(null);
  const importing = useImport();
  const { busy, stop } = importing;
  const name = params.get('name') ?? report?.added[0]?.name ?? 'tide-stone';
  const chosen = materials.get(name);
  const refresh = async () => void (await Promise.all([reload(), reloadPacks()]));
  const doing = (work: () => Promise<unknown>) => void work().then(refresh, notifyError);

  const take = async (files: readonly File[]) => {
    const answer = await importing.take(files);
    if (!answer) return;
    setReport(answer);
    if (answer.added[0]) setParams({ name: answer.added[0].name });
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => void take(files),
    noClick: true,
    noKeyboard: true,
    useFsAccessApi: false,
  });
  return (
    <div {...getRootProps({ className: 'materials' })}>
      <input
        {...getInputProps({ 'aria-label': 'Files to import', style: { display: 'none' } })}
        data-testid="import-files"
      />
      <PageHead title="Materials" about={`${materials.size} in stock`}>
        {busy && <UploadBusy busy={busy} stop={stop} />}
        <Tooltip label="PNG, JPEG or WebP pictures, or a ZIP of them; they can also be dropped anywhere here">
          <Button className="act" leftSection={<IconUpload size={14} />} onClick={open} disabled={busy !== null}>
            Import …
          </Button>
        </Tooltip>
      </PageHead>
      <aside className="materials-list">
        <MaterialLibrary tall chosen={name} onChoose={(n) => setParams({ name: n })} />
      </aside>
      <main className="materials-detail">
        {report && <Report report={report} onClose={() => setReport(null)} onShow={(n) => setParams({ name: n })} />}
        {chosen ? (
          <Detail key={chosen.name} material={chosen} doing={doing} packs={packs ?? []} />
        ) : (
          <Text c="dimmed">Nothing in Stock is called {name}. Choose another one on the left, or import its pack.</Text>
        )}
      </main>
      <aside className="materials-packs">
        <Packs packs={packs ?? []} doing={doing} />
      </aside>
      {isDragActive && <div className="materials-drop">Drop pictures or a ZIP to import them</div>}
    </div>
  );
}

/** What became of an import. */
function Report({
  report,
  onClose,
  onShow,
}: {
  report: ImportReport;
  onClose: () => void;
  onShow: (name: string) => void;
}) {
  const { added, same, refused, pack } = report;
  return (
    <section className="import-report" role="status" data-testid="import-report">
      <Group justify="space-between" wrap="nowrap">
        <Text fw={620}>
          {added.length === 0 ? 'Nothing new was imported' : `${added.length} imported into ${pack.name}`}
        </Text>
        <Button variant="default" size="compact-xs" onClick={onClose}>
          Close
        </Button>
      </Group>
      {added.slice(0, 40).map((a) => (
        <Text key={a.file} size="xs">
          <Anchor component="button" type="button" size="xs" onClick={() => onShow(a.name)}>
            {a.name}
          </Anchor>{' '}
          from {a.file}. {a.note}
        </Text>
      ))}
      {added.length > 40 && <Text size="xs">and {added.length - 40} more.</Text>}
      {same.map((s) => (
        <Text key={s.file} size="xs" c="var(--ochre)">
          {s.file} was there already as{' '}
          <Anchor component="button" type="button" size="xs" onClick={() => onShow(s.name)}>
            {s.name}
          </Anchor>
          .
        </Text>
      ))}
      {refused.slice(0, 60).map((r, i) => (
        <Text key={`${r.file} ${i}`} size="xs" c="var(--madder)">
          {r.file}: {r.message}
        </Text>
      ))}
    </section>
  );
}

const SOLIDITY = [
  { value: 'solid', label: 'Solid' },
  { value: 'cutOut', label: 'Cut-out: texels are there or not' },
  { value: 'seeThrough', label: 'See-through' },
];

/** One material: lit preview, what is known of it, its regions and where it is used. */
function Detail({
  material,
  doing,
  packs,
}: {
  material: Material;
  doing: (work: () => Promise<unknown>) => void;
  packs: readonly PackRow[];
}) {
  const ships = material.pack === 'workshop';
  const { data: uses } = useSWR(`/api/materials/${material.name}/uses`, get<MaterialUse[]>);
  const favourite = useLibrary((s) => s.favourites.includes(material.name));
  const change = (part: Partial<Material>) => doing(() => api('PATCH', `/api/materials/${material.name}`, part));
  const remove = (force: boolean) =>
    doing(() =>
      api('DELETE', `/api/materials/${material.name}${force ? '?force=1' : ''}`)
        .then(() => notify(`${material.label} is deleted.`))
        .catch((error: unknown) => {
          if (!(error instanceof ApiError) || error.code !== 'material.used') throw error;
          askAgain(error.message, () => remove(true));
        }),
    );
  return (
    <div className="material-detail">
      <LitPreview material={material} />
      <Stack gap={8} className="material-facts">
        <Group justify="space-between" wrap="nowrap">
          <Title order={2} size="h4">
            {material.label}
          </Title>
          <Group gap={4}>
            <Button variant="default" onClick={() => useLibrary.getState().toggleFavourite(material.name)}>
              {favourite ? 'Kept' : 'Keep as favourite'}
            </Button>
            {!ships && (
              <Button variant="default" color="red" onClick={() => remove(false)}>
                Delete …
              </Button>
            )}
          </Group>
        </Group>
        <Text size="xs" c="dimmed">
          {material.width} × {material.height} · in maps <span className="mono">{material.name}</span> ·{' '}
          {ships ? 'comes with Yesca' : (packs.find((p) => p.id === material.pack)?.name ?? 'imported')}
          {material.glow ? ` · glows with ${material.glow} nits` : ''}
        </Text>
        <SimpleGrid cols={2} spacing={8}>
          {ships ? (
            <Facts material={material} />
          ) : (
            <>
              <TextField label="Label" value={material.label} onChange={(label) => change({ label })} />
              <LengthField
                label="Density"
                tip="Texels a metre at natural size"
                unit="tx/m"
                value={material.texelsPerCm * 100}
                onChange={(v) => change({ texelsPerCm: v / 100 })}
              />
              <Select
                label="Substance"
                allowDeselect={false}
                data={[...SUBSTANCES]}
                value={material.substance}
                onChange={(v) => v && change({ substance: v as Material['substance'] })}
              />
              <Select
                label="Solidity"
                allowDeselect={false}
                data={SOLIDITY}
                value={material.solidity}
                onChange={(v) => v && change({ solidity: v as Material['solidity'] })}
              />
              <TagsInput
                size="xs"
                label="Tags"
                placeholder="Type a word and Enter"
                value={[...material.tags]}
                onChange={(tags) => change({ tags })}
                style={{ gridColumn: '1 / -1' }}
              />
            </>
          )}
        </SimpleGrid>
        <Text size="xs">
          {uses === undefined
            ? ' '
            : uses.length === 0
              ? 'No map uses it.'
              : `Used by ${uses.map((u) => `${u.map} (${u.faces} ${u.faces === 1 ? 'face' : 'faces'})`).join(', ')}.`}
        </Text>
      </Stack>
      <section className="material-regions">
        <h3 className="panel-title">Regions</h3>
        <RegionEditor
          material={material}
          onChange={ships ? undefined : (regions) => change({ regions: regions.map((r) => ({ ...r })) })}
        />
      </section>
    </div>
  );
}

/** What is known of a material that ships and is not changed. */
function Facts({ material }: { material: Material }) {
  const rows = [
    ['Density', `${Math.round(material.texelsPerCm * 100)} texels a metre`],
    ['Substance', material.substance],
    ['Solidity', SOLIDITY.find((s) => s.value === material.solidity)!.label],
    ['Roughness', String(material.roughness)],
    ['Tags', material.tags.join(', ')],
    ['Colour', material.average],
  ] as const;
  return rows.map(([label, value]) => (
    <div key={label}>
      <Text size="xs" c="dimmed">
        {label}
      </Text>
      <Text size="sm">{value}</Text>
    </div>
  ));
}

function askAgain(message: string, then: () => void): void {
  modals.openConfirmModal({
    title: 'Maps use it',
    children: message,
    labels: { confirm: 'Delete all the same', cancel: 'Keep it' },
    onConfirm: then,
  });
}

/** The imported packs. */
function Packs({ packs, doing }: { packs: readonly PackRow[]; doing: (work: () => Promise<unknown>) => void }) {
  const { packsOff, togglePack } = useLibrary();
  const remove = (pack: PackRow, force: boolean) =>
    doing(() =>
      api('DELETE', `/api/packs/${pack.id}${force ? '?force=1' : ''}`).catch((error: unknown) => {
        if (!(error instanceof ApiError) || error.code !== 'material.used') throw error;
        askAgain(error.message, () => remove(pack, true));
      }),
    );
  return (
    <Stack gap={6}>
      <h3 className="panel-title">Packs</h3>
      {[{ id: 'workshop', name: 'Workshop', materials: null }, ...packs].map((pack) => (
        <Group key={pack.id} gap={4} wrap="nowrap" justify="space-between" className="pack-row">
          <div>
            <Text
              size="sm"
              fw={packsOff.includes(pack.id) ? 400 : 620}
              c={packsOff.includes(pack.id) ? 'dimmed' : undefined}
            >
              {pack.name}
            </Text>
            <Text size="xs" c="dimmed">
              {pack.materials === null ? 'comes with Yesca' : `${pack.materials} materials`}
              {packsOff.includes(pack.id) ? ' · off' : ''}
            </Text>
          </div>
          <Menu shadow="md" position="bottom-end">
            <Menu.Target>
              <ActionIcon aria-label={`What to do with the pack ${pack.name}`}>
                <IconDots size={16} stroke={1.5} />
              </ActionIcon>
            </Menu.Target>
            <Menu.Dropdown>
              <Menu.Item onClick={() => togglePack(pack.id)}>
                {packsOff.includes(pack.id) ? 'Show in the library' : 'Leave out of the library'}
              </Menu.Item>
              {pack.materials !== null && (
                <>
                  <Menu.Item component="a" href={`/api/packs/${pack.id}/export`} download>
                    Export as ZIP
                  </Menu.Item>
                  <Menu.Item
                    onClick={() =>
                      askName('Rename pack', pack.name, (name) =>
                        doing(() => api('PATCH', `/api/packs/${pack.id}`, { name })),
                      )
                    }
                  >
                    Rename …
                  </Menu.Item>
                  <Menu.Item onClick={() => remove(pack as PackRow, false)}>Delete …</Menu.Item>
                </>
              )}
            </Menu.Dropdown>
          </Menu>
        </Group>
      ))}
      <Text size="xs" c="dimmed">
        Import pictures and they make a pack. Files that end in _normal or _roughness join the picture of the same name;
        a size such as 200cm in a name sets the density.
      </Text>
    </Stack>
  );
}
