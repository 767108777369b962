import { Color, CustomBlending, OneFactor, ShaderMaterial, ZeroFactor } from 'three';
import type { Solidity } from '@yesca/core';
import type { PicturePages } from './picture-pages.ts';

/** Colours of the density view: too coarse, as wanted, too fine. */
export const DENSITY_COLORS = { coarse: '#4a6fb0', right: '#d9cfbc', fine: '#b0523f' } as const;

/** How the Eye shows a page of pictures: as they are, or with what tells of their texels. */
export type PageView = 'textured' | 'texels' | 'density';

const VERTEX = /* glsl */ `
attribute float layer;
varying vec2 vUv;
varying float vLayer;
varying vec2 vTexel;
varying vec3 vPlace;
varying vec3 vShade;
uniform vec2 size;
void main() {
  vUv = uv;
  vLayer = layer;
  vTexel = uv * size;
  vPlace = position;
  vShade = color;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`;

const PICTURE = /* glsl */ `
uniform sampler2DArray pictures;
uniform vec4 standIns[LAYERS];
varying vec2 vUv;
varying float vLayer;
varying vec2 vTexel;
varying vec3 vPlace;
varying vec3 vShade;
vec4 picture() {
  vec4 found = texture(pictures, vec3(vUv, vLayer));
  vec4 standIn = standIns[int(vLayer + 0.5)];
  return standIn.a < 0.0 ? found : standIn;
}`;

const TEXTURED = /* glsl */ `
${PICTURE}
void main() {
  vec4 color = picture();
  #ifdef HOLES
    // Edges of holes are smoothed by the antialiasing's samples, not faded: nothing needs sorting.
    color.a = smoothstep(0.5, 0.5 + fwidth(color.a), color.a);
    if (color.a == 0.0) discard;
  #elif !defined(CLEAR)
    color.a = 1.0;
  #endif
  #ifndef GLOWS
    color.rgb *= vShade;
  #endif
  gl_FragColor = color;
  #include <tonemapping_fragment>
  #include <colorspace_fragment>
}`;

/** Lines every texel, eight and sixty-four, as thin as a pixel, each set fading before it crowds. */
const TEXELS = /* glsl */ `
${PICTURE}
uniform vec3 ink;
float lines(float step) {
  vec2 at = vTexel / step;
  vec2 width = max(fwidth(at), 1e-6);
  vec2 near = abs(fract(at - 0.5) - 0.5) / width;
  float crowded = max(width.x, width.y);
  return (1.0 - min(min(near.x, near.y), 1.0)) * (1.0 - smoothstep(0.08, 0.25, crowded));
}
void main() {
  vec4 color = picture();
  if (color.a < 0.5) discard;
  float line = max(max(lines(1.0) * 0.45, lines(8.0) * 0.7), lines(64.0));
  gl_FragColor = vec4(mix(color.rgb * vShade, ink, line), 1.0);
  #include <colorspace_fragment>
}`;

/** Texels a cm against what is wanted, in octaves: cool where too coarse, warm where too fine, plain where right. */
const DENSITY = /* glsl */ `
uniform float wanted;
uniform vec3 coarse;
uniform vec3 right;
uniform vec3 fine;
varying vec2 vTexel;
varying vec3 vPlace;
varying vec3 vShade;
void main() {
  vec2 tx = dFdx(vTexel);
  vec2 ty = dFdy(vTexel);
  float texels = abs(tx.x * ty.y - tx.y * ty.x);
  float area = length(cross(dFdx(vPlace), dFdy(vPlace)));
  float octaves = log2(sqrt(texels / max(area, 1e-9)) / wanted);
  vec3 color = mix(right, octaves < 0.0 ? coarse : fine, clamp(abs(octaves) / 2.0, 0.0, 1.0));
  // Beyond a factor of two it is banded too, so that it is seen without hue.
  float band = abs(octaves) > 1.02 ? step(0.5, fract((vTexel.x + vTexel.y) / 32.0)) * 0.16 : 0.0;
  gl_FragColor = vec4(color * vShade * (1.0 - band), 1.0);
  #include <colorspace_fragment>
}`;

/** How the pictures of a page let what is behind them through, and whether they are as bright from all sides. */
export interface PageKind {
  readonly solidity: Solidity;
  readonly glow: boolean;
}

/** The look of a page of pictures. `wanted` is the map's density, in texels a cm. */
export function pageMaterial(
  view: PageView,
  { solidity, glow }: PageKind,
  pages: PicturePages,
  page: number,
  wanted: number,
  ink: string,
): ShaderMaterial {
  const holes = solidity === 'cutOut';
  const clear = solidity === 'seeThrough';
  const standIns = pages.standIns(page);
  const material = new ShaderMaterial({
    vertexColors: true,
    vertexShader: VERTEX,
    fragmentShader: { textured: TEXTURED, texels: TEXELS, density: DENSITY }[view],
    defines: {
      LAYERS: standIns.length,
      ...(holes && { HOLES: '' }),
      ...(clear && { CLEAR: '' }),
      ...(glow && { GLOWS: '' }),
    },
    uniforms: {
      pictures: { value: pages.texture(page) },
      standIns: { value: standIns },
      size: { value: pages.size(page) },
      wanted: { value: wanted },
      ink: { value: new Color(ink) },
      coarse: { value: new Color(DENSITY_COLORS.coarse) },
      right: { value: new Color(DENSITY_COLORS.right) },
      fine: { value: new Color(DENSITY_COLORS.fine) },
    },
  });
  if (view !== 'textured') return material;
  material.transparent = clear;
  material.depthWrite = !clear;
  if (!holes) return material;
  material.alphaToCoverage = true;
  // Covered samples stay as opaque as what they cover, or the page would shine through the rims of leaves.
  material.blending = CustomBlending;
  material.blendSrc = OneFactor;
  material.blendDst = ZeroFactor;
  material.blendSrcAlpha = OneFactor;
  material.blendDstAlpha = OneFactor;
  return material;
}
