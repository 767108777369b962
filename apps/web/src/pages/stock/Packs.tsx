import { ActionIcon, Group, Menu, Stack, Text } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import type { PackRow } from '@yesca/contract';
import { api } from '../../api/client.ts';
import { askName } from '../../panels/ask-name.tsx';
import { deleteAsked } from '../../panels/library/delete-asked.ts';
import { useLibrary, WORKSHOP } from '../../state/library.ts';

/** What ships, as a pack. */
const SHIPPED: PackRow = { id: WORKSHOP, name: 'Workshop', materials: 0, props: 0 };

const count = (n: number, one: string, many: string): string => (n === 0 ? '' : n === 1 ? one : `${n} ${many}`);
const countWords = ({ materials, props }: PackRow): string =>
  [count(materials, '1 material', 'materials'), count(props, '1 prop', 'props')].filter(Boolean).join(', ') || 'empty';

/** The imported packs: shown or not, taken out, renamed and removed. */
export function Packs({
  packs,
  doing,
  help,
}: {
  packs: readonly PackRow[];
  doing: (work: () => Promise<unknown>) => void;
  /** How one comes to be. */
  help: string;
}) {
  const { packsOff, togglePack } = useLibrary();
  const remove = (pack: PackRow) =>
    doing(async () => {
      const { id, name } = pack;
      const text = `All of it is taken from Stock: ${countWords(pack)}. That cannot be undone; export it first to keep it.`;
      await deleteAsked(name, `/api/packs/${id}`, text);
    });
  return (
    <Stack gap={6}>
      <h3 className="panel-title">Packs</h3>
      {[SHIPPED, ...packs].map((pack) => (
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
              {pack === SHIPPED ? 'comes with Yesca' : countWords(pack)}
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
              {pack !== SHIPPED && (
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
                  <Menu.Item onClick={() => remove(pack)}>Delete …</Menu.Item>
                </>
              )}
            </Menu.Dropdown>
          </Menu>
        </Group>
      ))}
      <Text size="xs" c="dimmed">
        {help}
      </Text>
    </Stack>
  );
}
