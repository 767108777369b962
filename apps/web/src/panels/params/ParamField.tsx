import { useLibrary } from '../../state/library.ts';
import { ActionIcon, Group, Select, Textarea, Tooltip } from '@mantine/core';
import { IconVolume } from '@tabler/icons-react';
import { useState } from 'react';
import {
  nearestValue,
  paramFlaw,
  SOUNDS,
  sameValue,
  withUnit,
  type ChoiceParam,
  type Keyframe,
  type NumberParam,
  type ParamRecord,
  type ParamSpec,
  type ParamValue,
  type TextParam,
  type Vec3,
  type VectorParam,
} from '@yesca/core';
import { hear } from '../../fields/hear.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { TextField } from '../../fields/TextField.tsx';
import { Choice } from '../../fields/Choice.tsx';
import { Toggle } from '../../fields/Toggle.tsx';
import { notifyError } from '../../state/notify.ts';
import { KeyframesField } from './KeyframesField.tsx';
import { RecordsField, type PanelOf } from './RecordsField.tsx';
import { MaterialSwatch } from '../MaterialSwatch.tsx';
import { Color } from '../../fields/Color.tsx';

/** What a reference may name: its value, and how it is called. */
export type Choices = readonly { readonly value: string; readonly label: string }[];

export interface FieldProps<S extends ParamSpec = ParamSpec> {
  readonly spec: S;
  /** The value of each selected thing; one or more. */
  readonly values: readonly (ParamValue | undefined)[];
  /** Undefined unsets what may be unset. */
  readonly onChange: (value: ParamValue | undefined) => void;
  /** What a reference may name. */
  readonly choices?: (to: string) => Choices;
  /** In a row below the drawings, where there is little room. */
  readonly row?: boolean;
  /** The panel that shows the fields of records. */
  readonly panel: PanelOf;
}

/** The value that all have, or null where they differ. */
const shared = <T extends ParamValue | readonly Keyframe[] | readonly ParamRecord[]>(
  values: readonly (ParamValue | undefined)[],
): T | null => (values[0] !== undefined && values.every((v) => sameValue(v, values[0])) ? (values[0] as T) : null);

/** The field of one parameter, whatever its type. Several things with different values show that they are mixed. */
export function ParamField(props: FieldProps) {
  const { spec, onChange } = props;
  /** What does not fit is told in the sentence that files and commands tell, and not set. */
  const set = (value: ParamValue | undefined) => {
    const flaw = value === undefined ? null : paramFlaw(spec, value);
    if (flaw) notifyError(new Error(flaw));
    else onChange(value);
  };
  switch (spec.type) {
    case 'number':
      return <NumberField {...props} spec={spec} onChange={set} />;
    case 'switch':
      return <SwitchField {...props} spec={spec} />;
    case 'choice':
      return <ChoiceField {...props} spec={spec} />;
    case 'color':
      return <Color label={spec.label} value={shared<string>(props.values) ?? ''} onChange={set} />;
    case 'text':
      return <LinesField {...props} spec={spec} onChange={set} />;
    case 'vector':
      return <VectorField {...props} spec={spec} onChange={set} />;
    case 'reference':
      return <ReferenceField {...props} />;
    case 'record':
      return null;
    case 'list':
      if (spec.of.type === 'record')
        return (
          <RecordsField
            spec={spec}
            of={spec.of}
            value={shared<readonly ParamRecord[]>(props.values)}
            onChange={set}
            panel={props.panel}
          />
        );
      return <ListField {...props} onChange={set} />;
    case 'keyframes':
      return <KeyframesField spec={spec} value={shared<readonly Keyframe[]>(props.values)} onChange={set} />;
  }
}

