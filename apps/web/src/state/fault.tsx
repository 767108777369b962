import { Button, Group, Text } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { MAP_VERSION } from '@yesca/core';

/** What was being done, as data. */
interface Doing {
  readonly name: string;
  readonly args: unknown;
}

/** What is written down of a fault: what happened, and what was being done, so that it can be done again. */
export function faultReport(error: unknown, { name, args }: Doing): string {
  const { message, stack } = error instanceof Error ? error : new Error(String(error));
  return `${JSON.stringify({ message, stack: stack?.split('\n'), command: name, args, mapVersion: MAP_VERSION }, null, 2)}\n`;
}

/** Says that something went wrong in the program itself. The document is as it was; what is needed to mend it can be copied. */
export function reportFault(error: unknown, doing: Doing): void {
  const message = error instanceof Error ? error.message : String(error);
  const copy = () => void navigator.clipboard.writeText(faultReport(error, doing));
  notifications.show({
    id: `fault ${doing.name}`,
    title: 'This is a fault of Yesca',
    message: (
      <Group gap={8} justify="space-between" wrap="nowrap">
        <Text size="xs">
          {doing.name} stopped: {message}. Your map is as it was.
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
