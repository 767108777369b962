import { entityKind, entityName, shines, strengthOf } from '../entity/index.ts';
import { newId, type MapDocument, type Mood, type Wire } from '../map/index.ts';
import { changeEntity } from './entities.ts';
import { EditError } from './errors.ts';
import { named } from './sheets.ts';
import { addWire, changeWire, sameWire } from './wires.ts';

/** Sets how strong lights are, each its own: candela of lamps, lux of suns. */
export function setStrengths(doc: MapDocument, strengths: Readonly<Record<string, number>>): MapDocument {
  return Object.entries(strengths).reduce((d, [id, value]) => {
    const thing = d.entities.get(id);
    if (!thing) throw new EditError('entity.unknown', 'That light is no longer in the map.');
    const key = entityKind(thing.kind)?.strength;
    if (!key) throw new EditError('light.none', 'Only what shines has a strength. Choose lights.');
    return changeEntity(d, id, { params: { [key]: value } });
  }, doc);
}

/** Keeps how strong all lights are now, under a name; in place of a mood that is called so already. */
export function saveMood(doc: MapDocument, name: string, id = newId()): MapDocument {
  const lights = [...doc.entities.values()].filter(shines).map((e) => ({ thing: e.id, strength: strengthOf(e) }));
  if (lights.length === 0)
    throw new EditError('mood.noLights', 'Nothing shines yet, so there is no mood to keep. Place a lamp.');
  const called = named(name);
  const before = [...doc.moods.values()].find((m) => m.name === called);
  const mood: Mood = { id: before?.id ?? id, name: called, lights };
  return { ...doc, moods: new Map(doc.moods).set(mood.id, mood) };
}

const moodOf = (doc: MapDocument, id: string): Mood => {
  const mood = doc.moods.get(id);
  if (!mood) throw new EditError('mood.unknown', 'That mood is no longer in the map.');
  return mood;
};

/** Makes all lights of a mood as strong as it says; others stay as they are. */
export const takeMood = (doc: MapDocument, id: string): MapDocument =>
  setStrengths(doc, Object.fromEntries(moodOf(doc, id).lights.map((l) => [l.thing, l.strength])));

export function removeMood(doc: MapDocument, id: string): MapDocument {
  moodOf(doc, id);
  const moods = new Map(doc.moods);
  moods.delete(id);
  return { ...doc, moods };
}

/**
 * Lets a signal take up a mood in play: a wire to each of its lights, which then fades to as many times the strength it has in the map.
 * Wires that are there already from that signal change. Regions of even light stay as they are.
 */
export function wireMood(doc: MapDocument, id: string, from: Wire['from']): MapDocument {
  const lights = moodOf(doc, id).lights.filter(({ thing }) => entityKind(doc.entities.get(thing)!.kind)?.actions.fade);
  if (lights.length === 0)
    throw new EditError('mood.noLamps', 'None of its lights can be switched in play: lamps and suns can.');
  return lights.reduce((d, { thing, strength }) => {
    const lamp = d.entities.get(thing)!;
    const own = strengthOf(lamp);
    if (own <= 0 && strength <= 0) return d;
    if (own <= 0)
      throw new EditError(
        'mood.dark',
        `${entityName(lamp)} has no strength in the map, so no share of it is as bright as the mood wants. Take up a mood in which it shines first, and let it not be lit at first.`,
      );
    const wire = { from, to: { thing, action: 'fade' }, value: strength / own };
    const before = sameWire(d, wire);
    return before ? changeWire(d, before.id, { value: wire.value }) : addWire(d, wire);
  }, doc);
}
