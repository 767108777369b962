import { TextInput, Tooltip } from '@mantine/core';
import { useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { focusPane } from './focus.ts';
import { notifyError } from '../state/notify.ts';

interface Props<T extends string | number> {
  readonly label: string;
  readonly tip: string;
  /** What is shown while nothing is typed. */
  readonly value: string;
  readonly placeholder?: string;
  /** What a text stands for, null when it stands for nothing. */
  readonly read: (text: string) => T | null;
  /** A sentence for a text that stands for nothing. */
  readonly wrong: string;
  readonly onChange: (value: T) => void;
  /** What an emptied field sets; absent: emptying is refused like any other text that stands for nothing. */
  readonly whenEmpty?: () => void;
  readonly left?: ReactNode;
  readonly unit?: string;
  readonly disabled?: boolean;
  readonly numeric?: boolean;
  readonly onArrow?: (by: number) => void;
}

/**
 * A field that is typed into: Enter or leaving it sets what was typed, Esc drops it. What stands for nothing is refused with a
 * sentence, in the field while it is typed and as a notice when it is left.
 */
export function TypedField<T extends string | number>(props: Props<T>) {
  const { label, tip, value, placeholder, read, wrong, left, unit, disabled } = props;
  const [text, setText] = useState<string | null>(null);
  /** Esc was pressed: leaving the field then sets nothing. */
  const dropped = useRef(false);
  const bad = text !== null && !(text === '' && (props.whenEmpty || value === '')) && read(text) === null;
  const commit = () => {
    const typed = dropped.current ? null : text;
    dropped.current = false;
    setText(null);
    if (typed === null || typed === value || (typed === '' && value === '')) return;
    if (typed === '' && props.whenEmpty) return props.whenEmpty();
    const meant = read(typed);
    if (meant === null) notifyError(new Error(`${label}: ${wrong[0]!.toLowerCase()}${wrong.slice(1)}.`));
    else props.onChange(meant);
  };
  const key = (event: KeyboardEvent<HTMLInputElement>) => {
    event.stopPropagation();
    // Leaving the field gives the keys back to the tools.
    if (event.key === 'Enter') {
      event.currentTarget.blur();
      focusPane();
    } else if (event.key === 'Escape') {
      setText(null);
      dropped.current = true;
      event.currentTarget.blur();
      focusPane();
    } else if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && props.onArrow) {
      event.preventDefault();
      props.onArrow((event.key === 'ArrowUp' ? 1 : -1) * (event.shiftKey ? 10 : 1));
    }
  };
  return (
    <Tooltip label={tip}>
      <TextInput
        label={label}
        aria-label={label}
        value={text ?? value}
        placeholder={placeholder}
        error={bad ? wrong : undefined}
        inputMode={props.numeric ? 'decimal' : undefined}
        leftSection={left}
        rightSection={unit && <span className="quiet unit">{unit}</span>}
        rightSectionWidth={unit ? 30 : undefined}
        disabled={disabled}
        onChange={(e) => setText(e.currentTarget.value)}
        onFocus={(e) => e.currentTarget.select()}
        onBlur={commit}
        onKeyDown={key}
      />
    </Tooltip>
  );
}
