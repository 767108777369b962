import { ActionIcon, Button, Text, Tooltip } from '@mantine/core';
import { IconPlus, IconTrash } from '@tabler/icons-react';
import type { ReactNode } from 'react';
import type { ListParam, ParamRecord, ParamSpecs, ParamValue, RecordParam } from '@yesca/core';

/** The fields of one record: the panel of parameters, handed in since it shows lists of records as well. */
export type PanelOf = (
  specs: ParamSpecs,
  value: ParamRecord,
  onChange: (key: string, value: ParamValue | undefined) => void,
) => ReactNode;

/** A list of records, each with its fields: leaves of a door, stops of a lift. Null where several things differ. */
export function RecordsField({
  spec,
  of,
  value,
  onChange,
  panel,
}: {
  spec: ListParam;
  of: RecordParam;
  value: readonly ParamRecord[] | null;
  onChange: (value: readonly ParamRecord[]) => void;
  panel: PanelOf;
}) {
  const all = value ?? [];
  const name = of.label;
  const first = of.first ?? 1;
  const put = (place: number, key: string, to: ParamValue | undefined) =>
    onChange(all.map((r, i) => (i === place ? { ...r, [key]: to ?? of.fields[key]!.initial } : r)));
  return (
    <div role="group" aria-label={spec.label}>
      <Tooltip label={spec.help}>
        <span className="field-title">{spec.label}</span>
      </Tooltip>
      {value === null && (
        <Text size="xs" c="dimmed">
          mixed
        </Text>
      )}
      {all.map((record, i) => (
        <fieldset key={i} className="keyframe" aria-label={`${name} ${i + first}`}>
          <div className="keyframe-time">
            <span className="field-title">
              {name} {i + first}
            </span>
            <Tooltip label={`Remove this ${name.toLowerCase()}`}>
              <ActionIcon
                size="sm"
                aria-label={`Remove ${name.toLowerCase()} ${i + first}`}
                onClick={() => onChange(all.filter((_, k) => k !== i))}
              >
                <IconTrash size={14} stroke={1.5} />
              </ActionIcon>
            </Tooltip>
          </div>
          {panel(of.fields, record, (key, to) => put(i, key, to))}
        </fieldset>
      ))}
      {all.length < spec.most && (
        <Button
          variant="subtle"
          size="compact-xs"
          leftSection={<IconPlus size={13} stroke={1.6} />}
          onClick={() => onChange([...all, all.at(-1) ?? of.initial])}
        >
          Add a {name.toLowerCase()}
        </Button>
      )}
    </div>
  );
}
