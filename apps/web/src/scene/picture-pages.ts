import {
  Color,
  DataArrayTexture,
  LinearFilter,
  LinearMipmapLinearFilter,
  RepeatWrapping,
  SRGBColorSpace,
  Texture,
  Vector3,
  Vector4,
  type WebGLRenderer,
} from 'three';
import { pictureUrl } from '../state/remote.ts';
import { anisotropy } from './anisotropy.ts';
import { layersOf, makePlaces, type PicturePlace, type PictureSize } from './picture-places.ts';

/** What pictures of materials are gathered in, so that one draw shows many materials. */
export interface PicturePages {
  /**
   * The place of a material's picture; its loading begins with the first call, and `average` stands in for it until
   * then: a colour, or null where nothing is to be seen.
   */
  readonly placeOf: (material: string, size: PictureSize, average: string | null) => PicturePlace;
  /** A place of one colour, without a picture. */
  readonly plain: (size: PictureSize, color: string) => PicturePlace;
  readonly texture: (page: number) => DataArrayTexture;
  /** What stands in for each layer of a page: a linear colour with its opacity, or {@link ARRIVED}. Changes in place. */
  readonly standIns: (page: number) => readonly Vector4[];
  readonly size: (page: number) => PictureSize;
}

/** The opacity that says of a stand-in that its picture is here. */
export const ARRIVED = -1;

/** Texels handed to the graphics card in a frame, so that no frame waits for it: four pictures of 512 × 512. */
const TEXELS_A_FRAME = 4 * 512 * 512;

interface Page {
  readonly texture: DataArrayTexture;
  readonly standIns: readonly Vector4[];
  /** Pictures asked for that have neither come nor failed. */
  coming: number;
  readonly come: { readonly layer: number; readonly picture: ImageBitmap }[];
  /** Layers handed over whose smaller versions are still to be made. */
  readonly here: number[];
}

const made = new WeakMap<WebGLRenderer, PicturePages>();

/** The pages of a renderer. `onChange` of the first call is called whenever something new can be seen. */
export function picturePages(gl: WebGLRenderer, onChange: () => void): PicturePages {
  const known = made.get(gl);
  if (known) return known;
  const places = makePlaces();
  const pages: Page[] = [];
  const full: Page[] = [];

  const put = () => {
    const page = full[0]!;
    let texels = 0;
    while (page.come.length > 0 && texels < TEXELS_A_FRAME) {
      const { layer, picture } = page.come.shift()!;
      texels += picture.width * picture.height;
      // Making smaller versions costs as much for one picture as for the whole page: it is done with the last.
      page.texture.generateMipmaps = page.come.length === 0;
      gl.copyTextureToTexture(new Texture(picture), page.texture, null, new Vector3(0, 0, layer));
      picture.close();
      page.here.push(layer);
    }
    if (page.come.length === 0) {
      for (const layer of page.here.splice(0)) page.standIns[layer]!.w = ARRIVED;
      full.shift();
      onChange();
    }
    if (full.length > 0) requestAnimationFrame(put);
  };
  const settle = (page: Page) => {
    if (--page.coming > 0 || page.come.length === 0 || full.includes(page)) return;
    full.push(page);
    if (full.length === 1) requestAnimationFrame(put);
  };

  /** Gives something its place, and, when it is new, the page with the stand-in set. */
  const placed = (name: string, size: PictureSize, average: string | null): { place: PicturePlace; page?: Page } => {
    const { place, fresh } = places.placeOf(name, size);
    if (!fresh) return { place };
    const page = (pages[place.page] ??= emptyPage(gl, size));
    const { r, g, b } = new Color(average ?? 0);
    page.standIns[place.layer]!.set(r, g, b, average === null ? 0 : 1);
    return { place, page };
  };

  const out: PicturePages = {
    placeOf: (material, size, average) => {
      const { place, page } = placed(material, size, average);
      if (!page) return place;
      page.coming += 1;
      void bitmapOf(pictureUrl(material, 'albedo'), size)
        .then((picture) => page.come.push({ layer: place.layer, picture }))
        // What stands in for it stays.
        .catch(() => undefined)
        .then(() => settle(page));
      return place;
    },
    plain: (size, color) => placed(`plain ${color}`, size, color).place,
    texture: (page) => pages[page]!.texture,
    standIns: (page) => pages[page]!.standIns,
    size: places.size,
  };
  made.set(gl, out);
  return out;
}

function emptyPage(gl: WebGLRenderer, size: PictureSize): Page {
  const layers = layersOf(size);
  const texture = new DataArrayTexture(null, size[0], size[1], layers);
  texture.wrapS = texture.wrapT = RepeatWrapping;
  texture.colorSpace = SRGBColorSpace;
  texture.minFilter = LinearMipmapLinearFilter;
  texture.magFilter = LinearFilter;
  texture.generateMipmaps = true;
  texture.anisotropy = anisotropy();
  // Room for all layers and their smaller versions is taken now, the pictures follow.
  texture.source.dataReady = false;
  texture.needsUpdate = true;
  gl.initTexture(texture);
  return { texture, standIns: Array.from({ length: layers }, () => new Vector4()), coming: 0, come: [], here: [] };
}

/** A picture of exactly a layer's size, decoded beside the page's own work: one that differs is made to fit. */
async function bitmapOf(url: string, [resizeWidth, resizeHeight]: PictureSize): Promise<ImageBitmap> {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`No picture at ${url}`);
  // As it is in the file: colours under holes stay, and nothing is turned into the screen's colours.
  const asIs = { premultiplyAlpha: 'none', colorSpaceConversion: 'none' } as const;
  const picture = await createImageBitmap(await answer.blob(), asIs);
  if (picture.width === resizeWidth && picture.height === resizeHeight) return picture;
  return createImageBitmap(picture, { ...asIs, resizeWidth, resizeHeight, resizeQuality: 'high' });
}
