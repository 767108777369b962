import { Stack, Text, TextInput, UnstyledButton, Tooltip } from '@mantine/core';
import { IconBulb, IconFlag, IconSun } from '@tabler/icons-react';
import { useState } from 'react';
import { ENTITY_KINDS } from '@yesca/core';
import { useMaterials } from '../api/hooks.ts';
import { useSettings } from '../state/view.ts';
import { chooseTool } from '../tools/index.ts';
import { MaterialSwatch } from './MaterialSwatch.tsx';

const ICONS: Record<string, typeof IconFlag> = { spawn: IconFlag, pointLight: IconBulb, sun: IconSun };

/** The drawer of things to use: entities to place and materials to paint with. */
export function Stock() {
  const { data: materials, error } = useMaterials();
  const { entityKind, tool, set } = useSettings();
  const [search, setSearch] = useState('');
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = materials?.filter((m) =>
    words.every((w) => m.label.toLowerCase().includes(w) || m.tags.some((t) => t.includes(w))),
  );
  return (
    <Stack gap={10} p={10}>
      <section>
        <h3 className="panel-title">Things</h3>
        <Stack gap={2}>
          {ENTITY_KINDS.map((k) => {
            const Icon = ICONS[k.kind] ?? IconFlag;
            return (
              <Tooltip key={k.kind} label={k.tip} position="right">
                <UnstyledButton
                  className="row"
                  data-active={(tool === 'place' && entityKind === k.kind) || undefined}
                  onClick={() => {
                    set({ entityKind: k.kind });
                    chooseTool('place');
                  }}
                >
                  <Icon size={16} stroke={1.5} />
                  {k.label}
                </UnstyledButton>
              </Tooltip>
            );
          })}
        </Stack>
      </section>
      <section>
        <h3 className="panel-title">Materials</h3>
        <TextInput
          placeholder="Search by word or tag"
          aria-label="Search materials"
          value={search}
          onChange={(e) => setSearch(e.currentTarget.value)}
          onKeyDown={(e) => e.stopPropagation()}
          mb={8}
        />
        {error ? (
          <Text size="xs" c="var(--madder)">
            The materials could not be loaded. Check that the server runs.
          </Text>
        ) : null}
        <div className="swatches">
          {found?.map((m) => (
            <MaterialSwatch key={m.name} name={m.name} size={66} withName />
          ))}
        </div>
        {found?.length === 0 && (
          <Text size="xs" c="dimmed">
            Nothing is called that. Try a tag like wood, stone or wet.
          </Text>
        )}
      </section>
    </Stack>
  );
}
