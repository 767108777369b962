import type { TextureFrame } from '../brush/index.ts';
import { dot, hypot, type Plane } from '../math/index.ts';
import { flattenFrame } from './frame.ts';

/** How finely and how evenly a frame lays its picture on a plane. */
export interface Density {
  /** Texels a cm in the direction in which they lie closest, and in which they lie widest. */
  readonly most: number;
  readonly least: number;
  /** The square root of texels a cm². */
  readonly mean: number;
}

/** The density of a frame on its plane: the singular values of the map from the plane to texels. */
export function densityOf(frame: TextureFrame, plane: Plane): Density {
  const { u, v } = flattenFrame(frame, plane);
  const [a, b]: [[number, number, number], [number, number, number]] = [
    [u[0], u[1], u[2]],
    [v[0], v[1], v[2]],
  ];
  const [uu, uv, vv] = [dot(a, a), dot(a, b), dot(b, b)];
  const middle = (uu + vv) / 2;
  const half = hypot((uu - vv) / 2, uv);
  const [most, least] = [Math.sqrt(middle + half), Math.sqrt(Math.max(0, middle - half))];
  return { most, least, mean: Math.sqrt(most * least) };
}
