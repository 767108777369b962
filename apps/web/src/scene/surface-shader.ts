import { Color, CustomBlending, OneFactor, ShaderMaterial, Vector2, Vector3, ZeroFactor, type Texture } from 'three';
import { WHOLE_GAIN, type MapSettings, type Solidity } from '@yesca/core';
import type { SurfaceView } from '../state/display.ts';
import type { PicturePages } from './picture-pages.ts';
import { LEANED, MICROFACETS, RELIEF, reliefUniforms } from './relief.ts';
import { SEEN } from './seen.ts';
import { fogUniforms } from './sky.ts';

/** Colours of the density view: too coarse, as wanted, too fine. */
export const DENSITY_COLORS = { coarse: '#4a6fb0', right: '#d9cfbc', fine: '#b0523f' } as const;
/** What all surfaces are made of in the clay view. */
const CLAY = '#d9cfbc';

/**
 * What surfaces are lit by: shade that is part of their corners (`color`), a page of light (its place in `light`; `exposure` is
 * what one of its units counts; through the fog in the `air`), or a lamp in front of them, by which relief and roughness are seen.
 */
export type SurfaceLight =
  | { readonly by: 'shade' }
  | {
      readonly by: 'map';
      readonly page: Texture;
      /** From where the light of the page comes, and what shines reflects. */
      readonly ways: Texture;
      readonly reflections: Texture;
      readonly exposure: number;
      readonly air: Partial<MapSettings>;
    }
  | {
      readonly by: 'lamp';
      readonly at: Vector3;
      readonly relief: Texture | null;
      readonly rough: Texture | number;
    };

const VERTEX = /* glsl */ `
attribute float layer;
varying vec2 vUv;
varying float vLayer;
varying vec2 vTexel;
varying vec3 vPlace;
uniform vec2 size;
#ifdef INKED
attribute vec4 ink;
varying vec4 vInk;
#endif
#ifdef BY_MAP
attribute vec2 light;
attribute float gain;
attribute float reflection;
varying vec3 vWorld;
flat varying float vReflection;
varying vec2 vLight;
varying float vGain;
varying vec3 vSeen;
#endif
#ifdef BY_SHADE
varying vec3 vShade;
#endif
void main() {
  vUv = uv;
  vLayer = layer;
  vTexel = uv * size;
  vPlace = position;
  #ifdef INKED
  vInk = ink;
  #endif
  #ifdef BY_MAP
  vLight = light;
  vGain = gain * (255.0 / WHOLE_GAIN);
  vReflection = reflection;
  vWorld = (modelMatrix * vec4(position, 1.0)).xyz;
  vSeen = (modelViewMatrix * vec4(position, 1.0)).xyz;
  #endif
  #ifdef BY_SHADE
  vShade = color;
  #endif
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`;

