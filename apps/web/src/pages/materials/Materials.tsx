import { Button, Group, Select, SimpleGrid, Stack, TagsInput, Text, Title } from '@mantine/core';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import useSWR from 'swr';
import type { MaterialUse, PackRow } from '@yesca/contract';
import { SUBSTANCES, usedWords } from '@yesca/core';
import type { Material } from '@yesca/stock';
import { api, get } from '../../api/client.ts';
import { useMaterials, usePacks } from '../../state/remote.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { TextField } from '../../fields/TextField.tsx';
import { MaterialLibrary } from '../../panels/library/MaterialLibrary.tsx';
import { deleteAsked } from '../../panels/library/delete-asked.ts';
import { useImport } from '../../panels/library/useImport.ts';
import { useLibrary, WORKSHOP } from '../../state/library.ts';
import { notify, notifyError } from '../../state/notify.ts';
import { Facts } from '../stock/Facts.tsx';
import type { Outcome } from '../stock/ImportReport.tsx';
import { Packs } from '../stock/Packs.tsx';
import { StockPage } from '../stock/StockPage.tsx';
import { LitPreview } from './LitPreview.tsx';
import { RegionEditor } from './RegionEditor.tsx';

/** All materials: looked at, imported, described, packed and removed. */
export function Materials() {
  const { mutate: reload } = useMaterials();
  const { data: packs, mutate: reloadPacks } = usePacks();
  const materials = useLibrary((s) => s.materials);
  const [params, setParams] = useSearchParams();
  const [report, setReport] = useState<Outcome | null>(null);
  const importing = useImport();
  const name = params.get('name') ?? report?.added[0]?.name ?? 'tide-stone';
  const chosen = materials.get(name);
  const show = (n: string) => setParams({ name: n });
  const refresh = async () => void (await Promise.all([reload(), reloadPacks()]));
  const doing = (work: () => Promise<unknown>) => void work().then(refresh, notifyError);

  const take = async (files: readonly File[]) => {
    const answer = await importing.take(files);
    if (!answer) return;
    setReport({ ...answer, added: answer.added.map((a) => ({ ...a, notes: a.note ? [a.note] : [] })) });
    if (answer.added[0]) show(answer.added[0].name);
  };
  return (
    <StockPage
      title="Materials"
      about={`${materials.size} in stock`}
      files="PNG, JPEG or WebP pictures, or a ZIP of them"
      importing={importing}
      onFiles={(files) => void take(files)}
      list={<MaterialLibrary tall chosen={name} onChoose={show} />}
      report={report}
      onReport={setReport}
      onShow={show}
      name={name}
      detail={chosen && <Detail key={chosen.name} material={chosen} doing={doing} packs={packs ?? []} />}
      packs={
        <Packs
          packs={packs ?? []}
          doing={doing}
          help="Import pictures and they make a pack. Files that end in _normal or _roughness join the picture of the same name; a size such as 200cm in a name sets the density."
        />
      }
    />
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
  const ships = material.pack === WORKSHOP;
  const { data: uses } = useSWR(`/api/materials/${material.name}/uses`, get<MaterialUse[]>);
  const favourite = useLibrary((s) => s.favourites.includes(material.name));
  const change = (part: Partial<Material>) => doing(() => api('PATCH', `/api/materials/${material.name}`, part));
  const remove = () =>
    doing(async () => {
      const { name, label } = material;
      if (await deleteAsked(label, `/api/materials/${name}`)) notify(`${label} is deleted.`);
    });
  return (
    <div className="stock-detail">
      <LitPreview material={material} />
      <Stack gap={8} className="stock-facts">
        <Group justify="space-between" wrap="nowrap">
          <Title order={2} size="h4">
            {material.label}
          </Title>
          <Group gap={4}>
            <Button variant="default" onClick={() => useLibrary.getState().toggleFavourite(material.name)}>
              {favourite ? 'Kept' : 'Keep as favourite'}
            </Button>
            {!ships && (
              <Button variant="default" color="red" onClick={remove}>
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
            <Facts rows={factsOf(material)} />
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
              : `Used by ${uses.map((u) => `${u.map} (${usedWords(u)})`).join(', ')}.`}
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
const factsOf = (material: Material) =>
  [
    ['Density', `${Math.round(material.texelsPerCm * 100)} texels a metre`],
    ['Substance', material.substance],
    ['Solidity', SOLIDITY.find((s) => s.value === material.solidity)!.label],
    ['Roughness', String(material.roughness)],
    ['Tags', material.tags.join(', ')],
    ['Colour', material.average],
  ] as const;
