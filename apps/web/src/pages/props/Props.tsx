import { Button, Group, Select, SimpleGrid, Stack, TagsInput, Text, Title } from '@mantine/core';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import useSWR from 'swr';
import type { PackRow, PropUse } from '@yesca/contract';
import { boxSize, COLLISION_WORDS, PROP_COLLISIONS, SUBSTANCES, type PropCollision } from '@yesca/core';
import type { Prop } from '@yesca/stock';
import { api, get } from '../../api/client.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { TextField } from '../../fields/TextField.tsx';
import { removeProp } from '../../panels/library/imported-props.ts';
import { PropLibrary, sizeWords } from '../../panels/library/PropLibrary.tsx';
import { useModelImport } from '../../panels/library/useImport.ts';
import { isImported, useLibrary } from '../../state/library.ts';
import { notifyError } from '../../state/notify.ts';
import { usePacks, useProps } from '../../state/remote.ts';
import { Facts } from '../stock/Facts.tsx';
import type { Outcome } from '../stock/ImportReport.tsx';
import { Packs } from '../stock/Packs.tsx';
import { StockPage } from '../stock/StockPage.tsx';
import { PropPreview } from './PropPreview.tsx';

/** All props: looked at from all sides, imported, described, packed and removed. */
export function Props() {
  const { mutate: reload } = useProps();
  const { data: packs, mutate: reloadPacks } = usePacks();
  const props = useLibrary((s) => s.props);
  const [params, setParams] = useSearchParams();
  const [report, setReport] = useState<Outcome | null>(null);
  const importing = useModelImport();
  const name = params.get('name') ?? report?.added[0]?.name ?? [...props.keys()][0] ?? '';
  const chosen = props.get(name);
  const show = (n: string) => setParams({ name: n });
  const refresh = async () => void (await Promise.all([reload(), reloadPacks()]));
  const doing = (work: () => Promise<unknown>) => void work().then(refresh, notifyError);
  const take = async (files: readonly File[]) => {
    const answer = await importing.take(files);
    if (!answer) return;
    setReport(answer);
    if (answer.added[0]) show(answer.added[0].name);
  };
  return (
    <StockPage
      title="Props"
      about={props.size > 0 ? `${props.size} in stock` : ''}
      files="Models of glTF 2.0: .glb, .gltf with its files, or a ZIP of them"
      importing={importing}
      onFiles={(files) => void take(files)}
      list={
        <div className="stock-props">
          <PropLibrary chosen={name} onChoose={show} />
        </div>
      }
      report={report}
      onReport={setReport}
      onShow={show}
      name={props.size > 0 ? name : null}
      detail={chosen && <Detail key={chosen.name} prop={chosen} doing={doing} packs={packs ?? []} refresh={refresh} />}
      packs={
        <Packs
          packs={packs ?? []}
          doing={doing}
          help="Import a ZIP of models and they make a pack of its name; single ones go to the pack Models. An exported pack is a ZIP that another Yesca imports with tags, collision and all."
        />
      }
    />
  );
}

/** What it collides as, as the beginning of a line. */
const collisionName = (c: PropCollision): string =>
  COLLISION_WORDS[c].charAt(0).toUpperCase() + COLLISION_WORDS[c].slice(1);

/** One prop: turned about, what is known of it, and where it stands. */
function Detail({
  prop,
  doing,
  packs,
  refresh,
}: {
  prop: Prop;
  doing: (work: () => Promise<unknown>) => void;
  packs: readonly PackRow[];
  refresh: () => Promise<void>;
}) {
  const { data: uses } = useSWR(`/api/props/${prop.name}/uses`, get<PropUse[]>);
  const change = (part: object) => doing(() => api('PATCH', `/api/props/${prop.name}`, part));
  const own = isImported(prop);
  return (
    <div className="stock-detail">
      <PropPreview prop={prop} />
      <Stack gap={8} className="stock-facts">
        <Group justify="space-between" wrap="nowrap">
          <Title order={2} size="h4">
            {prop.label}
          </Title>
          {own && (
            <Button variant="default" color="red" onClick={() => void removeProp(prop, refresh)}>
              Delete …
            </Button>
          )}
        </Group>
        <Text size="xs" c="dimmed">
          {sizeWords(prop)} cm · in maps <span className="mono">{prop.name}</span> ·{' '}
          {own ? (packs.find((p) => p.id === prop.pack)?.name ?? 'imported') : 'comes with Yesca'}
        </Text>
        <SimpleGrid cols={2} spacing={8}>
          <Facts rows={factsOf(prop)} />
          {own ? <Said prop={prop} packs={packs} change={change} /> : <Facts rows={saidOf(prop)} />}
        </SimpleGrid>
        <Text size="xs">{usesWords(uses)}</Text>
      </Stack>
    </div>
  );
}

