/** A picture's width and height, in texels. */
export type PictureSize = readonly [number, number];

/** Where a material's picture lies: which array of pictures, and which layer of it. */
export interface PicturePlace {
  readonly page: number;
  readonly layer: number;
}

/** Sixteen pictures of 512 × 512 a page: 22 MB with their mipmaps. Larger pictures have fewer beside them. */
const PAGE_TEXELS = 16 * 512 * 512;
const MOST_LAYERS = 16;

/** How many pictures of a size share a page. */
export const layersOf = ([w, h]: PictureSize): number =>
  Math.max(1, Math.min(MOST_LAYERS, Math.floor(PAGE_TEXELS / (w * h))));

/** Which pictures lie where: pages of one size each, filled one after another. */
export interface PicturePlaces {
  /** The place of a material's picture, and whether it has just been given. */
  readonly placeOf: (material: string, size: PictureSize) => { readonly place: PicturePlace; readonly fresh: boolean };
  readonly size: (page: number) => PictureSize;
}

export function makePlaces(): PicturePlaces {
  const pages: { readonly size: PictureSize; used: number }[] = [];
  const places = new Map<string, PicturePlace>();
  const fits = (page: number, size: PictureSize) => pages[page]!.size.every((c, i) => c === size[i]);
  return {
    placeOf: (material, size) => {
      const had = places.get(material);
      // A picture imported anew may have another size.
      if (had && fits(had.page, size)) return { place: had, fresh: false };
      let page = pages.findIndex((p, i) => fits(i, size) && p.used < layersOf(size));
      if (page < 0) page = pages.push({ size, used: 0 }) - 1;
      const place = { page, layer: pages[page]!.used++ };
      places.set(material, place);
      return { place, fresh: true };
    },
    size: (page) => pages[page]!.size,
  };
}
