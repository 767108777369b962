import { Color, DoubleSide, FrontSide, ShaderMaterial, Vector3, type DataTexture } from 'three';
import { HARMONICS, type Box, type MapSettings, type PropChart } from '@yesca/core';
import { WHITE_LUX } from './level-mesh.ts';
import { FALLS_ON_LAYOUT } from './own-light.ts';
import type { PropPiece } from './prop-models.ts';
import { LEANED, MICROFACETS } from './relief.ts';
import { harmonicLight, SEEN } from './seen.ts';
import { fogUniforms } from './sky.ts';

/** The colour of what has no picture on it, linear. */
const CLAY = new Color('#d8cfbd');

/** How a picture turns to the eye, for the shader. */
const TURNS = { crossed: 0, upright: 1, always: 2 } as const;

/** So many vertices lie beside each other in a picture of their light. */
export const WIDE = 1024;

/** Where the light of props that are drawn together is found. */
export interface Found {
  /** At how many places from every side, and on which box they are. */
  readonly corners: number;
  readonly box: Box;
  readonly light: DataTexture;
  /** What falls on their vertices, or on their luxels; null for what is not lit there. */
  readonly onVertices: DataTexture | null;
  readonly onChart: DataTexture | null;
  readonly chart: PropChart | null;
}

/** What a piece of a model is drawn by, wherever those of its sort stand. */
export const propMaterial = (
  piece: PropPiece,
  /** The first of its vertices among those of its model, and how many those are. */
  [first, vertices]: readonly [number, number],
  { corners, box, light, onVertices, onChart, chart }: Found,
  air: Partial<MapSettings>,
): ShaderMaterial =>
  new ShaderMaterial({
    vertexShader: /* glsl */ `
uniform sampler2D coefficients;
uniform vec3 low;
uniform vec3 high;
#ifdef VERTICES
uniform sampler2D onVertices;
#endif
#ifdef CHART
attribute vec2 chart;
varying vec2 vChart;
flat varying ivec2 vFirst;
#endif
varying vec2 vPlace;
varying vec3 vSeen;
#ifdef RELIEF
varying vec3 vLights[${HARMONICS}];
varying vec3 vNormal;
varying vec3 vWorld;
#ifdef VERTICES
varying vec4 vFalls;
#endif
#else
varying vec3 vLight;
#endif
vec3 of(int k) {
  return texelFetch(coefficients, ivec2(k, gl_InstanceID), 0).rgb;
}
vec3 lightFrom(int at, vec3 n) {
  return max(${harmonicLight((k) => `of(at + ${k})`)}, vec3(0.0));
}
void main() {
  vec3 n = normalize(mat3(instanceMatrix) * normal);
  vec4 place = instanceMatrix * vec4(position, 1.0);
  #ifdef PICTURE
  // As much from all sides: it does not change as one goes round it.
  vLight = vec3(3.14159265 * 0.2820948 * of(0));
  #ifdef TURNS
  vec3 foot = instanceMatrix[3].xyz;
  vec3 upright = TURNS == 2 ? vec3(viewMatrix[0][1], viewMatrix[1][1], viewMatrix[2][1]) : instanceMatrix[2].xyz;
  vec3 right = TURNS == 2 ? vec3(viewMatrix[0][0], viewMatrix[1][0], viewMatrix[2][0]) : cross(upright, cameraPosition - foot);
  // From right above it has no side.
  right = length(right) > 1e-6 ? normalize(right) : instanceMatrix[0].xyz;
  place = vec4(foot + right * position.x + upright * position.z, 1.0);
  #endif
  #else
  #ifdef RELIEF
  for (int h = 0; h < ${HARMONICS}; h++) vLights[h] = vec3(0.0);
  vNormal = n;
  vWorld = place.xyz;
  #else
  vLight = vec3(0.0);
  #endif
  // Between the corners of its box, as far along each of its sides; or from its middle.
  vec3 part = clamp((position - low) / (high - low), 0.0, 1.0);
  for (int k = 0; k < CORNERS; k++) {
    vec3 side = vec3(k & 1, (k >> 1) & 1, (k >> 2) & 1);
    vec3 along = mix(1.0 - part, part, side);
    float weight = CORNERS == 1 ? 1.0 : along.x * along.y * along.z;
    #ifdef RELIEF
    for (int h = 0; h < ${HARMONICS}; h++) vLights[h] += weight * of(k * ${HARMONICS} + h);
    #else
    vLight += weight * lightFrom(k * ${HARMONICS}, n);
    #endif
  }
  #ifdef VERTICES
  int at = gl_InstanceID * VERTICES + FIRST + gl_VertexID;
  // What is not known is below zero.
  vec4 falls = texelFetch(onVertices, ivec2(at % ${WIDE}, at / ${WIDE}), 0);
  #ifdef RELIEF
  vFalls = vec4(max(falls.rgb, vec3(0.0)), falls.r < 0.0 ? 0.0 : 1.0);
  #else
  if (falls.r >= 0.0) vLight = falls.rgb;
  #endif
  #endif
  #ifdef CHART
  vChart = chart;
  vFirst = CHART * ivec2(gl_InstanceID % ACROSS, gl_InstanceID / ACROSS);
  #endif
  #endif
  vPlace = uv;
  vec4 seen = modelViewMatrix * place;
  vSeen = seen.xyz;
  gl_Position = projectionMatrix * seen;
}`,
    fragmentShader: /* glsl */ `
uniform sampler2D picture;
uniform bool pictured;
uniform vec3 color;
uniform vec3 clay;
uniform vec3 glow;
uniform float cut;
uniform bool plain;
varying vec2 vPlace;
${SEEN}
#ifdef CHART
uniform sampler2D onChart;
varying vec2 vChart;
flat varying ivec2 vFirst;
${FALLS_ON_LAYOUT}
#endif
#ifdef RELIEF
uniform sampler2D bumps;
uniform float bumped;
uniform sampler2D roughs;
uniform vec2 rough;
varying vec3 vLights[${HARMONICS}];
varying vec3 vNormal;
varying vec3 vWorld;
#ifdef VERTICES
varying vec4 vFalls;
#endif
#define vUv vPlace
${MICROFACETS}
${LEANED}
// The light from all sides on what leans as its picture says, and what shines besides of where most of it comes from.
vec3 lit(out vec3 shine) {
  vec3 v = normalize(cameraPosition - vWorld);
  vec3 n = normalize(vNormal);
  #if defined(VERTICES) || defined(CHART)
  vec3 even = max(${harmonicLight((k) => `vLights[${k}]`)}, vec3(0.01));
  #endif
  if (dot(n, v) < 0.0 && !gl_FrontFacing) n = -n;
  if (bumped > 0.0) {
    vec2 bump = (texture2D(bumps, vPlace).rg * 2.0 - 1.0) * bumped;
    n = leaned(n, dFdx(vWorld), dFdy(vWorld), vec3(bump, sqrt(max(0.05, 1.0 - dot(bump, bump)))));
  }
  float r = clamp(rough.x * (rough.y > 0.0 ? texture2D(roughs, vPlace).g : 1.0), 0.04, 1.0);
  // Of light that comes straight the first order has its strength along its way.
  vec3 east = vLights[3], north = vLights[1], up = vLights[2];
  vec3 way = vec3(dot(east, vec3(1.0)), dot(north, vec3(1.0)), dot(up, vec3(1.0)));
  vec3 l = length(way) > 1e-4 ? normalize(way) : n;
  vec3 straight = max((east * l.x + north * l.y + up * l.z) / 0.4886025, vec3(0.0));
  shine = (1.0 - r * r) * straight * microfacets(n, l, v, max(r * r, 0.002));
  vec3 light = max(${harmonicLight((k) => `vLights[${k}]`)}, vec3(0.0));
  #ifdef CHART
  vec3 falls = fallsOnLayout(onChart, vChart, vFirst, CHART);
  vec4 own = vec4(max(falls, vec3(0.0)), falls.r < 0.0 ? 0.0 : 1.0);
  #elif defined(VERTICES)
  vec4 own = vFalls;
  #endif
  #if defined(VERTICES) || defined(CHART)
  // What falls on it itself is more or less than what comes from every side: as much more or less is seen of all.
  vec3 part = mix(vec3(1.0), min(own.rgb / even, vec3(4.0)), own.a);
  shine *= part;
  light *= part;
  #endif
  return light;
}
#else
varying vec3 vLight;
vec3 lit(out vec3 shine) {
  shine = vec3(0.0);
  #ifdef CHART
  vec3 falls = fallsOnLayout(onChart, vChart, vFirst, CHART);
  if (falls.r >= 0.0) return falls;
  #endif
  return vLight;
}
#endif
void main() {
  vec4 texel = pictured ? texture2D(picture, vPlace) : vec4(1.0);
  if (texel.a < cut) discard;
  vec3 albedo = plain ? clay : texel.rgb * color;
  vec3 shine;
  vec3 light = lit(shine);
  vec3 shown = asSeen((albedo * light + shine) / WHITE_LUX + (plain ? vec3(0.0) : texel.rgb * glow * 3.0));
  gl_FragColor = linearToOutputTexel(vec4(shown, SEE_THROUGH ? texel.a : 1.0));
}`,
    defines: {
      WHITE_LUX: WHITE_LUX.toFixed(1),
      CORNERS: corners,
      SEE_THROUGH: String(piece.seeThrough === true),
      ...(onVertices && { VERTICES: vertices, FIRST: first }),
      ...(onChart &&
        chart && { CHART: `ivec2(${chart.width}, ${chart.height})`, ACROSS: onChart.image.width / chart.width }),
      ...(piece.relief && { RELIEF: '' }),
      ...(piece.stands && { PICTURE: '' }),
      ...(TURNS[piece.stands ?? 'crossed'] && { TURNS: TURNS[piece.stands!] }),
    },
    transparent: piece.seeThrough === true,
    depthWrite: piece.seeThrough !== true,
    side: piece.doubleSided ? DoubleSide : FrontSide,
    uniforms: {
      coefficients: { value: light },
      ...(onVertices && { onVertices: { value: onVertices } }),
      ...(onChart && { onChart: { value: onChart } }),
      low: { value: new Vector3(...box.min) },
      high: { value: new Vector3(...box.max) },
      picture: { value: piece.picture },
      pictured: { value: piece.picture !== null },
      color: { value: piece.color },
      clay: { value: CLAY },
      glow: { value: piece.glow },
      cut: { value: piece.cut },
      plain: { value: false },
      bumps: { value: piece.relief?.normal ?? null },
      bumped: { value: piece.relief?.normal ? piece.relief.strength : 0 },
      roughs: { value: piece.relief?.roughness ?? null },
      rough: { value: [piece.relief?.rough ?? 1, piece.relief?.roughness ? 1 : 0] },
      ...fogUniforms(air),
    },
  });