function NumberField({ spec, values, onChange }: FieldProps<NumberParam>) {
  const times = spec.shown?.times ?? 1;
  const value = shared<number>(values);
  return (
    <LengthField
      label={spec.label}
      tip={`${spec.help}${rangeOf(spec)}`}
      unit={spec.shown?.unit ?? spec.unit}
      value={value === null ? null : value * times}
      none={values.every((v) => v === undefined) ? spec.none : undefined}
      onNone={spec.none ? () => onChange(undefined) : undefined}
      onChange={(v) => onChange(spec.measure === 'count' ? nearestValue(spec, v) : v / times)}
    />
  );
}

/** The range in words, where a person could come upon its ends. */
const rangeOf = ({ min, max, unit, shown, none }: NumberParam): string =>
  max >= 100_000 || none
    ? ''
    : `: ${min * (shown?.times ?? 1)} to ${withUnit(max * (shown?.times ?? 1), shown?.unit ?? unit)}`;

function SwitchField({ spec, values, onChange }: FieldProps) {
  const value = shared<boolean>(values);
  return (
    <Toggle
      label={value === null ? `${spec.label} (mixed)` : spec.label}
      tip={spec.help}
      value={value ?? false}
      onChange={onChange}
    />
  );
}

/** Few and short words lie side by side in a row; other choices open. */
const FITS = { choices: 5, letters: 28 };

function ChoiceField({ spec, values, onChange, row }: FieldProps<ChoiceParam>) {
  const value = shared<string>(values);
  const choices = spec.choices.map((c) => ({ value: c, label: spec.names?.[c] ?? c }));
  const letters = choices.reduce((n, c) => n + c.label.length, 0);
  if (row && value !== null && choices.length <= FITS.choices && letters <= FITS.letters)
    return (
      <Choice
        label={spec.label}
        tip={spec.help}
        value={value}
        options={choices.map((c) => [c.value, c.label] as const)}
        onChange={onChange}
      />
    );
  return (
    <Tooltip label={spec.help}>
      <Select
        label={spec.label}
        allowDeselect={false}
        placeholder="mixed"
        {...(row ? { w: `${Math.max(...choices.map((c) => c.label.length)) + 5}ch` } : {})}
        data={choices}
        value={value}
        onChange={(v) => v !== null && onChange(v)}
      />
    </Tooltip>
  );
}

function LinesField({ spec, values, onChange }: FieldProps<TextParam>) {
  const value = shared<string>(values);
  const [text, setText] = useState<string | null>(null);
  const placeholder = value === null ? 'mixed' : undefined;
  if (!spec.lines)
    return <TextField label={spec.label} value={value ?? ''} placeholder={placeholder} onChange={onChange} />;
  const commit = () => {
    if (text !== null && text !== value) onChange(text);
    setText(null);
  };
  return (
    <Tooltip label={spec.help}>
      <Textarea
        label={spec.label}
        autosize
        minRows={2}
        maxRows={8}
        placeholder={placeholder}
        value={text ?? value ?? ''}
        onChange={(e) => setText(e.currentTarget.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Escape') setText(null);
        }}
      />
    </Tooltip>
  );
}

function VectorField({ spec, values, onChange }: FieldProps<VectorParam>) {
  const change = (axis: number, to: number) => {
    const from = values[0] as Vec3;
    onChange(from.map((c, i) => (i === axis ? to : c)));
  };
  return (
    <div>
      <Tooltip label={spec.help}>
        <span className="field-title">{spec.label}</span>
      </Tooltip>
      <div className="three-fields">
        {(['X', 'Y', 'Z'] as const).map((axis, i) => (
          <LengthField
            key={axis}
            label={axis}
            tip={`${spec.label}: ${spec.help}`}
            value={shared<number>(values.map((v) => (v as Vec3)[i]!))}
            onChange={(v) => change(i, v)}
          />
        ))}
      </div>
    </div>
  );
}

