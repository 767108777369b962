import { ActionIcon, Group, Text, TextInput, Tooltip, UnstyledButton } from '@mantine/core';
import {
  IconBookmark,
  IconCube,
  IconEye,
  IconEyeOff,
  IconLock,
  IconLockOpen,
  IconPencil,
  IconPlus,
  IconSquare,
  IconStack2,
  IconStairs,
  IconTrash,
  type Icon,
} from '@tabler/icons-react';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useMemo, useRef, useState, type MouseEvent } from 'react';
import { call, ENTITY_KINDS, entityKind, membersOf, type Brush, type Entity, type MapDocument } from '@yesca/core';
import { layerSelection } from '../commands/shaping.ts';
import { frameAll, goToStorey, recallView, rememberView } from '../commands/viewing.ts';
import { searchKeys } from '../fields/focus.ts';
import { KindSymbol } from '../fields/KindSymbol.tsx';
import { useEditor } from '../state/editor.ts';
import { run } from './particulars/shared.tsx';
import { askName } from './ask-name.tsx';
import { Behind, useFollowed } from './Behind.tsx';
import { isSelected, selectOnly, toggleThings, withMembers, type Selection, type Thing } from '../state/selection.ts';
import { useHidden } from '../state/shown.ts';
import { useCamera } from '../state/camera.ts';

type Row =
  | { readonly head: string }
  | { readonly thing: Thing; readonly label: string; readonly icon: Icon | null; readonly kind?: string };

/** Made once: it is asked tens of thousands of times. */
const BY_NAME = new Intl.Collator(undefined, { numeric: true });

/** Things by kind, those of a kind by name; what rides on something says so. */
function thingRows(doc: MapDocument): Extract<Row, { thing: Thing }>[] {
  const order = new Map(ENTITY_KINDS.map((k, i) => [k.kind, i]));
  const nameOf = (e: Entity) => e.name || entityKind(e.kind)?.label || e.kind;
  return [...doc.entities.values()]
    .sort(
      (a, b) =>
        (order.get(a.kind) ?? 1e3) - (order.get(b.kind) ?? 1e3) ||
        BY_NAME.compare(nameOf(a), nameOf(b)) ||
        (a.id < b.id ? -1 : 1),
    )
    .map((e) => {
      const carrier = e.carrier && doc.entities.get(e.carrier.id);
      return {
        thing: { type: 'entity', id: e.id },
        label: carrier ? `${nameOf(e)} · on ${nameOf(carrier)}` : nameOf(e),
        icon: null,
        kind: e.kind,
      };
    });
}

/** What a brush belongs to, as the end of its row. */
function ownerOf(doc: MapDocument, { owner }: Brush): string {
  const e = owner && doc.entities.get(owner.id);
  return e ? ` · of ${e.name || (entityKind(e.kind)?.label ?? e.kind)}` : '';
}

function rowsOf(doc: MapDocument, search: string): Row[] {
  const wanted = search.toLowerCase();
  // Of thousands of rows none need be looked at while nothing is searched for.
  const match = (label: string) => wanted === '' || label.toLowerCase().includes(wanted);
  const group = (head: string, rows: Extract<Row, { thing: Thing }>[]): Row[] => {
    const kept = rows.filter((r) => match(r.label));
    return kept.length ? [{ head: `${head} · ${kept.length}` }, ...kept] : [];
  };
  return [
    ...group(
      'Rooms',
      [...doc.rooms.values()].map((r) => ({
        thing: { type: 'room', id: r.id },
        label: r.released ? `${r.name} · ${r.released.length} released` : r.name,
        icon: IconSquare,
      })),
    ),
    ...group('Things', thingRows(doc)),
    ...group(
      'Groups',
      [...doc.groups.values()].map((g) => ({ thing: { type: 'group', id: g.id }, label: g.name, icon: IconStack2 })),
    ),
    ...group(
      'Brushes',
      [...doc.brushes.values()]
        .filter((b) => (!b.room || b.room.released) && (!b.group || search))
        .map((b) => ({
          thing: { type: 'brush', id: b.id },
          label: `${b.name ?? `${b.role[0]!.toUpperCase()}${b.role.slice(1)}, ${b.faces.length} faces`}${b.room ? ' · released' : ''}${ownerOf(doc, b)}`,
          icon: IconCube,
        })),
    ),
  ];
}

function Small({
  label,
  icon: Icon,
  onClick,
  pressed,
}: {
  label: string;
  icon: Icon;
  onClick: () => void;
  pressed?: boolean;
}) {
  return (
    <Tooltip label={label}>
      <ActionIcon size="xs" aria-label={label} aria-pressed={pressed} onClick={onClick}>
        <Icon size={13} stroke={1.5} />
      </ActionIcon>
    </Tooltip>
  );
}

function SheetHead({ title, add, onAdd }: { title: string; add: string; onAdd: () => void }) {
  return (
    <Group justify="space-between" px={12} pt={8} wrap="nowrap">
      <h3 className="panel-title">{title}</h3>
      <Small label={add} icon={IconPlus} onClick={onAdd} />
    </Group>
  );
}

