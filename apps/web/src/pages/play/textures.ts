import { RepeatWrapping, SRGBColorSpace, TextureLoader, type Texture } from 'three';
import { pictureUrl } from '../../state/remote.ts';
import { anisotropy } from '../../panes/anisotropy.ts';
import { materialFacts } from '../../state/library.ts';

const loaded = new Map<string, Texture>();

/** Size of a material's picture in texels. */
export const materialSize = (name: string): readonly [number, number] => {
  const facts = materialFacts(name);
  return facts ? [facts.width, facts.height] : [512, 512];
};

/** The picture of a material, repeating; loaded once. `onLoad` is called whenever one arrives. */
export function materialTexture(name: string, onLoad: () => void): Texture {
  let texture = loaded.get(name);
  if (!texture) {
    texture = new TextureLoader().load(pictureUrl(name, 'albedo'), onLoad);
    texture.wrapS = texture.wrapT = RepeatWrapping;
    texture.colorSpace = SRGBColorSpace;
    // Mipmaps are the loader's default.
    texture.anisotropy = anisotropy();
    loaded.set(name, texture);
  }
  return texture;
}
