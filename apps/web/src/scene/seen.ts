/** GLSL: how light that a surface gives back is seen in Lit and in Play. Uniforms are those of `fogUniforms`; `vSeen` is the place from the eye. */
export const SEEN = /* glsl */ `
uniform vec3 fogColor;
uniform float fogDensity;
varying vec3 vSeen;
vec3 asSeen(vec3 given) {
  // Bright light bends over instead of clipping.
  vec3 shown = 1.0 - exp(-given * 1.35);
  // What is lost on the way fades as an exponential (Koschmieder, Theorie der horizontalen Sichtweite, 1924).
  return mix(fogColor, shown, exp(-fogDensity * length(vSeen)));
}`;
