import {
  bearing,
  boxCenter,
  brushBounds,
  call,
  firstSpawn,
  pickedBounds,
  PLAYER,
  pointOnSide,
  SENTENCES,
  sideOf,
  storeysOf,
  uniteBoxes,
  wrapDegrees,
  type Box,
  type FaceRef,
  type Finding,
  type Point2,
  type SavedView,
  type Vec3,
} from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { notify } from '../state/notify.ts';
import { asPicked, isEmptySelection, selectOnly, stillThere } from '../state/selection.ts';
import { surfaceUnder } from '../geometry/surface-under.ts';
import { lastPane } from '../state/last-pane.ts';
import { useCamera } from '../state/camera.ts';
import { useEyeRequest, eyeMemory } from '../state/eye.ts';
import { paneSize } from '../state/pane-sizes.ts';

const editor = () => useEditor.getState();

/** Fits what is selected, or the whole map, into the drawings. */
export function frameAll(): void {
  const { selection } = editor();
  const nothing = isEmptySelection(selection);
  const box = nothing ? mapBounds() : selectionBounds();
  if (!box) return useCamera.setState({ centre: [0, 0, 130], zoom: 0.5 });
  fit(box, nothing);
}

/** Fits the drawings to the whole map, whatever is selected. */
export function frameMap(): void {
  const box = mapBounds();
  if (box) fit(box, true);
}

/** The box round what is selected; of faces that of their brushes. */
const selectionBounds = (): Box | null => {
  const { doc, selection } = editor();
  return pickedBounds(doc, {
    ...asPicked(selection),
    brushes: new Set([...selection.brushes, ...selection.faces.map((f) => f.brush)]),
  });
};

const mapBounds = (): Box | null => {
  const { doc } = editor();
  return pickedBounds(doc, { brushes: new Set(doc.brushes.keys()), entities: new Set(doc.entities.keys()) });
};

const fitAll = (more: Box): void => {
  const all = mapBounds();
  fit(all ? uniteBoxes([all, more]) : more, true);
};

/** Fits a box into the drawings; unless it is the whole map, the section line and the Eye go there too. */
function fit(box: Box, nothing: boolean): void {
  // Without a drawing on screen a usual size serves until the next time.
  const [w, h] = paneSize('plan') ?? paneSize('section') ?? [200, 160];
  const room = 96;
  const zoom = Math.min(
    (w - room) / Math.max(64, box.max[0] - box.min[0]),
    (h - room) / Math.max(64, box.max[1] - box.min[1], box.max[2] - box.min[2]),
    4,
  );
  const centre = boxCenter(box);
  useCamera.setState({ centre, zoom, ...(nothing ? {} : { section: sectionThrough(centre) }) });
  if (!nothing) useEyeRequest.getState().look(centre);
}

/** Shows a box of the map: where it reaches out of the Plan or the Section, both are fitted to the map with it. */
export function reveal(box: Box): void {
  const { centre, zoom } = useCamera.getState();
  const size = (kind: string) => {
    const pane = paneSize(kind);
    return pane ? ([pane[0] / zoom / 2, pane[1] / zoom / 2] as const) : null;
  };
  const [plan, section] = [size('plan'), size('section')];
  const inside = (axis: 0 | 1 | 2, half: number) =>
    box.min[axis] >= centre[axis] - half && box.max[axis] <= centre[axis] + half;
  const seen = (!plan || (inside(0, plan[0]) && inside(1, plan[1]))) && (!section || inside(2, section[1]));
  if (!seen) fitAll(box);
}

/** The section line moved, without turning it, so that it runs through a place. */
export const sectionThrough = (p: Vec3) => ({
  ...useCamera.getState().section,
  at: [Math.round(p[0]), Math.round(p[1])] as const,
});

/** Goes to the hole through which the map leaks. What is selected stays so. */
export function goToLeak(): void {
  const { leak } = editor().sealing;
  if (leak) goTo(leak.trail.at(-2) ?? leak.trail[0]);
}

export function goToSpawn(): void {
  const spawn = firstSpawn(editor().doc.entities.values());
  if (spawn)
    useEyeRequest.getState().look([spawn.at[0], spawn.at[1], spawn.at[2] + PLAYER.eyeStanding], true, spawn.turn);
  else notify(SENTENCES.noSpawn);
}

/** Brings the Eye's camera to where the pointer is: standing there on the Plan, in front of what it points at elsewhere. */
export function cameraToPointer(): void {
  const { kind, at } = lastPane;
  if (!at) return;
  if (kind === 'eye') useEyeRequest.getState().look(at);
  else if (kind === 'section') useEyeRequest.getState().look(at, true);
  else useEyeRequest.getState().look([at[0], at[1], surfaceUnder(editor().doc, at) + PLAYER.eyeStanding], true);
}

