import { Switch, Tooltip } from '@mantine/core';

/** A switch, with a tip that says what it is about and its key. */
export function Toggle({
  label,
  tip,
  value,
  onChange,
}: {
  label: string;
  tip: string;
  value: boolean;
  onChange: (value: boolean) => void;
}) {
  return (
    <Tooltip label={tip}>
      <Switch size="xs" label={label} checked={value} onChange={(e) => onChange(e.currentTarget.checked)} />
    </Tooltip>
  );
}
