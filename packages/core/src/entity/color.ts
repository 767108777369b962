/** A colour as `#rrggbb` in sRGB to linear red, green, blue from 0 to 1 (IEC 61966-2-1); black when unreadable. */
export function linearColor(hex: unknown): [number, number, number] {
  const m = typeof hex === 'string' ? /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(hex) : null;
  if (!m) return [0, 0, 0];
  return [1, 2, 3].map((i) => toLinear(parseInt(m[i]!, 16) / 255)) as [number, number, number];
}

export const toLinear = (c: number): number => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);
export const toSrgb = (c: number): number => (c <= 0.0031308 ? c * 12.92 : 1.055 * c ** (1 / 2.4) - 0.055);

/** A light's colour scaled so that its luminance (Rec. 709 weights) is one: strength alone then says how bright it is. */
export function lightTint(hex: unknown): [number, number, number] {
  const [r, g, b] = linearColor(hex);
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  return y > 1e-6 ? [r / y, g / y, b / y] : [1, 1, 1];
}
