import { Text, Tooltip, UnstyledButton } from '@mantine/core';
import { MATERIALS } from '@yesca/stock';
import { materialUrl } from '../api/hooks.ts';
import { useView } from '../state/view.ts';

/** A picture of a material; a click makes it the active one. */
export function MaterialSwatch({ name, size, withName }: { name: string; size: number; withName?: boolean }) {
  const active = useView((s) => s.material === name);
  const known = MATERIALS.find((m) => m.name === name);
  const label = known?.label ?? name;
  return (
    <Tooltip label={`${label}${known ? ` · ${known.tags.join(', ')}` : ' · not in Stock'} — click to make it active`}>
      <UnstyledButton
        className="swatch"
        data-active={active || undefined}
        aria-pressed={active}
        aria-label={`Material ${label}`}
        onClick={() => useView.getState().set({ material: name })}
      >
        <span
          className="swatch-picture"
          style={{
            width: size,
            height: size,
            backgroundImage: known ? `url(${materialUrl(name)})` : undefined,
            backgroundColor: known?.average ?? 'var(--sunk)',
          }}
        />
        {withName && (
          <Text size="xs" truncate component="span">
            {label}
          </Text>
        )}
      </UnstyledButton>
    </Tooltip>
  );
}
