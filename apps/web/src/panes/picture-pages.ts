import { DataArrayTexture, LinearFilter, LinearMipmapLinearFilter, RepeatWrapping, SRGBColorSpace, Texture, Vector3, type WebGLRenderer } from 'three'; // prettier-ignore
import { pictureUrl } from '../api/hooks.ts';
import { anisotropy } from './anisotropy.ts';
import { layersOf, makePlaces, type PicturePlace, type PictureSize } from './picture-places.ts';

/** What pictures of materials are gathered in, so that one draw shows many materials. */
export interface PicturePages {
  /** The place of a material's picture; its loading begins with the first call, and `average` stands in for it until then. */
  readonly placeOf: (material: string, size: PictureSize, average: string) => PicturePlace;
  readonly texture: (page: number) => DataArrayTexture;
  readonly size: (page: number) => PictureSize;
}

type Picture = HTMLImageElement | HTMLCanvasElement;

const made = new WeakMap<WebGLRenderer, PicturePages>();

/** The pages of a renderer. `onChange` of the first call is called whenever something new can be seen. */
export function picturePages(gl: WebGLRenderer, onChange: () => void): PicturePages {
  const known = made.get(gl);
  if (known) return known;
  const places = makePlaces();
  const textures: DataArrayTexture[] = [];
  let waiting: { place: PicturePlace; picture: Picture }[] = [];

  const put = () => {
    const now = waiting;
    waiting = [];
    now.forEach(({ place, picture }, i) => {
      const texture = textures[place.page]!;
      // Smaller versions of a whole page are made at once: with the last picture that came in for it.
      texture.generateMipmaps = !now.slice(i + 1).some((later) => later.place.page === place.page);
      gl.copyTextureToTexture(new Texture(picture), texture, null, new Vector3(0, 0, place.layer));
    });
    onChange();
  };
  const arrive = (place: PicturePlace, picture: Picture) => {
    if (waiting.length === 0) requestAnimationFrame(put);
    waiting.push({ place, picture });
  };

  const out: PicturePages = {
    placeOf: (material, size, average) => {
      const { place, fresh } = places.placeOf(material, size);
      if (!fresh) return place;
      textures[place.page] ??= emptyPage(gl, size);
      arrive(place, plain(size, average));
      const picture = new Image();
      picture.onload = () => arrive(place, fitted(picture, size));
      picture.src = pictureUrl(material, 'albedo');
      return place;
    },
    texture: (page) => textures[page]!,
    size: places.size,
  };
  made.set(gl, out);
  return out;
}

function emptyPage(gl: WebGLRenderer, size: PictureSize): DataArrayTexture {
  const texture = new DataArrayTexture(null, size[0], size[1], layersOf(size));
  texture.wrapS = texture.wrapT = RepeatWrapping;
  texture.colorSpace = SRGBColorSpace;
  texture.minFilter = LinearMipmapLinearFilter;
  texture.magFilter = LinearFilter;
  texture.generateMipmaps = true;
  texture.anisotropy = anisotropy();
  // Room for all layers and their smaller versions is taken now, the pictures follow one by one.
  texture.source.dataReady = false;
  texture.needsUpdate = true;
  gl.initTexture(texture);
  return texture;
}

function canvasOf([w, h]: PictureSize): { canvas: HTMLCanvasElement; pen: CanvasRenderingContext2D } {
  const canvas = document.createElement('canvas');
  canvas.width = w;
  canvas.height = h;
  return { canvas, pen: canvas.getContext('2d')! };
}

/** What stands in for a picture until it is here. */
function plain(size: PictureSize, color: string): HTMLCanvasElement {
  const { canvas, pen } = canvasOf(size);
  pen.fillStyle = color;
  pen.fillRect(0, 0, ...size);
  return canvas;
}

/** A picture of exactly a layer's size: one that differs from what the library says is drawn to fit. */
function fitted(picture: HTMLImageElement, size: PictureSize): Picture {
  if (picture.naturalWidth === size[0] && picture.naturalHeight === size[1]) return picture;
  const { canvas, pen } = canvasOf(size);
  pen.drawImage(picture, 0, 0, ...size);
  return canvas;
}
