import {
  alignFaces,
  copyAlignment,
  dressFaces,
  flowFaces,
  mirrorAlignment,
  setReflection,
  replaceMaterial,
  scatterAlignment,
  setFrames,
  setGrain,
  setMirror,
  setShow,
  showBothSides,
  type Alignment,
} from '../edit/index.ts';
import { a } from './args.ts';
import { command } from './command.ts';

const faces = a.faces;

const ALIGN_LABELS: Readonly<Record<Alignment['do'], string>> = {
  fit: 'Fit texture',
  region: 'Region',
  edge: 'Set to edge',
  turn: 'Turn texture',
  flip: 'Mirror texture',
  nudge: 'Nudge texture',
  natural: 'Natural size',
  world: 'World projection',
  face: 'Face projection',
};

const alignment = a.oneOf('do', {
  fit: { repeats: a.point2 },
  region: { name: a.maybe(a.name), mirrored: a.maybe(a.yes) },
  edge: { side: a.choice('left', 'right', 'top', 'bottom', 'centre'), region: a.maybe(a.name) },
  turn: { degrees: a.number },
  flip: { way: a.choice('across', 'down') },
  nudge: { across: a.number, down: a.number, unit: a.maybe(a.choice('texels', 'cm')) },
  natural: {},
  world: {},
  face: {},
});

export const faceCommands = {
  'face.paint': command(
    'Paint',
    {
      faces,
      material: a.material,
      /** Whole brushes are painted: faces that are Unseen stay so. */
      wholes: a.maybe(a.yes),
      /** All get the frame that this one has then: the picture runs on over flush neighbours. */
      like: a.maybe(a.face),
      /** The far faces show the same picture from behind. */
      bothSides: a.maybe(a.yes),
    },
    (doc, { faces, material, wholes, like, bothSides }, { materials }) => {
      let out = dressFaces(doc, faces, material, materials, wholes);
      const frame = like && out.brushes.get(like.brush)?.faces.find((f) => f.id === like.face)?.frame;
      if (frame) out = setFrames(out, faces, () => frame);
      return bothSides ? showBothSides(out, faces) : out;
    },
  ),
  'face.align': command(
    ({ align }) => ALIGN_LABELS[align.do],
    { faces, align: alignment, asPiece: a.maybe(a.yes) },
    (doc, { faces, align, asPiece }, { materials }) => alignFaces(doc, faces, align, { facts: materials, asPiece }),
  ),
  /** Gives faces the frames that were worked out by hand or by numbers. */
  'face.frames': command(
    'Texture',
    { frames: a.list(a.record({ face: a.face, frame: a.frame })) },
    (doc, { frames }) => {
      const byFace = new Map(frames.map(({ face, frame }) => [`${face.brush} ${face.face}`, frame]));
      return setFrames(
        doc,
        frames.map((f) => f.face),
        (_, __, ref) => byFace.get(`${ref.brush} ${ref.face}`)!,
      );
    },
  ),
  'face.flow': command(
    ({ paint }) => (paint ? 'Paint' : 'Flow texture'),
    {
      from: a.face,
      faces,
      paint: a.maybe(a.yes),
      close: a.maybe(a.yes),
      seam: a.maybe(a.choice('far', 'left', 'right')),
    },
    (doc, { from, faces, paint, close, seam }, { materials }) =>
      flowFaces(doc, from, faces, { facts: materials, paint, close, seam }),
  ),
  'face.copy': command('Copy alignment', { from: a.face, faces }, (doc, { from, faces }) =>
    copyAlignment(doc, from, faces),
  ),
  'face.mirror': command('Mirror alignment', { from: a.face, faces: a.list(a.face) }, (doc, { from, faces }) =>
    mirrorAlignment(doc, from, faces),
  ),
  'face.bothSides': command('Both sides', { faces }, (doc, { faces }) => showBothSides(doc, faces)),
  'face.scatter': command(
    'Scatter textures',
    { faces, seed: a.whole, turn: a.maybe(a.yes) },
    (doc, { faces, seed, turn }, { materials }) =>
      scatterAlignment(doc, faces, seed, { facts: materials, turn: turn ?? false }),
  ),
  'face.show': command('Shown as', { faces, show: a.orNone(a.choice('sky', 'unseen')) }, (doc, { faces, show }) =>
    setShow(doc, faces, show),
  ),
  'face.mirrorStrength': command('Mirror strength', { faces, mirror: a.number }, (doc, { faces, mirror }) =>
    setMirror(doc, faces, mirror),
  ),
  'face.reflection': command('Choose a reflection', { faces, thing: a.orNone(a.id) }, (doc, { faces, thing }) =>
    setReflection(doc, faces, thing),
  ),
  'face.grain': command('Grain', { faces, grain: a.number }, (doc, { faces, grain }) => setGrain(doc, faces, grain)),
  'material.replace': command(
    'Replace material',
    { from: a.material, to: a.material },
    (doc, { from, to }, { materials }) => replaceMaterial(doc, from, to, materials),
  ),
};
