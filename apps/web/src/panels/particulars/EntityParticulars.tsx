import { Button, SimpleGrid, Text, Tooltip } from '@mantine/core';
import {
  call,
  entityKind,
  readValues,
  wrapDegrees,
  type CommandArgs,
  type Entity,
  type MapDocument,
} from '@yesca/core';
import { tryIt } from '../../commands/doors.ts';
import { commandById } from '../../palette/commands.ts';
import { keysOf } from '../../palette/keys.ts';
import { playFrom } from '../../commands/playing.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { TextField } from '../../fields/TextField.tsx';
import { ParamPanel } from '../params/ParamPanel.tsx';
import { run, Section } from './shared.tsx';

/** The values of one thing, or of several: those of one kind share its parameters, those of different kinds where they stand. */
export function EntityParticulars({ doc, entities }: { doc: MapDocument; entities: readonly Entity[] }) {
  const first = entities[0]!;
  const kind = entities.every((e) => e.kind === first.kind) ? entityKind(first.kind) : undefined;
  const single = entities.length === 1;
  const ids = entities.map((e) => e.id);
  const change = (what: Omit<CommandArgs<'thing.change'>, 'things'>) =>
    run(call('thing.change', { things: ids, ...what }));
  const all = <T,>(of: (e: Entity) => T): T | null => (entities.every((e) => of(e) === of(first)) ? of(first) : null);
  const things = (to: string) =>
    to === 'thing'
      ? [...doc.entities.values()]
          .filter((e) => !entities.includes(e))
          .map((e, i) => ({ value: e.id, label: e.name ?? `${entityKind(e.kind)?.label ?? e.kind} ${i + 1}` }))
      : [];
  const title = kind?.label ?? (single ? first.kind : 'Things');
  return (
    <Section title={single ? title : `${title} · ${entities.length}`}>
      {single && (
        <TextField
          label="Name"
          value={first.name ?? ''}
          placeholder={kind?.label}
          onChange={(name) => change({ name })}
        />
      )}
      <SimpleGrid cols={3} spacing={4}>
        {['X', 'Y', 'Z'].map((a, i) => (
          <LengthField
            key={a}
            label={a}
            tip={['East', 'North', 'Up'][i]!}
            value={all((e) => e.at[i]!)}
            onChange={(to) => run(call('thing.put', { things: ids, axis: i as 0 | 1 | 2, to }))}
          />
        ))}
      </SimpleGrid>
      {kind?.facing && (
        <LengthField
          label={kind.facing.label}
          tip={kind.facing.help}
          unit="°"
          value={all((e) => e.turn)}
          onChange={(turn) => change({ turn: wrapDegrees(turn) })}
        />
      )}
      {kind && (
        <ParamPanel
          specs={kind.params}
          values={entities.map((e) => readValues(kind.params, e.params))}
          choices={things}
          onChange={(key, value) => change({ params: { [key]: value ?? null } })}
        />
      )}
      {single && kind?.tries && (
        <Tooltip label={`Plays it in the Eye as the map stands, without a build — ${keysOf(commandById('thing.try'))}`}>
          <Button variant="default" size="xs" onClick={tryIt}>
            Try it
          </Button>
        </Tooltip>
      )}
      {single && kind?.spawns && (
        <Tooltip label="Walks the last build from this spawn; Play then begins here until another is chosen">
          <Button variant="default" size="xs" onClick={() => playFrom(first.id)}>
            Play from this spawn
          </Button>
        </Tooltip>
      )}
      <Text size="xs" c="dimmed">
        {kind?.help ??
          (single ? 'This kind comes from a newer version. It is kept as it is.' : 'Things of several kinds.')}
      </Text>
    </Section>
  );
}
