import { TextInput } from '@mantine/core';
import { useState } from 'react';

/** A line of text that is set with Enter or on leaving, and dropped with Esc. */
export function TextField({
  label,
  value,
  onChange,
  placeholder,
}: {
  label: string;
  value: string;
  onChange: (text: string) => void;
  placeholder?: string;
}) {
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text !== null && text.trim() !== value) onChange(text.trim());
    setText(null);
  };
  return (
    <TextInput
      label={label}
      value={text ?? value}
      placeholder={placeholder}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') setText(null);
      }}
    />
  );
}
