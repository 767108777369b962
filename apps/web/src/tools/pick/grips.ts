import { add, modelOf, pickedBounds, propBounds, uniteBoxes, type Box, type MapDocument, type Vec3 } from '@yesca/core';
import { HANDLES, handleAt, skewTabs, turnKnob } from '../../geometry/handle-places.ts';
import { toWorld, type SheetView } from '../../geometry/projection.ts';
import { transformBox } from '../../geometry/own-axes.ts';
import { handleUnder } from '../handle-under.ts';
import { thingHandles } from '../thing-handles.ts';
import { wireKnobs } from '../wiring.ts';
import { useEditor } from '../../state/editor.ts';
import { asPicked, isSized, type Selection } from '../../state/selection.ts';
import { pickable } from '../../state/shown.ts';
import type { PanePointer, Shows } from '../tool.ts';
import type { OverlayLine, OverlayMark } from '../../state/overlay.ts';
import { useCurrent } from '../../state/current.ts';
import { usePickOptions } from './options.ts';
import type { Grip } from './state.ts';

const editor = () => useEditor.getState();

/** A box with all that the selected props fill. */
export function withProps(box: Box): Box {
  const { doc, selection } = editor();
  const props = [...selection.entities].flatMap((id) => {
    const thing = doc.entities.get(id);
    return thing && modelOf(thing) ? [propBounds(thing)] : [];
  });
  return props.length ? uniteBoxes([box, ...props]) : box;
}

/** The box of what is selected; null where nothing is. */
export const selectionBox = (): Box | null => pickedBounds(editor().doc, asPicked(editor().selection));

/** The box whose handles are shown: on the Plan it may lie in the brush's own axes. */
export const handleBox = (view: SheetView, doc = editor().doc, selection = editor().selection) =>
  transformBox(doc, asPicked(selection), view.kind === 'plan' && usePickOptions.getState().axes === 'own');

/** A handle: what taking it means, and where and how it is shown. */
type GripAt = OverlayMark & { readonly grip: Grip };

/** The handles of the transform box; of what has no size of its own, as a lamp, only the knob that turns it. */
function boxGrips(doc: MapDocument, selection: Selection, view: SheetView): GripAt[] {
  const shown = view.square ? handleBox(view, doc, selection) : null;
  if (!shown) return [];
  const { box, turn } = shown;
  const at = ([x, y]: readonly [number, number]): Vec3 => toWorld(view, x, y, box.min);
  const knob: GripAt = { at: at(turnKnob(view, box, turn)), shape: 'disc', grip: { kind: 'turn' } };
  if (!isSized(selection)) return [knob];
  const sides = HANDLES.map((handle): GripAt => {
    const grip = { kind: 'side', handle } as const;
    // Corners are diamonds, sides are bars along the side they move.
    const corner = handle[0] !== 0 && handle[1] !== 0;
    const look = corner
      ? ({ shape: 'diamond' } as const)
      : ({ shape: 'bar', along: handle[0] === 0 ? 'h' : 'v' } as const);
    return { at: at(handleAt(view, box, handle, turn)), ...look, grip };
  });
  const tabs = turn === 0 ? skewTabs(view, box) : [];
  return [
    knob,
    ...sides,
    ...tabs.map(({ at: screen, along }): GripAt => ({
      at: at(screen),
      shape: 'tab',
      along,
      grip: { kind: 'skew', along },
    })),
  ];
}

/** The handles that the kind of a selected thing gives it. */
const thingGrips = (doc: MapDocument, selection: Selection, view?: SheetView): GripAt[] =>
  thingHandles(doc, selection, view).map((of): GripAt => ({
    at: of.at,
    shape: 'diamond',
    grip: { kind: 'handle', of },
  }));

/** All handles of what is selected, those of a thing itself first. */
const gripsOf = (doc: MapDocument, selection: Selection, view?: SheetView): GripAt[] => [
  ...thingGrips(doc, selection, view),
  ...wireKnobs(doc, selection, view).map(({ at, thing }): GripAt => ({
    at,
    shape: 'oval',
    grip: { kind: 'wire', thing },
  })),
  ...(view ? boxGrips(doc, selection, view) : []),
];

/** The handle under the pointer. */
export const gripUnder = (p: PanePointer): Grip | null =>
  handleUnder(p, gripsOf(pickable(editor().doc), editor().selection, p.view))?.grip ?? null;

const CORNERS = HANDLES.filter(([a, b]) => a !== 0 && b !== 0);

/** The handles with the lines between them, and the point that turns go round. */
export const shows: Shows = (doc, selection, view) => {
  // In a gesture the box would only follow after it.
  const settled = editor().draft === null;
  const grips = (settled ? gripsOf : thingGrips)(doc, selection, view);
  const lines: OverlayLine[] = [];
  for (const { grip } of grips)
    if (grip.kind === 'handle' && grip.of.handle.line)
      lines.push({
        points: [add(grip.of.from, grip.of.handle.from ?? [0, 0, 0]), grip.of.at],
        ink: 'indigo',
        style: 'fine',
      });
  for (const { grip, at } of grips)
    if (grip.kind === 'wire')
      lines.push({ points: [doc.entities.get(grip.thing)!.at, at], ink: 'indigo', style: 'fine' });
  const shown = settled && view?.square ? handleBox(view, doc, selection) : null;
  if (view && shown) {
    const { box, turn } = shown;
    const at = ([x, y]: readonly [number, number]): Vec3 => toWorld(view, x, y, box.min);
    const corners = CORNERS.map((c) => at(handleAt(view, box, c, turn)));
    if (isSized(selection)) lines.push({ points: [...corners, corners[0]!], ink: 'indigo', style: 'fine' });
    lines.push({ points: stalk(turnKnob(view, box, turn), handleAt(view, box, [0, 0], turn)).map(at), ink: 'indigo' });
  }
  const { pivot } = useCurrent.getState();
  const cross: OverlayMark[] = pivot && view ? [{ at: pivot, shape: 'cross' }] : [];
  return { lines, marks: [...cross, ...grips] };
};

/** The line from the knob towards the middle of the box, on screen. */
function stalk([kx, ky]: readonly [number, number], [tx, ty]: readonly [number, number]): [number, number][] {
  const reach = Math.max(1, Math.hypot(tx - kx, ty - ky));
  return [5, 22].map((d) => [kx + ((tx - kx) / reach) * d, ky + ((ty - ky) / reach) * d]);
}
