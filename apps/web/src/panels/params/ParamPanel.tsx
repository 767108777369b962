import { ActionIcon, Tooltip } from '@mantine/core';
import { IconArrowBackUp } from '@tabler/icons-react';
import {
  sameValue,
  shownParams,
  withUnit,
  type ParamSpec,
  type ParamSpecs,
  type ParamValue,
  type ParamValues,
} from '@yesca/core';
import { ParamField, type Choices } from './ParamField.tsx';
import './params.css';

interface Props {
  readonly specs: ParamSpecs;
  /** The values of each selected thing; one or more. */
  readonly values: readonly Readonly<Record<string, ParamValue | undefined>>[];
  readonly onChange: (key: string, value: ParamValue | undefined) => void;
  readonly choices?: (to: string) => Choices;
  /** In a row below the drawings rather than one under another in the panel. */
  readonly row?: boolean;
}

/**
 * The parameters of things, shapes, tools and maps, in one way everywhere: fields by type, in the order of their list, those that matter; a
 * value that is not the usual one can be set back.
 */
export function ParamPanel({ specs, values, onChange, choices, row }: Props) {
  const first = (values[0] ?? {}) as ParamValues;
  return (
    <div className={row ? 'params params-row' : 'params'}>
      {shownParams(specs, first).map(([key, spec]) => {
        const none = spec.type === 'number' && spec.none !== undefined;
        const usualValue = none ? undefined : spec.initial;
        const own = values.map((v) => v[key] ?? usualValue);
        const usual = own.every((v) => sameValue(v, usualValue));
        return (
          <div
            key={key}
            className="param"
            data-type={spec.type}
            data-measure={spec.type === 'number' ? spec.measure : undefined}
          >
            <ParamField
              spec={spec}
              values={own}
              onChange={(v) => onChange(key, v)}
              choices={choices}
              row={row}
              panel={(fields, value, change) => (
                <ParamPanel specs={fields} values={[value]} onChange={change} choices={choices} />
              )}
            />
            {!usual && !row && (
              <Tooltip label={`Back to ${words(spec)}`}>
                <ActionIcon
                  variant="subtle"
                  size="xs"
                  className="param-reset"
                  aria-label={`${spec.label}: back to ${words(spec)}`}
                  onClick={() => onChange(key, usualValue)}
                >
                  <IconArrowBackUp size={13} stroke={1.6} />
                </ActionIcon>
              </Tooltip>
            )}
          </div>
        );
      })}
    </div>
  );
}

/** The usual value in words. */
function words(spec: ParamSpec): string {
  if (spec.type === 'number')
    return spec.none ?? withUnit(spec.initial * (spec.shown?.times ?? 1), spec.shown?.unit ?? spec.unit);
  if (spec.type === 'switch') return spec.initial ? 'on' : 'off';
  if (spec.type === 'list' || spec.type === 'keyframes' || spec.type === 'record') return 'none';
  if (spec.type === 'vector') return spec.initial.join(', ');
  return spec.initial === '' ? 'none' : spec.initial;
}
