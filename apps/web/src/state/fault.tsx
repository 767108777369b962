import { Button, Group, Text } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { MAP_VERSION, type Call } from '@yesca/core';

/** What is written down of a fault: what happened, and what was being done, so that it can be done again. */
export function faultReport(error: unknown, call: Call): string {
  const { message, stack } = error instanceof Error ? error : new Error(String(error));
  return `${JSON.stringify({ message, stack: stack?.split('\n'), command: call.name, args: call.args, mapVersion: MAP_VERSION }, null, 2)}\n`;
}

/** Says that something went wrong in the program itself. The document is as it was; what is needed to mend it can be copied. */
export function reportFault(error: unknown, call: Call): void {
  const message = error instanceof Error ? error.message : String(error);
  const copy = () => void navigator.clipboard.writeText(faultReport(error, call));
  notifications.show({
    id: `fault ${call.name}`,
    title: 'This is a fault of Yesca',
    message: (
      <Group gap={8} justify="space-between" wrap="nowrap">
        <Text size="xs">
          {call.name} stopped: {message}. Your map is as it was.
        </Text>
        <Button variant="default" size="compact-xs" onClick={copy}>
          Copy report
        </Button>
      </Group>
    ),
    color: 'var(--madder)',
    autoClose: false,
    withBorder: true,
  });
}
