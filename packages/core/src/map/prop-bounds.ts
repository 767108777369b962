import { brushBounds, type Brush } from '../brush/index.ts';
import { modelOf, propPose, type Entity, type Model } from '../entity/index.ts';
import { applyAffine, boxCorners, boxOf, uniteBoxes, type Box, type Vec3 } from '../math/index.ts';
import type { PropFacts, PropLookup } from '../prop/index.ts';

/** What a thing that is a prop fills along its own axes at scale 1, as it was when it was placed. */
export function propSize(thing: Entity): Box {
  const own = modelOf(thing)?.own;
  if (own) return own.bounds;
  const given = thing.params.size;
  const [x0 = -16, y0 = -16, z0 = 0, x1 = 16, y1 = 16, z1 = 32] = Array.isArray(given) ? (given as number[]) : [];
  return { min: [x0, y0, z0], max: [Math.max(x1, x0 + 1), Math.max(y1, y0 + 1), Math.max(z1, z0 + 1)] };
}

/** What is known of the prop that a thing is: by itself, or by its name. */
export const factsOfProp = ({ name, own }: Model, lookup: PropLookup): PropFacts | undefined => own ?? lookup(name);

/** The corners of the box of a prop where it stands; of what nobody knows by the size that it had when it was placed. */
export function propCorners(thing: Entity, lookup: PropLookup = () => undefined): Vec3[] {
  const model = modelOf(thing);
  if (!model) return [thing.at];
  const pose = propPose(model, thing.at, thing.turn);
  return boxCorners(factsOfProp(model, lookup)?.bounds ?? propSize(thing)).map((corner) => applyAffine(pose, corner));
}

/** What a prop fills where it stands; of what is none its place. */
export const propBounds = (thing: Entity): Box => boxOf(propCorners(thing));

/** What some brushes and things fill; an empty box where there are none. */
export const filledBox = ({
  brushes,
  things,
}: {
  readonly brushes: Iterable<Brush>;
  readonly things: Iterable<Entity>;
}): Box => uniteBoxes([...[...brushes].map(brushBounds), ...[...things].map(propBounds)]);
