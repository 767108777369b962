import { boxOfRoom, openingHole, pointOnSide, sideOf, waitingOpenings } from '../../edit/index.ts';
import type { MapDocument, Opening, Room } from '../../map/index.ts';
import type { Vec3 } from '../../math/index.ts';
import { Labels, placesAround } from './labels.ts';
import type { SymbolBounds } from './things.ts';
import { acrossOf, upOf, type DrawingView } from './view.ts';

/** A place on paper: to the right and down, in its units. */
export type OnPaper = readonly [number, number];

/** Words keep clear of symbols by this much. */
const CLEAR = 4;

/** What words are written into: a screen in pixels, or a sheet of paper in units as large as pixels. */
export interface Paper {
  readonly place: (p: Vec3) => OnPaper;
  /** Units a cm. */
  readonly zoom: number;
  /** How wide a word comes out. */
  readonly measure: (word: string) => number;
  /** The symbols that are drawn: where, and what each takes up. */
  readonly symbols: Iterable<{ readonly at: Vec3; readonly bounds: SymbolBounds }>;
}

/** Names of rooms near their middles, on the plan, clear of symbols and of each other; one with no room for it is left out. */
export function roomNames(rooms: Iterable<Room>, paper: Paper): { readonly name: string; readonly at: OnPaper }[] {
  const labels = new Labels();
  for (const { at, bounds: b } of paper.symbols) {
    const [x, y] = paper.place(at);
    labels.take({
      x: x + b.left - CLEAR,
      y: y + b.top - CLEAR,
      width: b.right - b.left + 2 * CLEAR,
      height: b.bottom - b.top + 2 * CLEAR,
    });
  }
  const out: { name: string; at: OnPaper }[] = [];
  for (const room of rooms) {
    const { min, max } = boxOfRoom(room);
    const [x, y] = paper.place([(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, 0]);
    const [w, h] = [(max[0] - min[0]) * paper.zoom, (max[1] - min[1]) * paper.zoom];
    const width = paper.measure(room.name) + 6;
    if (w < Math.min(64, width)) continue;
    const at = labels.place(placesAround(x, y, Math.max(0, (w - width) / 2), Math.max(0, (h - 20) / 2)), width, 14);
    if (at) out.push({ name: room.name, at });
  }
  return out;
}

/**
 * Openings that wait for their wall, as drawings show them: an outline in cm across and up, where they are cut again when the rooms meet.
 */
export function waitingOutlines(
  doc: MapDocument,
  view: DrawingView,
): { readonly opening: Opening; readonly outline: readonly (readonly [number, number])[] }[] {
  return waitingOpenings(doc).flatMap((opening) => {
    const first = doc.rooms.get(opening.rooms[0]);
    if (!first?.footprint[opening.side]) return [];
    const side = sideOf(first, opening.side);
    const { bottom, top } = openingHole(opening, doc.rooms);
    const corners = [-1, 1].flatMap((along) =>
      [0, first.wall].map((out) => pointOnSide(side, opening.at + (along * opening.width) / 2, out)),
    );
    const on = (p: Vec3): readonly [number, number] => [acrossOf(view, p), upOf(view, p)];
    if (view.away[2] !== 0) return { opening, outline: [0, 1, 3, 2].map((k) => on([...corners[k]!, bottom])) };
    const xs = corners.map((c) => on([...c, 0])[0]);
    const [x0, x1] = [Math.min(...xs), Math.max(...xs)];
    return {
      opening,
      outline: [
        [x0, bottom],
        [x1, bottom],
        [x1, top],
        [x0, top],
      ] as const,
    };
  });
}
