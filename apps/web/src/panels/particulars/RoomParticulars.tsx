import { ActionIcon, Button, Group, SegmentedControl, SimpleGrid, Switch, Text, Tooltip } from '@mantine/core';
import { IconFocusCentered, IconTrash } from '@tabler/icons-react';
import {
  call,
  pickedBounds,
  sharedWalls,
  sideOf,
  type CommandArgs,
  type Inset,
  type MapDocument,
  type Opening,
  type OpeningKind,
  type Room,
} from '@yesca/core';
import { useState } from 'react';
import { doorInOpening, fillWithGate, useDoorWish } from '../../commands/doors.ts';
import { ParamPanel } from '../params/ParamPanel.tsx';
import { doorwayBetween } from '../../commands/doorways.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { TextField } from '../../fields/TextField.tsx';
import { useEditor } from '../../state/editor.ts';
import { PlaceAndSize, run, Section } from './shared.tsx';

/** What an opening is and where it leads, seen from a room. */
function openingName(o: Opening, room: Room, doc: MapDocument): string {
  const word = { door: 'Doorway', window: 'Window', arch: 'Arch' }[o.kind ?? 'door'];
  const other = o.rooms.find((id) => id !== room.id);
  return `${word} to ${other ? (doc.rooms.get(other)?.name ?? 'a room') : 'the outside'}`;
}

export function RoomParticulars({ doc, room }: { doc: MapDocument; room: Room }) {
  const selection = useEditor((s) => s.selection);
  const box = pickedBounds(doc, { rooms: new Set([room.id]) })!;
  const change = (what: Omit<CommandArgs<'room.change'>, 'room'>) =>
    run(call('room.change', { room: room.id, ...what }));
  const neighbours = [
    ...new Set(room.footprint.flatMap((_, i) => sharedWalls(room, i, doc.rooms.values()).map((s) => s.room))),
  ];
  const openings = [...doc.openings.values()].filter((o) => o.rooms.includes(room.id));
  return (
    <>
      <Section title="Room">
        <TextField label="Name" value={room.name} onChange={(name) => change({ name })} />
        <PlaceAndSize box={box} selection={selection} rooms />
        <SimpleGrid cols={3} spacing={4}>
          <LengthField
            label="Floor"
            tip="Height of the floor"
            value={room.floor}
            onChange={(floor) => change({ floor })}
          />
          <LengthField
            label="Ceiling"
            tip="Height of the ceiling"
            value={room.ceiling}
            onChange={(ceiling) => change({ ceiling })}
          />
          <LengthField
            label="Walls"
            tip="Thickness of walls, floor and ceiling"
            value={room.wall}
            onChange={(wall) => change({ wall })}
          />
        </SimpleGrid>
        <Switch
          size="xs"
          label="Open to the sky"
          checked={room.open}
          onChange={(e) => change({ open: e.currentTarget.checked })}
        />
      </Section>
      <Section title="Openings">
        {openings.map((o) => (
          <OpeningRow key={o.id} opening={o} room={room} doc={doc} />
        ))}
        {neighbours.map((id) => (
          <Button key={id} variant="default" onClick={() => doorwayBetween(room.id, id)}>
            Open a doorway to {doc.rooms.get(id)?.name}
          </Button>
        ))}
        <Text size="xs" c="dimmed">
          {neighbours.length === 0
            ? 'Draw another room against one of these walls; then a doorway can be opened between them. '
            : ''}
          Right-click a wall on the Plan to open a window or an arch there.
        </Text>
      </Section>
      {room.insets && (
        <Section title="Footprints inside">
          {room.insets.map((inset) => (
            <InsetRow key={inset.id} inset={inset} room={room} />
          ))}
        </Section>
      )}
      <Section title="Brushes">
        <Text size="xs" c="dimmed">
          The room keeps its {[...doc.brushes.values()].filter((b) => b.room?.id === room.id).length} brushes up to
          date. Release it to shape them by hand.
        </Text>
        <Button variant="default" onClick={() => run(call('room.release', { room: room.id }))}>
          Release the room
        </Button>
        {room.released && (
          <Button variant="default" onClick={() => run(call('room.giveAllBack', { room: room.id }))}>
            Take back {room.released.length} released {room.released.length === 1 ? 'part' : 'parts'}
          </Button>
        )}
      </Section>
    </>
  );
}

