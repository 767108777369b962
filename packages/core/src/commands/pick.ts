import {
  alignPicked,
  distributePicked,
  duplicatePicked,
  groupPicked,
  movePicked,
  moveToLayer,
  pasteText,
  placeAssembly,
  partsLeft,
  removePicked,
  repeatAlong,
  repeatAround,
  replaceWith,
  resizePicked,
  stretchPicked,
  transformPicked,
  ungroup,
  type Copied,
} from '../edit/index.ts';
import { a, pickedOf } from './args.ts';
import { command, selecting, type Outcome } from './command.ts';

const copied = ({ doc, picked }: Copied): Outcome => ({
  doc,
  made: { brushes: [...picked.brushes], entities: [...picked.entities] },
});

const picked = a.picked;
/** Textures go along with what is moved (as when absent), or stay in the world. */
const carry = a.maybe(a.yes);

/** What is done to whatever is picked: brushes, things, rooms and openings alike. */
export const pickCommands = {
  'pick.move': command('Move', { picked, by: a.vec3, carry }, (doc, { picked, by, carry }) =>
    movePicked(doc, pickedOf(picked), by, carry),
  ),
  'pick.transform': command(
    ({ as = 'turn' }) => ({ turn: 'Turn', mirror: 'Mirror', skew: 'Skew', resize: 'Resize' })[as],
    { picked, map: a.affine, carry, as: a.maybe(a.choice('turn', 'mirror', 'skew', 'resize')) },
    (doc, { picked, map, carry }) => transformPicked(doc, pickedOf(picked), map, carry),
  ),
  'pick.resize': command('Resize', { picked, to: a.box, carry }, (doc, { picked, to, carry }) =>
    resizePicked(doc, pickedOf(picked), to, carry),
  ),
  'pick.stretch': command('Resize', { brushes: a.ids, to: a.box, carry }, (doc, { brushes, to, carry }) =>
    selecting(stretchPicked(doc, new Set(brushes), to, carry)),
  ),
  'pick.remove': command(
    ({ as = 'delete' }) => ({ delete: 'Delete', cut: 'Cut' })[as],
    { picked, as: a.maybe(a.choice('delete', 'cut')) },
    (doc, { picked }) => {
      const out = removePicked(doc, pickedOf(picked));
      const said = partsLeft(doc, out);
      return { doc: out, ...(said ? { said } : {}) };
    },
  ),
  'pick.duplicate': command('Duplicate', { picked, by: a.vec3 }, (doc, { picked, by }) =>
    copied(duplicatePicked(doc, pickedOf(picked), by)),
  ),
  'pick.paste': command('Paste', { text: a.text, by: a.vec3 }, (doc, { text, by }) => copied(pasteText(doc, text, by))),
  /** Puts an assembly of Stock, a map file, with the middle of its foot on a place. */
  'assembly.place': command(
    ({ name }) => `Place ${name}`,
    { text: a.text, name: a.name, at: a.vec3, turn: a.maybe(a.number) },
    (doc, wish) => copied(placeAssembly(doc, wish)),
  ),
  'pick.replace': command('Replace', { picked, text: a.text, carry }, (doc, { picked, text, carry }) => {
    const pasted = pasteText(doc, text, [0, 0, 0]);
    const out = replaceWith(pasted.doc, pickedOf(picked), pasted.picked.brushes, carry);
    return copied({ ...out, doc: removePicked(out.doc, pasted.picked) });
  }),
  'pick.repeat': command(
    'Repeat',
    { picked, count: a.number, step: a.vec3, carry },
    (doc, { picked, count, step, carry }) => copied(repeatAlong(doc, pickedOf(picked), count, step, carry)),
  ),
  'pick.repeatAround': command(
    'Repeat around',
    { picked, count: a.number, about: a.vec3, degrees: a.number, axis: a.maybe(a.axis), carry },
    (doc, { picked, count, about, degrees, axis = 2, carry }) =>
      copied(repeatAround(doc, pickedOf(picked), count, axis, about, degrees, carry)),
  ),
  'pick.align': command(
    'Align',
    { picked, axis: a.axis, to: a.choice('low', 'middle', 'high'), carry, contents: a.maybe(a.yes) },
    (doc, { picked, axis, to, carry, contents }) => alignPicked(doc, pickedOf(picked), axis, to, carry, contents),
  ),
  'pick.spread': command(
    'Spread evenly',
    { picked, axis: a.axis, carry, contents: a.maybe(a.yes) },
    (doc, { picked, axis, carry, contents }) => distributePicked(doc, pickedOf(picked), axis, carry, contents),
  ),
  'pick.group': command('Group', { picked, name: a.maybe(a.name) }, (doc, { picked, name }) =>
    groupPicked(doc, pickedOf(picked), name),
  ),
  'pick.ungroup': command('Ungroup', { groups: a.ids }, (doc, { groups }) => ungroup(doc, new Set(groups))),
  'pick.layer': command('Layer', { picked, layer: a.orNone(a.id) }, (doc, { picked, layer }) =>
    moveToLayer(doc, pickedOf(picked), layer),
  ),
};