/** Sheets of the map: storeys, layers and saved views. */
const Sheets = memo(function Sheets({ storeys, layers, views }: Pick<MapDocument, 'storeys' | 'layers' | 'views'>) {
  const level = useCamera((s) => s.level);
  const cutHeight = useCamera((s) => s.cutHeight);
  return (
    <div className="sheets">
      <SheetHead
        title="Storeys"
        add="Name the level of the Plan as a storey"
        onAdd={() =>
          askName('New storey', `Storey ${storeys.size + 1}`, (name) =>
            run(call('storey.add', { name, floor: useCamera.getState().level, cut: useCamera.getState().cutHeight })),
          )
        }
      />
      {[...storeys.values()]
        .sort((a, b) => b.floor - a.floor)
        .map((s) => (
          <div key={s.id} className="row sheet-row" data-active={s.floor === level || undefined}>
            <IconStairs size={14} stroke={1.5} />
            <UnstyledButton className="row-label" onClick={() => goToStorey(s.floor, s.cut)}>
              {s.name} <span className="quiet mono">{Math.round(s.floor)}</span>
            </UnstyledButton>
            {s.floor === level && s.cut !== cutHeight && (
              <Small
                label="Keep the Plan’s present cut height for this storey"
                icon={IconBookmark}
                onClick={() => run(call('storey.change', { storey: s.id, cut: cutHeight }))}
              />
            )}
            <Small
              label={`Rename ${s.name}`}
              icon={IconPencil}
              onClick={() =>
                askName('Rename storey', s.name, (name) => run(call('storey.change', { storey: s.id, name })))
              }
            />
            <Small
              label={`Remove ${s.name}`}
              icon={IconTrash}
              onClick={() => run(call('storey.remove', { storey: s.id }))}
            />
          </div>
        ))}
      <SheetHead
        title="Layers"
        add="Add a layer"
        onAdd={() => askName('New layer', `Layer ${layers.size + 1}`, (name) => run(call('layer.add', { name })))}
      />
      {[...layers.values()].map((l) => (
        <div key={l.id} className="row sheet-row">
          <Small
            label={l.visible ? `Hide ${l.name}` : `Show ${l.name}`}
            icon={l.visible ? IconEye : IconEyeOff}
            pressed={!l.visible}
            onClick={() => run(call('layer.change', { layer: l.id, visible: !l.visible }))}
          />
          <Small
            label={l.locked ? `Unlock ${l.name}` : `Lock ${l.name}`}
            icon={l.locked ? IconLock : IconLockOpen}
            pressed={l.locked}
            onClick={() => run(call('layer.change', { layer: l.id, locked: !l.locked }))}
          />
          <Tooltip label="Put the selection on this layer">
            <UnstyledButton className="row-label" onClick={() => layerSelection(l.id)}>
              {l.name}
            </UnstyledButton>
          </Tooltip>
          <Small
            label={`Rename ${l.name}`}
            icon={IconPencil}
            onClick={() => askName('Rename layer', l.name, (name) => run(call('layer.change', { layer: l.id, name })))}
          />
          <Small
            label={`Remove ${l.name}`}
            icon={IconTrash}
            onClick={() => run(call('layer.remove', { layer: l.id }))}
          />
        </div>
      ))}
      <SheetHead
        title="Views"
        add="Save this view — Ctrl Shift S"
        onAdd={() => askName('Save this view', `View ${views.size + 1}`, rememberView)}
      />
      {[...views.values()].map((v) => (
        <div key={v.id} className="row sheet-row">
          <IconBookmark size={14} stroke={1.5} />
          <UnstyledButton className="row-label" onClick={() => recallView(v)}>
            {v.name}
          </UnstyledButton>
          <Small label={`Remove ${v.name}`} icon={IconTrash} onClick={() => run(call('view.remove', { view: v.id }))} />
        </div>
      ))}
    </div>
  );
});

/** What is in the map, by kind. A click selects, Ctrl-click adds, a double click goes there. */
export function Register() {
  // Not the draft: a gesture under way changes neither names nor what there is, and long lists would be made anew every frame.
  const { doc, selection, behind } = useFollowed(useEditor((s) => s.doc));
  return (
    <Behind when={behind}>
      <List doc={doc} chosen={selection} />
    </Behind>
  );
}

const List = memo(function List({ doc, chosen }: { doc: MapDocument; chosen: Selection }) {
  const { select } = useEditor.getState();
  const hidden = useHidden((s) => s.ids.size);
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
  const click = (event: MouseEvent, thing: Thing) => {
    const things = withMembers([thing], doc);
    const { selection } = useEditor.getState();
    select(event.ctrlKey || event.metaKey ? toggleThings(selection, things) : selectOnly(things));
  };
  const open = (thing: Thing) => {
    if (thing.type === 'group') {
      const group = doc.groups.get(thing.id)!;
      return askName('Rename group', group.name, (name) => run(call('group.rename', { group: thing.id, name })));
    }
    select(selectOnly([thing]));
    frameAll();
  };
  return (
    <div className="register">
      <TextInput
        m={10}
        mb={4}
        placeholder="Search the map"
        aria-label="Search the map"
        value={search}
        onChange={(e) => setSearch(e.currentTarget.value)}
        onKeyDown={searchKeys}
      />
      {hidden > 0 && (
        <UnstyledButton className="row" onClick={() => useHidden.getState().showAll()}>
          <IconEyeOff size={14} stroke={1.5} />
          <span className="row-label">{hidden} hidden · show all</span>
        </UnstyledButton>
      )}
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
            return (
              <UnstyledButton
                key={index}
                className="row register-row"
                style={style}
                data-active={isSelected(chosen, row.thing, doc) || undefined}
                onClick={(e) => click(e, row.thing)}
                onDoubleClick={() => open(row.thing)}
              >
                {row.icon ? <row.icon size={15} stroke={1.5} /> : <KindSymbol kind={row.kind ?? ''} />}
                <span className="row-label">{row.label}</span>
                {row.thing.type === 'group' && (
                  <span className="quiet mono">{membersOf(doc, row.thing.id).brushes.length}</span>
                )}
              </UnstyledButton>
            );
          })}
        </div>
      </div>
      <Sheets storeys={doc.storeys} layers={doc.layers} views={doc.views} />
    </div>
  );
});
