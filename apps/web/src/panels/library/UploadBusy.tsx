import { Button, Group, Loader, Text } from '@mantine/core';

/** Says that files are being read, and stops it. */
export function UploadBusy({ busy, stop }: { busy: string; stop: () => void }) {
  return (
    <Group gap={6} role="status">
      <Loader size="xs" />
      <Text size="xs" flex={1} truncate>
        {busy}
      </Text>
      <Button variant="default" size="compact-xs" onClick={stop}>
        Stop
      </Button>
    </Group>
  );
}
