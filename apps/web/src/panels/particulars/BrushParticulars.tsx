import { Group, Select, Text } from '@mantine/core';
import { pickedBounds, setRole, type MapDocument, type Role } from '@yesca/core';
import { asPicked, thingsOf, type Selection } from '../../state/selection.ts';
import { MaterialSwatch } from '../MaterialSwatch.tsx';
import { PlaceAndSize, run, Section } from './shared.tsx';

/** The roles a build knows what to do with. */
const ROLES_OFFERED: { value: Role; label: string }[] = [
  { value: 'structure', label: 'Structure – seals and hides' },
  { value: 'detail', label: 'Detail – drawn, does not seal' },
  { value: 'clip', label: 'Clip – unseen, holds players back' },
  { value: 'hint', label: 'Hint – cuts cells for visibility' },
];

export function BrushParticulars({ doc, selection }: { doc: MapDocument; selection: Selection }) {
  const box = pickedBounds(doc, asPicked(selection));
  const brushes = [...selection.brushes].flatMap((id) => doc.brushes.get(id) ?? []);
  const role = new Set(brushes.map((b) => b.role)).size === 1 ? brushes[0]!.role : null;
  const materials = [...new Set(brushes.flatMap((b) => b.faces.map((f) => f.material)))];
  const count = thingsOf(selection).length;
  const inRoom = brushes.length === 1 && brushes[0]!.room ? doc.rooms.get(brushes[0]!.room.id) : undefined;
  return (
    <>
      <Section title={count === 1 ? 'Brush' : `${count} selected`}>
        {box && <PlaceAndSize box={box} selection={selection} rooms={false} />}
        {brushes.length > 0 && (
          <Select
            label="Role"
            data={ROLES_OFFERED}
            value={role}
            placeholder="mixed"
            allowDeselect={false}
            onChange={(v) => v && run('Role', (d) => setRole(d, new Set(brushes.map((b) => b.id)), v as Role))}
          />
        )}
        {inRoom && (
          <Text size="xs" c="dimmed">
            Part of {inRoom.name}. Shaping it by hand releases the whole room.
          </Text>
        )}
      </Section>
      {materials.length > 0 && (
        <Section title="Materials">
          <Group gap={4}>
            {materials.slice(0, 8).map((m) => (
              <MaterialSwatch key={m} name={m} size={40} />
            ))}
          </Group>
        </Section>
      )}
    </>
  );
}
