import type { Brush } from '../../brush/index.ts';
import { lightOf, lightShape, strengthOfLight, type Entity } from '../../entity/index.ts';
import { lightTint } from '../../surface/index.ts';
import { aroundIn, litAtFirst, type MapDocument } from '../../map/index.ts';
import { contentHash, scale, type Vec3 } from '../../math/index.ts';
import type { MaterialLookup } from '../../surface/index.ts';
import {
  EVEN,
  glowing,
  materialOfGlow,
  OTHERS,
  SKY,
  skyGlow,
  type LightLayer,
  type Lighting,
} from '../lighting/index.ts';
import type { Structure } from '../structure/index.ts';
import { readContainer, writeContainer } from './container.ts';
import { joined, regionOf, withoutTexels } from './level.ts';
import { splitLayers } from './light-mix.ts';

/**
 * What each light of a map gives to a level's pages, so that any of them can be dimmed, coloured or put out without a build; and which
 * brush each of the level's surfaces is of. It lies beside the level: play needs only the lamps that it can switch.
 */
export interface Ledger {
  /** The pages are the sum of these, each times its colour now. */
  readonly layers: readonly LedgerLayer[];
  /** All brushes of the map, in id order. */
  readonly brushes: readonly Built[];
  /** Of each surface the places of its brushes in `brushes`: `surfaceBrush[surfaceBrushFirst[i] … surfaceBrushFirst[i + 1]]`. */
  readonly surfaceBrushFirst: Uint32Array;
  readonly surfaceBrush: Uint32Array;
}

export interface LedgerLayer extends LightLayer {
  /** Changes with all that its light depends on but strength and colour. */
  readonly mark: string;
  /** Its part of the work of finding all lights' direct light, 0 to 1. Absent of old builds. */
  readonly work?: number;
}

/** A brush as it was built: what it looked like is told by a mark. */
export interface Built {
  readonly id: string;
  readonly mark: string;
}

/** A mark that changes with what is seen of a brush. */
export const brushMark = ({ vertices, faces, role, stops, shadow }: Brush): string =>
  contentHash(JSON.stringify([vertices, faces, role, stops, shadow]));

/** A mark that changes with all of a thing's light but its colour and how strong it is, as long as it is any. */
export function lightMark(doc: MapDocument, thing: Entity): string {
  const light = lightOf(thing, aroundIn(doc));
  if (!light) return '';
  const shines = strengthOfLight(light).some((c) => c > 0);
  return contentHash(
    `${shines} ${lightShape(light)} ${light.type === 'even' ? JSON.stringify(regionOf(doc, thing.id)) : ''}`,
  );
}

export function packLedger(doc: MapDocument, structure: Structure, lighting: Lighting): Ledger {
  const ids = [...doc.brushes.keys()].sort();
  const place = new Map(ids.map((id, i) => [id, i]));
  return {
    layers: [...lighting.layers, ...lighting.ledger].map((layer) => {
      const thing = doc.entities.get(layer.thing);
      return { ...layer, mark: thing ? lightMark(doc, thing) : '', work: lighting.work.get(layer.thing) ?? 0 };
    }),
    brushes: ids.map((id) => ({ id, mark: brushMark(doc.brushes.get(id)!) })),
    surfaceBrushFirst: startsOf(structure.surfaces.map((s) => s.brushes.length)),
    surfaceBrush: Uint32Array.from(structure.surfaces.flatMap((s) => s.brushes.map((id) => place.get(id)!))),
  };
}

/** Where each of some runs of so many begins, and the last one ends. */
function startsOf(counts: readonly number[]): Uint32Array {
  const starts = new Uint32Array(counts.length + 1);
  counts.forEach((n, i) => (starts[i + 1] = starts[i]! + n));
  return starts;
}

/** The brushes of a surface, by their places in the ledger's list. */
export const surfaceBrushes = ({ surfaceBrushFirst: first, surfaceBrush }: Ledger, surface: number): Uint32Array =>
  surfaceBrush.subarray(first[surface], first[surface + 1]);

export const writeLedger = ({ layers, brushes, surfaceBrushFirst, surfaceBrush }: Ledger): Uint8Array =>
  writeContainer(
    { layers: layers.map(withoutTexels), brushes },
    { surfaceBrushFirst, surfaceBrush, layerTexels: joined(layers.map((l) => l.texels)) },
  );

/** Throws {@link LevelFileError} for bytes that are none. */
export function readLedger(bytes: Uint8Array): Ledger {
  const { meta, arrays } = readContainer(bytes);
  const { layers, brushes } = meta as { layers: Omit<LedgerLayer, 'texels'>[]; brushes: Built[] };
  return {
    layers: splitLayers(layers, arrays.layerTexels as Uint32Array),
    brushes,
    surfaceBrushFirst: arrays.surfaceBrushFirst as Uint32Array,
    surfaceBrush: arrays.surfaceBrush as Uint32Array,
  };
}

/**
 * With what colour each layer shines as the map is now: factors of its texels. Lamps that are gone shine no more; those that are dark
 * when play begins are dark, unless `lit` says with what share of its strength a lamp shines.
 */
export function layerColors(
  layers: readonly Pick<LightLayer, 'thing' | 'strength'>[],
  doc: Pick<MapDocument, 'entities' | 'brushes' | 'settings'>,
  materials: MaterialLookup,
  lit: (thing: Entity) => number = litAtFirst,
): Map<string, Vec3> {
  const around = aroundIn(doc);
  const now = (name: string): Vec3 => {
    if (name === OTHERS) return [1, 1, 1];
    if (name === EVEN) return scale(lightTint(doc.settings.ambientColor), doc.settings.ambientLux);
    if (name === SKY) return skyGlow(doc.settings);
    const material = materialOfGlow(name);
    if (material !== null) return glowing(materials(material));
    const thing = doc.entities.get(name);
    const light = thing && lightOf(thing, around);
    return light ? scale(strengthOfLight(light), lit(thing)) : [0, 0, 0];
  };
  return new Map(
    layers.map(({ thing, strength }) => [thing, strength > 0 ? scale(now(thing), 1 / strength) : ([0, 0, 0] as Vec3)]),
  );
}
