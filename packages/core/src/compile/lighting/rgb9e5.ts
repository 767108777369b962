/**
 * Shared-exponent colours as in the OpenGL extension EXT_texture_shared_exponent: three nine-bit mantissas and a five-bit
 * exponent in 32 bits; relative error at most 1/512 of the brightest channel.
 */

const MAX = (511 / 512) * 2 ** 16;

export function packRgb9e5(r: number, g: number, b: number): number {
  const cr = clamp(r);
  const cg = clamp(g);
  const cb = clamp(b);
  const top = Math.max(cr, cg, cb);
  if (top < 2 ** -24) return 0;
  let exponent = Math.max(-16, Math.floor(Math.log2(top))) + 16;
  if (Math.floor(top / 2 ** (exponent - 24) + 0.5) === 512) exponent++;
  const unit = 2 ** (exponent - 24);
  const m = (c: number) => Math.floor(c / unit + 0.5);
  return ((exponent << 27) | (m(cb) << 18) | (m(cg) << 9) | m(cr)) >>> 0;
}

export function unpackRgb9e5(word: number): [number, number, number] {
  const unit = 2 ** ((word >>> 27) - 24);
  return [(word & 511) * unit, ((word >>> 9) & 511) * unit, ((word >>> 18) & 511) * unit];
}

const clamp = (c: number): number => (c > 0 ? Math.min(c, MAX) : 0);
