import {
  aroundIn,
  call,
  entityKind,
  isMoving,
  modelOf,
  ownsBrushes,
  params,
  partsOf,
  propsOf,
  shines,
  type Entity,
  type ParamSpecs,
} from '@yesca/core';
import { endTrial, tryThing } from '../scene/trial.ts';
import { useEditor } from '../state/editor.ts';
import { useCurrent } from '../state/current.ts';
import { options } from '../state/kept.ts';
import { notify } from '../state/notify.ts';
import { useTrial } from '../state/trial.ts';

const specs = {
  leaves: params.choice(['one', 'two', 'upDown'], 'one', {
    label: 'Leaves',
    help: 'One leaf, two side by side, or two that part up and down',
    names: { one: 'One', two: 'Two', upDown: 'Up and down' },
  }),
  moves: params.choice(['guess', 'slides', 'turns'], 'guess', {
    label: 'Motion',
    help: 'Whether leaves slide or turn; by the room there is, they slide where the wall beside hides them',
    names: { guess: 'By the room', slides: 'Slides', turns: 'Turns' },
    shownWhen: (v) => v.leaves !== 'upDown',
  }),
  thickness: params.length(6, { label: 'Thick', help: 'Thickness of the leaves', min: 1, max: 200 }),
  remainder: params.length(0, {
    label: 'Still shows',
    help: 'How much of a sliding leaf still shows when it is open',
    max: 1000,
    shownWhen: (v) => v.moves !== 'turns',
  }),
  zone: params.yesNo(false, {
    label: 'Opens for who comes near',
    help: 'Adds a zone through the opening, wired to the door',
  }),
} satisfies ParamSpecs;

/** How doors are made from here on. */
export const useDoorWish = options('door', specs);

const editor = () => useEditor.getState();

/** What leaves are made of when the active material is that of the walls, in which nobody would see them. */
const PLAIN_LEAF = 'oak-plank';

function leafMaterial(opening: string): string {
  const { doc } = editor();
  const { material } = useCurrent.getState();
  const rooms: readonly string[] = doc.openings.get(opening)?.rooms ?? [];
  const walls = [...doc.brushes.values()].filter((b) => b.room && rooms.includes(b.room.id));
  return walls.some((b) => b.faces.some((f) => f.material === material)) ? PLAIN_LEAF : material;
}

/** Makes a door in an opening, with the active material. */
export function doorInOpening(opening: string): void {
  const { leaves, moves, thickness, remainder, zone } = useDoorWish.getState();
  editor().run(
    call('door.inOpening', {
      opening,
      leaves,
      ...(moves === 'guess' || leaves === 'upDown' ? {} : { moves }),
      thickness,
      remainder,
      ...(zone ? { zone } : {}),
      material: leafMaterial(opening),
    }),
  );
}

/** Fills an opening with a gate: the one that is named, or the selected one. */
export function fillWithGate(opening = [...editor().selection.openings][0]): void {
  if (opening) editor().run(call('opening.gate', { opening }));
  else notify('Select the opening that is to be filled.');
}

/** Makes a door of what is selected: an opening, or brushes. */
export function doorOfSelection(each = false): void {
  const { selection, run } = editor();
  const [opening] = selection.openings;
  if (opening) return doorInOpening(opening);
  const pieces = pickedPieces();
  if (!pieces) return notify('Select an opening, or the brushes and props that should become a door.');
  const { moves, remainder } = useDoorWish.getState();
  // A lamp is no leaf of its own.
  if (each) pieces.props = pieces.props.filter((id) => modelOf(editor().doc.entities.get(id)!));
  run(call('door.ofBrushes', { ...pieces, each, remainder, ...(moves === 'guess' ? {} : { moves }) }));
}

/** What of the selection can be a part of a thing: brushes, and props with the lamps that belong to them. Null when there is none. */
export function pickedPieces(): { brushes: string[]; props: string[] } | null {
  const { doc, selection } = editor();
  const brushes = [...selection.brushes];
  const props = [...selection.entities].filter((id) => {
    const thing = doc.entities.get(id);
    return thing && (modelOf(thing) !== null || shines(thing));
  });
  const isPart = brushes.length > 0 || props.some((id) => modelOf(doc.entities.get(id)!));
  return isPart ? { brushes, props } : null;
}

/** Turns the selected brushes and props into a thing of a kind. */
export function thingOfSelection(kind: string): void {
  const pieces = pickedPieces();
  if (!pieces) return notify('Select the brushes or props that should become one.');
  editor().run(call('thing.ofBrushes', { kind, ...pieces }));
}

/** Makes the selected brushes and props a part of the selected thing. */
export function giveSelection(): void {
  const { doc, selection, run } = editor();
  const owner = [...selection.entities]
    .map((id) => doc.entities.get(id))
    .find((e) => e && ownsBrushes(entityKind(e.kind) ?? { body: 'point' }));
  const pieces = pickedPieces();
  if (!owner || !pieces)
    return notify('Select a door, a zone or another thing that owns brushes, and the brushes or props to add to it.');
  run(
    call('thing.give', {
      thing: owner.id,
      part: Math.max(0, aroundIn(doc).parts(owner.id).length - 1),
      ...pieces,
    }),
  );
}

/** The leaves of the selected door act each by itself from then on. */
export function separateSelection(): void {
  const { selection, run } = editor();
  const [thing] = [...selection.entities];
  if (selection.entities.size !== 1 || !thing) return notify('Select a door with several leaves.');
  run(call('thing.separate', { thing }));
}

/** The selected doors become one, whose leaves act together. */
export function joinSelection(): void {
  const { selection, run } = editor();
  const things = [...selection.entities];
  if (things.length < 2) return notify('Select two doors or more, whose leaves should act together.');
  run(call('thing.join', { things }));
}

/** Makes brushes and props stand by themselves again: the selected ones, and those of selected things. */
export function freeSelection(): void {
  const { doc, selection, run } = editor();
  const things = [...selection.entities].flatMap((id) => doc.entities.get(id) ?? []);
  const owned = things.flatMap((e) => partsOf(doc, e.id).flat());
  const single = [...selection.brushes].flatMap((id) => doc.brushes.get(id) ?? []).filter((b) => b.owner);
  const carried = [...things.flatMap((e) => propsOf(doc, e.id).flat()), ...things.filter((e) => e.carrier)];
  const [brushes, props] = [[...owned, ...single], carried].map((list) => [...new Set(list.map(({ id }) => id))]);
  if (brushes!.length + props!.length === 0)
    return notify('Select a thing that has brushes or props, or what belongs to one.');
  run(call('thing.free', { brushes, props }));
}

/** What is selected that does something: things, and what selected brushes belong to. */
export function triable(): Entity[] {
  const { doc, selection } = editor();
  const owners = [...selection.brushes].flatMap((id) => {
    const brush = doc.brushes.get(id);
    return brush && isMoving(doc, brush) ? brush.owner!.id : [];
  });
  const carriers = [...selection.entities].flatMap((id) => doc.entities.get(id)?.carrier?.id ?? []);
  return [...new Set([...selection.entities, ...owners, ...carriers])]
    .flatMap((id) => doc.entities.get(id) ?? [])
    .filter((e) => entityKind(e.kind)?.tries);
}

/** Plays what is selected, on the map as it stands; again, or Esc, and everything stands as before. */
export function tryIt(): void {
  const things = triable();
  if (things.length > 0) return things.forEach((e) => tryThing(e));
  if (useTrial.getState().running) return endTrial();
  notify('Select a door, or another thing that moves, then try it.');
}
