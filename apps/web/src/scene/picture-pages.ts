import {
  Color,
  DataArrayTexture,
  LinearFilter,
  LinearMipmapLinearFilter,
  NoColorSpace,
  RepeatWrapping,
  SRGBColorSpace,
  Texture,
  Vector3,
  Vector4,
  type WebGLRenderer,
} from 'three';
import type { Material } from '@yesca/stock';
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
  /** Loads what is known of the relief and roughness of a material that has a place. */
  readonly loadRelief: (facts: ReliefFacts, place: PicturePlace) => void;
  /** The relief of a page's pictures: directions in red and green, roughness in blue. */
  readonly relief: (page: number) => Relief;
}

/** What has to be known of a material to load its relief. */
export type ReliefFacts = Pick<Material, 'name' | 'width' | 'height' | 'roughness' | 'lacks'>;

export interface Relief {
  readonly texture: DataArrayTexture;
  /** Of each layer the roughness of what is flat, or {@link ARRIVED} where the picture tells both. Changes in place. */
  readonly roughness: readonly number[];
}

/** What says of a stand-in that its picture is here. */
export const ARRIVED = -1;

/** Of what nobody knows. */
const ROUGH = 1;

/** Texels handed to the graphics card in a frame, so that no frame waits for it: four pictures of 512 × 512. */
const TEXELS_A_FRAME = 4 * 512 * 512;

/** Pictures of one size that arrive one by one. */
interface Sheet {
  readonly texture: DataArrayTexture;
  /** Pictures asked for that have neither come nor failed. */
  coming: number;
  readonly come: { readonly layer: number; readonly picture: ImageBitmap }[];
  /** Layers handed over whose smaller versions are still to be made. */
  readonly here: number[];
  /** Is called when a layer can be seen. */
  readonly arrived: (layer: number) => void;
}

interface Page {
  readonly size: PictureSize;
  readonly colors: Sheet;
  readonly standIns: readonly Vector4[];
  /** Made when it is first asked for. */
  relief: (Relief & { readonly sheet: Sheet }) | null;
}

const made = new WeakMap<WebGLRenderer, PicturePages>();

/** The pages of a renderer. `onChange` of the first call is called whenever something new can be seen. */
export function picturePages(gl: WebGLRenderer, onChange: () => void): PicturePages {
  const known = made.get(gl);
  if (known) return known;
  const places = makePlaces();
  const pages: Page[] = [];
  const full: Sheet[] = [];

  const put = () => {
    const sheet = full[0]!;
    let texels = 0;
    while (sheet.come.length > 0 && texels < TEXELS_A_FRAME) {
      const { layer, picture } = sheet.come.shift()!;
      texels += picture.width * picture.height;
      // Making smaller versions costs as much for one picture as for the whole page: it is done with the last.
      sheet.texture.generateMipmaps = sheet.come.length === 0;
      gl.copyTextureToTexture(new Texture(picture), sheet.texture, null, new Vector3(0, 0, layer));
      picture.close();
      sheet.here.push(layer);
    }
    if (sheet.come.length === 0) {
      for (const layer of sheet.here.splice(0)) sheet.arrived(layer);
      full.shift();
      onChange();
    }
    if (full.length > 0) requestAnimationFrame(put);
  };
  const settle = (sheet: Sheet) => {
    if (--sheet.coming > 0 || sheet.come.length === 0 || full.includes(sheet)) return;
    full.push(sheet);
    if (full.length === 1) requestAnimationFrame(put);
  };
  const awaited = (sheet: Sheet, layer: number, coming: Promise<ImageBitmap>) => {
    sheet.coming += 1;
    void coming
      .then((picture) => sheet.come.push({ layer, picture }))
      // What stands in for it stays.
      .catch(() => undefined)
      .then(() => settle(sheet));
  };

  const emptyPage = (size: PictureSize): Page => {
    const standIns = Array.from({ length: layersOf(size) }, () => new Vector4());
    const arrived = (layer: number) => (standIns[layer]!.w = ARRIVED);
    return { size, colors: emptySheet(gl, size, standIns.length, SRGBColorSpace, arrived), standIns, relief: null };
  };

  const reliefOf = (page: Page): NonNullable<Page['relief']> => {
    if (page.relief) return page.relief;
    const roughness = page.standIns.map(() => ROUGH);
    const arrived = (layer: number) => (roughness[layer] = ARRIVED);
    const sheet = emptySheet(gl, half(page.size), roughness.length, NoColorSpace, arrived);
    return (page.relief = { texture: sheet.texture, roughness, sheet });
  };

  /** Gives something its place, and, when it is new, the page with the stand-in set. */
  const placed = (name: string, size: PictureSize, average: string | null): { place: PicturePlace; page?: Page } => {
    const { place, fresh } = places.placeOf(name, size);
    if (!fresh) return { place };
    const page = (pages[place.page] ??= emptyPage(size));
    const { r, g, b } = new Color(average ?? 0);
    page.standIns[place.layer]!.set(r, g, b, average === null ? 0 : 1);
    return { place, page };
  };

  const relieved = new Set<string>();
  const out: PicturePages = {
    placeOf: (material, size, average) => {
      const { place, page } = placed(material, size, average);
      if (page) awaited(page.colors, place.layer, bitmapOf(pictureUrl(material, 'albedo'), size));
      return place;
    },
    plain: (size, color) => placed(`plain ${color}`, size, color).place,
    texture: (page) => pages[page]!.colors.texture,
    standIns: (page) => pages[page]!.standIns,
    size: places.size,
    loadRelief: (facts, { page, layer }) => {
      // Once for each place.
      if (relieved.has(`${page} ${layer}`)) return;
      relieved.add(`${page} ${layer}`);
      const { roughness, sheet } = reliefOf(pages[page]!);
      (roughness as number[])[layer] = facts.roughness;
      if (!LACKING.every((picture) => facts.lacks?.includes(picture)))
        awaited(sheet, layer, reliefBitmap(facts, half(pages[page]!.size)));
    },
    relief: (page) => reliefOf(pages[page]!),
  };
  made.set(gl, out);
  return out;
}

