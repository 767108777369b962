import { DECAL_KIND, decalOf, modelOf, rounded, turnedBox, type Entity, type SpannedBox } from '../entity/index.ts';
import {
  crossesItself,
  outlineArea,
  add,
  applyAffine,
  cross,
  dot,
  length,
  normalize,
  rotationAbout,
  scale,
  arcTangent2,
  wrapDegrees,
  type Point2,
  type Vec3,
} from '../math/index.ts';
import type { DecalInk } from '../decal/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import { faceFrame, wholePicture, type MaterialFacts, type MaterialLookup } from '../surface/index.ts';
import type { Picked } from './brushes.ts';
import { duplicatePicked } from './copies.ts';
import { changeEntity, placeEntity } from './entities.ts';
import { EditError } from './errors.ts';

/** A decal to be placed on a surface. */
export interface DecalWish {
  readonly material: string;
  /** A region of its picture. Absent: all of it. */
  readonly region?: string;
  /** A point of the surface, and which way that looks. */
  readonly at: Vec3;
  readonly normal: Vec3;
  /** Degrees by which it is turned on the surface, counter-clockwise seen from before it. */
  readonly turn?: number;
  /** So many times its natural size. */
  readonly scale?: number;
  /** Size in cm. Absent: its natural one. */
  readonly width?: number;
  readonly height?: number;
  /** How deep its box is at least. Absent: a little before the surface and behind. */
  readonly depth?: number;
}

/** How far a new decal reaches through the surface it is put on, cm. */
export const DECAL_DEPTH = 32;

/** A way that a surface looks, one long. */
export const facingOf = (v: Vec3): Vec3 => {
  if (!(length(v) > 1e-9))
    throw new EditError('decal.normal', 'A surface looks somewhere: give a normal that is not 0 0 0.');
  return normalize(v);
};

/** The size of a decal's picture in cm at its natural density. */
export function naturalDecal(facts: MaterialFacts, name = ''): { width: number; height: number } {
  const region = name === '' ? wholePicture(facts) : facts.regions?.find((r) => r.name === name);
  if (!region)
    throw new EditError(
      'decal.region',
      `${facts.name} has no region called ${name}. Choose one of its regions, or none.`,
    );
  return { width: region.width / facts.texelsPerCm, height: region.height / facts.texelsPerCm };
}

/** Puts decals on surfaces: upright on walls, their tops to the north on floors. */
export function placeDecals(
  doc: MapDocument,
  wishes: readonly DecalWish[],
  lookup: MaterialLookup,
): { doc: MapDocument; made: { entities: string[] } } {
  let out = doc;
  const placed: string[] = [];
  for (const { material, region = '', at, normal, turn = 0, scale: times = 1, ...size } of wishes) {
    const facts = lookup(material);
    if (!facts)
      throw new EditError(
        'decal.material',
        `There is no material called ${material}. Choose a decal in Stock, Decals.`,
      );
    const natural = naturalDecal(facts, region);
    const n = facingOf(normal);
    const { u, v } = faceFrame({ normal: n, distance: 0 }, 1);
    const m = rotationAbout(n, turn, [0, 0, 0]);
    const way = (r: typeof u, long: number): Vec3 => rounded(applyAffine(m, scale([r[0], r[1], r[2]], long)));
    const across = way(u, (size.width ?? natural.width) * times);
    const upward = way(v, -(size.height ?? natural.height) * times);
    if (length(across) < 0.1 || length(upward) < 0.1)
      throw new EditError('decal.size', 'A decal is at least 1 mm wide and high. Type larger numbers.');
    const id = newId();
    out = changeEntity(placeEntity(out, DECAL_KIND, rounded(at), 0, id), id, {
      name: pictureLabel(facts, region),
      params: { material, region, across, upward, through: rounded(scale(n, Math.max(DECAL_DEPTH, size.depth ?? 0))) },
    });
    placed.push(id);
  }
  return { doc: out, made: { entities: placed } };
}

