import { boxSolid, hullOf, type Brush, type Solid, type Stoppable } from '../brush/index.ts';
import { modelOf, propPose, type Entity, type Model, type PropStops } from '../entity/index.ts';
import { applyAffine, boxCenter, boxCorners, boxSize, lerp, type Vec3 } from '../math/index.ts';
import type { PropCollision, PropFacts, PropLookup } from '../prop/index.ts';
import { naturalFrame } from '../surface/index.ts';
import { movingCarrier } from './around.ts';
import { factsOfProp, propSize } from './prop-bounds.ts';
import type { MapDocument } from './types.ts';

/** A prop with a side longer than this (cm) is lit at its corners unless it is said otherwise: light differs along it. */
const LIT_AT_CORNERS = 160;
/** Light is found so far above a place (cm), not in what it stands on. */
const LIT_ABOVE = 8;
/** Corners are moved so far towards the middle, of the way: not into the walls that it stands at. */
const LIT_INSIDE = 0.2;

/**
 * Where the light of a prop is found: at one place in its middle, or at eight, for the corners of its box in its own space,
 * in the order of `boxCorners`.
 */
export function litPlaces(thing: Entity): Vec3[] {
  const model = modelOf(thing);
  if (!model) return [];
  const box = propSize(thing);
  const pose = propPose(model, thing.at, thing.turn);
  const middle = boxCenter(box);
  const inMap = (p: Vec3): Vec3 => {
    const [x, y, z] = applyAffine(pose, p);
    return [x, y, z + LIT_ABOVE];
  };
  const side = Math.max(...boxSize(box)) * model.scale;
  if ((model.litAt ?? (side > LIT_AT_CORNERS ? 'corners' : 'middle')) === 'middle') return [inMap(middle)];
  return boxCorners(box).map((corner) => inMap(lerp(corner, middle, LIT_INSIDE)));
}

/** Whether any props stand in a map. */
export const hasProps = ({ entities }: Pick<MapDocument, 'entities'>): boolean =>
  [...entities.values()].some((e) => modelOf(e) !== null);

/** The convex solids that stand for a prop in its own space. */
export function propSolids(facts: PropFacts, as: PropCollision): readonly Solid[] {
  if (as === 'none') return [];
  if (as === 'box') return [boxSolid(facts.bounds)];
  if (as === 'drawn' && facts.drawn?.length) return facts.drawn;
  if (as === 'hulls' || as === 'drawn' || facts.hulls.length === 1) return facts.hulls;
  return [hullOf(facts.hulls.flatMap((h) => h.vertices))];
}

/** Props nobody knows stand as boxes of the size they had, which nothing passes and which cast no shadow. */
const standIn = (thing: Entity): PropFacts => {
  const bounds = propSize(thing);
  return {
    name: '',
    label: '',
    bounds,
    triangles: 0,
    collision: 'box',
    hulls: [boxSolid(bounds)],
    substance: 'wood',
    lights: [],
  };
};

/**
 * The solids of a map's props as brushes that nobody sees: what holds people back and what casts shadows. They are of no room, and
 * their ids are no brush's of the map; what rides on something moves with it.
 */
export function propBrushes({ entities }: Pick<MapDocument, 'entities'>, lookup: PropLookup): Brush[] {
  const out: Brush[] = [];
  const find = (id: string): Entity | undefined => entities.get(id);
  for (const thing of entities.values()) out.push(...ridden(thing, propBrushesOf(thing, lookup), find));
  return out;
}

/** Brushes that stand for a thing, on what moves them: what rides on a prop rides on what carries that. */
export function ridden(
  thing: Entity,
  brushes: readonly Brush[],
  find: (id: string) => Entity | undefined,
): readonly Brush[] {
  const on = thing.carrier && movingCarrier(thing, find);
  return !on || on.id === thing.carrier!.id ? brushes : brushes.map((b) => ({ ...b, owner: on }));
}

