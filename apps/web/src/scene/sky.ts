import { ShaderMaterial, Vector3 } from 'three';
import { linearColor, SETTINGS, skyLook, type MapSettings } from '@yesca/core';

type Uniforms = Record<string, { value: unknown }>;

/** What three's shaders are given for the fog of a map: its colour, and how much a centimetre takes; 0 for none. */
export const fogUniforms = ({
  fogColor = SETTINGS.fogColor.initial,
  fogReach = 0,
}: Partial<MapSettings>): Uniforms => ({
  fogColor: { value: new Vector3(...linearColor(fogColor)) },
  // A twentieth is left at the end of sight.
  fogDensity: { value: fogReach > 0 ? Math.log(20) / fogReach : 0 },
});

/** What the sky's shader is given of a map. */
const skyUniforms = (settings: MapSettings): Uniforms => {
  const { zenith, horizon, clouds } = skyLook(settings);
  return {
    zenith: { value: new Vector3(...zenith) },
    horizon: { value: new Vector3(...horizon) },
    clouds: { value: clouds },
    ...fogUniforms(settings),
  };
};

/** Of the horizon's colour below, of the zenith's overhead, clouds between; whatever the faces are that show it. */
export const skyMaterial = (settings: MapSettings): ShaderMaterial =>
  new ShaderMaterial({
    vertexShader: /* glsl */ `
varying vec3 vPlace;
void main() {
  vPlace = (modelMatrix * vec4(position, 1.0)).xyz;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`,
    fragmentShader: /* glsl */ `
uniform vec3 zenith;
uniform vec3 horizon;
uniform float clouds;
uniform vec3 fogColor;
uniform float fogDensity;
varying vec3 vPlace;
float grain(vec2 p) {
  return fract(sin(dot(p, vec2(127.1, 311.7))) * 43758.5453);
}
float ripple(vec2 p) {
  vec2 i = floor(p);
  vec2 f = p - i;
  f = f * f * (3.0 - 2.0 * f);
  return mix(
    mix(grain(i), grain(i + vec2(1.0, 0.0)), f.x),
    mix(grain(i + vec2(0.0, 1.0)), grain(i + vec2(1.0, 1.0)), f.x),
    f.y
  );
}
// Ripples of five sizes, each half as large and half as strong as the last one, each turned.
float heaps(vec2 p) {
  float sum = 0.0;
  float strength = 0.5;
  for (int k = 0; k < 5; k++) {
    sum += strength * ripple(p);
    p = mat2(1.6, 1.2, -1.2, 1.6) * p;
    strength *= 0.5;
  }
  return sum / 0.97;
}
void main() {
  vec3 d = normalize(vPlace - cameraPosition);
  vec3 sky = mix(horizon, zenith, smoothstep(0.0, 0.9, d.z));
  if (clouds > 0.0 && d.z > 0.0) {
    // A layer overhead, which runs together towards the horizon.
    vec2 at = d.xy / (d.z + 0.12) * 1.3;
    float heap = heaps(at);
    float covered = smoothstep(0.78 - 0.62 * clouds, 1.0 - 0.62 * clouds, heap) * smoothstep(0.0, 0.12, d.z);
    float grey = dot(mix(horizon, zenith, 0.4), vec3(0.2126, 0.7152, 0.0722));
    // Thick ones are darker below.
    vec3 cloud = mix(horizon, vec3(grey), 0.6) * mix(1.25, 0.8, smoothstep(0.4, 0.95, heap) * clouds);
    sky = mix(sky, min(cloud, vec3(1.0)), covered);
  }
  // Fog lies on the ground: it hides the horizon and thins overhead.
  if (fogDensity > 0.0) sky = mix(fogColor, sky, smoothstep(0.0, 0.5, d.z));
  gl_FragColor = linearToOutputTexel(vec4(sky, 1.0));
}`,
    uniforms: skyUniforms(settings),
  });

/** Lets materials that show the sky, or are seen through the fog, follow a map's settings. */
export function followSky({ uniforms }: Pick<ShaderMaterial, 'uniforms'>, settings: MapSettings): void {
  for (const [name, { value }] of Object.entries(skyUniforms(settings)))
    if (uniforms[name]) uniforms[name].value = value;
}
