import { Button, Group, TextInput } from '@mantine/core';
import { modals } from '@mantine/modals';
import { useState } from 'react';

/** Asks for a name in a small dialog; Enter takes it, Esc leaves it. */
export function askName(title: string, value: string, then: (name: string) => void): void {
  const id = modals.open({
    title,
    children: (
      <NameForm
        value={value}
        done={(name) => {
          modals.close(id);
          if (name) then(name);
        }}
      />
    ),
  });
}

function NameForm({ value, done }: { value: string; done: (name: string | null) => void }) {
  const [name, setName] = useState(value);
  const trimmed = name.trim();
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (trimmed) done(trimmed);
      }}
    >
      <TextInput
        data-autofocus
        label="Name"
        value={name}
        maxLength={200}
        onFocus={(event) => event.currentTarget.select()}
        onChange={(event) => setName(event.currentTarget.value)}
      />
      <Group justify="flex-end" mt={12} gap={8}>
        <Button variant="default" onClick={() => done(null)}>
          Leave it
        </Button>
        <Button className="act" type="submit" disabled={!trimmed}>
          Name it
        </Button>
      </Group>
    </form>
  );
}
