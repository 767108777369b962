import { RepeatWrapping, SRGBColorSpace, TextureLoader, type Texture } from 'three';
import { MATERIALS } from '@yesca/stock';
import { materialUrl } from '../api/hooks.ts';

const loaded = new Map<string, Texture>();
const bySize = new Map(MATERIALS.map((m) => [m.name, [m.width, m.height] as const]));

/** Size of a material's picture in texels. */
export const materialSize = (name: string): readonly [number, number] => bySize.get(name) ?? [512, 512];
export const isKnownMaterial = (name: string): boolean => bySize.has(name);

/** The picture of a material, repeating; loaded once. `onLoad` is called whenever one arrives. */
export function materialTexture(name: string, onLoad: () => void): Texture {
  let texture = loaded.get(name);
  if (!texture) {
    texture = new TextureLoader().load(materialUrl(name), onLoad);
    texture.wrapS = texture.wrapT = RepeatWrapping;
    texture.colorSpace = SRGBColorSpace;
    texture.anisotropy = 8;
    loaded.set(name, texture);
  }
  return texture;
}