/** Where the pivot of a prop lies, from the middle of its foot: what stands at its place in maps, and what it turns about. */
function Pivot({ prop, change }: { prop: Prop; change: (part: object) => void }) {
  const { min, max } = prop.bounds;
  const foot = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, min[2]] as const;
  return (
    <SimpleGrid cols={3} spacing={4} style={{ gridColumn: '1 / -1' }}>
      {(['X', 'Y', 'Z'] as const).map((axis, k) => (
        <LengthField
          key={axis}
          label={`Pivot ${axis}`}
          tip="From the middle of its foot: this place stands where it is placed, and it turns about it; where it stands in maps it moves"
          value={Math.round(-foot[k]! * 100) / 100 + 0}
          onChange={(v) => change({ pivot: foot.map((c, i) => (i === k ? c + v : 0)) })}
        />
      ))}
    </SimpleGrid>
  );
}

/** What is said of an imported prop, to be changed. */
function Said({ prop, packs, change }: { prop: Prop; packs: readonly PackRow[]; change: (part: object) => void }) {
  const side = Math.max(...boxSize(prop.bounds));
  return (
    <>
      <TextField label="Label" value={prop.label} onChange={(label) => change({ label })} />
      <LengthField
        label="Largest side"
        tip="Another length makes all of it larger or smaller, in every map where it stands"
        value={Math.round(side * 100) / 100}
        onChange={(v) => change({ grow: v / side })}
      />
      <Pivot prop={prop} change={change} />
      <Select
        label="Collides as"
        allowDeselect={false}
        data={PROP_COLLISIONS.filter((c) => c !== 'drawn' || prop.drawn).map((value) => ({
          value,
          label: collisionName(value),
        }))}
        value={prop.collision}
        onChange={(v) => v && change({ collision: v })}
      />
      <Select
        label="Substance"
        allowDeselect={false}
        data={[...SUBSTANCES]}
        value={prop.substance}
        onChange={(v) => v && change({ substance: v })}
      />
      <Select
        label="Pack"
        allowDeselect={false}
        data={packs.map(({ id, name }) => ({ value: id, label: name }))}
        value={prop.pack ?? null}
        onChange={(v) => v && change({ pack: v })}
      />
      <TagsInput
        size="xs"
        label="Tags"
        placeholder="Type a word and Enter"
        value={[...prop.tags]}
        onChange={(tags) => change({ tags })}
        style={{ gridColumn: '1 / -1' }}
      />
    </>
  );
}

/** What nobody can say otherwise. */
const factsOf = ({ triangles, hulls, lights }: Prop) =>
  [
    ['Triangles', triangles.toLocaleString('en')],
    ['Convex parts', String(hulls.length)],
    ...(lights.length > 0
      ? [['Shines', lights.map((l) => `${Math.round(l.candela)} cd, ${Math.round(l.kelvin)} K`).join('; ')] as const]
      : []),
  ] as const;

/** What is said of a prop that ships. */
const saidOf = ({ collision, substance, tags }: Prop) =>
  [
    ['Collides as', collisionName(collision)],
    ['Substance', substance],
    ['Tags', tags.join(', ')],
  ] as const;

const usesWords = (uses: readonly PropUse[] | undefined): string =>
  uses === undefined
    ? '\u00a0'
    : uses.length === 0
      ? 'It stands in no map.'
      : `Stands in ${uses.map((u) => `${u.map} (${u.things === 1 ? 'once' : `${u.things} times`})`).join(', ')}.`;