/** Goes to the next storey above or below. */
export function moveStorey(by: 1 | -1): void {
  const storeys = storeysOf(editor().doc);
  const { level } = useCamera.getState();
  const next = by > 0 ? storeys.find((s) => s.floor > level) : storeys.findLast((s) => s.floor < level);
  if (next) goToStorey(next.floor, next.cut);
  else notify(by > 0 ? 'There is no storey above.' : 'There is no storey below.', 'storey');
}

export function goToStorey(floor: number, cut?: number): void {
  const { centre } = useCamera.getState();
  useCamera.setState({ level: floor, centre: [centre[0], centre[1], floor + 130], ...(cut ? { cutHeight: cut } : {}) });
}

/**
 * The section line goes through the middle of what is selected, along its longer side, and looks as it did or, if it has to turn, the
 * nearer of the two ways; a single opening is cut across, so that its sill and head are seen.
 */
export function sectionThroughSelection(): void {
  const { doc, selection } = editor();
  if (isEmptySelection(selection))
    return notify('Select something first: the section line goes through its middle.', 'section');
  const { section } = useCamera.getState();
  const [opening] = [...selection.openings].flatMap((id) => doc.openings.get(id) ?? []);
  const room = opening && doc.rooms.get(opening.rooms[0]);
  if (opening && room?.footprint[opening.side]) {
    const side = sideOf(room, opening.side);
    const [x, y] = pointOnSide(side, opening.at, 0);
    // Across the wall: the line runs as the wall's normal does, and one looks along the wall.
    return useCamera.setState({
      section: {
        ...section,
        at: [Math.round(x), Math.round(y)],
        looks: nearerWay(section.looks, degreesOf(side.along)),
      },
    });
  }
  const box = selectionBounds();
  if (!box) return;
  reveal(box);
  const size = [box.max[0] - box.min[0], box.max[1] - box.min[1]] as const;
  // A line along x looks along y. What is about as wide as deep is cut the way the line runs now.
  const along = size[0] > size[1] * 1.25 ? 90 : size[1] > size[0] * 1.25 ? 0 : section.looks;
  useCamera.setState({ section: { ...sectionThrough(boxCenter(box)), looks: nearerWay(section.looks, along) } });
}

const degreesOf = ([x, y]: Point2): number => wrapDegrees(Math.round(bearing(x, y)));

/** Of a direction and its opposite the one nearer to where the Section looks now. */
function nearerWay(now: number, looks: number): number {
  const off = Math.abs(wrapDegrees(looks - now + 180) - 180);
  return wrapDegrees(off > 90 ? looks + 180 : looks);
}

/** The Section looks the other way, or a quarter further round. */
export function turnSection(degrees: number): void {
  const { section } = useCamera.getState();
  useCamera.setState({ section: { ...section, looks: wrapDegrees(section.looks + degrees) } });
}

/** Shows where something was found, and selects what it is about. */
export const goToFinding = (f: Finding): void => goTo(f.at, f.brushes, f.entities, f.faces);

/** Shows where some brushes and things are, or a place, and selects them. */
export function goTo(
  at: Vec3 | undefined,
  brushes: readonly string[] = [],
  entities: readonly string[] = [],
  faces: readonly FaceRef[] = [],
): void {
  const { doc, select } = editor();
  const things = [
    ...brushes.filter((id) => doc.brushes.has(id)).map((id) => ({ type: 'brush', id }) as const),
    ...entities.filter((id) => doc.entities.has(id)).map((id) => ({ type: 'entity', id }) as const),
  ];
  if (faces.length) select(stillThere({ ...selectOnly([]), faces }, doc));
  else if (things.length) select(selectOnly(things));
  const first = things[0];
  const place =
    at ??
    (first?.type === 'brush'
      ? boxCenter(brushBounds(doc.brushes.get(first.id)!))
      : first && doc.entities.get(first.id)?.at);
  if (!place) return;
  useCamera.setState({ centre: place, section: sectionThrough(place) });
  useEyeRequest.getState().look(place);
}

/** Keeps how the map is looked at now under a name. */
export function rememberView(name: string): void {
  const { centre, zoom, level, cutHeight, section } = useCamera.getState();
  const eye = { at: eyeMemory.at, towards: eyeMemory.target };
  editor().run(call('view.save', { name, centre, zoom, level, cutHeight, section, eye }));
}

export function recallView(saved: SavedView): void {
  const { centre, zoom, level, cutHeight, section, eye } = saved;
  useCamera.setState({ centre, zoom, level, cutHeight, section });
  if (eye) useEyeRequest.getState().face(eye.at, eye.towards);
}
