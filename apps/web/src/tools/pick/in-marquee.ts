import { drawnBrush, spanAlong, brushBounds, rootGroup, type Vec3 } from '@yesca/core';
import type { SheetView } from '../../geometry/projection.ts';
import { useEditor } from '../../state/editor.ts';
import { withMembers, type Thing } from '../../state/selection.ts';
import { pickable } from '../../state/shown.ts';
import { isWithin, marqueeBetween } from '../marquee.ts';

const editor = () => useEditor.getState();

/** Everything a marquee touches; with Alt only what is fully inside. */
export function inMarquee(view: SheetView, a: Vec3, b: Vec3, whole: boolean): Thing[] {
  const doc = pickable(editor().doc);
  const marquee = marqueeBetween(view, a, b);
  const { across, up } = marquee;
  const inside = (p: Vec3) => isWithin(view, marquee, p);
  const out: Thing[] = [];
  for (const brush of doc.brushes.values()) {
    // Floors and walls of a room count as the room, and only when all of it is enclosed; otherwise a marquee inside a room would always take it.
    if (brush.room && !brush.room.released) continue;
    const [a0, a1] = spanAlong(brushBounds(brush), view.right);
    const [b0, b1] = spanAlong(brushBounds(brush), view.up);
    const enclosed = a0 >= across[0] && a1 <= across[1] && b0 >= up[0] && b1 <= up[1];
    const touches = a0 <= across[1] && a1 >= across[0] && b0 <= up[1] && b1 >= up[0];
    if (!(whole ? enclosed : touches) || (!enclosed && drawnBrush(brush, view).where === 'before')) continue;
    const group = rootGroup(doc, brush.group);
    out.push(group ? { type: 'group', id: group } : { type: 'brush', id: brush.id });
  }
  for (const e of doc.entities.values())
    if (inside(e.at)) {
      const group = rootGroup(doc, e.group);
      out.push(group ? { type: 'group', id: group } : { type: 'entity', id: e.id });
    }
  for (const room of doc.rooms.values()) {
    const corners = room.footprint.flatMap(([x, y]): Vec3[] => [
      [x, y, room.floor],
      [x, y, room.ceiling],
    ]);
    if (corners.every(inside)) out.push({ type: 'room', id: room.id });
  }
  return withMembers(out, doc);
}
