import './library/library.css';
import { HoverCard, Stack, Text, UnstyledButton } from '@mantine/core';
import { IconStarFilled } from '@tabler/icons-react';
import { useState, type DragEvent, type MouseEvent } from 'react';
import { pictureUrl } from '../state/remote.ts';
import { useLibrary } from '../state/library.ts';
import { MATERIAL_DRAG } from '../state/drag.ts';
import { useCurrent } from '../state/current.ts';

const SOLIDITIES = { solid: '', cutOut: 'cut-out', seeThrough: 'see-through' } as const;

/** A picture of a material; a click makes it the active one, and it can be dragged onto faces. */
export function MaterialSwatch({
  name,
  size,
  withName,
  count,
  onClick,
  onMenu,
}: {
  name: string;
  size: number;
  withName?: boolean;
  /** How many faces have it. */
  count?: number;
  onClick?: () => void;
  onMenu?: (event: MouseEvent) => void;
}) {
  const active = useCurrent((s) => s.material === name);
  const known = useLibrary((s) => s.materials.get(name));
  const favourite = useLibrary((s) => s.favourites.includes(name));
  const label = known?.label ?? name;
  const [dragged, setDragged] = useState(false);
  const drag = (event: DragEvent) => {
    setDragged(true);
    event.dataTransfer.setData(MATERIAL_DRAG, name);
    event.dataTransfer.effectAllowed = 'copy';
  };
  return (
    // The card must never stand between the pointer and the panes: it takes no clicks and goes away for a drag.
    <HoverCard openDelay={450} position="right" shadow="md" withinPortal disabled={dragged}>
      <HoverCard.Target>
        <UnstyledButton
          className="swatch"
          data-active={active || undefined}
          data-material={name}
          aria-pressed={active}
          aria-label={`Material ${label}`}
          draggable
          onDragStart={drag}
          onMouseEnter={() => setDragged(false)}
          onClick={onClick ?? (() => useCurrent.setState({ material: name }))}
          onContextMenu={(event) => {
            if (!onMenu) return;
            event.preventDefault();
            onMenu(event);
          }}
        >
          <span
            className="swatch-picture"
            style={{
              width: size,
              height: size,
              backgroundImage: known ? `url(${pictureUrl(name, 'thumb')})` : undefined,
              backgroundColor: known?.average ?? 'var(--sunk)',
            }}
          >
            {favourite && <IconStarFilled className="swatch-star" size={11} aria-label="Favourite" />}
            {count !== undefined && count > 0 && <span className="swatch-count mono">{count}</span>}
          </span>
          {withName && (
            <Text size="xs" truncate component="span">
              {label}
            </Text>
          )}
        </UnstyledButton>
      </HoverCard.Target>
      <HoverCard.Dropdown p={8} className="swatch-card">
        <Stack gap={4} w={216}>
          {known && (
            // Three repeats either way show how it tiles.
            <span
              className="swatch-tiled"
              style={{ backgroundImage: `url(${pictureUrl(name, 'albedo')})`, backgroundColor: 'var(--sunk)' }}
            />
          )}
          <Text size="sm" fw={620}>
            {label}
          </Text>
          <Text size="xs" c="dimmed">
            {known
              ? [
                  `${known.width} × ${known.height}`,
                  `${Math.round(known.texelsPerCm * 100)} texels a metre`,
                  known.substance === 'none' ? '' : known.substance,
                  SOLIDITIES[known.solidity],
                  known.glow ? 'glows' : '',
                  known.regions?.length ? `${known.regions.length} regions` : '',
                  ...known.tags.filter((t) => t !== known.substance),
                ]
                  .filter(Boolean)
                  .join(' · ')
              : 'Not in Stock: import its pack, or replace it.'}
          </Text>
          <Text size="xs" c="dimmed">
            Click makes it active; drag it onto a face, with Shift onto the whole brush.
          </Text>
        </Stack>
      </HoverCard.Dropdown>
    </HoverCard>
  );
}
