import {
  normalize,
  boxOf,
  boxSize,
  convexHulls,
  isClosed,
  meshVolume,
  solidVolume,
  toSrgb,
  type PropCollision,
  type PropFacts,
  type Substance,
  type Vec3,
  type Winding,
} from '@yesca/core';
import sharp from 'sharp';
import { flattenModel, type ModelPart } from './flatten.ts';
import { MODEL_LIMITS, ModelRefusal } from './refusal.ts';
import { openModel, type ModelFiles } from './source.ts';
import { upright } from './spaces.ts';
import { thumbOf, type PlainPart } from './thumb.ts';
import { writeModel } from './tidy.ts';

/** How a model is to become a prop. */
export interface ModelWishes {
  /** So many m is one of its units. Absent: guessed by how large it would be. */
  readonly scale?: number;
}

/** A model that can become a prop. */
export interface ReadModel {
  readonly facts: PropFacts;
  /** As it is kept: glTF 2.0, binary. */
  readonly glb: Uint8Array;
  /** A small picture of it, WebP. */
  readonly thumb: Uint8Array;
  /** What was changed or left out, a sentence each. */
  readonly notes: readonly string[];
  readonly scale: number;
  /** By what part of the model's own volume its convex parts hold more than it; null where it has no inside. */
  readonly excess: number | null;
}

/** Larger than this (m) no prop is meant to be: its units are cm, or mm. */
const LARGEST = 50;
/** Convex parts that fill so much of their box are a box. */
const BOXY = 0.92;

const WORDS: readonly (readonly [Substance, RegExp])[] = [
  ['wood', /wood|oak|pine|plank|timber|bark|crate|barrel/i],
  ['metal', /metal|iron|steel|brass|copper|tin|gold/i],
  ['stone', /stone|rock|granite|marble|concrete|cement/i],
  ['brick', /brick/i],
  ['glass', /glass|bottle|pane/i],
  ['cloth', /cloth|fabric|canvas|linen|wool|sack|leather/i],
  ['plant', /leaf|leaves|plant|grass|reed|bush|tree/i],
  ['rope', /rope|net/i],
  ['tile', /tile|ceramic|clay|pot/i],
  ['plaster', /plaster|chalk|lime/i],
];

/** More sockets than this of a model are left out. */
const MOST_SOCKETS = 64;

/** Reads a model and makes of it what a prop is. Throws {@link ModelRefusal}; then nothing of it is taken. */
export async function readModel(files: ModelFiles, wishes: ModelWishes = {}): Promise<ReadModel> {
  const doc = await openModel(files);
  const flat = flattenModel(doc);
  const notes = [...flat.notes];
  const scale = scaleOf(flat.parts, wishes, notes);
  const shift = pivotOf(flat.parts, scale, notes);
  const inMetres = (x: number, y: number, z: number): Vec3 => [
    x * scale - shift[0],
    y * scale - shift[1],
    z * scale - shift[2],
  ];
  const parts = flat.parts.map((part): ModelPart => ({
    ...part,
    position: part.position.flatMap((_, k, all) => (k % 3 === 0 ? inMetres(all[k]!, all[k + 1]!, all[k + 2]!) : [])),
  }));
  const triangles = parts.flatMap(trianglesOf);
  const label = labelOf(files.name);
  const facts: PropFacts = {
    name:
      label
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^-|-$/g, '') || 'prop',
    label,
    bounds: boxOf(triangles.flat()),
    triangles: triangles.length,
    ...collisionOf(triangles, notes),
    substance: substanceOf([label, ...parts.map((p) => p.material?.getName() ?? '')]),
    lights: flat.lights.map(({ at, ...light }) => ({ ...light, at: upright(inMetres(...at)) })),
    ...(flat.sockets.length
      ? {
          sockets: flat.sockets.slice(0, MOST_SOCKETS).map(({ name, at, way }) => ({
            name,
            at: upright(inMetres(...at)),
            way: normalize(upright(way)),
          })),
        }
      : {}),
  };
  const volume = isClosed(triangles) ? meshVolume(triangles) : 0;
  if (volume < 0) notes.push('The mesh is inside out: it is seen from within. Turn its normals and export it anew.');
  const held = facts.hulls.reduce((sum, h) => sum + solidVolume(h), 0);
  return {
    facts,
    glb: await writeModel(label, parts, facts),
    thumb: await thumbOf(await Promise.all(parts.map(plainPart))),
    notes,
    scale,
    excess: volume > 1 ? Math.max(0, held / volume - 1) : null,
  };
}

