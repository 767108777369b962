import { BILLBOARD_FACINGS, entityKind } from '../entity/index.ts';
import {
  aimDecals,
  becomeKind,
  boxDecals,
  changeEntity,
  copyParams,
  cutDecals,
  decalsToPatches,
  doorInOpening,
  doorOfBrushes,
  freeParts,
  giveParts,
  joinThings,
  layCopies,
  layDecals,
  patchesToDecals,
  placeBillboard,
  placeDecals,
  placeEntity,
  placeProps,
  replaceProps,
  scatterProps,
  separateParts,
  setStillShows,
  strewProps,
  thingOfBrushes,
  withFirstBody,
  type MadeDoor,
} from '../edit/index.ts';
import { newId } from '../map/index.ts';
import { a, pickedOf } from './args.ts';
import { command, type Outcome } from './command.ts';

const madeDoor = ({ doc, door }: MadeDoor): Outcome => ({ doc, made: { entities: [door] } });

export const thingCommands = {
  'thing.place': command(
    ({ kind }) => `Place ${entityKind(kind)?.label.toLowerCase() ?? kind}`,
    { kind: a.name, at: a.vec3, turn: a.maybe(a.number), material: a.maybe(a.material) },
    (doc, { kind, at, turn, material = 'oak-plank' }) => {
      const id = newId();
      return { doc: withFirstBody(placeEntity(doc, kind, at, turn, id), id, material), made: { entities: [id] } };
    },
  ),
  /** Puts a prop on a surface, with the lamps that belong to it: they are grouped and move as one. */
  'prop.place': command(
    ({ props }) => (props.length === 1 ? 'Place prop' : `Place ${props.length} props`),
    {
      props: a.list(
        a.record({ model: a.name, at: a.vec3, turn: a.maybe(a.number), up: a.maybe(a.vec3), scale: a.maybe(a.number) }),
      ),
    },
    (doc, { props }, { props: lookup = () => undefined }) => placeProps(doc, props, lookup),
  ),
  /** Strews props over faces, none nearer to another than the spacing. */
  'prop.scatter': command(
    'Scatter props',
    {
      faces: a.list(a.face),
      models: a.list(a.name),
      spacing: a.number,
      seed: a.number,
      spread: a.maybe(a.number),
      aligned: a.maybe(a.yes),
    },
    (doc, { faces, ...scatter }, { props: lookup = () => undefined }) => scatterProps(doc, faces, scatter, lookup),
  ),
  /** Strews props with a brush, round each place that it touched. */
  'prop.strew': command(
    'Strew props',
    {
      dabs: a.list(a.record({ at: a.vec3, normal: a.vec3 })),
      radius: a.number,
      models: a.list(a.name),
      spacing: a.number,
      seed: a.number,
      spread: a.maybe(a.number),
      aligned: a.maybe(a.yes),
      density: a.maybe(a.number),
    },
    (doc, strewing, { props: lookup = () => undefined }) => {
      const { doc: after, placed } = strewProps(doc, strewing, lookup);
      return {
        doc: after,
        ...(placed === 0 ? { said: 'There is no room for another one. Type a smaller spacing.' } : {}),
      };
    },
  ),
  /** Things that are props are another one from then on, where they stand. */
  'prop.replace': command(
    ({ things }) => (things.length === 1 ? 'Replace prop' : `Replace ${things.length} props`),
    { things: a.ids, model: a.name },
    (doc, { things, model }, { props: lookup = () => undefined }) => replaceProps(doc, things, model, lookup),
  ),
  /** Puts pictures on surfaces, upright on walls. */
  'decal.place': command(
    ({ decals }) => (decals.length === 1 ? 'Place decal' : `Place ${decals.length} decals`),
    {
      decals: a.list(
        a.record({
          material: a.material,
          region: a.maybe(a.name),
          at: a.vec3,
          normal: a.vec3,
          turn: a.maybe(a.number),
          scale: a.maybe(a.number),
          width: a.maybe(a.number),
          height: a.maybe(a.number),
          depth: a.maybe(a.number),
        }),
      ),
    },
    (doc, { decals }, { materials = () => undefined }) => placeDecals(doc, decals, materials),
  ),
  /** Stands the picture of a material on a surface: it turns to whoever looks, or stands crosswise. */
  'billboard.place': command(
    'Place billboard',
    {
      material: a.material,
      region: a.maybe(a.name),
      at: a.vec3,
      normal: a.vec3,
      faces: a.maybe(a.choice(...BILLBOARD_FACINGS)),
      turn: a.maybe(a.number),
      width: a.maybe(a.number),
      height: a.maybe(a.number),
    },
    (doc, wish, { materials = () => undefined }) => placeBillboard(doc, wish, materials),
  ),
  /** Lays decals on a surface, rolled the shortest way from how they lay; the others go as the first does. */
  'decal.lay': command(
    ({ things }) => (things.length === 1 ? 'Lay decal' : `Lay ${things.length} decals`),
    { things: a.ids, at: a.vec3, normal: a.vec3, depth: a.maybe(a.number), copy: a.maybe(a.yes) },
    (doc, { things, copy = false, ...on }) => (copy ? layCopies(doc, things, on) : layDecals(doc, things, on)),
  ),
  /** Sizes (cm) and turns (degrees from how a new one would lie) decals where they lie. */
  'decal.box': command(
    ({ label }) => label ?? 'Size decal',
    {
      things: a.ids,
      label: a.maybe(a.name),
      width: a.maybe(a.number),
      height: a.maybe(a.number),
      depth: a.maybe(a.number),
      turn: a.maybe(a.number),
      flip: a.maybe(a.yes),
      natural: a.maybe(a.yes),
    },
    (doc, { things, label: _, ...box }, { materials = () => undefined }) => boxDecals(doc, things, box, materials),
  ),
  /** Cuts a part of their picture out of decals: an outline in parts of it, from its lower left corner; none for all of it. */
  'decal.cut': command(
    ({ label }) => label ?? 'Cut decal',
    {
      things: a.ids,
      label: a.maybe(a.name),
      outline: a.maybe(a.outline),
      inks: a.maybe(a.list(a.record({ color: a.name, opacity: a.number }))),
    },
    (doc, { things, outline, inks }) => cutDecals(doc, things, outline, inks),
  ),
  /** Turns decals into patches: thin brushes flush with the faces they fall on, to be aligned like faces. */
  'decal.toPatch': command(
    ({ things }) => (things.length === 1 ? 'Turn decal into a patch' : 'Turn decals into patches'),
    { things: a.ids },
    (doc, { things }, { materials = () => undefined }) => {
      const { doc: after, brushes, said } = decalsToPatches(doc, things, materials);
      return { doc: after, made: { brushes: [...brushes] }, ...(said ? { said } : {}) };
    },
  ),
  /** Turns patches into decals that show the same where they lay. */
  'patch.toDecal': command(
    ({ brushes }) => (brushes.length === 1 ? 'Turn patch into a decal' : 'Turn patches into decals'),
    { brushes: a.ids },
    (doc, { brushes }, { materials = () => undefined }) => patchesToDecals(doc, brushes, materials),
  ),
  /** Lets the decals among what is picked fall on the rest of it, and on nothing else. */
  'decal.target': command('Choose what decals fall on', { picked: a.picked }, (doc, { picked }) =>
    aimDecals(doc, pickedOf(picked)),
  ),
  /** Makes a thing of brushes and props: a lift, a mover, a zone. */
  'thing.ofBrushes': command(
    ({ kind }) => `Make a ${entityKind(kind)?.label.toLowerCase() ?? kind}`,
    { kind: a.name, brushes: a.maybe(a.ids), props: a.maybe(a.ids) },
    (doc, { kind, ...pieces }) => {
      const id = newId();
      return { doc: thingOfBrushes(doc, kind, pieces, id), made: { entities: [id] } };
    },
  ),
  /** Puts things at one place along one axis; where they are along the others stays. */
  'thing.put': command(
    ({ things }) => (things.length === 1 ? 'Change thing' : 'Change things'),
    { things: a.ids, axis: a.axis, to: a.number },
    (doc, { things, axis, to }) =>
      things.reduce((d, id) => {
        const at: [number, number, number] = [...(d.entities.get(id)?.at ?? [0, 0, 0])];
        at[axis] = to;
        return changeEntity(d, id, { at });
      }, doc),
  ),
  /** A parameter that is null is unset: it then has its usual value. */
  'thing.change': command(
    ({ things, label }) => label ?? (things.length === 1 ? 'Change thing' : 'Change things'),
    {
      things: a.ids,
      label: a.maybe(a.name),
      at: a.maybe(a.vec3),
      turn: a.maybe(a.number),
      name: a.maybe(a.name),
      params: a.maybe(a.params),
    },
    (doc, { things, label: _, params = {}, ...change }) => {
      const values = Object.fromEntries(Object.entries(params).map(([key, v]) => [key, v ?? undefined]));
      return things.reduce((d, id) => changeEntity(d, id, { ...change, params: values }), doc);
    },
  ),
  'door.inOpening': command(
    'Make a door',
    {
      opening: a.id,
      leaves: a.choice('one', 'two', 'upDown'),
      moves: a.maybe(a.choice('slides', 'turns')),
      thickness: a.number,
      remainder: a.maybe(a.number),
      material: a.material,
      zone: a.maybe(a.yes),
    },
    (doc, { opening, ...wish }) => madeDoor(doorInOpening(doc, opening, wish)),
  ),
  'door.ofBrushes': command(
    'Make a door',
    {
      brushes: a.maybe(a.ids),
      props: a.maybe(a.ids),
      each: a.yes,
      moves: a.maybe(a.choice('slides', 'turns')),
      remainder: a.maybe(a.number),
    },
    (doc, { brushes, props, ...wish }) => madeDoor(doorOfBrushes(doc, { brushes, props }, wish)),
  ),
  /** Brushes and props become a part of a thing: the leaf of a door, the car of a lift. */
  'thing.give': command(
    'Add to the thing',
    { thing: a.id, part: a.maybe(a.whole), brushes: a.maybe(a.ids), props: a.maybe(a.ids) },
    (doc, { thing, part = 0, ...pieces }) => giveParts(doc, thing, part, pieces),
  ),
  /** Things are of another kind from then on. */
  'thing.become': command(
    ({ kind }) => `Turn into ${entityKind(kind)?.label.toLowerCase() ?? kind}`,
    { things: a.ids, kind: a.name },
    (doc, { things, kind }) => becomeKind(doc, things, kind),
  ),
  /** Things get the parameters of another one, as far as they have them. */
  'thing.copyParams': command('Copy parameters', { from: a.id, things: a.ids }, (doc, { from, things }) =>
    copyParams(doc, from, things),
  ),
  /** The parts of a thing act each by itself from then on. */
  'thing.separate': command('Separate the parts', { thing: a.id }, (doc, { thing }) => {
    const { doc: after, things } = separateParts(doc, thing);
    return { doc: after, made: { entities: things } };
  }),
  /** Things of a kind become one, the first, whose parts act together. */
  'thing.join': command('Join into one', { things: a.ids }, (doc, { things }) => ({
    doc: joinThings(doc, things),
    made: { entities: things.slice(0, 1) },
  })),
  /** A part that slides goes as far that so much of it still shows, cm. */
  'door.stillShows': command(
    'Let some of the leaf show',
    { thing: a.id, part: a.whole, shows: a.number },
    (doc, { thing, part, shows }) => setStillShows(doc, thing, part, shows),
  ),
  'thing.free': command('Take off the thing', { brushes: a.maybe(a.ids), props: a.maybe(a.ids) }, (doc, pieces) =>
    freeParts(doc, pieces),
  ),
};
