import { ColorPicker, Popover, Tooltip, UnstyledButton } from '@mantine/core';
import { useState } from 'react';
import { readColor } from './color.ts';
import { TypedField } from './TypedField.tsx';

/**
 * A colour (empty where several differ): typed, pasted, or picked from a field that opens with its button and closes with Enter, Esc or a
 * click elsewhere.
 */
export function Color({ label, value, onChange }: { label: string; value: string; onChange: (hex: string) => void }) {
  const [open, setOpen] = useState(false);
  const [picked, setPicked] = useState(value);
  const set = (hex: string) => void (hex !== value && onChange(hex));
  const close = (keep: boolean) => {
    if (!open) return;
    setOpen(false);
    if (keep) set(picked);
  };
  return (
    <Popover opened={open} onChange={(o) => !o && close(true)} position="left-start" shadow="md" trapFocus withinPortal>
      <Popover.Target>
        <div>
          <TypedField
            label={label}
            tip="A colour like #ffcc88, typed or pasted"
            value={value}
            placeholder={value === '' ? 'mixed' : undefined}
            read={readColor}
            wrong="Type a colour like #ffcc88"
            onChange={onChange}
            left={
              <Tooltip label={`Pick: ${label}`}>
                <UnstyledButton
                  className="color-button"
                  aria-label={`Pick ${label}`}
                  aria-expanded={open}
                  style={{ background: value || undefined }}
                  onClick={() => {
                    setPicked(value);
                    setOpen(!open);
                  }}
                />
              </Tooltip>
            }
          />
        </div>
      </Popover.Target>
      <Popover.Dropdown
        p={8}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') close(true);
          if (e.key === 'Escape') close(false);
        }}
      >
        <ColorPicker format="hex" value={picked} onChange={setPicked} onChangeEnd={set} focusable />
      </Popover.Dropdown>
    </Popover>
  );
}
