import { addRoom, emptyMap, openDoorway, placeEntity, type MapDocument, type RoomDress } from '@yesca/core';

/** Beginnings of a map, as offered on the Shelf. */
export interface Template {
  readonly key: string;
  readonly label: string;
  readonly tip: string;
  readonly make: (name: string) => MapDocument;
}

export const PLAIN_DRESS: RoomDress = { floor: 'oak-plank', wall: 'limewash', ceiling: 'limewash' };

const rectangle = (x: number, y: number, w: number, d: number) =>
  [
    [x, y],
    [x + w, y],
    [x + w, y + d],
    [x, y + d],
  ] as const;

export const TEMPLATES: readonly Template[] = [
  { key: 'empty', label: 'Empty sheet', tip: 'Nothing but the grid', make: emptyMap },
  {
    key: 'one-room',
    label: 'One sealed room',
    tip: 'A lit room with a spawn, ready to build and walk',
    make: (name) => {
      let doc = addRoom(
        emptyMap(name),
        { name: 'Room', footprint: rectangle(-256, -192, 512, 384), floor: 0, ceiling: 272, wall: 16 },
        PLAIN_DRESS,
      );
      doc = placeEntity(doc, 'spawn', [-160, 0, 0], 0);
      return placeEntity(doc, 'pointLight', [0, 0, 208]);
    },
  },
  {
    key: 'two-rooms',
    label: 'Two rooms and a doorway',
    tip: 'Two lit rooms that share a wall with a doorway in it',
    make: (name) => {
      let doc = addRoom(
        emptyMap(name),
        { name: 'West room', footprint: rectangle(-512, -192, 496, 384), floor: 0, ceiling: 272, wall: 16 },
        PLAIN_DRESS,
        'west',
      );
      doc = addRoom(
        doc,
        { name: 'East room', footprint: rectangle(0, -192, 384, 384), floor: 0, ceiling: 272, wall: 16 },
        { ...PLAIN_DRESS, wall: 'red-brick' },
        'east',
      );
      doc = openDoorway(doc, 'west', 'east', { width: 112, height: 208, sill: 0 });
      doc = placeEntity(doc, 'spawn', [-400, 0, 0], 0);
      doc = placeEntity(doc, 'pointLight', [-256, 0, 208]);
      return placeEntity(doc, 'pointLight', [192, 0, 208]);
    },
  },
];
