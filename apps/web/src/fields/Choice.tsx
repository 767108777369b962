import { SegmentedControl, Tooltip } from '@mantine/core';

/** One of a few, with a tip that says what it is about and its key. */
export function Choice<T extends string>({
  label,
  tip,
  value,
  options,
  onChange,
}: {
  label: string;
  tip: string;
  value: T;
  options: readonly (readonly [value: T, label: string])[];
  onChange: (value: T) => void;
}) {
  return (
    <Tooltip label={tip}>
      <SegmentedControl
        size="xs"
        aria-label={label}
        value={value}
        onChange={(v) => onChange(v as T)}
        data={options.map(([v, text]) => ({ value: v, label: text }))}
      />
    </Tooltip>
  );
}
