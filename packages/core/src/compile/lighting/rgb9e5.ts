/**
 * Shared-exponent colours as in the OpenGL extension EXT_texture_shared_exponent: three nine-bit mantissas and a five-bit
 * exponent in 32 bits; relative error at most 1/512 of the brightest channel.
 */

const MAX = (511 / 512) * 2 ** 16;

/** What one step of a mantissa counts, by exponent. */
const UNITS = Float64Array.from({ length: 32 }, (_, e) => 2 ** (e - 24));

const bits = new DataView(new ArrayBuffer(4));

export function packRgb9e5(r: number, g: number, b: number): number {
  const cr = clamp(r);
  const cg = clamp(g);
  const cb = clamp(b);
  const top = Math.max(cr, cg, cb);
  if (top < 2 ** -24) return 0;
  // The exponent of a float is the logarithm, rounded down.
  bits.setFloat32(0, top);
  let exponent = Math.max(-16, (bits.getUint32(0) >>> 23) - 127) + 16;
  if (Math.floor(top / UNITS[exponent]! + 0.5) >= 512) exponent++;
  const unit = UNITS[exponent]!;
  const m = (c: number) => Math.floor(c / unit + 0.5);
  return ((exponent << 27) | (m(cb) << 18) | (m(cg) << 9) | m(cr)) >>> 0;
}

export function unpackRgb9e5(word: number): [number, number, number] {
  const unit = UNITS[word >>> 27]!;
  return [(word & 511) * unit, ((word >>> 9) & 511) * unit, ((word >>> 18) & 511) * unit];
}

/** Adds a colour to three floats of a list, each channel times a factor. */
export function unpackInto(list: Float32Array, at: number, word: number, r: number, g: number, b: number): void {
  const unit = UNITS[word >>> 27]!;
  list[at]! += (word & 511) * unit * r;
  list[at + 1]! += ((word >>> 9) & 511) * unit * g;
  list[at + 2]! += ((word >>> 18) & 511) * unit * b;
}

const clamp = (c: number): number => (c > 0 ? Math.min(c, MAX) : 0);
