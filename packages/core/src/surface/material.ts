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
  'stone', 'brick', 'plaster', 'wood', 'metal', 'tile', 'earth', 'sand', 'water', 'cloth', 'plant', 'rope', 'glass', 'ice', 'none',
] as const; // prettier-ignore
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

/** Regions in the order in which they suit a face of a size (cm), the least stretched first; each upright or on its side. */
export function rankRegions(regions: readonly Region[], width: number, height: number): RegionChoice[] {
  const ratio = (a: number, b: number) => Math.max(a / b, b / a);
  return regions
    .map((region) => {
      const upright = ratio(region.width / region.height, width / height);
      const lying = ratio(region.height / region.width, width / height);
      return { region, turned: lying < upright - 1e-9, stretch: Math.min(upright, lying) };
    })
    .sort((a, b) => a.stretch - b.stretch);
}
