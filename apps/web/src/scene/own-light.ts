import { BufferAttribute, DataTexture, FloatType, NearestFilter, RGBAFormat, type BufferGeometry } from 'three';
import type { PropChart } from '@yesca/core';

/** How a prop is lit on itself: at its vertices, or on the luxels of its layout. */
export type OnItself = 'vertices' | PropChart;

/** A picture of numbers, four a texel, that are taken as they are. */
export function numbers(wide: number, high: number): DataTexture {
  const texture = new DataTexture(new Float32Array(wide * high * 4), wide, high, RGBAFormat, FloatType);
  texture.minFilter = texture.magFilter = NearestFilter;
  return texture;
}

/** Layouts lie beside each other in pictures no wider than this. */
const WIDEST = 4096;

/** How the layouts of many props lie in one picture: so many in a row. */
export const layoutsAcross = ({ width }: Pick<PropChart, 'width'>): number => Math.max(1, Math.floor(WIDEST / width));

/** A picture for the light on the layouts of so many props. */
export function layoutPicture(chart: PropChart, count: number): DataTexture {
  const across = Math.min(count, layoutsAcross(chart));
  return numbers(across * chart.width, Math.ceil(count / across) * chart.height);
}

/** Writes what falls on the luxels of one of them, row by row (lux, red, green, blue of each); below zero where it is not known. */
export function writeLayout(
  picture: DataTexture,
  { width, height }: PropChart,
  k: number,
  falls: Float32Array | null,
): void {
  const { data, width: wide } = picture.image as { data: Float32Array; width: number };
  const across = wide / width;
  const [x, y] = [(k % across) * width, Math.floor(k / across) * height];
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++)
      for (let c = 0; c < 3; c++) data[((y + j) * wide + x + i) * 4 + c] = falls ? falls[(j * width + i) * 3 + c]! : -1;
  picture.needsUpdate = true;
}

/** For a shader: what falls on a place of a layout (in luxels) that begins at `first` in its picture; below zero where it is not known. */
export const FALLS_ON_LAYOUT = /* glsl */ `
vec3 fallsOnLayout(sampler2D light, vec2 place, ivec2 first, ivec2 size) {
  vec2 at = place - 0.5;
  ivec2 low = clamp(ivec2(floor(at)), ivec2(0), size - 1);
  ivec2 high = min(low + 1, size - 1);
  vec2 part = clamp(at - vec2(low), 0.0, 1.0);
  vec3 above = mix(texelFetch(light, first + low, 0).rgb, texelFetch(light, first + ivec2(high.x, low.y), 0).rgb, part.x);
  vec3 below = mix(texelFetch(light, first + ivec2(low.x, high.y), 0).rgb, texelFetch(light, first + high, 0).rgb, part.x);
  return mix(above, below, part.y);
}`;

/**
 * The geometries of a model with a `chart` of where their corners lie in its layout: each triangle has corners of its own. Null where the
 * layout is that of another model: it was changed since.
 */
export function laidOut(geometries: readonly BufferGeometry[], { corners }: PropChart): BufferGeometry[] | null {
  const apart = geometries.map((g) => (g.index ? g.toNonIndexed() : g.clone()));
  const counts = apart.map((g) => g.getAttribute('position').count);
  if (counts.reduce((sum, n) => sum + n, 0) * 2 !== corners.length) {
    for (const geometry of apart) geometry.dispose();
    return null;
  }
  let first = 0;
  apart.forEach((geometry, k) => {
    const end = first + counts[k]!;
    geometry.setAttribute('chart', new BufferAttribute(corners.slice(first * 2, end * 2), 2));
    first = end;
  });
  return apart;
}
