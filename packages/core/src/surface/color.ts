/** A colour as `#rrggbb` in sRGB to linear red, green, blue from 0 to 1 (IEC 61966-2-1); black when unreadable. */
export function linearColor(hex: unknown): [number, number, number] {
  const m = typeof hex === 'string' ? /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(hex) : null;
  if (!m) return [0, 0, 0];
  return [1, 2, 3].map((i) => toLinear(parseInt(m[i]!, 16) / 255)) as [number, number, number];
}

export const toLinear = (c: number): number => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);
export const toSrgb = (c: number): number => (c <= 0.0031308 ? c * 12.92 : 1.055 * c ** (1 / 2.4) - 0.055);

/** What red, green and blue count to the eye (ITU-R BT.709). */
export const LUMINANCE = [0.2126, 0.7152, 0.0722] as const;

/** As low and high as the colours of heat are known here, K. */
export const HEAT = { min: 1700, max: 20_000 } as const;

/**
 * The colour of a body that glows for its heat, as {@link lightTint} gives colours: the Planckian locus by the cubics of Kim et al. (Design of
 * Advanced Color Temperature Control System for HDTV Applications, 2002), in linear red, green and blue of sRGB; what it lacks of blue is none.
 */
export function heatTint(kelvin: number): [number, number, number] {
  const t = Math.max(HEAT.min, Math.min(HEAT.max, kelvin));
  const x =
    t < 4000
      ? ((-0.2661239e9 / t - 0.2343589e6) / t + 0.8776956e3) / t + 0.17991
      : ((-3.0258469e9 / t + 2.1070379e6) / t + 0.2226347e3) / t + 0.24039;
  const y =
    t < 2222
      ? ((-1.1063814 * x - 1.3481102) * x + 2.18555832) * x - 0.20219683
      : t < 4000
        ? ((-0.9549476 * x - 1.37418593) * x + 2.09137015) * x - 0.16748867
        : ((3.081758 * x - 5.8733867) * x + 3.75112997) * x - 0.37001483;
  const [X, Z] = [x / y, (1 - x - y) / y];
  const rgb = [
    3.2404542 * X - 1.5371385 - 0.4985314 * Z,
    -0.969266 * X + 1.8760108 + 0.041556 * Z,
    0.0556434 * X - 0.2040259 + 1.0572252 * Z,
  ].map((c) => Math.max(0, c)) as [number, number, number];
  const luminance = LUMINANCE[0] * rgb[0] + LUMINANCE[1] * rgb[1] + LUMINANCE[2] * rgb[2];
  return rgb.map((c) => c / luminance) as [number, number, number];
}

/** A light's colour scaled so that its luminance (Rec. 709 weights) is one: strength alone then says how bright it is. */
export const lightTint = (hex: unknown): [number, number, number] => asLight(linearColor(hex));

/** The same of a colour in linear light. */
export function asLight([r, g, b]: readonly [number, number, number]): [number, number, number] {
  const y = LUMINANCE[0] * r + LUMINANCE[1] * g + LUMINANCE[2] * b;
  return y > 1e-6 ? [r / y, g / y, b / y] : [1, 1, 1];
}