/** What a thing is called that shows a picture. */
export const pictureLabel = (facts: MaterialFacts, region: string): string => {
  const words = region || facts.name.replaceAll('-', ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
};

/** A thing whose box lies on another surface: rolled the shortest way from how it lay. */
function laid(thing: Entity, at: Vec3, normal: Vec3, depth: number): Entity {
  const { across, upward, through } = decalOf(thing)!;
  const [from, to] = [normalize(through), facingOf(normal)];
  const axis = cross(from, to);
  const sine = length(axis);
  // Turned right over it goes about its upright.
  const about = sine > 1e-9 ? axis : normalize(upward);
  const degrees = (arcTangent2(sine, dot(from, to)) * 180) / Math.PI;
  const m = rotationAbout(normalize(about), degrees, [0, 0, 0]);
  const turned = (way: Vec3) => rounded(applyAffine(m, way));
  return {
    ...thing,
    at: rounded(at),
    params: {
      ...thing.params,
      across: turned(across),
      upward: turned(upward),
      through: rounded(scale(to, Math.max(depth, length(through)))),
    },
  };
}

/** Lays decals on a surface: the first at a point of it, the others as they lay to that one. `depth`: how deep their boxes are at least. */
export function layDecals(
  doc: MapDocument,
  ids: readonly string[],
  { at, normal, depth = 0 }: { readonly at: Vec3; readonly normal: Vec3; readonly depth?: number },
): MapDocument {
  const lead = doc.entities.get(ids[0] ?? '');
  if (!lead || !decalOf(lead)) throw new EditError('decal.unknown', 'Select a decal first.');
  const entities = new Map(doc.entities);
  const moved = (from: Vec3): Vec3 => add(at, [from[0] - lead.at[0], from[1] - lead.at[1], from[2] - lead.at[2]]);
  for (const id of ids) {
    const thing = doc.entities.get(id);
    if (thing && decalOf(thing)) entities.set(id, laid(thing, moved(thing.at), normal, depth));
  }
  return { ...doc, entities };
}

/** Lays copies of decals, those stay: {@link layDecals}. What is no decal is not copied. */
export function layCopies(
  doc: MapDocument,
  ids: readonly string[],
  on: Parameters<typeof layDecals>[2],
): { doc: MapDocument; made: { entities: string[] } } {
  const own = ids.filter((id) => {
    const thing = doc.entities.get(id);
    return thing && decalOf(thing);
  });
  const copied = duplicatePicked(doc, { entities: new Set(own) }, [0, 0, 0]);
  const entities = [...(copied.picked.entities ?? [])];
  return { doc: layDecals(copied.doc, entities, on), made: { entities } };
}

/** How far a decal is turned from how a new one would lie, counter-clockwise seen from before it, in degrees. */
export function decalTurn({ across, through }: SpannedBox): number {
  const { u, v } = faceFrame({ normal: normalize(through), distance: 0 }, 1);
  const along = (r: typeof u): number => dot(normalize(across), [r[0], r[1], r[2]]);
  const degrees = (arcTangent2(-along(v), along(u)) * 180) / Math.PI;
  return wrapDegrees(Math.round(degrees * 100) / 100);
}

/** What is changed of a decal's box: sizes in cm, its turn in degrees from how a new one would lie. */
export interface DecalBox {
  readonly width?: number;
  readonly height?: number;
  readonly depth?: number;
  readonly turn?: number;
  /** Shows its picture from the other side. */
  readonly flip?: boolean;
  /** As large as its picture is at its own density, before all else. */
  readonly natural?: boolean;
}

/** Sizes and turns decals where they lie. What is no decal stays. */
export function boxDecals(
  doc: MapDocument,
  ids: readonly string[],
  { width, height, depth, turn, flip = false, natural = false }: DecalBox,
  lookup: MaterialLookup,
): MapDocument {
  for (const long of [width, height, depth])
    if (long !== undefined && !(long >= LEAST_SIDE))
      throw new EditError('decal.size', 'A decal is at least 1 mm wide, high and deep. Type a larger number.');
  return ids.reduce((d, id) => {
    const thing = d.entities.get(id);
    const decal = thing && decalOf(thing);
    if (!decal) return d;
    const facts = natural ? lookup(decal.material) : undefined;
    const own = facts ? naturalDecal(facts, decal.region) : undefined;
    const sized = (way: Vec3, long: number | undefined): Vec3 =>
      long === undefined ? way : rounded(scale(normalize(way), long));
    let box: SpannedBox = {
      across: sized(decal.across, width ?? own?.width),
      upward: sized(decal.upward, height ?? own?.height),
      through: sized(decal.through, depth),
    };
    if (turn !== undefined) box = turnedBox(box, turn - decalTurn(box));
    if (flip) box = { ...box, across: rounded(scale(box.across, -1)) };
    return changeEntity(d, id, { params: { ...box } });
  }, doc);
}

/** No side of a decal is shorter, cm. */
const LEAST_SIDE = 0.1;

const NONE: ReadonlySet<string> = new Set();

/** Lets the decals among what is picked fall on the rest of it, and on nothing else. */
export function aimDecals(doc: MapDocument, picked: Picked): MapDocument {
  const { brushes: loose = NONE, entities = NONE, rooms = NONE } = picked;
  const known = [...entities].flatMap((id) => doc.entities.get(id) ?? []);
  const decals = known.filter((e) => decalOf(e)).map((e) => e.id);
  const things = known.filter((e) => modelOf(e)).map((e) => e.id);
  const brushes = [...doc.brushes.values()]
    .filter((b) => loose.has(b.id) || (b.room && rooms.has(b.room.id)) || (b.owner && entities.has(b.owner.id)))
    .map((b) => b.id);
  if (decals.length === 0 || brushes.length + things.length === 0)
    throw new EditError('decal.targets', 'Select a decal and, with Shift, the brushes or props that it is to fall on.');
  return decals.reduce((d, id) => changeEntity(d, id, { params: { targets: 'chosen', brushes, things } }), doc);
}

/** The least part of its picture that is left of a decal. */
const LEAST_PART = 1e-4;

/**
 * Cuts a part of their picture out of decals: a polygon in parts of the picture from its lower left corner, with a tint for each of its
 * corners. Without an outline all of it is there; inks are then those of the picture's corners. What is no decal stays.
 */
export function cutDecals(
  doc: MapDocument,
  ids: readonly string[],
  outline: readonly Point2[] | undefined,
  inks: readonly DecalInk[] | undefined,
): MapDocument {
  if (outline) {
    if (outline.some((p) => p.some((c) => !(c >= 0 && c <= 1))))
      throw new EditError('decal.outline', 'An outline lies within the picture. Keep its corners from 0 to 1.');
    if (crossesItself(outline))
      throw new EditError('decal.outline', 'The outline runs across itself. Move its corners apart.');
    if (Math.abs(outlineArea(outline)) < LEAST_PART)
      throw new EditError('decal.outline', 'Nothing of the picture would be left. Draw a larger outline.');
  }
  const corners = outline?.length ?? 4;
  if (inks && inks.length > corners)
    throw new EditError(
      'decal.inks',
      `There are ${inks.length} tints for ${corners} corners. Give one to each at most.`,
    );
  const params = { outline: outline?.flat() ?? [], inks: inks?.map((ink) => ({ ...ink })) ?? [] };
  return ids.reduce((d, id) => {
    const thing = d.entities.get(id);
    return thing && decalOf(thing) ? changeEntity(d, id, { params }) : d;
  }, doc);
}
