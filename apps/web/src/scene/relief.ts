import { BLOCK, BLOCKS_ACROSS, NO_REFLECTION, SQUARES } from '@yesca/core';
import type { Relief } from './picture-pages.ts';

/** What comes back of a light of a strength of 1 that a surface sees along `l`, seen along `v`: times π, as light is counted in lux on white. */
export const MICROFACETS = /* glsl */ `
const float PI = 3.14159265;
// Trowbridge-Reitz, with Smith's shadowing in the form of Hammon (2017) and Schlick's Fresnel term. a: roughness squared.
float microfacets(vec3 n, vec3 l, vec3 v, float a) {
  vec3 h = normalize(l + v);
  float nl = max(dot(n, l), 0.0);
  float nv = max(dot(n, v), 1e-4);
  float nh = max(dot(n, h), 0.0);
  float d = a * a / (PI * pow(nh * nh * (a * a - 1.0) + 1.0, 2.0));
  float g = 0.5 / max(mix(2.0 * nl * nv, nl + nv, a), 1e-4);
  float f = 0.04 + 0.96 * pow(1.0 - max(dot(l, h), 0.0), 5.0);
  return PI * nl * d * g * f;
}`;

/** Which way a surface leans where its picture says so; `bump` along the picture's rows, up them, and out. */
export const LEANED = /* glsl */ `
// Which way the picture lies on the surface, out of how both change across a pixel; its rows run down.
vec3 leaned(vec3 n, vec3 px, vec3 py, vec3 bump) {
  vec2 ux = dFdx(vUv);
  vec2 uy = dFdy(vUv);
  float turned = sign(ux.x * uy.y - uy.x * ux.y);
  vec3 right = (px * uy.y - py * ux.y) * turned;
  vec3 down = (py * ux.x - px * uy.x) * turned;
  // Where the picture does not change it lies no way.
  if (min(dot(right, right), dot(down, down)) == 0.0) return n;
  return normalize(normalize(right) * bump.x - normalize(down) * bump.y + n * bump.z);
}`;

const place = ({ x, y, edge }: (typeof SQUARES)[number]): string => `vec3(${x}.0, ${y}.0, ${edge}.0)`;

/**
 * How relief and roughness change the light of a page. What comes straight from lights has a direction there, so it falls otherwise on what
 * leans towards it or away; all else comes from the whole half of space before the surface. Highlights are those of that direction, and
 * reflections what is seen from the surface's place for them.
 */
export const RELIEF = /* glsl */ `
uniform sampler2D ways;
uniform sampler2D reflections;
uniform sampler2DArray reliefs;
uniform float roughs[LAYERS];
uniform bool relieved;
uniform mat4 modelMatrix;
varying vec3 vWorld;
flat varying float vReflection;
${MICROFACETS}
${LEANED}
// As flat as this a light is taken to come: at a lower angle a lean would make it arbitrarily strong.
const float LOW = 0.15;
const float MOST = 2.2;
vec2 octahedral(vec3 d) {
  vec2 p = d.xy / (abs(d.x) + abs(d.y) + abs(d.z));
  vec2 side = vec2(p.x < 0.0 ? -1.0 : 1.0, p.y < 0.0 ? -1.0 : 1.0);
  return (d.z < 0.0 ? (1.0 - abs(p.yx)) * side : p) * 0.5 + 0.5;
}
vec3 square(vec2 corner, vec2 at, vec3 where) {
  return texture(reflections, (corner + where.xy + at * where.z) / vec2(textureSize(reflections, 0))).rgb;
}
// What is seen along a direction by what is so rough.
vec3 reflected(vec3 along, float rough) {
  vec3 squares[${SQUARES.length}] = vec3[](${SQUARES.map(place).join(', ')});
  vec2 corner = vec2(mod(vReflection, ${BLOCKS_ACROSS}.0) * ${BLOCK.width}.0, floor(vReflection / ${BLOCKS_ACROSS}.0) * ${BLOCK.height}.0);
  vec2 at = octahedral(along);
  float level = clamp(rough, 0.0, 1.0) * ${SQUARES.length - 1}.0;
  int low = min(int(level), ${SQUARES.length - 2});
  return mix(square(corner, at, squares[low]), square(corner, at, squares[low + 1]), level - float(low));
}
// What the light of the page is to be multiplied by; shine is what comes back besides.
float inRelief(vec3 light, out vec3 shine) {
  vec3 px = dFdx(vWorld);
  vec3 py = dFdy(vWorld);
  vec3 flatly = normalize(cross(px, py));
  vec3 v = normalize(cameraPosition - vWorld);
  if (dot(flatly, v) < 0.0) flatly = -flatly;
  float rough = roughs[int(vLayer + 0.5)];
  vec3 n = flatly;
  if (rough < 0.0) {
    vec3 found = texture(reliefs, vec3(vUv, vLayer)).rgb;
    rough = found.b;
    vec2 bump = found.rg * 2.0 - 1.0;
    n = leaned(flatly, px, py, vec3(bump, sqrt(max(0.05, 1.0 - dot(bump, bump)))));
  }
  vec3 way = mat3(modelMatrix) * ((texture(ways, vLight).xyz * 255.0 - 128.0) / 127.0);
  float straight = min(length(way), 1.0);
  vec3 l = straight > 0.0 ? way / max(length(way), 1e-4) : flatly;
  float over = max(dot(flatly, l), LOW);
  float a = max(rough * rough, 0.002);
  float left = 1.0;
  // Pictures of what is rough hold its sheen already.
  float polish = 1.0 - rough * rough;
  shine = light * polish * (straight / over) * microfacets(n, l, v, a);
  if (vReflection < ${NO_REFLECTION}.0) {
    float nv = max(dot(n, v), 0.0);
    // The share of light from all sides that microfacets send on: an analytic fit (Karis 2014, after Lazarov 2013).
    vec4 r = rough * vec4(-1.0, -0.0275, -0.572, 0.022) + vec4(1.0, 0.0425, 1.04, -0.04);
    float fit = min(r.x * r.x, exp2(-9.28 * nv)) * r.x + r.y;
    float share = polish * (0.04 * (r.z - 1.04 * fit) + r.w + 1.04 * fit);
    shine += reflected(reflect(-v, n), rough) * exposure * share;
    left = 1.0 - share;
  }
  return left * min(MOST, straight * max(dot(n, l), 0.0) / over + (1.0 - straight) * (0.5 + 0.5 * dot(n, flatly)));
}`;

export const reliefUniforms = ({ texture, roughness }: Relief): Record<string, { value: unknown }> => ({
  reliefs: { value: texture },
  roughs: { value: roughness },
});