function ReferenceField({ spec, values, onChange, choices, row }: FieldProps) {
  const value = shared<string>(values);
  if (row && value !== null && spec.type === 'reference' && spec.to === 'material')
    return <MaterialSwatch name={value} size={30} withName />;
  const known = spec.type === 'reference' ? (choices?.(spec.to) ?? []) : [];
  const missing = value && !known.some((c) => c.value === value) ? [{ value, label: `${value} (gone)` }] : [];
  if (spec.type === 'reference' && spec.to === 'sound') return <SoundField {...{ spec, value, onChange }} />;
  if (spec.type === 'reference' && spec.to === 'model') return <PropField {...{ spec, value, onChange }} />;
  return (
    <Tooltip label={spec.help}>
      <Select
        label={spec.label}
        searchable
        clearable
        placeholder={value === null ? 'mixed' : 'none'}
        data={[...known, ...missing]}
        value={value === '' ? null : value}
        onChange={(v) => onChange(v ?? '')}
      />
    </Tooltip>
  );
}

/** One of the props in Stock. */
function PropField({
  spec,
  value,
  onChange,
}: Pick<FieldProps, 'spec' | 'onChange'> & { readonly value: string | null }) {
  const props = useLibrary((s) => s.props);
  const known = [...props.values()].map((p) => ({ value: p.name, label: p.label }));
  const missing = value && !props.has(value) ? [{ value, label: `${value} (nobody has it)` }] : [];
  return (
    <Tooltip label={spec.help}>
      <Select
        label={spec.label}
        searchable
        allowDeselect={false}
        placeholder={value === null ? 'mixed' : 'none'}
        data={[...known, ...missing]}
        value={value === '' ? null : value}
        onChange={(v) => v && onChange(v)}
      />
    </Tooltip>
  );
}

const SOUND_CHOICES: Choices = Object.entries(SOUNDS).map(([value, label]) => ({ value, label }));

/** One of the sounds that ship, heard by a press. */
function SoundField({
  spec,
  value,
  onChange,
}: Pick<FieldProps, 'spec' | 'onChange'> & { readonly value: string | null }) {
  const known = SOUND_CHOICES.some((c) => c.value === value);
  return (
    <Group gap={4} align="flex-end" wrap="nowrap">
      <Tooltip label={spec.help}>
        <Select
          label={spec.label}
          flex={1}
          searchable
          clearable
          placeholder={value === null ? 'mixed' : 'none'}
          data={value && !known ? [...SOUND_CHOICES, { value, label: `${value} (unknown)` }] : SOUND_CHOICES}
          value={value === '' ? null : value}
          onChange={(v) => {
            onChange(v ?? '');
            hear(v ?? '');
          }}
        />
      </Tooltip>
      <Tooltip label="Hear it">
        <ActionIcon
          variant="default"
          size={28}
          aria-label={`Hear: ${spec.label}`}
          disabled={!value}
          onClick={() => hear(value ?? '')}
        >
          <IconVolume size={15} stroke={1.5} />
        </ActionIcon>
      </Tooltip>
    </Group>
  );
}

/** A list of plain values, one a line. */
function ListField({ spec, values, onChange }: FieldProps) {
  const value = shared<readonly ParamValue[]>(values);
  const [text, setText] = useState<string | null>(null);
  const of = spec.type === 'list' ? spec.of : spec;
  const read = (line: string): ParamValue => (of.type === 'number' ? Number(line) : line);
  const commit = () => {
    if (text !== null)
      onChange(
        text
          .split('\n')
          .map((l) => l.trim())
          .filter(Boolean)
          .map(read),
      );
    setText(null);
  };
  return (
    <Tooltip label={`${spec.help}; one a line`}>
      <Textarea
        label={spec.label}
        autosize
        minRows={2}
        placeholder={value === null ? 'mixed' : 'none'}
        value={text ?? value?.join('\n') ?? ''}
        onChange={(e) => setText(e.currentTarget.value)}
        onBlur={commit}
        onKeyDown={(e) => e.stopPropagation()}
      />
    </Tooltip>
  );
}
