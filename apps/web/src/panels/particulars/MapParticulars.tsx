import { Button, Chip, Group, Select, SimpleGrid, Text, Tooltip } from '@mantine/core';
import {
  call,
  ROLES,
  SETTINGS,
  SKIES,
  wrapDegrees,
  type MapDocument,
  type MapSettings,
  type ParamSpecs,
  type Role,
} from '@yesca/core';
import { turnSection } from '../../commands/viewing.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { TextField } from '../../fields/TextField.tsx';
import { ParamPanel } from '../params/ParamPanel.tsx';
import { openRevisions } from '../Revisions.tsx';
import { run, Section } from './shared.tsx';
import { useCamera } from '../../state/camera.ts';
import { useDisplay } from '../../state/display.ts';

const count = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

export function MapParticulars({ doc }: { doc: MapDocument }) {
  return (
    <>
      <Section title="Map">
        <TextField label="Name" value={doc.name} onChange={(name) => run(call('map.rename', { name }))} />
        <Text size="xs" c="dimmed">
          {count(doc.rooms.size, 'room', 'rooms')}, {count(doc.brushes.size, 'brush', 'brushes')},{' '}
          {count(doc.entities.size, 'thing', 'things')}
        </Text>
        <Settings doc={doc} keys={['module', 'texelsPerCm']} />
        <Button variant="default" onClick={openRevisions}>
          Revisions
        </Button>
      </Section>
      <SectionLine />
      <Kinds />
      <Section title="Light and sky">
        <SkyChoice doc={doc} />
        <Settings
          doc={doc}
          keys={[
            'ambientColor',
            'ambientLux',
            'bounced',
            'skyColor',
            'skyHorizon',
            'skyClouds',
            'skyNits',
            'fogReach',
            'fogColor',
          ]}
        />
      </Section>
      <Text size="xs" c="dimmed" px={10}>
        Select something to see its values here. Alt-click picks a single face.
      </Text>
    </>
  );
}

/** Skies that people know: each sets the sky, the even light under it, and what suns there are. */
function SkyChoice({ doc: { settings } }: { doc: MapDocument }) {
  const now = SKIES.find((s) => Object.entries(s.settings).every(([k, v]) => settings[k as keyof MapSettings] === v));
  return (
    <Tooltip label="Sets the sky, the even light under it, and the suns of the map as they are under such a sky">
      <Select
        label="Sky like"
        placeholder="its own values"
        data={SKIES.map(({ id, label }) => ({ value: id, label }))}
        value={now?.id ?? null}
        onChange={(sky) => sky && run(call('map.sky', { sky }))}
      />
    </Tooltip>
  );
}

/** Some of the map's settings. */
function Settings({ doc, keys }: { doc: MapDocument; keys: readonly (keyof MapSettings)[] }) {
  const specs: ParamSpecs = Object.fromEntries(keys.map((key) => [key, SETTINGS[key]]));
  return (
    <ParamPanel
      specs={specs}
      values={[{ ...doc.settings }]}
      onChange={(key, value) => run(call('map.settings', { settings: { [key]: value ?? null } }))}
    />
  );
}

/** Where the Section cuts, by numbers. */
function SectionLine() {
  const section = useCamera((s) => s.section);
  const set = useCamera.setState;
  return (
    <Section title="Section line">
      <SimpleGrid cols={2} spacing={4}>
        <LengthField
          label="Through X"
          tip="A point the line runs through"
          value={section.at[0]}
          onChange={(x) => set({ section: { ...section, at: [x, section.at[1]] } })}
        />
        <LengthField
          label="Through Y"
          tip="A point the line runs through"
          value={section.at[1]}
          onChange={(y) => set({ section: { ...section, at: [section.at[0], y] } })}
        />
        <LengthField
          label="Looks to"
          tip="Which way the Section looks: 0 east, 90 north"
          unit="°"
          value={section.looks}
          onChange={(looks) => set({ section: { ...section, looks: wrapDegrees(looks) } })}
        />
        <LengthField
          label="Depth"
          tip="How far beyond the cut is drawn; empty draws everything"
          value={section.depth ?? null}
          none="all"
          onNone={() => set({ section: { ...section, depth: undefined } })}
          onChange={(depth) => set({ section: { ...section, depth: depth > 0 ? depth : undefined } })}
        />
      </SimpleGrid>
      <Group gap={4}>
        <Button variant="default" size="compact-xs" onClick={() => turnSection(180)}>
          Look the other way
        </Button>
        <Button variant="default" size="compact-xs" onClick={() => turnSection(90)}>
          Turn a quarter
        </Button>
      </Group>
    </Section>
  );
}

/** Which roles and things the panes show. */
function Kinds() {
  const hiddenRoles = useDisplay((s) => s.hiddenRoles);
  const hideThings = useDisplay((s) => s.hideThings);
  const reaches = useDisplay((s) => s.reaches);
  const set = useDisplay.setState;
  const toggle = (role: Role) =>
    set({ hiddenRoles: hiddenRoles.includes(role) ? hiddenRoles.filter((r) => r !== role) : [...hiddenRoles, role] });
  return (
    <Section title="Shown">
      <Group gap={4}>
        {ROLES.map((role) => (
          <Chip key={role} size="xs" checked={!hiddenRoles.includes(role)} onChange={() => toggle(role)}>
            {role}
          </Chip>
        ))}
        <Chip size="xs" checked={!hideThings} onChange={() => set({ hideThings: !hideThings })}>
          things
        </Chip>
        <Chip size="xs" checked={reaches} onChange={() => set({ reaches: !reaches })}>
          reach of lights
        </Chip>
      </Group>
    </Section>
  );
}