/** A part in the colour that its picture has on the whole. */
async function plainPart(part: ModelPart): Promise<PlainPart> {
  const position = trianglesOf(part).flat(2);
  const image = part.material?.getBaseColorTexture()?.getImage();
  const factor = part.material?.getBaseColorFactor() ?? [0.6, 0.55, 0.48];
  const mean = image ? (await sharp(image).stats()).channels.slice(0, 3).map((c) => c.mean) : [255, 255, 255];
  return { rgb: [0, 1, 2].map((k) => (mean[k] ?? mean[0]!) * toSrgb(factor[k]!)), position };
}

const trianglesOf = ({ position }: ModelPart): Winding[] =>
  Array.from({ length: position.length / 9 }, (_, t) =>
    [0, 1, 2].map((c) => {
      const k = t * 9 + c * 3;
      return upright([position[k]!, position[k + 1]!, position[k + 2]!]);
    }),
  );

function* placesOf(parts: readonly ModelPart[]): Generator<Vec3> {
  for (const { position } of parts)
    for (let k = 0; k < position.length; k += 3) yield [position[k]!, position[k + 1]!, position[k + 2]!];
}

function scaleOf(parts: readonly ModelPart[], { scale }: ModelWishes, notes: string[]): number {
  if (scale !== undefined) {
    if (!(scale > 0 && scale <= 1000))
      throw new ModelRefusal('model.scale', 'The scale must be above 0 and at most 1000. Give 0.01 for models in cm.');
    return scale;
  }
  const large = Math.max(...boxSize(boxOf(placesOf(parts))));
  if (!(large > 0)) return 1;
  const [guess, unit] = large > LARGEST * 100 ? [0.001, 'mm'] : large > LARGEST ? [0.01, 'cm'] : [1, 'm'];
  if (guess !== 1)
    notes.push(
      `It would be ${Math.round(large)} m large: its units are taken for ${unit}. Set the scale if they are others.`,
    );
  else if (large < 0.02)
    notes.push(`It is only ${(large * 100).toPrecision(2)} cm large. Set the scale if its units are no metres.`);
  return guess;
}

/** By how much (m) a model is moved so that it stands at its place: one that lies far off stands on the middle of its foot. */
function pivotOf(parts: readonly ModelPart[], scale: number, notes: string[]): Vec3 {
  const { min, max } = boxOf(placesOf(parts));
  const size = Math.max(...boxSize({ min, max }));
  const off = [0, 1, 2].some((k) => min[k]! > size || max[k]! < -size);
  if (!off) return [0, 0, 0];
  notes.push('It lies far from its own origin: it was moved to stand on the middle of its foot.');
  return [((min[0] + max[0]) / 2) * scale, min[1] * scale, ((min[2] + max[2]) / 2) * scale];
}

function collisionOf(
  triangles: readonly Winding[],
  notes: string[],
): { collision: PropCollision; hulls: PropFacts['hulls'] } {
  const fine = triangles.length > MODEL_LIMITS.cut;
  if (fine)
    notes.push(
      `It has more than ${MODEL_LIMITS.cut} triangles: one convex body holds all of it, and no parts were looked for.`,
    );
  const hulls = convexHulls(triangles, fine ? { most: 1 } : {});
  if (!isClosed(triangles))
    notes.push('The mesh is not closed, so nobody can tell its inside; what it collides as holds all of it.');
  if (hulls.length > 1) return { collision: 'hulls', hulls };
  const [x, y, z] = boxSize(boxOf(triangles.flat()));
  return { collision: solidVolume(hulls[0]!) > BOXY * x * y * z ? 'box' : 'hull', hulls };
}

const substanceOf = (names: readonly string[]): Substance =>
  WORDS.find(([, word]) => names.some((name) => word.test(name)))?.[0] ?? 'wood';

/** What a file calls a model: its own name without its end, as words. */
function labelOf(name: string): string {
  const words = name
    .split(/[/\\]/)
    .at(-1)!
    .replace(/\.[a-z0-9]+$/i, '')
    .replace(/[_-]+/g, ' ')
    .replace(/[^\p{L}\p{N} ]/gu, '')
    .trim()
    .slice(0, 60);
  return words ? words.charAt(0).toUpperCase() + words.slice(1) : 'Prop';
}