/** One opening: its kind, its size, and where in its wall it is, from either corner or exactly centred. */
function OpeningRow({ opening: o, room, doc }: { opening: Opening; room: Room; doc: MapDocument }) {
  const owner = doc.rooms.get(o.rooms[0])!;
  const { length } = sideOf(owner, o.side);
  const change = (what: Omit<CommandArgs<'opening.change'>, 'opening'>) =>
    run(call('opening.change', { opening: o.id, ...what }));
  return (
    <div className="opening-row">
      <Group justify="space-between" wrap="nowrap" mb={2}>
        <Text size="xs">{openingName(o, room, doc)}</Text>
        <Group gap={2} wrap="nowrap">
          <Tooltip label="Exactly in the middle of its wall">
            <ActionIcon size="sm" aria-label="Centre this opening" onClick={() => change({ at: length / 2 })}>
              <IconFocusCentered size={14} />
            </ActionIcon>
          </Tooltip>
          <Tooltip label="Close this opening">
            <ActionIcon
              size="sm"
              aria-label="Close this doorway"
              onClick={() => run(call('opening.remove', { openings: [o.id] }))}
            >
              <IconTrash size={14} />
            </ActionIcon>
          </Tooltip>
        </Group>
      </Group>
      <SegmentedControl
        size="xs"
        mb={4}
        fullWidth
        aria-label="Kind of opening"
        value={o.kind ?? 'door'}
        onChange={(kind) => change({ kind: kind as OpeningKind })}
        data={[
          { value: 'door', label: 'Door' },
          { value: 'window', label: 'Window' },
          { value: 'arch', label: 'Arch' },
        ]}
      />
      <SimpleGrid cols={3} spacing={4}>
        <LengthField label="Width" tip="Width of the opening" value={o.width} onChange={(width) => change({ width })} />
        <LengthField
          label="Height"
          tip="Height of the opening"
          value={o.height}
          onChange={(height) => change({ height })}
        />
        <LengthField label="Sill" tip="Sill of the opening" value={o.sill} onChange={(sill) => change({ sill })} />
        <LengthField
          label="Middle at"
          tip="Distance of its middle from the corner where the wall starts"
          value={o.at}
          onChange={(at) => change({ at })}
        />
        <LengthField
          label="From corner"
          tip="Distance of its near edge from the corner where the wall starts"
          value={o.at - o.width / 2}
          onChange={(v) => change({ at: v + o.width / 2 })}
        />
        <LengthField
          label="To corner"
          tip="Distance of its far edge from the corner where the wall ends"
          value={length - o.at - o.width / 2}
          onChange={(v) => change({ at: length - v - o.width / 2 })}
        />
        {o.kind === 'arch' && (
          <LengthField
            label="Rise"
            tip="Height of the curve"
            value={o.rise ?? o.width / 2}
            onChange={(rise) => change({ rise })}
          />
        )}
      </SimpleGrid>
      {o.kind !== 'window' && <MakeDoor opening={o.id} />}
      <Tooltip label="A gate hides what lies behind it while the door in the opening is closed">
        <Button size="compact-xs" variant="default" onClick={() => fillWithGate(o.id)}>
          Fill with a gate
        </Button>
      </Tooltip>
    </div>
  );
}

const INSET_WORD = (i: Inset, room: Room): string =>
  i.height < 0
    ? i.fill === undefined
      ? 'Pit'
      : 'Pool'
    : i.height >= room.ceiling - room.floor
      ? 'Pillar'
      : 'Platform';

/** One footprint inside a room: how high it stands or how deep it is sunk. */
function InsetRow({ inset, room }: { inset: Inset; room: Room }) {
  const change = (what: Omit<CommandArgs<'inset.change'>, 'room' | 'inset'>) =>
    run(call('inset.change', { room: room.id, inset: inset.id, ...what }));
  const word = INSET_WORD(inset, room);
  return (
    <Group gap={4} align="flex-end" wrap="nowrap">
      <LengthField
        label={word}
        tip="Height above the floor; below zero it is sunk"
        value={inset.height}
        onChange={(height) => change({ height })}
      />
      {inset.height < 0 && (
        <LengthField
          label="Water under floor"
          tip="How far the surface of its water lies below the floor; as deep as the pit for none"
          value={inset.fill ?? -inset.height}
          onChange={(fill) => change({ fill: fill < -inset.height ? fill : null })}
        />
      )}
      <Tooltip label={`Remove this ${word.toLowerCase()}`}>
        <ActionIcon
          aria-label={`Remove this ${word.toLowerCase()}`}
          onClick={() => run(call('inset.remove', { room: room.id, inset: inset.id }))}
        >
          <IconTrash size={14} />
        </ActionIcon>
      </Tooltip>
    </Group>
  );
}

/** Makes a door in an opening: how many leaves, how they move, how thick. */
function MakeDoor({ opening }: { opening: string }) {
  const wish = useDoorWish();
  const [asked, setAsked] = useState(false);
  const make = (
    <Tooltip label="Cuts leaves to the opening, with a way to open; the material is the active one">
      <Button size="compact-xs" variant="default" onClick={() => (asked ? doorInOpening(opening) : setAsked(true))}>
        {asked ? 'Make it' : 'Make a door here'}
      </Button>
    </Tooltip>
  );
  return asked ? (
    <>
      <ParamPanel specs={useDoorWish.specs} values={[wish]} onChange={(key, v) => useDoorWish.put(key, v as never)} />
      {make}
    </>
  ) : (
    make
  );
}
