import { useEditor } from '../state/editor.ts';
import { readLength, showLength } from './arithmetic.ts';
import { TypedField } from './TypedField.tsx';

interface Props {
  readonly label: string;
  readonly tip: string;
  /** Null when several selected things differ. */
  readonly value: number | null;
  readonly unit?: string;
  readonly onChange: (value: number) => void;
  /** A word for a value that is not set (`none`); then emptying the field unsets it. */
  readonly none?: string;
  readonly onNone?: () => void;
  readonly disabled?: boolean;
}

/** A number with a unit that takes sums: `2*64+16`, `1.5m`. Enter or leaving the field sets it, Esc drops it. */
export function LengthField({ label, tip, value, unit = 'cm', onChange, none, onNone, disabled }: Props) {
  const module = useEditor((s) => s.doc.settings.module);
  return (
    <TypedField
      label={label}
      tip={tip}
      value={value === null ? '' : showLength(value)}
      placeholder={value === null ? (none ?? 'mixed') : undefined}
      read={(text) => readLength(text, module)}
      wrong="Type a number or a sum"
      unit={unit}
      disabled={disabled}
      numeric
      whenEmpty={onNone}
      onChange={(typed) => (value === null || Math.abs(typed - value) > 1e-9) && onChange(typed)}
      onArrow={value === null ? undefined : (by) => onChange(value + by)}
    />
  );
}
