/** A named rectangle of a material's picture, in texels from its upper left corner. */
export interface Region {
  readonly name: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** What a material is made of: decides footsteps, hits and how it breaks. */
export const SUBSTANCES = [
  'stone',
  'brick',
  'plaster',
  'wood',
  'metal',
  'tile',
  'earth',
  'sand',
  'water',
  'cloth',
  'plant',
  'rope',
  'glass',
  'ice',
  'none',
] as const;
export type Substance = (typeof SUBSTANCES)[number];

/** `cutOut`: texels are there or not. `seeThrough`: what lies behind shows through. */
export type Solidity = 'solid' | 'cutOut' | 'seeThrough';

/** What laying, checking and building need to know of a material; its pictures lie elsewhere. */
export interface MaterialFacts {
  readonly name: string;
  /** Size of the picture, texels. */
  readonly width: number;
  readonly height: number;
  /** Texels a cm at natural size. */
  readonly texelsPerCm: number;
  readonly solidity: Solidity;
  readonly regions?: readonly Region[];
  /** Mean colour of what is there, in sRGB, `#rrggbb`: what light that bounces off it is tinted by. */
  readonly average?: string;
  /** Of what is not solid how much of the picture hides what is behind it: {@link maskOf}. */
  readonly mask?: string;
  /** Mean roughness, 0 (mirror) to 1 (chalk). Absent: not known. */
  readonly roughness?: number;
  /** Light given off, nits. Absent: none. */
  readonly glow?: number;
  /**
   * Of the tool materials: `placeholder` stands for a decision not yet taken; painting with `sky` or `unseen` changes how a
   * face is shown and leaves its material.
   */
  readonly tool?: 'placeholder' | 'sky' | 'unseen';
}

/** Looks a material up by name; undefined when nobody knows it. */
export type MaterialLookup = (name: string) => MaterialFacts | undefined;

/** The whole picture as a region. */
export const wholePicture = (m: Pick<MaterialFacts, 'width' | 'height'>): Region => ({
  name: '',
  x: 0,
  y: 0,
  width: m.width,
  height: m.height,
});

export interface RegionChoice {
  readonly region: Region;
  /** The region fits better lying on its side. */
  readonly turned: boolean;
  /** How much it would be stretched one way against the other: 1 is not at all. */
  readonly stretch: number;
}

/** As smooth as this a material shows what is before it. */
const SHINY = 0.35;

/** Whether a material reflects what is before it, as far as is known. */
export const isShiny = (facts: MaterialFacts | undefined): boolean => (facts?.roughness ?? 1) <= SHINY;

/** A region is laid on its side only where it is stretched that much less so: a door stays upright on a leaf a little too wide. */
const TURN_MARGIN = 1.25;

const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter(Boolean);

/**
 * Regions in the order in which they suit a face of a size (cm): those that are called like what the face is used for
 * (`use`: a brush named door leaf takes a door), then the least stretched first; each upright or on its side.
 */
export function rankRegions(regions: readonly Region[], width: number, height: number, use = ''): RegionChoice[] {
  const ratio = (a: number, b: number) => Math.max(a / b, b / a);
  const used = new Set(wordsOf(use));
  return regions
    .map((region) => {
      const upright = ratio(region.width / region.height, width / height);
      const lying = ratio(region.height / region.width, width / height) * TURN_MARGIN;
      const turned = lying < upright - 1e-9;
      const named = wordsOf(region.name).some((w) => used.has(w));
      return { region, turned, named, stretch: Math.min(upright, lying) };
    })
    .sort((a, b) => Number(b.named) - Number(a.named) || a.stretch - b.stretch)
    .map(({ region, turned, stretch }) => ({ region, turned, stretch }));
}
