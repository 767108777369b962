import { hullOf, type Brush } from '../brush/index.ts';
import { newId, stillBrushes, type MapDocument } from '../map/index.ts';
import { addScaled, cross, dot, length, normalize, sub, type Vec3 } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { addBrushes } from './brushes.ts';
import { EditError } from './errors.ts';
import { BESIDE, freeAt, LEAST_GAP, sectionAt, type Section, type Stretch } from './section.ts';

/** Where a hint is drawn: a line across a place, and the direction in which it goes on to floor and ceiling, or from wall to wall. */
export interface HintLine {
  readonly from: Vec3;
  readonly to: Vec3;
  readonly along: Vec3;
}

/** Thickness of a hint, cm. */
const THIN = 4;
/** An end so near (cm) to a wall reaches it. */
const NEAR = 48;
/** A hint goes so far (cm) into what closes it off, so that no crack stays beside it. */
const INTO = 1;

/**
 * A hint along a drawn line: from one end to the other, on to walls nearby, and in the other direction as far as the place is free.
 * Throws `hint.line` for a line without a direction, `hint.open` where nothing ends it.
 */
export function hintAcross(doc: MapDocument, line: HintLine, id = newId()): Brush {
  const reach = length(sub(line.to, line.from));
  const u = normalize(sub(line.to, line.from));
  const v = normalize(addScaled(line.along, u, -dot(line.along, u)));
  const normal = cross(u, v);
  // Directions without length stay so.
  if (!(reach > LEAST_GAP) || !(length(normal) > 0.5))
    throw new EditError('hint.line', 'The line has no length. Draw it from one side of the place to the other.');
  const sealing = stillBrushes(doc).filter((b) => b.role === 'structure');
  const section = sectionAt(sealing, { at: line.from, u, v });
  const [at, low, high] = closedAt(section, reach);
  const free = freeAt(section, 0, (low + high) / 2, at);
  // An end in a wall begins at that wall, one near a wall goes on to it; else it ends where it was drawn.
  const ends: Stretch = [free[0] > -NEAR ? free[0] : 0, free[1] < reach + NEAR ? free[1] : reach];
  let tall: Stretch = [low, high];
  for (const at of placesWithin(section, ends)) {
    const [from, to] = freeAt(section, 1, at, (low + high) / 2);
    if (from < high && to > low && to - from < Infinity) tall = [Math.min(tall[0], from), Math.max(tall[1], to)];
  }
  const corners = [ends[0] - INTO, ends[1] + INTO].flatMap((a) =>
    [tall[0] - INTO, tall[1] + INTO].flatMap((b) =>
      [-THIN / 2, THIN / 2].map((c) => addScaled(addScaled(addScaled(line.from, u, a), v, b), normal, c)),
    ),
  );
  return dressSolid(hullOf(corners.map(tidy)), id, 'clear', { role: 'hint' });
}

/** Parts of a drawn line at which a closed place is looked for, the middle first: lines are drawn roughly. */
const TRIED = [1 / 2, 1 / 4, 3 / 4, 1 / 8, 3 / 8, 5 / 8, 7 / 8];

/** Where along the line a place is closed across it, and from where to where it is free there. */
function closedAt(section: Section, reach: number): readonly [at: number, low: number, high: number] {
  for (const part of TRIED) {
    const [low, high] = freeAt(section, 1, part * reach, 0);
    if (high - low < Infinity) return [part * reach, low, high];
  }
  throw new EditError('hint.open', 'Nothing closes this place there. Draw the line inside a room.');
}

/** The document with a hint across a place, see {@link hintAcross}. */
export function addHint(doc: MapDocument, line: HintLine): { doc: MapDocument; brushes: string[] } {
  const hint = hintAcross(doc, line);
  return { doc: addBrushes(doc, [hint]), brushes: [hint.id] };
}

/** Corners computed from drawn points lie on whole thousandths, so that straight hints are boxes. */
const tidy = (p: Vec3): Vec3 => p.map((c) => Math.round(c * 1000) / 1000) as unknown as Vec3;

/** Where the place may be taller than elsewhere: just beside each corner that was cut, and half way between. */
function* placesWithin(section: Section, [from, to]: Stretch): Generator<number> {
  const corners = section.flat().map(([x]) => x);
  let before = from;
  for (const x of [...corners.filter((x) => x > from && x < to).sort((a, b) => a - b), to]) {
    // Solids that touch have corners a rounding apart.
    if (x - before < LEAST_GAP / 10) continue;
    yield* [before + BESIDE, (before + x) / 2, x - BESIDE];
    before = x;
  }
}
