import { Text, TextInput, UnstyledButton } from '@mantine/core';
import { IconBulb, IconCube, IconFlag, IconSquare, IconSun } from '@tabler/icons-react';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState, type MouseEvent } from 'react';
import { entityKind, type MapDocument } from '@yesca/core';
import { goTo } from '../commands/commands.ts';
import { shownDocument, useEditor } from '../state/editor.ts';
import { isSelected, selectOnly, toggleThing, type Thing } from '../state/selection.ts';

type Row =
  { readonly head: string } | { readonly thing: Thing; readonly label: string; readonly icon: typeof IconCube };

function rowsOf(doc: MapDocument, search: string): Row[] {
  const match = (label: string) => label.toLowerCase().includes(search.toLowerCase());
  const group = (head: string, rows: Extract<Row, { thing: Thing }>[]): Row[] => {
    const kept = rows.filter((r) => match(r.label));
    return kept.length ? [{ head: `${head} · ${kept.length}` }, ...kept] : [];
  };
  const icons: Record<string, typeof IconCube> = { spawn: IconFlag, pointLight: IconBulb, sun: IconSun };
  return [
    ...group('Rooms', [...doc.rooms.values()].map((r) => ({ thing: { type: 'room', id: r.id }, label: r.name, icon: IconSquare }))),
    ...group('Things', [...doc.entities.values()].map((e) => ({ thing: { type: 'entity', id: e.id }, label: e.name || entityKind(e.kind)?.label || e.kind, icon: icons[e.kind] ?? IconFlag }))),
    ...group('Brushes', [...doc.brushes.values()].filter((b) => !b.room).map((b) => ({ thing: { type: 'brush', id: b.id }, label: b.name ?? `${b.role[0]!.toUpperCase()}${b.role.slice(1)}, ${b.faces.length} faces`, icon: IconCube }))),
  ]; // prettier-ignore
}

/** What is in the map, by kind. A click selects, Ctrl-click adds, a double click goes there. */
export function Register() {
  const doc = useEditor(shownDocument);
  const select = useEditor((s) => s.select);
  const chosen = useEditor((s) => s.selection);
  const [search, setSearch] = useState('');
  const rows = useMemo(() => rowsOf(doc, search), [doc, search]);
  const scroller = useRef<HTMLDivElement>(null);
  // The virtual list keeps functions that must not be memoized; the compiler's rule does not know the library.
  // eslint-disable-next-line react-hooks/incompatible-library
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 26,
    overscan: 10,
  });
  const click = (event: MouseEvent, thing: Thing) =>
    select(event.ctrlKey || event.metaKey ? toggleThing(chosen, thing) : selectOnly([thing]));
  return (
    <div className="register">
      <TextInput
        m={10}
        mb={4}
        placeholder="Search the map"
        aria-label="Search the map"
        value={search}
        onChange={(e) => setSearch(e.currentTarget.value)}
        onKeyDown={(e) => e.stopPropagation()}
      />
      {rows.length === 0 && (
        <Text size="xs" c="dimmed" p={10}>
          {search
            ? 'Nothing is called that.'
            : 'The map is empty. Press R and drag on the Plan to make the first room.'}
        </Text>
      )}
      <div ref={scroller} className="register-list">
        <div style={{ height: list.getTotalSize(), position: 'relative' }}>
          {list.getVirtualItems().map(({ index, start }) => {
            const row = rows[index]!;
            const style = { transform: `translateY(${start}px)` };
            if ('head' in row)
              return (
                <h3 key={index} className="panel-title register-row register-head" style={style}>
                  {row.head}
                </h3>
              );
            const Icon = row.icon;
            return (
              <UnstyledButton
                key={index}
                className="row register-row"
                style={style}
                data-active={isSelected(chosen, row.thing) || undefined}
                onClick={(e) => click(e, row.thing)}
                onDoubleClick={() =>
                  goTo(
                    undefined,
                    row.thing.type === 'brush' ? [row.thing.id] : [],
                    row.thing.type === 'entity' ? [row.thing.id] : [],
                  )
                }
              >
                <Icon size={15} stroke={1.5} />
                <span className="row-label">{row.label}</span>
              </UnstyledButton>
            );
          })}
        </div>
      </div>
    </div>
  );
}
