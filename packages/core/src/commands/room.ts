import {
  addInset,
  addRoom,
  bridgeOpening,
  changeInset,
  changeOpening,
  changeRoom,
  fitOpening,
  gateInOpening,
  giveAllBack,
  meetAgain,
  openDoorway,
  openWall,
  releaseRoom,
  removeInset,
  removeOpenings,
} from '../edit/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import { a } from './args.ts';
import { command, type Outcome } from './command.ts';

const room = a.id;
const inset = a.id;
const opening = a.id;
const opened = {
  width: a.number,
  height: a.number,
  sill: a.number,
  at: a.maybe(a.number),
  kind: a.maybe(a.choice('door', 'window', 'arch')),
  rise: a.maybe(a.number),
};

/** Something made under an id of its own, and selected. */
const making = (key: 'rooms' | 'openings', make: (id: string) => MapDocument): Outcome => {
  const id = newId();
  return { doc: make(id), made: { [key]: [id] } };
};

/** Raised or lowered by so much; a step through the floor's own height goes on to the other side. */
const raised = (height: number, by: number): number => (height + by === 0 ? height + by * 2 : height + by);

export const roomCommands = {
  'room.add': command(
    'Room',
    {
      footprint: a.outline,
      floor: a.number,
      ceiling: a.number,
      wall: a.number,
      open: a.maybe(a.yes),
      name: a.maybe(a.name),
      dress: a.record({ floor: a.material, wall: a.material, ceiling: a.material, liquid: a.maybe(a.material) }),
    },
    (doc, { dress, ...spec }) => making('rooms', (id) => addRoom(doc, spec, dress, id)),
  ),
  'room.change': command(
    ({ room: _, ...change }) => (Object.keys(change).join() === 'name' ? 'Rename room' : 'Change room'),
    {
      room,
      footprint: a.maybe(a.outline),
      floor: a.maybe(a.number),
      ceiling: a.maybe(a.number),
      wall: a.maybe(a.number),
      open: a.maybe(a.yes),
      name: a.maybe(a.name),
    },
    (doc, { room, ...change }) => changeRoom(doc, room, change),
  ),
  'room.raise': command(
    ({ by }) => (by > 0 ? 'Raise' : 'Lower'),
    {
      what: a.choice('floor', 'ceiling'),
      by: a.number,
      rooms: a.ids,
      insets: a.maybe(a.list(a.record({ room, inset }))),
    },
    (doc, { what, by, rooms, insets = [] }) => {
      const withInsets = insets.reduce((d, { room, inset }) => {
        const height = d.rooms.get(room)?.insets?.find((i) => i.id === inset)?.height ?? 0;
        return changeInset(d, room, inset, { height: raised(height, by) });
      }, doc);
      return rooms.reduce((d, id) => changeRoom(d, id, { [what]: (d.rooms.get(id)?.[what] ?? 0) + by }), withInsets);
    },
  ),
  'room.release': command('Release room', { room }, (doc, { room }) => releaseRoom(doc, room)),
  'room.giveAllBack': command('Give back', { room }, (doc, { room }) => giveAllBack(doc, room)),

  'inset.add': command(
    'Room',
    { room, footprint: a.outline, height: a.number, fill: a.maybe(a.number) },
    (doc, { room, ...spec }) => ({ doc: addInset(doc, room, spec), made: { rooms: [room] } }),
  ),
  'inset.change': command(
    'Change footprint',
    /** A fill that is null is none. */
    { room, inset, footprint: a.maybe(a.outline), height: a.maybe(a.number), fill: a.maybe(a.orNone(a.number)) },
    (doc, { room, inset, fill, ...change }) =>
      changeInset(doc, room, inset, fill === undefined ? change : { ...change, fill: fill ?? undefined }),
  ),
  'inset.remove': command('Remove footprint', { room, inset }, (doc, { room, inset }) => removeInset(doc, room, inset)),

  'opening.between': command(
    'Open doorway',
    { rooms: a.list(a.id, 2), ...opened },
    (doc, { rooms: [first = '', second = ''], ...size }) => openDoorway(doc, first, second, size),
  ),
  'opening.inWall': command(
    ({ kind = 'door' }) => `Open ${kind}`,
    { room, side: a.whole, ...opened },
    (doc, { room, side, ...size }) => openWall(doc, room, side, size),
  ),
  'opening.change': command(
    'Change opening',
    {
      opening,
      width: a.maybe(a.number),
      height: a.maybe(a.number),
      sill: a.maybe(a.number),
      at: a.maybe(a.number),
      kind: a.maybe(a.choice('door', 'window', 'arch')),
      rise: a.maybe(a.number),
    },
    (doc, { opening, ...change }) => changeOpening(doc, opening, change),
  ),
  'opening.remove': command('Close opening', { openings: a.ids }, (doc, { openings }) =>
    removeOpenings(doc, new Set(openings)),
  ),
  'opening.gate': command('Fill the opening with a gate', { opening }, (doc, { opening }) => {
    const { doc: after, gate } = gateInOpening(doc, opening);
    return { doc: after, made: { brushes: [gate] } };
  }),
  'opening.meet': command('Move the rooms together', { opening }, (doc, { opening }) => meetAgain(doc, opening)),
  'opening.bridge': command('Build a passage', { opening }, (doc, { opening }) => bridgeOpening(doc, opening)),
  'opening.fit': command('Fit the opening', { opening }, (doc, { opening }) => fitOpening(doc, opening)),
};
