import {
  ActionIcon,
  ColorSwatch,
  Group,
  Menu,
  Popover,
  Select,
  Stack,
  Switch,
  Text,
  TextInput,
  Tooltip,
  UnstyledButton,
} from '@mantine/core';
import { useElementSize, useMergedRef } from '@mantine/hooks';
import { IconAdjustmentsHorizontal, IconGridDots, IconLayoutGrid, IconPalette, IconX } from '@tabler/icons-react';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState, type CSSProperties, type KeyboardEvent } from 'react';
import { useNavigate } from 'react-router';
import { materialCounts } from '@yesca/core';
import { useMaterials, usePacks } from '../../state/remote.ts';
import { replaceThroughMap, selectWithMaterial } from '../../commands/surfaces.ts';
import { searchKeys } from '../../fields/focus.ts';
import { useEditor } from '../../state/editor.ts';
import { useLibrary } from '../../state/library.ts';
import { MaterialSwatch } from '../MaterialSwatch.tsx';
import { searchMaterials, type LibraryQuery, type Show, type Size } from './search.ts';
import { MenuAt } from '../MenuAt.tsx';
import { useCurrent } from '../../state/current.ts';

/** Colours to look for: the mill's own. */
const COLORS = [
  '#d6cebd',
  '#a8a49a',
  '#66645f',
  '#36373b',
  '#7c5837',
  '#8a4030',
  '#b08a4a',
  '#6f8a4a',
  '#4f7f72',
  '#4f6f95',
  '#bcd3e6',
] as const;

const NOTHING_FOUND: Record<Show, string> = {
  all: 'Nothing is called that. Try a tag like wood, stone or wet, or clear the filters.',
  used: 'This map uses none of these yet.',
  recent: 'Nothing was painted with yet.',
  favourites: 'No favourites yet: right-click a material and choose Keep as favourite.',
};

/** All materials to choose from: searched, filtered, and only what is in sight drawn. */
export function MaterialLibrary({
  tall,
  chosen,
  onChoose,
}: {
  /** Grows with its frame; otherwise a fixed height serves. */
  tall?: boolean;
  chosen?: string;
  onChoose?: (name: string) => void;
}) {
  const { error } = useMaterials();
  const { data: packs } = usePacks();
  const materials = useLibrary((s) => s.materials);
  const { recent, favourites, packsOff, largeThumbs, setLargeThumbs, togglePack } = useLibrary();
  const brushes = useEditor((s) => s.doc.brushes);
  const [query, setQuery] = useState<LibraryQuery>({ text: '', color: null, size: 'any', show: 'all' });
  const [menu, setMenu] = useState<{ name: string; x: number; y: number } | null>(null);
  const change = (part: Partial<LibraryQuery>) => setQuery({ ...query, ...part });
  const counts = useMemo(() => materialCounts({ brushes }), [brushes]);
  const all = useMemo(() => [...materials.values()], [materials]);
  const found = useMemo(
    () => searchMaterials(all, query, { counts, recent, favourites, packsOff }),
    [all, query, counts, recent, favourites, packsOff],
  );
  const filtered = query.color !== null || query.size !== 'any' || packsOff.length > 0;
  return (
    <Stack gap={6} className="library" data-tall={tall || undefined}>
      <Group gap={4} wrap="nowrap">
        <TextInput
          flex={1}
          placeholder="Search by word or tag"
          aria-label="Search materials"
          value={query.text}
          onChange={(e) => change({ text: e.currentTarget.value })}
          onKeyDown={searchKeys}
          rightSection={
            query.text && (
              <ActionIcon size="xs" aria-label="Clear the search" onClick={() => change({ text: '' })}>
                <IconX size={12} />
              </ActionIcon>
            )
          }
        />
        <Popover position="bottom-end" shadow="md" withinPortal>
          <Popover.Target>
            <Tooltip label="By colour, size and pack">
              <ActionIcon aria-label="Filters" aria-pressed={filtered} variant={filtered ? 'light' : 'subtle'}>
                <IconAdjustmentsHorizontal size={17} stroke={1.5} />
              </ActionIcon>
            </Tooltip>
          </Popover.Target>
          <Popover.Dropdown p={10}>
            <Stack gap={8} w={208}>
              <Group gap={5}>
                {COLORS.map((c) => (
                  <ColorSwatch
                    key={c}
                    component="button"
                    type="button"
                    color={c}
                    size={20}
                    radius={3}
                    aria-label={`Like ${c}`}
                    aria-pressed={query.color === c}
                    style={{ cursor: 'pointer', outline: query.color === c ? '2px solid var(--indigo)' : undefined }}
                    onClick={() => change({ color: query.color === c ? null : c })}
                  />
                ))}
                <Tooltip label="Like the active material">
                  <ActionIcon
                    size="sm"
                    aria-label="Like the active material"
                    onClick={() => change({ color: materials.get(useCurrent.getState().material)?.average ?? null })}
                  >
                    <IconPalette size={15} stroke={1.5} />
                  </ActionIcon>
                </Tooltip>
              </Group>
              <Select
                label="Size of the picture"
                allowDeselect={false}
                data={[
                  { value: 'any', label: 'Any' },
                  { value: 'small', label: 'Up to 256' },
                  { value: 'medium', label: 'Up to 512' },
                  { value: 'large', label: 'Larger' },
                ]}
                comboboxProps={{ withinPortal: false }}
                value={query.size}
                onChange={(v) => v && change({ size: v as Size })}
              />
              <Text size="xs" fw={620}>
                Packs
              </Text>
              {[{ id: 'workshop', name: 'Workshop' }, ...(packs ?? [])].map((p) => (
                <Switch
                  key={p.id}
                  size="xs"
                  label={p.name}
                  checked={!packsOff.includes(p.id)}
                  onChange={() => togglePack(p.id)}
                />
              ))}
            </Stack>
          </Popover.Dropdown>
        </Popover>
        <Tooltip label={largeThumbs ? 'Smaller pictures' : 'Larger pictures'}>
          <ActionIcon
            aria-label={largeThumbs ? 'Smaller pictures' : 'Larger pictures'}
            onClick={() => setLargeThumbs(!largeThumbs)}
          >
            {largeThumbs ? <IconGridDots size={17} stroke={1.5} /> : <IconLayoutGrid size={17} stroke={1.5} />}
          </ActionIcon>
        </Tooltip>
      </Group>
      <Group gap={2} wrap="nowrap" role="tablist" aria-label="Which materials" className="library-tabs">
        {(
          [
            ['all', 'All'],
            ['used', 'Used'],
            ['recent', 'Recent'],
            ['favourites', 'Kept'],
          ] as const
        ).map(([show, label]) => (
          <UnstyledButton
            key={show}
            role="tab"
            aria-selected={query.show === show}
            data-active={query.show === show || undefined}
            onClick={() => change({ show })}
          >
            {label}
          </UnstyledButton>
        ))}
      </Group>
      {error ? (
        <Text size="xs" c="var(--madder)">
          The imported materials could not be loaded. Check that the server runs.
        </Text>
      ) : null}
      {found.length === 0 ? (
        <Text size="xs" c="dimmed">
          {NOTHING_FOUND[query.show]}
        </Text>
      ) : (
        <Tiles
          names={found.map((m) => m.name)}
          large={largeThumbs}
          counts={counts}
          chosen={chosen}
          onChoose={onChoose}
          onMenu={(name, x, y) => setMenu({ name, x, y })}
        />
      )}
      <MaterialMenu at={menu} onClose={() => setMenu(null)} />
    </Stack>
  );
}

