import { Menu, Stack, Text, TextInput, Tooltip, UnstyledButton } from '@mantine/core';
import { useState } from 'react';
import { ENTITY_KINDS, entityKind, type EntityKind } from '@yesca/core';
import { KindSymbol } from '../fields/KindSymbol.tsx';
import { MenuAt } from './MenuAt.tsx';
import { useCurrent } from '../state/current.ts';
import { KIND_DRAG } from '../state/drag.ts';
import { toggleKept, useKinds } from '../state/kinds.ts';
import { chooseTool } from '../tools/index.ts';
import { usePlaceOptions } from '../tools/place-options.ts';

/** The heads under which kinds are listed, in the order in which they first come. */
/** Props are listed by what they are. */
const KINDS = ENTITY_KINDS.filter((k) => k.stock === 'things');
const FAMILIES = [...new Set(KINDS.map((k) => k.family))];

const known = (kinds: readonly string[]): EntityKind[] => kinds.flatMap((k) => entityKind(k) ?? []);

/** The kinds of things that can be placed: those kept and used last at hand, then all of them by family. */
export function StockThings() {
  const [search, setSearch] = useState('');
  const [menu, setMenu] = useState<MenuPlace | null>(null);
  const { recent, favourites } = useKinds();
  const wanted = search.trim().toLowerCase();
  const found = KINDS.filter((k) => `${k.label} ${k.help}`.toLowerCase().includes(wanted));
  const atHand: [string, EntityKind[]][] = wanted
    ? []
    : [
        ['Kept', known(favourites)],
        ['Used last', known(recent).filter((k) => !favourites.includes(k.kind))],
      ];
  const heads = [...atHand, ...FAMILIES.map((f): [string, EntityKind[]] => [f, found.filter((k) => k.family === f)])];
  return (
    <section>
      <TextInput
        size="xs"
        mb={4}
        placeholder="Search things"
        aria-label="Search things"
        value={search}
        onChange={(e) => setSearch(e.currentTarget.value)}
      />
      {heads
        .filter(([, kinds]) => kinds.length > 0)
        .map(([head, kinds]) => (
          <Stack gap={2} key={head} role="group" aria-label={head}>
            <span className="stock-family">{head}</span>
            <div className="stock-kinds">
              {kinds.map((k) => (
                <Kind key={k.kind} kind={k} onMenu={setMenu} />
              ))}
            </div>
          </Stack>
        ))}
      {found.length === 0 && (
        <Text size="xs" c="dimmed">
          Nothing is called that.
        </Text>
      )}
      {menu && <KindMenu at={menu} onClose={() => setMenu(null)} />}
    </section>
  );
}

/** A kind: pressed it is placed next, dragged it is dropped on a pane. */
function Kind({ kind: k, onMenu }: { kind: EntityKind; onMenu: (at: MenuPlace) => void }) {
  const active = useCurrent((s) => s.tool === 'place');
  const placed = usePlaceOptions((s) => s.what === k.kind);
  return (
    <Tooltip label={`${k.help} Right-click keeps it at hand.`} position="right">
      <UnstyledButton
        className="row"
        draggable
        onDragStart={(e) => {
          e.dataTransfer.setData(KIND_DRAG, k.kind);
          e.dataTransfer.effectAllowed = 'copy';
        }}
        onContextMenu={(e) => {
          e.preventDefault();
          onMenu({ kind: k.kind, x: e.clientX, y: e.clientY });
        }}
        data-active={(active && placed) || undefined}
        onClick={() => {
          usePlaceOptions.setState({ what: k.kind });
          chooseTool('place');
        }}
      >
        <KindSymbol kind={k.kind} size={18} />
        {k.label}
      </UnstyledButton>
    </Tooltip>
  );
}

interface MenuPlace {
  readonly kind: string;
  readonly x: number;
  readonly y: number;
}

function KindMenu({ at, onClose }: { at: MenuPlace; onClose: () => void }) {
  const kept = useKinds((s) => s.favourites.includes(at.kind));
  return (
    <MenuAt at={at} onClose={onClose}>
      <Menu.Item onClick={() => toggleKept(at.kind)}>
        {kept ? 'No longer keep as favourite' : 'Keep as favourite'}
      </Menu.Item>
    </MenuAt>
  );
}
