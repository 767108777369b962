import {
  beginWorld,
  carryOver,
  entityKind,
  isQuiet,
  movedParts,
  movingCarrier,
  newPerson,
  order,
  partsOf,
  ridersOf,
  transformBrush,
  transformEntity,
  worldOfMap,
  type Brush,
  type Entity,
  type MapDocument,
  type PlayerInput,
  type Vec3,
} from '@yesca/core';
import { propFacts } from '../state/library.ts';
import { useEditor } from '../state/editor.ts';
import { useTrial } from '../state/trial.ts';
import { feetBelow, playOn, type Played, type PlayedOn } from './walker.ts';

/** A trial ends when nothing has gone on for so long, seconds. */
const QUIET = 1.5;

const STANDING: PlayerInput = { forward: 0, right: 0, jump: false, crouch: false, yaw: 0, pitch: 0 };

interface Going {
  readonly played: Played;
  readonly doc: MapDocument;
  /** For how long nothing has gone on, seconds. */
  quiet: number;
  walks: boolean;
}

/** What is being tried on the map as it stands: one at a time, drawn in all panes, gone without a trace when it ends. */
const trial: { going: Going | null } = { going: null };

const docNow = () => useEditor.getState().doc;

/** The map goes on as it is when somebody edits it while it is played. */
function follow(): Going {
  const doc = docNow();
  if (!trial.going) {
    const world = worldOfMap(doc, propFacts);
    trial.going = { played: { world, state: beginWorld(world, []), rest: 0, uses: 0 }, doc, quiet: 0, walks: false };
  }
  if (trial.going.doc !== doc) {
    const { played } = trial.going;
    const world = worldOfMap(doc, propFacts);
    trial.going = {
      ...trial.going,
      doc,
      played: { ...played, world, state: carryOver(played.world, played.state, world) },
    };
  }
  return trial.going;
}

/** Tells a thing to show what it does. False when it does nothing. */
export function tryThing(thing: Entity): boolean {
  const action = entityKind(thing.kind)?.tries;
  if (!action) return false;
  const { played } = follow();
  played.state = order(played.world, played.state, thing.id, action);
  trial.going!.quiet = 0;
  useTrial.setState({ running: true });
  return true;
}

/** Somebody walks from where a camera is, with everything alive. */
export function beginWalk(eyes: Vec3): void {
  const { played } = follow();
  played.state = { ...played.state, people: [newPerson(feetBelow(eyes), 0)] };
  trial.going!.walks = true;
  useTrial.setState({ running: true });
}

/** Nobody walks any more; what moves comes to an end. */
export function endWalk(): void {
  if (!trial.going) return;
  trial.going.walks = false;
  trial.going.played.state = { ...trial.going.played.state, people: [] };
}

/** Everything stands as before. */
export function endTrial(): void {
  trial.going = null;
  useTrial.setState({ running: false, doc: null });
}

/** Plays on by some time and shows where everything is. Null when nothing is tried. */
export function playTrial(
  seconds: number,
  input: PlayerInput = STANDING,
): (PlayedOn & { readonly played: Played }) | null {
  if (!trial.going) return null;
  const { played, walks } = follow();
  const before = played.state;
  const on = playOn(played, input, seconds);
  trial.going!.quiet = isQuiet(before, played.state) ? trial.going!.quiet + seconds : 0;
  const parts = movedParts(played.world, played.state);
  if (!walks && parts.length + trial.going!.quiet > 0 && trial.going!.quiet > QUIET) {
    endTrial();
    return { ...on, played };
  }
  const shown = parts.length ? withMoved(docNow(), parts) : null;
  if (shown !== null || useTrial.getState().doc !== null) useTrial.setState({ doc: shown });
  return { ...on, played };
}

/** The map with parts where they are now. */
function withMoved(doc: MapDocument, parts: ReturnType<typeof movedParts>): MapDocument {
  const brushes = new Map<string, Brush>(doc.brushes);
  for (const { thing, part, pose, away } of parts)
    for (const brush of partsOf(doc, thing)[part] ?? [])
      if (away) brushes.delete(brush.id);
      else brushes.set(brush.id, transformBrush(brush, pose, true));
  // The same things while nothing rides: what is drawn of them is kept from frame to frame.
  let entities: Map<string, Entity> | null = null;
  const find = (id: string): Entity | undefined => doc.entities.get(id);
  for (const { thing, part, pose, away } of parts)
    for (const rider of ridersOf(doc, thing)) {
      const on = movingCarrier(rider, find);
      if (on?.id !== thing || on.part !== part) continue;
      entities ??= new Map(doc.entities);
      if (away) entities.delete(rider.id);
      else entities.set(rider.id, transformEntity(rider, pose));
    }
  return { ...doc, brushes, entities: entities ?? doc.entities };
}