/** The grid of pictures, row by row as they come into sight. Arrows go from one to the next. */
function Tiles({
  names,
  large,
  counts,
  chosen,
  onChoose,
  onMenu,
}: {
  names: readonly string[];
  large: boolean;
  counts: ReadonlyMap<string, number>;
  chosen?: string;
  onChoose?: (name: string) => void;
  onMenu: (name: string, x: number, y: number) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const { ref, width } = useElementSize();
  const merged = useMergedRef(scroller, ref);
  const picture = large ? 84 : 54;
  const columns = Math.max(1, Math.floor((width + 4) / (picture + 6)));
  // eslint-disable-next-line react-hooks/incompatible-library
  const rows = useVirtualizer({
    // Nothing before the width is known: tiles would jump from under the pointer.
    count: width === 0 ? 0 : Math.ceil(names.length / columns),
    getScrollElement: () => scroller.current,
    estimateSize: () => picture + 22,
    overscan: 4,
  });
  const key = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: columns, ArrowUp: -columns }[event.key];
    const here = names.indexOf((event.target as HTMLElement).dataset.material ?? '');
    const next = by !== undefined && here >= 0 ? names[here + by] : undefined;
    if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    rows.scrollToIndex(Math.floor((here + by!) / columns));
    requestAnimationFrame(() => scroller.current?.querySelector<HTMLElement>(`[data-material="${next}"]`)?.focus());
  };
  return (
    <div
      ref={merged}
      className="library-tiles"
      style={{ '--tile': `${picture}px` } as CSSProperties}
      onKeyDown={key}
      data-testid="library"
    >
      <div style={{ height: rows.getTotalSize(), position: 'relative' }}>
        {rows.getVirtualItems().map((row) => (
          <div key={row.key} className="library-row" style={{ transform: `translateY(${row.start}px)` }}>
            {names.slice(row.index * columns, (row.index + 1) * columns).map((name) => (
              <span key={name} data-chosen={chosen === name || undefined} className="library-tile">
                <MaterialSwatch
                  name={name}
                  size={picture}
                  withName
                  count={counts.get(name)}
                  onClick={onChoose && (() => onChoose(name))}
                  onMenu={(event) => onMenu(name, event.clientX, event.clientY)}
                />
              </span>
            ))}
          </div>
        ))}
      </div>
    </div>
  );
}

/** What can be done with a material of the library. */
function MaterialMenu({ at, onClose }: { at: { name: string; x: number; y: number } | null; onClose: () => void }) {
  const favourite = useLibrary((s) => at !== null && s.favourites.includes(at.name));
  const here = useEditor((s) => s.mapId !== null);
  const active = useCurrent((s) => s.material);
  const navigate = useNavigate();
  if (!at) return null;
  const { name } = at;
  return (
    <MenuAt at={at} onClose={onClose}>
      <Menu.Item onClick={() => useCurrent.setState({ material: name })}>Make it active</Menu.Item>
      <Menu.Item onClick={() => useLibrary.getState().toggleFavourite(name)}>
        {favourite ? 'No longer keep as favourite' : 'Keep as favourite'}
      </Menu.Item>
      {here && (
        <>
          <Menu.Divider />
          <Menu.Item onClick={() => selectWithMaterial(name)}>Select all faces that have it</Menu.Item>
          <Menu.Item disabled={active === name} onClick={() => replaceThroughMap(name)}>
            Replace it with the active material
          </Menu.Item>
        </>
      )}
      <Menu.Divider />
      <Menu.Item onClick={() => void navigate(`/materials?name=${name}`)}>Show on the Materials page</Menu.Item>
    </MenuAt>
  );
}
