import { memo } from 'react';
import type { MapDocument } from '@yesca/core';
import { useEditor, type EditorState } from '../state/editor.ts';
import { thingsOf, type Selection } from '../state/selection.ts';
import { Behind, useFollowed } from './Behind.tsx';
import { BrushParticulars } from './particulars/BrushParticulars.tsx';
import { EntityParticulars } from './particulars/EntityParticulars.tsx';
import { SurfaceParticulars } from './particulars/SurfaceParticulars.tsx';
import { MapParticulars } from './particulars/MapParticulars.tsx';
import { RoomParticulars } from './particulars/RoomParticulars.tsx';

/**
 * The document as it is, or the draft when what is selected is only in that, as a shape being drawn. What a gesture changes
 * of things that are there is written on the drawing: making these fields anew every frame would cost most of the frame.
 */
const documentOfSelection = ({ doc, draft, selection }: EditorState): MapDocument =>
  draft &&
  ([...selection.brushes].some((id) => !doc.brushes.has(id)) || [...selection.rooms].some((id) => !doc.rooms.has(id)))
    ? draft
    : doc;

/**
 * The selection's values. With nothing selected, the map's own. Fields are many and follow when there is time: arrows that are held move
 * what is selected at once, and each step begins the fields anew.
 */
export function Particulars() {
  const { doc, selection, behind } = useFollowed(useEditor(documentOfSelection));
  return (
    <Behind when={behind}>
      <Values doc={doc} selection={selection} />
    </Behind>
  );
}

const Values = memo(function Values({ doc, selection }: { doc: MapDocument; selection: Selection }) {
  const things = thingsOf(selection);
  if (selection.faces.length) return <SurfaceParticulars doc={doc} refs={selection.faces} />;
  if (things.length === 0) return <MapParticulars doc={doc} />;
  // Fields belong to what is selected: a number that is being typed never moves on to something else.
  const key = things.map((t) => t.id).join();
  if (things.length === 1) {
    const { type, id } = things[0]!;
    const room = type === 'room' ? doc.rooms.get(id) : undefined;
    if (room) return <RoomParticulars key={key} doc={doc} room={room} />;
  }
  const entities = things.flatMap(({ type, id }) => (type === 'entity' ? (doc.entities.get(id) ?? []) : []));
  if (entities.length === things.length) return <EntityParticulars key={key} doc={doc} entities={entities} />;
  return <BrushParticulars key={key} doc={doc} selection={selection} />;
});
