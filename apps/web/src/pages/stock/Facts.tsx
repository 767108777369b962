import { Text } from '@mantine/core';

/** What is known of something that is not changed: what it is called, and what it is. */
export function Facts({ rows }: { rows: readonly (readonly [label: string, value: string])[] }) {
  return rows.map(([label, value]) => (
    <div key={label}>
      <Text size="xs" c="dimmed">
        {label}
      </Text>
      <Text size="sm">{value}</Text>
    </div>
  ));
}