/** What a surface's picture is, and how it is lit: linear in, linear out. */
const SURFACE = /* glsl */ `
uniform sampler2DArray pictures;
uniform vec4 standIns[LAYERS];
varying vec2 vUv;
varying float vLayer;
varying vec2 vTexel;
varying vec3 vPlace;
vec4 picture() {
  vec4 found = texture(pictures, vec3(vUv, vLayer));
  vec4 standIn = standIns[int(vLayer + 0.5)];
  return standIn.a < 0.0 ? found : standIn;
}
// Lines between whole places of a lattice, as thin as a pixel; they fade while they crowd: from and to so many in a pixel.
float latticeLine(vec2 at, float from, float to) {
  vec2 width = max(fwidth(at), 1e-6);
  vec2 near = abs(fract(at - 0.5) - 0.5) / width;
  return (1.0 - min(min(near.x, near.y), 1.0)) * (1.0 - smoothstep(from, to, max(width.x, width.y)));
}

#ifdef BY_SHADE
varying vec3 vShade;
vec3 lit(vec3 albedo) {
  #ifdef GLOWS
  return albedo;
  #else
  return albedo * vShade;
  #endif
}
#endif

#ifdef BY_MAP
uniform sampler2D lightPage;
uniform float exposure;
uniform vec2 bands;
uniform float lattice;
uniform vec3 carried;
uniform bool bare;
uniform vec2 side;
varying vec2 vLight;
varying float vGain;
${RELIEF}
${SEEN}
const vec3 LUMINANCE = vec3(0.2126, 0.7152, 0.0722);
const vec3 TOO_DARK = vec3(0.07, 0.2, 0.55);
const vec3 TOO_BRIGHT = vec3(0.72, 0.16, 0.1);
// Between luxels; where they crowd, every eighth is left.
float luxelLine() {
  vec2 at = vLight * vec2(textureSize(lightPage, 0));
  return max(latticeLine(at, 0.15, 0.4) * 0.6, latticeLine(at / 8.0, 0.15, 0.4));
}
vec3 lit(vec3 albedo) {
  if ((gl_FragCoord.x - side.x) * side.y > 0.0) discard;
  vec3 light = texture(lightPage, vLight).rgb * vGain;
  if (bare) return light;
  vec3 shine = vec3(0.0);
  float lux = dot(light, LUMINANCE);
  light *= exposure * carried;
  #ifndef GLOWS
  if (relieved) light *= inRelief(light, shine);
  #endif
  #ifdef GLOWS
  light = max(light, vec3(1.0));
  #endif
  vec3 shown = asSeen(albedo * light + shine);
  if (lattice > 0.0) shown = mix(shown, vec3(dot(shown, LUMINANCE) < 0.35 ? 0.95 : 0.05), luxelLine() * lattice);
  // Stripes of the screen, so that they are told from what the surface shows.
  float stripe = step(0.5, fract((gl_FragCoord.x + gl_FragCoord.y) / 14.0));
  if (bands.y > 0.0 && lux < bands.x) return mix(shown, TOO_DARK, 0.3 + 0.4 * stripe);
  if (bands.y > 0.0 && lux > bands.y) return mix(shown, TOO_BRIGHT, 0.3 + 0.4 * stripe);
  return shown;
}
#endif

#ifdef BY_LAMP
uniform vec3 lamp;
uniform sampler2D relief;
uniform sampler2D rough;
uniform float roughness;
const float AMBIENT = 0.7;
const float LAMP_STRENGTH = 3.2;
${MICROFACETS}
${LEANED}
vec3 lit(vec3 albedo) {
  vec3 px = dFdx(vPlace);
  vec3 py = dFdy(vPlace);
  vec3 n = normalize(cross(px, py));
  #ifdef RELIEF
  n = leaned(n, px, py, texture(relief, vUv).xyz * 2.0 - 1.0);
  #endif
  float a = roughness;
  #ifdef ROUGH
  a = texture(rough, vUv).g;
  #endif
  a = max(a * a, 0.002);
  vec3 to = lamp - vPlace;
  float strength = LAMP_STRENGTH / dot(to, to);
  vec3 l = normalize(to);
  vec3 v = isOrthographic ? vec3(0.0, 0.0, 1.0) : normalize(cameraPosition - vPlace);
  float nl = max(dot(n, l), 0.0);
  return albedo * (AMBIENT + strength * nl) + vec3(strength * microfacets(n, l, v, a));
}
#endif
`;

const FINISHED = /* glsl */ `
  gl_FragColor = color;
  #include <colorspace_fragment>
}`;

const TEXTURED = /* glsl */ `
${SURFACE}
uniform vec3 clay;
#ifdef INKED
varying vec4 vInk;
#endif
void main() {
  #if defined(CLAY) && !defined(HOLES)
    // What has holes keeps its picture: leaves of clay before clay are not told apart.
    vec4 color = vec4(clay, 1.0);
  #else
    vec4 color = picture();
  #endif
  #ifdef HOLES
    // Edges of holes are smoothed by the antialiasing's samples, not faded: nothing needs sorting.
    color.a = smoothstep(0.5, 0.5 + fwidth(color.a), color.a);
    if (color.a == 0.0) discard;
  #elif !defined(CLEAR)
    color.a = 1.0;
  #endif
  #ifdef INKED
    color *= vInk;
    if (color.a < 0.004) discard;
  #endif
  gl_FragColor = vec4(lit(color.rgb), color.a);
  #ifndef BY_MAP
  #include <tonemapping_fragment>
  #endif
  #include <colorspace_fragment>
}`;

/** Lines every texel, eight and sixty-four, as thin as a pixel, each set fading before it crowds. */
const TEXELS = /* glsl */ `
${SURFACE}
uniform vec3 ink;
float lines(float step) {
  return latticeLine(vTexel / step, 0.08, 0.25);
}
void main() {
  vec4 color = picture();
  if (color.a < 0.5) discard;
  float line = max(max(lines(1.0) * 0.45, lines(8.0) * 0.7), lines(64.0));
  color = vec4(mix(lit(color.rgb), ink, line), 1.0);
${FINISHED}`;

/** Texels a cm against what is wanted, in octaves: cool where too coarse, warm where too fine, plain where right. */
const DENSITY = /* glsl */ `
${SURFACE}
uniform float wanted;
uniform vec3 coarse;
uniform vec3 right;
uniform vec3 fine;
void main() {
  vec2 tx = dFdx(vTexel);
  vec2 ty = dFdy(vTexel);
  float texels = abs(tx.x * ty.y - tx.y * ty.x);
  float area = length(cross(dFdx(vPlace), dFdy(vPlace)));
  float octaves = log2(sqrt(texels / max(area, 1e-9)) / wanted);
  vec3 tint = mix(right, octaves < 0.0 ? coarse : fine, clamp(abs(octaves) / 2.0, 0.0, 1.0));
  // Beyond a factor of two it is banded too, so that it is seen without hue.
  float band = abs(octaves) > 1.02 ? step(0.5, fract((vTexel.x + vTexel.y) / 32.0)) * 0.16 : 0.0;
  vec4 color = vec4(lit(tint) * (1.0 - band), 1.0);
${FINISHED}`;