/** The thing of a brush that {@link propBrushes} made; null for a brush of the map. */
export const propOfBrush = ({ id }: Pick<Brush, 'id'>): string | null =>
  id.startsWith(PROP_BRUSH) ? id.slice(PROP_BRUSH.length).split(' ')[0]! : null;

/** How ids of brushes begin that are made of props: no id of a map holds a space. */
export const PROP_BRUSH = 'prop ';

const made = new WeakMap<Entity, { readonly facts: PropFacts | undefined; readonly brushes: readonly Brush[] }>();

/** {@link propBrushes} of one thing; the same brushes for the same thing. */
export function propBrushesOf(thing: Entity, lookup: PropLookup): readonly Brush[] {
  const model = modelOf(thing);
  return model ? propBrushesAs(thing, factsOfProp(model, lookup)) : [];
}

/**
 * {@link propBrushesOf} a thing as drawings show it and as it is pointed at: what holds nobody back stands as its box, or as what
 * stands for it.
 */
export function shownPropBrushes(thing: Entity, lookup: PropLookup): readonly Brush[] {
  const model = modelOf(thing);
  if (!model) return [];
  const facts = factsOfProp(model, lookup);
  return propBrushesAs(
    thing,
    facts?.collision === 'none' ? { ...facts, collision: model.own ? 'hulls' : 'box' } : facts,
  );
}

/** {@link propBrushesOf} a thing as if it were of some facts; undefined where nobody knows it. */
function propBrushesAs(thing: Entity, facts: PropFacts | undefined): readonly Brush[] {
  const model = modelOf(thing);
  if (!model) return [];
  const known = made.get(thing);
  if (known && known.facts === facts) return known.brushes;
  const brushes = makeBrushes(thing, model, facts);
  made.set(thing, { facts, brushes });
  return brushes;
}

function makeBrushes(thing: Entity, model: Model, known: PropFacts | undefined): Brush[] {
  const facts = known ?? standIn(thing);
  const pose = propPose(model, thing.at, thing.turn);
  const stops = model.collision ?? facts.collision;
  // What it collides as does not change how its light falls.
  const shades = model.shades && known ? shadedAs(facts.collision) : 'none';
  const owner = thing.carrier ? { owner: thing.carrier } : {};
  const brush = ({ vertices, loops }: Solid, k: number, more: Partial<Brush>): Brush => ({
    id: `${PROP_BRUSH}${thing.id} ${k}`,
    role: 'detail',
    vertices: vertices.map((v) => applyAffine(pose, v)),
    faces: loops.map((loop, i) => ({ id: i + 1, loop, material: 'unseen', frame: NO_PICTURE, show: 'unseen' })),
    ...owner,
    ...more,
  });
  const held = HELD[model.stops];
  const colliding = propSolids(facts, stops).map((s, k) =>
    brush(s, k, {
      ...(shades === stops ? {} : { shadow: false }),
      ...(model.stops === 'all' && shades === stops ? {} : { stops: shades === stops ? [...held, 'sight'] : held }),
    }),
  );
  if (shades === stops) return colliding;
  return [
    ...colliding,
    ...propSolids(facts, shades).map((s, k) => brush(s, colliding.length + k, { stops: ['sight'] })),
  ];
}

/** Its shadow is that of what is seen, whatever was drawn to hold people back. */
const shadedAs = (collision: PropCollision): PropCollision => (collision === 'drawn' ? 'hulls' : collision);

/** Whom brushes of props hold back. */
const HELD: Readonly<Record<PropStops, readonly Stoppable[]>> = {
  all: ['players', 'opponents', 'shots', 'loose'],
  people: ['players', 'opponents'],
  shots: ['shots', 'loose'],
};

/** Nobody sees these faces: how a picture would lie on them is all one. */
const NO_PICTURE = naturalFrame({ normal: [0, 0, 1], distance: 0 });
