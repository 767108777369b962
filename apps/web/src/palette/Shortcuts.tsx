import { ActionIcon, Button, Group, Text, Tooltip } from '@mantine/core';
import { modals } from '@mantine/modals';
import { IconRestore } from '@tabler/icons-react';
import { useEffect, useState } from 'react';
import type { Command } from './command.ts';
import { COMMANDS, commandById } from './commands.ts';
import { bindingOf, boundKeys, keyLabel, takenBy, useBindings } from './keys.ts';

const MOUSE: readonly (readonly [string, string])[] = [
  ['Turn the view, fly with W A S D Q E', 'right button in Eye'],
  ['Walk (K): W A S D, Space, C', 'right button in Eye'],
  ['Orbit what is under the pointer', 'Alt right button in Eye'],
  ['Slide the view', 'middle button, or Space and drag'],
  ['Nearer and farther', 'wheel'],
  ['Pick a single face', 'Alt click'],
  ['Pick what is behind', 'click again'],
  ['Add to or take from the selection', 'Shift or Ctrl click'],
  ['Copy, cut, paste', 'Ctrl C, Ctrl X, Ctrl V'],
  ['Duplicate while moving', 'Alt drag'],
  ['Keep to one direction', 'Shift drag'],
  ['Only what is wholly inside', 'Alt with a marquee'],
  ['Pull a face out (Reshape)', 'Alt drag a face'],
  ['Shear a face (Reshape)', 'Shift drag a face'],
  ['A new corner in a room’s side (Reshape)', 'Alt drag the side'],
  ['Pick up a material (Paint)', 'I held, click'],
  ['Commit or drop a gesture', 'Enter, Esc'],
];

/** Every binding, made from the table the bindings come from; a click on a key binds another one in this browser. */
export const openShortcuts = (): void => {
  modals.open({ title: 'Shortcuts', size: 980, children: <Sheet /> });
};

function Sheet() {
  const changed = useBindings((s) => s.changed);
  const [asking, setAsking] = useState<string | null>(null);
  const [note, setNote] = useState('Click a key to bind another one. It is kept in this browser.');
  useEffect(() => {
    if (!asking) return;
    const press = (event: KeyboardEvent) => {
      event.preventDefault();
      event.stopImmediatePropagation();
      if (event.key === 'Escape') return setAsking(null);
      const { bind } = useBindings.getState();
      if (event.key === 'Backspace' || event.key === 'Delete') {
        bind(asking, '');
        setNote(`${commandById(asking).label} has no key now.`);
        return setAsking(null);
      }
      const keys = bindingOf(event);
      if (!keys) return;
      const other = takenBy(COMMANDS, keys, asking);
      if (other)
        return setNote(`${keyLabel(keys)} already does “${commandById(other).label}”. Press another key, or Esc.`);
      bind(asking, keys);
      setNote(`${commandById(asking).label} is ${keyLabel(keys)} now.`);
      setAsking(null);
    };
    window.addEventListener('keydown', press, true);
    return () => window.removeEventListener('keydown', press, true);
  }, [asking]);
  const ask = (c: Command) => {
    setAsking(c.id);
    setNote(`Press the keys for “${c.label}”. Esc leaves it, Backspace takes its key away.`);
  };
  return (
    <>
      <Group justify="space-between" mb={8}>
        <Text size="xs" role="status" data-testid="binding-note">
          {note}
        </Text>
        <Button variant="default" size="compact-xs" onClick={() => useBindings.getState().reset()}>
          Usual keys
        </Button>
      </Group>
      <div className="shortcut-columns">
        {(['Tools', 'View', 'Edit', 'Shape', 'Surface', 'Select'] as const).map((group) => (
          <section key={group} className="shortcut-group">
            <h3 className="panel-title">{group}</h3>
            {COMMANDS.filter((c) => c.group === group).map((c) => (
              <div key={c.id} className="shortcut">
                <span>{c.label}</span>
                <Group gap={2} wrap="nowrap">
                  {c.id in changed && (
                    <Tooltip label="Back to the usual key">
                      <ActionIcon
                        size="xs"
                        aria-label={`Usual key for ${c.label}`}
                        onClick={() => useBindings.getState().bind(c.id, null)}
                      >
                        <IconRestore size={12} />
                      </ActionIcon>
                    </Tooltip>
                  )}
                  <button
                    type="button"
                    className="key-button"
                    aria-label={`Key for ${c.label}`}
                    data-asking={asking === c.id || undefined}
                    onClick={() => ask(c)}
                  >
                    <kbd>{asking === c.id ? '…' : boundKeys(c) ? keyLabel(boundKeys(c)) : '–'}</kbd>
                  </button>
                </Group>
              </div>
            ))}
          </section>
        ))}
        <section className="shortcut-group">
          <h3 className="panel-title">Mouse and gestures</h3>
          {MOUSE.map(([what, how]) => (
            <div key={what} className="shortcut">
              <span>{what}</span>
              <span className="quiet">{how}</span>
            </div>
          ))}
        </section>
      </div>
    </>
  );
}
