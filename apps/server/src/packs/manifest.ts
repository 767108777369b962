import {
  BrushError,
  DRAWN_LIMITS,
  drawnSolids,
  PROP_COLLISIONS,
  SUBSTANCES,
  type PropCollision,
  type Region,
  type Solidity,
  type Substance,
  type Vec3,
} from '@yesca/core';

export const PACK_FORMAT = 'yesca-pack';
export const PACK_VERSION = 1;

/** One material of a pack's list (docs/formats/pack.md). Pictures are names in the archive. */
export interface MaterialManifest {
  readonly name: string;
  readonly label: string;
  readonly tags: readonly string[];
  readonly substance: Substance;
  readonly solidity: Solidity;
  readonly texelsPerCm: number;
  readonly regions: readonly Region[];
  readonly albedo: string;
  readonly normal?: string;
  readonly roughness?: string;
}

/** One prop of a pack's list. Its model is a name in the archive, and in metres. */
export interface PropManifest {
  readonly name: string;
  readonly label: string;
  readonly tags: readonly string[];
  readonly substance: Substance;
  /** As which of its shapes it collides; absent: as is found to suit it. */
  readonly collision?: PropCollision;
  /** Solids that were drawn for it: their corners, in cm from its pivot, z up. Absent: none. */
  readonly drawn?: readonly (readonly Vec3[])[];
  readonly model: string;
}

export interface PackManifest {
  readonly format: typeof PACK_FORMAT;
  readonly version: typeof PACK_VERSION;
  readonly name: string;
  readonly materials: readonly MaterialManifest[];
  readonly props: readonly PropManifest[];
}

const isText = (x: unknown, most: number): x is string => typeof x === 'string' && x.length > 0 && x.length <= most;
const isWhole = (x: unknown, least: number): x is number => Number.isInteger(x) && (x as number) >= least;

/** The regions that make sense of what a list or an upload says. */
export const cleanRegions = (regions: unknown): Region[] =>
  (Array.isArray(regions) ? regions : [])
    .slice(0, 256)
    .flatMap((r: Partial<Region> | null) =>
      r && isText(r.name, 60) && isWhole(r.x, 0) && isWhole(r.y, 0) && isWhole(r.width, 1) && isWhole(r.height, 1)
        ? [{ name: r.name, x: r.x, y: r.y, width: r.width, height: r.height }]
        : [],
    );

/** What of a list's entry is known of whatever it is. */
const called = (m: Partial<Pick<MaterialManifest, 'name' | 'label' | 'tags'>>) => ({
  name: isText(m.name, 128) ? m.name : '',
  label: isText(m.label, 200) ? m.label : '',
  tags: (Array.isArray(m.tags) ? m.tags : []).filter((t): t is string => isText(t, 40)).slice(0, 40),
});
const madeOf = (substance: unknown): Substance | undefined => SUBSTANCES.find((s) => s === substance);

function readMaterial(m: Partial<MaterialManifest> | null): MaterialManifest[] {
  if (!m || !isText(m.albedo, 300)) return [];
  const { texelsPerCm: density } = m;
  return [
    {
      ...called(m),
      substance: madeOf(m.substance) ?? 'none',
      solidity: (['solid', 'cutOut', 'seeThrough'] as const).find((s) => s === m.solidity) ?? 'solid',
      texelsPerCm: typeof density === 'number' && density >= 0.01 && density <= 64 ? density : 2,
      regions: cleanRegions(m.regions),
      albedo: m.albedo,
      ...(isText(m.normal, 300) ? { normal: m.normal } : {}),
      ...(isText(m.roughness, 300) ? { roughness: m.roughness } : {}),
    },
  ];
}

const isCorner = (p: unknown): p is Vec3 =>
  Array.isArray(p) && p.length === 3 && p.every((c) => typeof c === 'number' && Math.abs(c) <= 100_000);

/** Of what a list says of solids those that are some, by their corners. */
function cleanSolids(solids: unknown): Vec3[][] {
  return (Array.isArray(solids) ? solids : []).slice(0, DRAWN_LIMITS.solids).flatMap((corners: unknown) => {
    if (!Array.isArray(corners) || corners.length > DRAWN_LIMITS.corners || !corners.every(isCorner)) return [];
    try {
      drawnSolids([corners]);
      return [corners];
    } catch (error) {
      if (error instanceof BrushError) return [];
      throw error;
    }
  });
}

function readProp(p: Partial<PropManifest> | null): PropManifest[] {
  if (!p || !isText(p.model, 300)) return [];
  const collision = PROP_COLLISIONS.find((c) => c === p.collision);
  const drawn = cleanSolids(p.drawn);
  return [
    {
      ...called(p),
      substance: madeOf(p.substance) ?? 'wood',
      model: p.model,
      ...(collision ? { collision } : {}),
      ...(drawn.length > 0 ? { drawn } : {}),
    },
  ];
}

/** Reads a pack's list; what is wrong with single fields is put right, what is no list is refused. */
export function readManifest(text: string): PackManifest | { code: string; message: string } {
  const refuse = (message: string) => ({ code: 'pack.manifest', message });
  let data: Partial<PackManifest>;
  try {
    data = JSON.parse(text) as Partial<PackManifest>;
  } catch {
    return refuse('The pack’s list is not complete JSON; its files were taken by their names.');
  }
  const { materials, props } = data ?? {};
  if (data?.format !== PACK_FORMAT || !(Array.isArray(materials) || Array.isArray(props)))
    return refuse(`The pack’s list does not say "format": "${PACK_FORMAT}"; its files were taken by their names.`);
  if (typeof data.version === 'number' && data.version > PACK_VERSION)
    return refuse('The pack was written by a newer Yesca; its files were taken by their names.');
  return {
    format: PACK_FORMAT,
    version: PACK_VERSION,
    name: isText(data.name, 200) ? data.name : 'Pack',
    materials: Array.isArray(materials) ? materials.flatMap(readMaterial) : [],
    props: Array.isArray(props) ? props.flatMap(readProp) : [],
  };
}
