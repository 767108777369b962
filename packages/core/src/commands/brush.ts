import {
  addFoliage,
  addHint,
  addShape,
  changeShape,
  crossSheets,
  cutBrushes,
  EditError,
  giveBack,
  intersectPicked,
  mergePicked,
  pullFace,
  repairPicked,
  reshapeBrushes,
  setPassable,
  setShadow,
  setRole,
  shellPicked,
  snapToGrid,
  subtractBrushes,
  thingOfBrushes,
  wrapInClip,
} from '../edit/index.ts';
import { shapeSpec } from '../brush/index.ts';
import type { Vec3 } from '../math/index.ts';
import { entityKind } from '../entity/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import { a } from './args.ts';
import { command, selecting } from './command.ts';

const brushes = a.ids;
/** Of faces that an operation makes; absent: like the brush they are of. */
const material = a.maybe(a.material);

const corner = a.record({ vertex: a.whole, to: a.vec3 });

/** The brushes make up a zone of their own, but for those that are part of one already. */
function asZone(doc: MapDocument, brushes: readonly string[]): MapDocument {
  const loose = brushes.filter((id) => {
    const owner = doc.brushes.get(id)?.owner;
    return !(owner && entityKind(doc.entities.get(owner.id)?.kind ?? '')?.body === 'zone');
  });
  return loose.length ? thingOfBrushes(doc, 'zone', { brushes: loose }, newId()) : doc;
}

export const brushCommands = {
  'brush.draw': command(
    'Draw',
    { shape: a.recipe, material: a.material, role: a.maybe(a.role), layer: a.maybe(a.id) },
    (doc, { shape, ...dress }) => {
      const group = newId();
      const made: string[] = [];
      const brush = (i: number) => (made[i] ??= newId());
      const drawn = addShape(doc, shape, dress, { group, brush }, shapeSpec(shape.kind).label);
      return selecting({ doc: dress.role === 'zone' ? asZone(drawn, made) : drawn, brushes: made });
    },
  ),
  'brush.changeShape': command(
    'Change shape',
    { group: a.id, params: a.maybe(a.shapeParams), box: a.maybe(a.box) },
    (doc, { group, ...change }) => changeShape(doc, group, change),
  ),
  'brush.cut': command(
    'Cut',
    { brushes, plane: a.plane, keep: a.choice('front', 'back', 'both'), material },
    (doc, { brushes, plane, keep, material }) => selecting(cutBrushes(doc, new Set(brushes), plane, keep, material)),
  ),
  'brush.hint': command('Draw a hint', { from: a.vec3, to: a.vec3, along: a.vec3 }, (doc, line) =>
    selecting(addHint(doc, line)),
  ),
  'brush.subtract': command(
    'Subtract',
    { brushes, from: a.maybe(a.ids), keep: a.maybe(a.yes), material },
    (doc, { brushes, from, keep, material }) =>
      selecting(subtractBrushes(doc, new Set(brushes), from && new Set(from), keep, material)),
  ),
  'brush.intersect': command('Intersect', { brushes }, (doc, { brushes }) =>
    selecting(intersectPicked(doc, new Set(brushes))),
  ),
  'brush.merge': command('Merge', { brushes, how: a.choice('hull', 'union') }, (doc, { brushes, how }) =>
    selecting(mergePicked(doc, new Set(brushes), how)),
  ),
  /** Wraps brushes and props in one convex clip brush, for players to run past. */
  'brush.wrap': command(
    'Wrap in clip',
    { brushes: a.maybe(a.ids), things: a.maybe(a.ids) },
    (doc, picked, { props: lookup = () => undefined }) => wrapInClip(doc, picked, lookup),
  ),
  'brush.shell': command(
    'Shell',
    { brushes, thickness: a.number, where: a.choice('inside', 'outside') },
    (doc, { brushes, thickness, where }) => selecting(shellPicked(doc, new Set(brushes), thickness, where)),
  ),
  'brush.pull': command(
    'Pull out',
    { face: a.face, by: a.vec3, taper: a.maybe(a.number) },
    (doc, { face, by, taper }) => selecting(pullFace(doc, face.brush, face.face, by, taper)),
  ),
  'brush.reshape': command(
    'Reshape',
    {
      moves: a.list(a.record({ brush: a.id, corners: a.list(corner, 512) })),
      split: a.maybe(a.yes),
      carry: a.maybe(a.yes),
    },
    (doc, { moves, split, carry }) => {
      const to = moves.map(({ brush, corners }) => {
        const { vertices } = doc.brushes.get(brush) ?? { vertices: [] };
        if (corners.some((c) => !vertices[c.vertex]))
          throw new EditError('brush.corner', 'A brush has no corner of that number. Count from 0.');
        return [brush, new Map(corners.map((c): [number, Vec3] => [c.vertex, c.to]))] as const;
      });
      const out = reshapeBrushes(doc, new Map(to), split, carry);
      return { ...selecting(out), ...(out.concave ? { note: 'concave' as const } : {}) };
    },
  ),
  'brush.snap': command('Snap to grid', { brushes, step: a.maybe(a.number) }, (doc, { brushes, step }) =>
    selecting(snapToGrid(doc, new Set(brushes), step ?? doc.settings.grid)),
  ),
  'brush.repair': command('Repair', { brushes: a.maybe(a.ids) }, (doc, { brushes }) => {
    const out = repairPicked(doc, new Set(brushes ?? doc.brushes.keys()));
    const { mended, removed } = out;
    return {
      ...selecting(out),
      said: mended + removed ? `Mended ${mended}, removed ${removed}.` : 'Nothing was broken.',
    };
  }),
  /** Brushes of the role zone belong to a thing that notices who is inside. */
  'brush.role': command('Role', { brushes, role: a.role }, (doc, { brushes, role }) =>
    role === 'zone' ? asZone(doc, brushes) : setRole(doc, new Set(brushes), role),
  ),
  'brush.passable': command('Passable', { brushes, passable: a.yes }, (doc, { brushes, passable }) =>
    setPassable(doc, new Set(brushes), passable),
  ),
  'brush.shadow': command('Casts shadow', { brushes, casts: a.yes }, (doc, { brushes, casts }) =>
    setShadow(doc, new Set(brushes), casts),
  ),
  'brush.giveBack': command('Give back to the room', { brushes }, (doc, { brushes }) =>
    giveBack(doc, new Set(brushes)),
  ),
  'brush.sheet': command(
    'Thin sheet',
    {
      material: a.material,
      at: a.vec3,
      normal: a.vec3,
      width: a.maybe(a.number),
      height: a.maybe(a.number),
      turn: a.maybe(a.number),
      crosswise: a.maybe(a.yes),
    },
    (doc, { material, ...spec }, { materials }) => {
      const facts = materials(material);
      if (!facts)
        throw new EditError('material.unknown', `No material called ${material} is known here. Choose one from Stock.`);
      return selecting(addFoliage(doc, { ...spec, material: facts }));
    },
  ),
  'brush.cross': command('Cross sheets', { brushes }, (doc, { brushes }) =>
    selecting(crossSheets(doc, new Set(brushes))),
  ),
};
