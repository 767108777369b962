import { Text } from '@mantine/core';
import { changeSettings, renameMap, type MapDocument } from '@yesca/core';
import { LengthField } from '../../fields/LengthField.tsx';
import { TextField } from '../../fields/TextField.tsx';
import { Color, run, Section } from './shared.tsx';

const count = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

export function MapParticulars({ doc }: { doc: MapDocument }) {
  const { settings } = doc;
  return (
    <>
      <Section title="Map">
        <TextField label="Name" value={doc.name} onChange={(name) => run('Rename map', (d) => renameMap(d, name))} />
        <Text size="xs" c="dimmed">
          {count(doc.rooms.size, 'room', 'rooms')}, {count(doc.brushes.size, 'brush', 'brushes')},{' '}
          {count(doc.entities.size, 'thing', 'things')}
        </Text>
      </Section>
      <Section title="Light and sky">
        <Color
          label="Ambient colour"
          value={settings.ambientColor}
          onChange={(ambientColor) => run('Ambient', (d) => changeSettings(d, { ambientColor }))}
        />
        <LengthField
          label="Ambient light"
          tip="Even light everywhere, in lux"
          unit="lx"
          value={settings.ambientLux}
          onChange={(ambientLux) => run('Ambient', (d) => changeSettings(d, { ambientLux }))}
        />
        <Color
          label="Sky colour"
          value={settings.skyColor}
          onChange={(skyColor) => run('Sky', (d) => changeSettings(d, { skyColor }))}
        />
      </Section>
      <Text size="xs" c="dimmed" px={10}>
        Select something to see its values here. Alt-click picks a single face.
      </Text>
    </>
  );
}
