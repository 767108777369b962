import { LAMP_KIND, modelOf, PROP_KIND, propPose, propTurn, type Entity } from '../entity/index.ts';
import { applyAffine, boxCorners, addScaled, dot, type Box, type Vec3 } from '../math/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import type { PropFacts, PropLookup } from '../prop/index.ts';
import { changeEntity, checkPlace, placeEntity } from './entities.ts';
import { EditError } from './errors.ts';
import { groupPicked } from './groups.ts';

/** A prop to be placed. */
export interface PropWish {
  readonly model: string;
  readonly at: Vec3;
  /** Degrees about its upright. */
  readonly turn?: number;
  /** Where its upright points. Absent: up. */
  readonly up?: Vec3;
  readonly scale?: number;
}

const UP: Vec3 = [0, 0, 1];

/** What is known of a prop. Throws {@link EditError} for one that nobody has. */
export const knownProp = (name: string, lookup: PropLookup): PropFacts => {
  const facts = lookup(name);
  if (!facts) throw new EditError('prop.unknown', `There is no prop called ${name}. Choose one in Stock, Props.`);
  return facts;
};

const sizeOf = ({ bounds }: PropFacts): number[] => [...bounds.min, ...bounds.max];

/** Puts props in a map; one that shines comes with its lamps, in a group with it. */
export function placeProps(
  doc: MapDocument,
  wishes: readonly PropWish[],
  lookup: PropLookup,
): { doc: MapDocument; made: { entities: string[] } } {
  // Each by itself, and all put in at once: a map of thousands is not copied for each.
  const alone = { ...doc, entities: new Map() };
  const things = new Map(doc.entities);
  const placed: string[] = [];
  const lit: Set<string>[] = [];
  const alike = new Map<string, Entity>();
  const put = (thing: Entity): string => {
    things.set(thing.id, thing);
    placed.push(thing.id);
    return thing.id;
  };
  const make = (kind: string, at: Vec3, turn: number, change: Parameters<typeof changeEntity>[2]): Entity => {
    const id = newId();
    return changeEntity(placeEntity(alone, kind, at, turn, id), id, change).entities.get(id)!;
  };
  for (const { model, at, turn = 0, up = UP, scale = 1 } of wishes) {
    const facts = knownProp(model, lookup);
    const size = sizeOf(facts);
    // What shines would stand in its own light: its lamp lies within it, or on it.
    const shades = facts.lights.length === 0;
    checkPlace(at);
    // Thousands are strewn of a few that are alike: what holds of one holds of all of them.
    const key = `${model} ${scale} ${up.join(' ')}`;
    const like = alike.get(key);
    const prop = like
      ? { ...like, id: newId(), at, turn }
      : make(PROP_KIND, at, turn, { name: facts.label, params: { model, scale, up, size, shades } });
    alike.set(key, prop);
    const group = [put(prop)];
    for (const { at: lamp, candela, kelvin } of facts.lights) {
      const pose = propPose(modelOf(prop)!, at, turn);
      const place = applyAffine(pose, lamp).map(tidy) as unknown as Vec3;
      group.push(put(make(LAMP_KIND, place, 0, { params: { candela, kelvin } })));
    }
    if (group.length > 1) lit.push(new Set(group));
  }
  const out = lit.reduce<MapDocument>((d, entities) => groupPicked(d, { entities }), { ...doc, entities: things });
  return { doc: out, made: { entities: placed } };
}

const tidy = (x: number): number => Math.round(x * 1e6) / 1e6 + 0;

/** Lets props be others where they stand. What is no prop stays. */
export function replaceProps(
  doc: MapDocument,
  things: readonly string[],
  model: string,
  lookup: PropLookup,
): MapDocument {
  const facts = knownProp(model, lookup);
  return things.reduce((d, id) => {
    const thing = d.entities.get(id);
    const old = thing && modelOf(thing);
    if (!old || old.own) return d;
    // A name that somebody gave stays.
    const named = thing.name === lookup(old.name)?.label ? { name: facts.label } : {};
    return changeEntity(d, id, { ...named, params: { model, size: sizeOf(facts) } });
  }, doc);
}

/** Where a prop stands that is put on a surface: its box clear of that, standing, or leaning so that it stands on a slope. */
export function propOnSurface(
  bounds: Box,
  on: Vec3,
  normal: Vec3,
  {
    turn = 0,
    scale = 1,
    aligned = false,
  }: { readonly turn?: number; readonly scale?: number; readonly aligned?: boolean },
): { readonly at: Vec3; readonly up: Vec3 } {
  const up = aligned ? normal : UP;
  const m = propTurn(up, turn, scale);
  const least = Math.min(...boxCorners(bounds).map((corner) => dot(normal, applyAffine(m, corner))));
  return { at: addScaled(on, normal, -least).map(tidy) as unknown as Vec3, up };
}
