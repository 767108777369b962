import { ActionIcon, Button, Popover, Select, Text, Tooltip, UnstyledButton } from '@mantine/core';
import { IconBulb, IconPlugConnected, IconTrash } from '@tabler/icons-react';
import { useMemo, useState } from 'react';
import { call, entityKind, entityName, shines, type MapDocument } from '@yesca/core';
import { useEditor } from '../../state/editor.ts';
import { notify } from '../../state/notify.ts';
import { askName } from '../ask-name.tsx';
import { run } from '../particulars/shared.tsx';

/** Sets of strengths that the map keeps. */
export function Moods() {
  const moods = useEditor((s) => s.doc.moods);
  const any = useEditor((s) => [...s.doc.entities.values()].some(shines));
  if (!any) return null;
  const keep = () =>
    askName('Keep how strong all lights are', `Mood ${moods.size + 1}`, (name) => run(call('mood.save', { name })));
  return (
    <div className="lights-state" role="group" aria-label="Moods">
      {[...moods.values()].map(({ id, name, lights }) => (
        <div key={id} className="mood-row">
          <Tooltip label={`Makes ${lights.length} lights as strong as they were in it; undo brings them back`}>
            <UnstyledButton className="light-name" onClick={() => run(call('mood.take', { mood: id }))}>
              <IconBulb size={14} stroke={1.5} />
              <span className="row-label">{name}</span>
            </UnstyledButton>
          </Tooltip>
          <MoodWire mood={id} name={name} />
          <Tooltip label="Remove this mood; the lights stay as they are">
            <ActionIcon size="xs" aria-label={`Remove ${name}`} onClick={() => run(call('mood.remove', { mood: id }))}>
              <IconTrash size={13} stroke={1.5} />
            </ActionIcon>
          </Tooltip>
        </div>
      ))}
      <Tooltip label="A mood is a set of strengths to come back to: keeping one of the same name replaces it">
        <Button variant="default" size="compact-xs" onClick={keep}>
          Keep this mood
        </Button>
      </Tooltip>
    </div>
  );
}

/** Everything that things of a map tell, as choices: the thing and its signal. */
const signalsOf = ({ entities }: MapDocument): { value: string; label: string }[] =>
  [...entities.values()]
    .flatMap((e) =>
      Object.entries(entityKind(e.kind)?.signals ?? {}).map(([signal, { label }]) => ({
        value: `${e.id} ${signal}`,
        label: `${entityName(e)} ${label}`,
      })),
    )
    .sort((a, b) => a.label.localeCompare(b.label, undefined, { numeric: true }));

/** Lets a signal of the map take up a mood in play. */
function MoodWire({ mood, name }: { mood: string; name: string }) {
  const [open, setOpen] = useState(false);
  const doc = useEditor((s) => s.doc);
  const signals = useMemo(() => (open ? signalsOf(doc) : []), [open, doc]);
  const choose = (value: string | null): void => {
    if (!value) return;
    const [thing, signal] = value.split(' ') as [string, string];
    setOpen(false);
    const before = useEditor.getState().doc;
    run(call('mood.wire', { mood, from: { thing, signal } }));
    const { doc: after } = useEditor.getState();
    if (after !== before) notify(`In play, ${signals.find((s) => s.value === value)!.label} takes up ${name}.`);
  };
  return (
    <Popover opened={open} onChange={setOpen} width={280} position="left-start" trapFocus withinPortal>
      <Popover.Target>
        <Tooltip label="Lets a signal take up this mood in play: its lights fade to it, each in the time that it fades">
          <ActionIcon size="xs" aria-label={`Wire ${name}`} aria-expanded={open} onClick={() => setOpen(!open)}>
            <IconPlugConnected size={13} stroke={1.5} />
          </ActionIcon>
        </Tooltip>
      </Popover.Target>
      <Popover.Dropdown p={8}>
        {signals.length === 0 ? (
          <Text size="xs">
            Nothing tells anything yet. Place a zone, a door or a mover: what happens to it can take up the mood.
          </Text>
        ) : (
          <Select
            size="xs"
            label="When"
            placeholder="a signal"
            searchable
            data-autofocus
            data={signals}
            limit={200}
            value={null}
            onChange={choose}
            comboboxProps={{ withinPortal: false }}
          />
        )}
      </Popover.Dropdown>
    </Popover>
  );
}
