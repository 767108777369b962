import { call, doorwayPlaces } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { notify } from '../state/notify.ts';

const editor = () => useEditor.getState();

/** Opens a doorway between two picked rooms, or between one and its only neighbour. */
export function doorwayBetween(a: string, b: string): void {
  const room = editor().doc.rooms.get(a);
  const other = editor().doc.rooms.get(b);
  if (!room || !other) return;
  const clear = Math.min(room.ceiling, other.ceiling) - Math.max(room.floor, other.floor);
  const widest = Math.max(0, ...doorwayPlaces(editor().doc, a, b).map((p) => p.to - p.from));
  const size = { width: Math.min(112, widest), height: Math.min(208, clear), sill: 0 };
  editor().run(call('opening.between', { rooms: [a, b], ...size }));
}

/** Opens a doorway between the two rooms that are selected. */
export function doorwayOfSelection(): void {
  const rooms = [...editor().selection.rooms];
  if (rooms.length === 2) doorwayBetween(rooms[0]!, rooms[1]!);
  else notify('Select two rooms that share a wall, then open the doorway.');
}
