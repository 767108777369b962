import { Color, ShaderMaterial, type Texture } from 'three';

/** Colours of the density view: too coarse, as wanted, too fine. */
export const DENSITY_COLORS = { coarse: '#4a6fb0', right: '#d9cfbc', fine: '#b0523f' } as const;

/** How the Eye shows surfaces besides as they are. */
export type SurfaceView = 'texels' | 'density';

const VERTEX = /* glsl */ `
varying vec2 vTexel;
varying vec3 vPlace;
varying vec3 vShade;
varying vec2 vUv;
uniform vec2 size;
void main() {
  vUv = uv;
  vTexel = vec2(uv.x, -uv.y) * size;
  vPlace = position;
  vShade = color;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`;

/** Lines every texel, eight and sixty-four, as thin as a pixel, each set fading before it crowds. */
const TEXELS = /* glsl */ `
uniform sampler2D map;
uniform vec3 ink;
varying vec2 vTexel;
varying vec2 vUv;
varying vec3 vShade;
float lines(float step) {
  vec2 at = vTexel / step;
  vec2 width = max(fwidth(at), 1e-6);
  vec2 near = abs(fract(at - 0.5) - 0.5) / width;
  float crowded = max(width.x, width.y);
  return (1.0 - min(min(near.x, near.y), 1.0)) * (1.0 - smoothstep(0.08, 0.25, crowded));
}
void main() {
  vec4 color = texture2D(map, vUv);
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

/** The look of one material in a surface view. */
export function surfaceMaterial(
  view: SurfaceView,
  map: Texture,
  size: readonly [number, number],
  wanted: number,
  inks: { readonly ink: string; readonly coarse: string; readonly right: string; readonly fine: string },
): ShaderMaterial {
  return new ShaderMaterial({
    vertexColors: true,
    vertexShader: VERTEX,
    fragmentShader: view === 'texels' ? TEXELS : DENSITY,
    uniforms: {
      map: { value: map },
      size: { value: size },
      wanted: { value: wanted },
      ink: { value: new Color(inks.ink) },
      coarse: { value: new Color(inks.coarse) },
      right: { value: new Color(inks.right) },
      fine: { value: new Color(inks.fine) },
    },
  });
}
