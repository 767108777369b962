import './library.css';
import { Menu, Text, Tooltip, UnstyledButton } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { boxSize, call, modelOf } from '@yesca/core';
import type { Prop } from '@yesca/stock';
import { PROP_DRAG } from '../../state/drag.ts';
import { useEditor } from '../../state/editor.ts';
import { isImported, useLibrary, WORKSHOP } from '../../state/library.ts';
import { propUrl, useProps } from '../../state/remote.ts';
import { selectOnly } from '../../state/selection.ts';
import { MenuAt } from '../MenuAt.tsx';
import { hasWords, StockSearch } from '../StockSearch.tsx';
import { IMPORTED, removeProp, searchTags } from './imported-props.ts';

const COLLIDES = {
  none: 'stops nothing',
  box: 'collides as a box',
  hull: 'collides as one convex body',
  hulls: 'collides in parts',
  drawn: 'collides as drawn for it',
} as const;

/** How large a prop is, cm. */
export const sizeWords = ({ bounds }: Prop): string =>
  boxSize(bounds)
    .map((c) => (c < 10 ? Math.round(c * 10) / 10 : Math.round(c)))
    .join(' × ');

/** What is told of a prop: its size, triangles and collision. */
const factsLine = (p: Prop): string =>
  `${sizeWords(p)} cm, ${p.triangles} triangles, ${COLLIDES[p.collision]}${p.lights.length > 0 ? ', shines' : ''}`;

/** All props to choose from: searched, and narrowed by a tag. Packs that are left out of the library are not shown. */
export function PropLibrary({ chosen, onChoose }: { chosen: string | null; onChoose: (name: string) => void }) {
  const { error, mutate: reload } = useProps();
  const props = useLibrary((s) => s.props);
  const off = useLibrary((s) => s.packsOff);
  const [search, setSearch] = useState('');
  const [tag, setTag] = useState<string | null>(null);
  const [menu, setMenu] = useState<{ prop: Prop; x: number; y: number } | null>(null);
  const fits = hasWords(search);
  const all = [...props.values()].filter((p) => !off.includes(p.pack ?? WORKSHOP));
  const counts = new Map<string, number>();
  for (const p of all) for (const t of searchTags(p)) counts.set(t, (counts.get(t) ?? 0) + 1);
  const tags = [...counts].filter(([t, n]) => n > 2 || t === IMPORTED || t === tag).map(([t]) => t);
  const found = all.filter(
    (p) => (tag === null || searchTags(p).includes(tag)) && fits(`${p.label} ${searchTags(p).join(' ')}`),
  );
  return (
    <>
      <StockSearch
        what="props"
        search={search}
        onSearch={setSearch}
        heads="Tags"
        names={tags.map((t) => ({ id: t, label: t }))}
        head={tag}
        onHead={setTag}
      />
      {error && all.length === 0 ? (
        <Text size="xs" c="var(--madder)">
          The props could not be loaded. Check that the server runs.
        </Text>
      ) : null}
      {found.length === 0 && all.length > 0 && (
        <Text size="xs" c="dimmed">
          No prop is called that. Clear the search or the tag.
        </Text>
      )}
      <div className="stock-prop-tiles">
        {found.map((p) => (
          <PropTile
            key={p.name}
            prop={p}
            chosen={chosen === p.name}
            onChoose={() => onChoose(p.name)}
            onMenu={(x, y) => setMenu({ prop: p, x, y })}
            reload={reload}
          />
        ))}
      </div>
      {menu && <PropMenu at={menu} onClose={() => setMenu(null)} reload={reload} />}
    </>
  );
}

function PropTile({
  prop: p,
  chosen,
  onChoose,
  onMenu,
  reload,
}: {
  prop: Prop;
  chosen: boolean;
  onChoose: () => void;
  onMenu: (x: number, y: number) => void;
  reload: () => Promise<unknown>;
}) {
  const tile = useRef<HTMLButtonElement>(null);
  // What is shown because an address names it may lie far down.
  useEffect(() => {
    if (chosen) tile.current?.scrollIntoView?.({ block: 'nearest' });
  }, [chosen]);
  return (
    <Tooltip label={`${p.label}: ${factsLine(p)}`} position="right">
      <UnstyledButton
        ref={tile}
        className="stock-prop"
        draggable
        data-active={chosen || undefined}
        aria-current={chosen || undefined}
        onDragStart={(e) => {
          e.dataTransfer.setData(PROP_DRAG, p.name);
          e.dataTransfer.effectAllowed = 'copy';
        }}
        onClick={onChoose}
        onKeyDown={(e) => {
          if (e.key === 'Delete' && isImported(p)) void removeProp(p, reload);
        }}
        onContextMenu={(e) => {
          e.preventDefault();
          onMenu(e.clientX, e.clientY);
        }}
      >
        <img src={propUrl(p.name, 'webp')} alt="" width={64} height={64} loading="lazy" draggable={false} />
        <span>{p.label}</span>
      </UnstyledButton>
    </Tooltip>
  );
}

/** What can be done with a prop of the library. */
function PropMenu({
  at,
  onClose,
  reload,
}: {
  at: { prop: Prop; x: number; y: number };
  onClose: () => void;
  reload: () => Promise<unknown>;
}) {
  const navigate = useNavigate();
  const here = useEditor((s) => s.mapId !== null);
  const entities = useEditor((s) => s.doc.entities);
  const selected = useEditor((s) => s.selection.entities);
  const { prop } = at;
  const standing = [...entities.values()].filter((e) => modelOf(e)?.name === prop.name).map((e) => e.id);
  const others = [...selected].filter((id) => {
    const thing = entities.get(id);
    const model = thing && modelOf(thing);
    return model && model.name !== prop.name;
  });
  return (
    <MenuAt at={at} onClose={onClose}>
      {here && (
        <>
          <Menu.Item
            disabled={standing.length === 0}
            onClick={() => useEditor.getState().select(selectOnly(standing.map((id) => ({ type: 'entity', id }))))}
          >
            Select all {standing.length || ''} in the map
          </Menu.Item>
          <Menu.Item
            disabled={others.length === 0}
            onClick={() => useEditor.getState().run(call('prop.replace', { things: others, model: prop.name }))}
          >
            Put it in place of the selected props
          </Menu.Item>
          <Menu.Divider />
        </>
      )}
      <Menu.Item onClick={() => void navigate(`/props?name=${prop.name}`)}>Show on the Props page</Menu.Item>
      {isImported(prop) && <Menu.Item onClick={() => void removeProp(prop, reload)}>Delete …</Menu.Item>}
    </MenuAt>
  );
}
