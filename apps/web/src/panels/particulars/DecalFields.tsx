import { Button, Group, Select, SimpleGrid, Text, Tooltip } from '@mantine/core';
import { call, decalOf, decalTurn, length, type CommandArgs, type Decal, type Entity } from '@yesca/core';
import { DECAL_TAG } from '@yesca/stock';
import { LengthField } from '../../fields/LengthField.tsx';
import { useCurrent } from '../../state/current.ts';
import { materialLabel, useLibrary } from '../../state/library.ts';
import { selectOnly, type Thing } from '../../state/selection.ts';
import { useEditor } from '../../state/editor.ts';
import { run } from './shared.tsx';

const SIDES = [
  ['across', 'width', 'Width', 'Along its picture from left to right'],
  ['upward', 'height', 'Height', 'Along its picture from foot to top'],
  ['through', 'depth', 'Depth', 'How deep the box is within which it is seen: half before the surface, half behind'],
] as const;

/** The box of decals: its sizes and turn, and what they were chosen to fall on. */
export function DecalFields({ entities }: { entities: readonly Entity[] }) {
  const decals = entities.map((e) => decalOf(e)!);
  const change = (label: string, box: Omit<CommandArgs<'decal.box'>, 'things'>) =>
    run(call('decal.box', { things: entities.map((e) => e.id), label, ...box }));
  const same = (values: readonly number[]): number | null =>
    values.every((v) => Math.abs(v - values[0]!) < 0.01) ? Math.round(values[0]! * 100) / 100 : null;
  const chosen = decals.filter((d) => d.targets === 'chosen');
  const targets: Thing[] = [...new Set(chosen.flatMap((d) => d.brushes))].map((id): Thing => ({ type: 'brush', id }));
  targets.push(...[...new Set(chosen.flatMap((d) => d.things))].map((id): Thing => ({ type: 'entity', id })));
  const shows = (material: string, region: string) =>
    run(call('thing.change', { things: entities.map((e) => e.id), label: 'Show', params: { material, region } }));
  const values = new Set(decals.map((d) => pictureKey(d.material, d.region)));
  const active = useCurrent((s) => s.material);
  return (
    <>
      <Tooltip label="Which picture it shows: one of those in Stock, Decals, or the active material">
        <Select
          label="Picture"
          searchable
          placeholder={values.size > 1 ? 'mixed' : 'none'}
          data={usePictures(decals)}
          value={values.size === 1 ? [...values][0]! : null}
          onChange={(key) => key && shows(...(key.split('\n') as [string, string]))}
        />
      </Tooltip>
      <SimpleGrid cols={3} spacing={4}>
        {SIDES.map(([way, key, label, tip]) => (
          <LengthField
            key={key}
            label={label}
            tip={tip}
            value={same(decals.map((d) => length(d[way])))}
            onChange={(to) => change(label, { [key]: to })}
          />
        ))}
      </SimpleGrid>
      <LengthField
        label="Turn"
        tip="On the surface, counter-clockwise seen from before it"
        unit="°"
        value={same(decals.map(decalTurn))}
        onChange={(turn) => change('Turn', { turn })}
      />
      <Group gap={4}>
        <Tooltip label="Shows its picture from the other side, left for right">
          <Button size="compact-xs" variant="default" onClick={() => change('Flip', { flip: true })}>
            Flip
          </Button>
        </Tooltip>
        <Tooltip label="As large as its picture is at its own density">
          <Button size="compact-xs" variant="default" onClick={() => change('Natural size', { natural: true })}>
            Natural size
          </Button>
        </Tooltip>
        <Tooltip label={`Shows ${materialLabel(active)}, the active material, all of it`}>
          <Button size="compact-xs" variant="default" onClick={() => shows(active, '')}>
            Active material
          </Button>
        </Tooltip>
        {targets.length > 0 && (
          <Tooltip label="Selects the brushes and props that it falls on">
            <Button
              size="compact-xs"
              variant="default"
              onClick={() => useEditor.getState().select(selectOnly(targets))}
            >
              Select what it falls on
            </Button>
          </Tooltip>
        )}
      </Group>
      {chosen.length > 0 && (
        <Text size="xs" c="dimmed">
          It falls on {targets.length === 1 ? 'one thing' : `${targets.length} things`}. For others select them with it
          (Shift), then command Let decals fall on the rest of the selection.
        </Text>
      )}
    </>
  );
}

const pictureKey = (material: string, region: string): string => `${material}\n${region}`;

/** The pictures to choose from: those of Stock by their sheets, and those that are shown already. */
function usePictures(decals: readonly Decal[]): { group: string; items: { value: string; label: string }[] }[] {
  const materials = useLibrary((s) => s.materials);
  const sheets = [...materials.values()].filter(
    (m) => m.tags.includes(DECAL_TAG) || decals.some((d) => d.material === m.name),
  );
  const gone = [...new Set(decals.map((d) => d.material))].filter((name) => name !== '' && !materials.has(name));
  return [
    ...sheets.map(({ name, label, regions = [] }) => ({
      group: label,
      items: [...regions.map((r) => r.name), ''].map((region) => ({
        value: pictureKey(name, region),
        label: region || `${label}, all of it`,
      })),
    })),
    ...gone.map((name) => ({
      group: `${name} (not in Stock)`,
      items: [...new Set(decals.flatMap((d) => (d.material === name ? [d.region] : [])))].map((region) => ({
        value: pictureKey(name, region),
        label: region || name,
      })),
    })),
  ];
}
