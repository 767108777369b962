import { Button, Group, NumberInput, Text } from '@mantine/core';
import { modals } from '@mantine/modals';
import { writeScript } from '@yesca/core';
import { useState } from 'react';
import { useEditor, type Step } from '../state/editor.ts';
import { notify } from '../state/notify.ts';

/** So many steps are offered at first. */
const USUAL = 10;
/** So many labels are listed; the others are counted. */
const LISTED = 12;

/** The last undo steps of which the command is known, the oldest first: an older version kept only what they changed. */
function tellable(): readonly Step[] {
  const { undo } = useEditor.getState();
  return undo.slice(undo.findLastIndex((s) => !s.calls) + 1);
}

/** Asks how many of the last steps go on the clipboard as a file of commands. */
export function openCopyCommands(): void {
  const steps = tellable();
  if (steps.length === 0) return notify('Do something first: the last steps are copied as commands.', 'copy-commands');
  const id = modals.open({
    title: 'Copy as commands',
    children: <CopyForm steps={steps} done={() => modals.close(id)} />,
  });
}

function CopyForm({ steps, done }: { steps: readonly Step[]; done: () => void }) {
  const [count, setCount] = useState(Math.min(USUAL, steps.length));
  const chosen = steps.slice(steps.length - count);
  const copy = async () => {
    const text = writeScript(chosen.flatMap((s) => s.calls!));
    try {
      await navigator.clipboard.writeText(text);
      notify(`${count} ${count === 1 ? 'step' : 'steps'} copied as commands.`, 'copy-commands');
      done();
    } catch {
      notify('The browser does not let this page write to the clipboard. Allow it, then copy again.', 'copy-commands');
    }
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void copy();
      }}
    >
      <NumberInput
        data-autofocus
        label="How many of the last steps"
        description="Run copied commands does them again, here or in another map; so does yesca edit"
        value={count}
        min={1}
        max={steps.length}
        clampBehavior="strict"
        allowDecimal={false}
        onChange={(v) => setCount(Math.max(1, Math.min(steps.length, Number(v) || 1)))}
      />
      <Text size="xs" mt={8} className="quiet">
        {chosen
          .slice(0, LISTED)
          .map((s) => s.label)
          .join(' · ')}
        {chosen.length > LISTED && ` · and ${chosen.length - LISTED} more`}
      </Text>
      <Group justify="flex-end" mt={12} gap={8}>
        <Button variant="default" onClick={done}>
          Leave it
        </Button>
        <Button className="act" type="submit">
          Copy
        </Button>
      </Group>
    </form>
  );
}
