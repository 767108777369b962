import type { Brush, TextureFrame } from '../brush/index.ts';
import { pictureRegion } from '../decal/index.ts';
import { billboardFacts, modelOf, propPose, type Billboard } from '../entity/index.ts';
import { applyAffine, invertAffine, planeFromLoop, type Affine } from '../math/index.ts';
import type { MaterialFacts, MaterialLookup } from '../surface/index.ts';
import { PROP_BRUSH, ridden } from './props.ts';
import type { MapDocument } from './types.ts';

/**
 * What of billboards light has to come through: of those that cast a shadow two thin sheets with the picture, as it stands crosswise; what turns to
 * the eye shades as much from every side. They are in no document, hold nobody back and are not drawn. Of a material that nobody has there is none.
 */
export function billboardShades({ entities }: Pick<MapDocument, 'entities'>, materials: MaterialLookup): Brush[] {
  return [...entities.values()].flatMap((thing): readonly Brush[] => {
    const model = modelOf(thing);
    const picture = model?.shades ? model.picture : undefined;
    const facts = picture && materials(picture.material);
    if (!model || !picture || !facts) return [];
    const pose = propPose(model, thing.at, thing.turn);
    // A billboard is never grown to nothing.
    const inwards = invertAffine(pose)!;
    const sheets = billboardFacts({ ...picture, faces: 'crossed' }).hulls.map(({ vertices, loops }, k): Brush => {
      const frame = pictureFrame(picture, facts, k === 0 ? 0 : 1, inwards);
      return {
        id: `${PROP_BRUSH}${thing.id} sheet ${k}`,
        role: 'detail',
        vertices: vertices.map((v) => applyAffine(pose, v)),
        faces: loops.map((loop, i) => {
          const wide = Math.abs(planeFromLoop(loop.map((c) => vertices[c]!))?.normal[k === 0 ? 1 : 0] ?? 0) > 0.5;
          return { id: i + 1, loop, material: picture.material, frame, ...(wide ? {} : { show: 'unseen' as const }) };
        }),
        ...(thing.carrier ? { owner: thing.carrier } : {}),
      };
    });
    return ridden(thing, sheets, (id) => entities.get(id));
  });
}

/** How its picture lies on the sheet along one of its axes: the picture's first row is its top. */
function pictureFrame(picture: Billboard, facts: MaterialFacts, axis: 0 | 1, inwards: Affine): TextureFrame {
  const part = pictureRegion(picture, facts);
  const across = part.width / picture.width;
  const down = -part.height / picture.height;
  const row = (axis: 0 | 1 | 2, by: number, start: number): [number, number, number, number] => {
    const [x, y, z, t] = inwards.slice(axis * 4, axis * 4 + 4) as [number, number, number, number];
    return [x * by, y * by, z * by, t * by + start];
  };
  return { u: row(axis, across, part.x + part.width / 2), v: row(2, down, part.y + part.height) };
}
