import { ActionIcon, Button, Group, Select, SimpleGrid, Stack, Text, Tooltip } from '@mantine/core';
import { IconArrowRight, IconFocusCentered, IconTrash } from '@tabler/icons-react';
import {
  call,
  entityKind,
  entityNameWithin,
  type CommandArgs,
  type Entity,
  type MapDocument,
  type Wire,
} from '@yesca/core';
import { LengthField } from '../../fields/LengthField.tsx';
import { useEditor } from '../../state/editor.ts';
import { selectOnly } from '../../state/selection.ts';
import { frameAll } from '../../commands/viewing.ts';
import { acts, tells, useWiring, wireBetween } from '../../tools/wiring.ts';
import { thingChoices } from './thing-choices.ts';
import { run, Section } from './shared.tsx';

const portsOf = (ports: Readonly<Record<string, { label: string }>> | undefined, now: string) => {
  const known = Object.entries(ports ?? {}).map(([value, { label }]) => ({ value, label }));
  return known.some((p) => p.value === now) ? known : [...known, { value: now, label: now }];
};

/** The wires of a thing as sentences whose words are the controls; new ones by pointing, or chosen here. */
export function Wires({ doc, entity }: { doc: MapDocument; entity: Entity }) {
  const from = [...doc.wires.values()].filter((w) => w.from.thing === entity.id);
  const to = [...doc.wires.values()].filter((w) => w.to.thing === entity.id && w.from.thing !== entity.id);
  const pointing = useWiring((s) => s.thing === entity.id && s.as);
  if (!acts(entity) && !tells(entity) && from.length + to.length === 0) return null;
  const others = [...doc.entities.values()].filter((e) => e.id !== entity.id);
  const add = (other: Entity, as: 'cause' | 'effect') => {
    const [cause, effect] = as === 'cause' ? [other, entity] : [entity, other];
    const wire = wireBetween(cause, effect);
    if (wire.call) run(wire.call);
  };
  const causes = others.filter(tells);
  const effects = others.filter(acts);
  return (
    <Section title="Wires">
      {from.length + to.length === 0 && (
        <Text size="xs" c="dimmed">
          A wire lets one thing start another: when a zone is entered, a door opens. Drag the oval beside the thing onto
          the other one, point at it, or choose it.
        </Text>
      )}
      {[...to, ...from].map((w) => (
        <WireRow key={w.id} doc={doc} wire={w} here={entity.id} />
      ))}
      {acts(entity) && (
        <Adder
          label="Started by"
          tip="Choose what starts it, or press Point and click it in any pane; Esc lets go"
          list={causes}
          pointing={pointing === 'effect'}
          onPoint={() => useWiring.getState().begin(entity.id, 'effect')}
          onPick={(other) => add(other, 'cause')}
        />
      )}
      {tells(entity) && (
        <Adder
          label="Starts"
          tip="Choose what it starts, or press Point and click it in any pane; Esc lets go"
          list={effects}
          pointing={pointing === 'cause'}
          onPoint={() => useWiring.getState().begin(entity.id, 'cause')}
          onPick={(other) => add(other, 'effect')}
        />
      )}
    </Section>
  );
}

function Adder({
  label,
  tip,
  list,
  pointing,
  onPoint,
  onPick,
}: {
  label: string;
  tip: string;
  list: readonly Entity[];
  pointing: boolean;
  onPoint: () => void;
  onPick: (other: Entity) => void;
}) {
  return (
    <Group gap={4} align="flex-end" wrap="nowrap">
      <Select
        label={label}
        flex={1}
        searchable
        placeholder={list.length ? 'choose a thing' : 'nothing else is there'}
        disabled={list.length === 0}
        data={thingChoices(list)}
        value={null}
        onChange={(id) => {
          const other = list.find((e) => e.id === id);
          if (other) onPick(other);
        }}
      />
      <Tooltip label={tip}>
        <Button size="xs" variant={pointing ? 'filled' : 'default'} disabled={list.length === 0} onClick={onPoint}>
          {pointing ? 'Click it' : 'Point'}
        </Button>
      </Tooltip>
    </Group>
  );
}

function WireRow({ doc, wire, here }: { doc: MapDocument; wire: Wire; here: string }) {
  const [cause, effect] = [doc.entities.get(wire.from.thing), doc.entities.get(wire.to.thing)];
  const change = (what: Omit<CommandArgs<'wire.change'>, 'wire'>) =>
    run(call('wire.change', { wire: wire.id, ...what }));
  const other = wire.from.thing === here ? effect : cause;
  const value = Object.values(entityKind(effect?.kind ?? '')?.actions[wire.to.action]?.values ?? {})[0];
  const name = (e: Entity | undefined) => (e?.id === here ? 'this' : entityNameWithin(e));
  return (
    <Stack gap={2} className="wire-row" role="group" aria-label="Wire">
      <Group gap={4} wrap="nowrap" justify="space-between">
        <Text size="xs">
          When <b>{name(cause)}</b> <IconArrowRight size={11} stroke={1.8} /> <b>{name(effect)}</b>
        </Text>
        <Group gap={0} wrap="nowrap">
          <Tooltip label={`Go to ${name(other)}`}>
            <ActionIcon
              size="sm"
              aria-label={`Go to ${name(other)}`}
              onClick={() => {
                if (!other) return;
                useEditor.getState().select(selectOnly([{ type: 'entity', id: other.id }]));
                frameAll();
              }}
            >
              <IconFocusCentered size={14} stroke={1.5} />
            </ActionIcon>
          </Tooltip>
          <Tooltip label="Remove this wire">
            <ActionIcon
              size="sm"
              aria-label="Remove this wire"
              onClick={() => run(call('wire.remove', { wires: [wire.id] }))}
            >
              <IconTrash size={14} stroke={1.5} />
            </ActionIcon>
          </Tooltip>
        </Group>
      </Group>
      <SimpleGrid cols={2} spacing={4}>
        <Select
          aria-label="Signal"
          allowDeselect={false}
          data={portsOf(entityKind(cause?.kind ?? '')?.signals, wire.from.signal)}
          value={wire.from.signal}
          onChange={(signal) => signal && change({ signal })}
        />
        <Select
          aria-label="Action"
          allowDeselect={false}
          data={portsOf(entityKind(effect?.kind ?? '')?.actions, wire.to.action)}
          value={wire.to.action}
          onChange={(action) => action && change({ action })}
        />
        <LengthField
          label="After"
          tip="How long after the signal, 0 to 3600 s"
          unit="s"
          value={wire.delay ?? 0}
          onChange={(delay) => change({ delay: delay > 0 ? delay : null })}
        />
        <LengthField
          label="Times"
          tip="How often it works; empty for every time"
          unit=""
          value={wire.times ?? null}
          none={wire.times === undefined ? 'always' : undefined}
          onNone={() => change({ times: null })}
          onChange={(times) => change({ times: Math.max(1, Math.round(times)) })}
        />
        {value?.type === 'number' && (
          <LengthField
            label={value.label}
            tip={value.help}
            unit={value.unit}
            value={typeof wire.value === 'number' ? wire.value : value.initial}
            onChange={(to) => change({ value: to })}
          />
        )}
      </SimpleGrid>
    </Stack>
  );
}
