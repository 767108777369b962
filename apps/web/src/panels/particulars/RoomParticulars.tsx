import { ActionIcon, Button, Group, SimpleGrid, Switch, Text, Tooltip } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import {
  changeOpening,
  changeRoom,
  pickedBounds,
  releaseRoom,
  removeOpenings,
  sharedWalls,
  type MapDocument,
  type Opening,
  type Room,
} from '@yesca/core';
import { doorwayBetween } from '../../commands/commands.ts';
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
  const change = (what: Partial<Room>, label = 'Change room') => run(label, (d) => changeRoom(d, room.id, what));
  const neighbours = [
    ...new Set(room.footprint.flatMap((_, i) => sharedWalls(room, i, doc.rooms.values()).map((s) => s.room))),
  ];
  const openings = [...doc.openings.values()].filter((o) => o.rooms.includes(room.id));
  return (
    <>
      <Section title="Room">
        <TextField label="Name" value={room.name} onChange={(name) => change({ name }, 'Rename room')} />
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
          <div key={o.id} className="opening-row">
            <Group justify="space-between" wrap="nowrap" mb={2}>
              <Text size="xs">{openingName(o, room, doc)}</Text>
              <Tooltip label="Close this doorway">
                <ActionIcon
                  size="sm"
                  aria-label="Close this doorway"
                  onClick={() => run('Close doorway', (d) => removeOpenings(d, new Set([o.id])))}
                >
                  <IconTrash size={14} />
                </ActionIcon>
              </Tooltip>
            </Group>
            <SimpleGrid cols={2} spacing={4}>
              {(
                [
                  ['width', 'Width'],
                  ['height', 'Height'],
                  ['sill', 'Sill'],
                  ['at', 'Middle at'],
                ] as const
              ).map(([key, label]) => (
                <LengthField
                  key={key}
                  label={label}
                  tip={
                    key === 'at'
                      ? 'Distance of its middle from the corner where the wall starts'
                      : `${label} of the opening`
                  }
                  value={o[key]}
                  onChange={(v) => run('Change doorway', (d) => changeOpening(d, o.id, { [key]: v }))}
                />
              ))}
            </SimpleGrid>
          </div>
        ))}
        {neighbours.map((id) => (
          <Button key={id} variant="default" onClick={() => doorwayBetween(room.id, id)}>
            Open a doorway to {doc.rooms.get(id)?.name}
          </Button>
        ))}
        {neighbours.length === 0 && (
          <Text size="xs" c="dimmed">
            Draw another room against one of these walls; then a doorway can be opened between them.
          </Text>
        )}
      </Section>
      <Section title="Brushes">
        <Text size="xs" c="dimmed">
          The room keeps its {[...doc.brushes.values()].filter((b) => b.room?.id === room.id).length} brushes up to
          date. Release it to shape them by hand.
        </Text>
        <Button variant="default" onClick={() => run('Release room', (d) => releaseRoom(d, room.id))}>
          Release the room
        </Button>
      </Section>
    </>
  );
}
