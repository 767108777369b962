import { modelOf, propPose } from '../entity/index.ts';
import type { MapDocument } from '../map/index.ts';
import { applyAffine, invertAffine, type Vec3 } from '../math/index.ts';
import { DRAWN_LIMITS } from '../prop/index.ts';
import type { Picked } from './brushes.ts';
import { EditError } from './errors.ts';

/** What a prop is to collide as: the corners of solids in its own space, cm, z up. */
export interface DrawnCollision {
  readonly model: string;
  readonly corners: readonly (readonly Vec3[])[];
}

/**
 * The selected brushes as what the one selected prop is to collide as wherever it stands, as they lie about it here: turned, grown, leant as it is.
 * Throws `EditError` when there is not one prop and one brush or more.
 */
export function drawnCollision(doc: MapDocument, { brushes, entities }: Picked): DrawnCollision {
  // A prop that shines is selected with its lamps.
  const things = [...(entities ?? [])].flatMap((id) => doc.entities.get(id) ?? []).filter((e) => modelOf(e));
  const [thing] = things;
  const model = thing && things.length === 1 ? modelOf(thing) : null;
  const drawn = [...(brushes ?? [])].flatMap((id) => doc.brushes.get(id) ?? []);
  if (!thing || !model?.name || model.own || drawn.length === 0)
    throw new EditError(
      'prop.drawnNothing',
      'Select one prop and the brushes that it is to collide as, and try again.',
    );
  if (drawn.length > DRAWN_LIMITS.solids)
    throw new EditError(
      'prop.drawnMany',
      `A prop collides as up to ${DRAWN_LIMITS.solids} brushes; these are ${drawn.length}. Select fewer, or merge some.`,
    );
  if (drawn.some((b) => b.vertices.length > DRAWN_LIMITS.corners))
    throw new EditError(
      'prop.drawnCorners',
      `A brush that a prop collides as has up to ${DRAWN_LIMITS.corners} corners. Cut the one with more, or draw a simpler one.`,
    );
  // A prop is never grown to nothing.
  const inwards = invertAffine(propPose(model, thing.at, thing.turn))!;
  return { model: model.name, corners: drawn.map((b) => b.vertices.map((v) => applyAffine(inwards, v))) };
}
