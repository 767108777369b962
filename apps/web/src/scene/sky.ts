import { Color, ShaderMaterial } from 'three';

/** Paler at the horizon, deeper overhead, whatever the faces are that show it. */
export const skyMaterial = (color: string): ShaderMaterial =>
  new ShaderMaterial({
    vertexShader: /* glsl */ `
varying vec3 vPlace;
void main() {
  vPlace = position;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`,
    fragmentShader: /* glsl */ `
uniform vec3 color;
varying vec3 vPlace;
void main() {
  vec3 d = normalize(vPlace - cameraPosition);
  vec3 sky = mix(color * 1.15, color * vec3(0.62, 0.74, 0.92), smoothstep(0.0, 0.9, d.z));
  gl_FragColor = linearToOutputTexel(vec4(sky, 1.0));
}`,
    uniforms: { color: { value: new Color(color) } },
  });