const LACKING = ['normal', 'roughness'] as const;

/** Relief is kept at half the size of the colours: nobody sees the difference. */
const half = ([width, height]: PictureSize): PictureSize => [Math.max(1, width >> 1), Math.max(1, height >> 1)];

function emptySheet(
  gl: WebGLRenderer,
  [width, height]: PictureSize,
  layers: number,
  colors: typeof SRGBColorSpace | typeof NoColorSpace,
  arrived: Sheet['arrived'],
): Sheet {
  const texture = new DataArrayTexture(null, width, height, layers);
  texture.wrapS = texture.wrapT = RepeatWrapping;
  texture.colorSpace = colors;
  texture.minFilter = LinearMipmapLinearFilter;
  texture.magFilter = LinearFilter;
  texture.generateMipmaps = true;
  texture.anisotropy = anisotropy();
  // Room for all layers and their smaller versions is taken now, the pictures follow.
  texture.source.dataReady = false;
  texture.needsUpdate = true;
  gl.initTexture(texture);
  return { texture, coming: 0, come: [], here: [], arrived };
}

/** As it is in the file: colours under holes stay, and nothing is turned into the screen's colours. */
const AS_IS = { premultiplyAlpha: 'none', colorSpaceConversion: 'none' } as const;

/** A picture of exactly a layer's size, decoded beside the page's own work: one that differs is made to fit. */
async function bitmapOf(url: string, [resizeWidth, resizeHeight]: PictureSize): Promise<ImageBitmap> {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`No picture at ${url}`);
  const picture = await createImageBitmap(await answer.blob(), AS_IS);
  if (picture.width === resizeWidth && picture.height === resizeHeight) return picture;
  return createImageBitmap(picture, { ...AS_IS, resizeWidth, resizeHeight, resizeQuality: 'high' });
}

/** The directions of a relief in red and green with the roughness in blue; what a material lacks is flat, or as rough all over. */
async function reliefBitmap({ name, lacks, roughness }: ReliefFacts, size: PictureSize): Promise<ImageBitmap> {
  const [normal, rough] = await Promise.all(
    LACKING.map((picture) => (lacks?.includes(picture) ? null : bitmapOf(pictureUrl(name, picture), size))),
  );
  const layer = (picture: ImageBitmap | null | undefined, plain: string, kept: string) => {
    const canvas = new OffscreenCanvas(...size);
    const to = canvas.getContext('2d')!;
    to.fillStyle = plain;
    to.fillRect(0, 0, ...size);
    if (picture) to.drawImage(picture, 0, 0);
    picture?.close();
    to.globalCompositeOperation = 'multiply';
    to.fillStyle = kept;
    to.fillRect(0, 0, ...size);
    return { canvas, to };
  };
  const grey = Math.round(roughness * 255);
  const { canvas, to } = layer(normal, 'rgb(128 128 255)', 'rgb(255 255 0)');
  to.globalCompositeOperation = 'lighter';
  to.drawImage(layer(rough, `rgb(${grey} ${grey} ${grey})`, 'rgb(0 0 255)').canvas, 0, 0);
  return createImageBitmap(canvas, AS_IS);
}
