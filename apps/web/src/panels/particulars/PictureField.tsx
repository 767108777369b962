import { Button, Group, Select, Tooltip } from '@mantine/core';
import { call, type Decal, type Entity } from '@yesca/core';
import type { Material } from '@yesca/stock';
import { useCurrent } from '../../state/current.ts';
import { materialLabel, useLibrary } from '../../state/library.ts';
import { run } from './shared.tsx';

type Picture = Pick<Decal, 'material' | 'region'>;

interface Props {
  readonly entities: readonly Entity[];
  /** What each of them shows. */
  readonly shown: readonly Picture[];
  /** Whose pictures there are to choose from, besides those that are shown. */
  readonly suits: (material: Material) => boolean;
}

/** Which picture things show: a material, or a region of one. */
export function PictureField({ entities, shown, suits }: Props) {
  const values = new Set(shown.map((d) => pictureKey(d.material, d.region)));
  const active = useCurrent((s) => s.material);
  const shows = (material: string, region: string) =>
    run(call('thing.change', { things: entities.map((e) => e.id), label: 'Show', params: { material, region } }));
  return (
    <Group gap={4} align="flex-end" wrap="nowrap">
      <Tooltip label="Which picture it shows: one of those in Stock that suit it, or the active material">
        <Select
          flex={1}
          label="Picture"
          searchable
          placeholder={values.size > 1 ? 'mixed' : 'none'}
          data={usePictures(shown, suits)}
          value={values.size === 1 ? [...values][0]! : null}
          onChange={(key) => key && shows(...(key.split('\n') as [string, string]))}
        />
      </Tooltip>
      <Tooltip label={`Shows ${materialLabel(active)}, the active material, all of it`}>
        <Button size="xs" variant="default" onClick={() => shows(active, '')}>
          Active
        </Button>
      </Tooltip>
    </Group>
  );
}

const pictureKey = (material: string, region: string): string => `${material}\n${region}`;

/** The pictures to choose from: those of Stock by their sheets, and those that are shown already. */
function usePictures(
  shown: readonly Picture[],
  suits: (material: Material) => boolean,
): { group: string; items: { value: string; label: string }[] }[] {
  const materials = useLibrary((s) => s.materials);
  const sheets = [...materials.values()].filter((m) => suits(m) || shown.some((d) => d.material === m.name));
  const gone = [...new Set(shown.map((d) => d.material))].filter((name) => name !== '' && !materials.has(name));
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
      items: [...new Set(shown.flatMap((d) => (d.material === name ? [d.region] : [])))].map((region) => ({
        value: pictureKey(name, region),
        label: region || name,
      })),
    })),
  ];
}