const FRAGMENTS: Readonly<Record<SurfaceView, string>> = {
  clay: TEXTURED,
  textured: TEXTURED,
  texels: TEXELS,
  density: DENSITY,
};

/** How the pictures of a page let what is behind them through, and whether they are as bright from all sides. */
export interface PageKind {
  readonly solidity: Solidity;
  readonly glow: boolean;
}

export interface SurfaceLook {
  readonly view: SurfaceView;
  readonly light: SurfaceLight;
  /** The density the map wants, in texels a cm. */
  readonly wanted?: number;
  /** The colour of lines between texels. */
  readonly ink?: string;
  /** Whether it lies on other surfaces, each corner with a colour and an opacity of its own (`ink`). */
  readonly decal?: boolean;
}

function lightUniforms(light: SurfaceLight): Record<string, { value: unknown }> {
  if (light.by === 'map')
    return {
      lightPage: { value: light.page },
      ways: { value: light.ways },
      reflections: { value: light.reflections },
      relieved: { value: true },
      exposure: { value: light.exposure },
      bands: { value: new Vector2() },
      lattice: { value: 0 },
      carried: { value: new Vector3(1, 1, 1) },
      bare: { value: false },
      side: { value: new Vector2() },
      ...fogUniforms(light.air),
    };
  if (light.by === 'shade') return {};
  const { at, relief, rough } = light;
  return {
    lamp: { value: at },
    relief: { value: relief },
    rough: { value: typeof rough === 'number' ? null : rough },
    roughness: { value: typeof rough === 'number' ? rough : 1 },
  };
}

/** The look of surfaces whose pictures lie on one page and let light through alike, in whatever scene they stand. */
export function surfaceMaterial(
  pages: PicturePages,
  page: number,
  { solidity, glow }: PageKind,
  { view, light, wanted = 1, ink = '#000', decal = false }: SurfaceLook,
): ShaderMaterial {
  // What lies on other surfaces fades into them.
  const holes = solidity === 'cutOut' && !decal;
  const clear = decal || (solidity === 'seeThrough' && view === 'textured');
  const standIns = pages.standIns(page);
  const material = new ShaderMaterial({
    vertexColors: light.by === 'shade',
    vertexShader: VERTEX,
    fragmentShader: FRAGMENTS[view],
    defines: {
      LAYERS: standIns.length,
      WHOLE_GAIN: WHOLE_GAIN.toFixed(1),
      [{ shade: 'BY_SHADE', map: 'BY_MAP', lamp: 'BY_LAMP' }[light.by]]: '',
      ...(light.by === 'lamp' && light.relief && { RELIEF: '' }),
      ...(light.by === 'lamp' && typeof light.rough !== 'number' && { ROUGH: '' }),
      ...(view === 'clay' && { CLAY: '' }),
      ...(holes && { HOLES: '' }),
      ...(clear && { CLEAR: '' }),
      ...(decal && { INKED: '' }),
      ...(glow && view === 'textured' && { GLOWS: '' }),
    },
    uniforms: {
      pictures: { value: pages.texture(page) },
      standIns: { value: standIns },
      size: { value: pages.size(page) },
      wanted: { value: wanted },
      ink: { value: new Color(ink) },
      clay: { value: new Color(CLAY) },
      coarse: { value: new Color(DENSITY_COLORS.coarse) },
      right: { value: new Color(DENSITY_COLORS.right) },
      fine: { value: new Color(DENSITY_COLORS.fine) },
      ...lightUniforms(light),
      ...(light.by === 'map' && reliefUniforms(pages.relief(page))),
    },
  });
  material.transparent = clear;
  material.depthWrite = !clear;
  if (decal) {
    // It lies in the very plane of what is beneath: the depth is drawn nearer, the place stays.
    material.polygonOffset = true;
    material.polygonOffsetFactor = -1;
    material.polygonOffsetUnits = -4;
  }
  if (!holes || (view !== 'textured' && view !== 'clay')) return material;
  material.alphaToCoverage = true;
  // Covered samples stay as opaque as what they cover, or the page would shine through the rims of leaves.
  material.blending = CustomBlending;
  material.blendSrc = OneFactor;
  material.blendDst = ZeroFactor;
  material.blendSrcAlpha = OneFactor;
  material.blendDstAlpha = OneFactor;
  return material;
}
