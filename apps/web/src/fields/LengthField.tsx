import { TextInput, Tooltip } from '@mantine/core';
import { useRef, useState, type KeyboardEvent } from 'react';
import { useEditor } from '../state/editor.ts';
import { readLength, showLength } from './arithmetic.ts';

interface Props {
  readonly label: string;
  readonly tip: string;
  /** Null when several selected things differ. */
  readonly value: number | null;
  readonly unit?: string;
  readonly onChange: (value: number) => void;
  readonly disabled?: boolean;
}

/** A number with a unit that takes sums: `2*64+16`, `1.5m`. Enter or leaving the field sets it, Esc drops it. */
export function LengthField({ label, tip, value, unit = 'cm', onChange, disabled }: Props) {
  const [text, setText] = useState<string | null>(null);
  const module = useEditor((s) => s.doc.settings.module);
  /** Esc was pressed: leaving the field then sets nothing. */
  const left = useRef(false);
  const shown = text ?? (value === null ? '' : showLength(value));
  const wrong = text !== null && text !== '' && readLength(text, module) === null;
  const commit = () => {
    const typed = left.current || text === null || text === '' ? null : readLength(text, module);
    left.current = false;
    setText(null);
    if (typed !== null && (value === null || Math.abs(typed - value) > 1e-9)) onChange(typed);
  };
  const key = (event: KeyboardEvent<HTMLInputElement>) => {
    event.stopPropagation();
    // Leaving the field gives the keys back to the tools.
    if (event.key === 'Enter') event.currentTarget.blur();
    else if (event.key === 'Escape') {
      setText(null);
      left.current = true;
      event.currentTarget.blur();
    } else if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && value !== null) {
      event.preventDefault();
      onChange(value + (event.key === 'ArrowUp' ? 1 : -1) * (event.shiftKey ? 10 : 1));
    }
  };
  return (
    <Tooltip label={tip}>
      <TextInput
        label={label}
        aria-label={label}
        value={shown}
        placeholder={value === null ? 'mixed' : undefined}
        error={wrong ? 'Type a number or a sum' : undefined}
        inputMode="decimal"
        rightSection={<span className="quiet unit">{unit}</span>}
        rightSectionWidth={30}
        disabled={disabled}
        onChange={(e) => setText(e.currentTarget.value)}
        onFocus={(e) => e.currentTarget.select()}
        onBlur={commit}
        onKeyDown={key}
      />
    </Tooltip>
  );
}
