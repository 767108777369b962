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

/**
 * GLSL: the light that falls on a surface with the normal `n` from every side, of nine coefficients (Ramamoorthi & Hanrahan, An Efficient
 * Representation for Irradiance Environment Maps, 2001). `of` gives the code of each.
 */
export const harmonicLight = (of: (k: number) => string): string => /* glsl */ `3.14159265 * 0.2820948 * ${of(0)}
    + 3.14159265 * 2.0 / 3.0 * 0.4886025 * (n.y * ${of(1)} + n.z * ${of(2)} + n.x * ${of(3)})
    + 3.14159265 / 4.0 * (1.0925484 * (n.x * n.y * ${of(4)} + n.y * n.z * ${of(5)} + n.x * n.z * ${of(7)})
      + 0.3153916 * (3.0 * n.z * n.z - 1.0) * ${of(6)}
      + 0.5462742 * (n.x * n.x - n.y * n.y) * ${of(8)})`;
