import { hashRandom } from '@yesca/core';

/** Samples a second of all sounds that ship. */
export const RATE = 16_000;

/** A sound as amplitudes from −1 to 1. */
export type Wave = Float64Array;

/** Draws a wave of so many seconds; `f` is given the time (s). */
export const wave = (seconds: number, f: (t: number) => number): Wave =>
  Float64Array.from({ length: Math.round(seconds * RATE) }, (_, k) => f(k / RATE));

/** White noise that is the same each time. */
export const noise = (seconds: number, seed: number): Wave =>
  Float64Array.from({ length: Math.round(seconds * RATE) }, (_, k) => hashRandom(seed, k) * 2 - 1);

/** What of a wave lies below a frequency (Hz): one pole, as in any textbook on digital filters. */
export function low(w: Wave, hertz: number): Wave {
  const k = 1 - Math.exp((-2 * Math.PI * hertz) / RATE);
  let y = 0;
  return w.map((x) => (y += (x - y) * k));
}

export const high = (w: Wave, hertz: number): Wave => {
  const below = low(w, hertz);
  return w.map((x, i) => x - below[i]!);
};

/** What lies round a frequency: a resonance that rings longer the narrower it is. */
export function ring(w: Wave, hertz: number, width: number): Wave {
  const r = Math.exp((-Math.PI * width) / RATE);
  const c = 2 * r * Math.cos((2 * Math.PI * hertz) / RATE);
  let a = 0;
  let b = 0;
  return w.map((x) => {
    const y = x * (1 - r) + c * a - r * r * b;
    b = a;
    a = y;
    return y;
  });
}

export const mix = (...waves: readonly Wave[]): Wave => {
  const out = new Float64Array(Math.max(...waves.map((w) => w.length)));
  for (const w of waves) w.forEach((x, i) => (out[i]! += x));
  return out;
};

export const gain = (w: Wave, by: number | ((t: number) => number)): Wave =>
  w.map((x, i) => x * (typeof by === 'number' ? by : by(i / RATE)));

/** Begins later. */
export const after = (w: Wave, seconds: number): Wave => {
  const out = new Float64Array(w.length + Math.round(seconds * RATE));
  out.set(w, Math.round(seconds * RATE));
  return out;
};

/** A strike that dies away: up in an instant, down by half in `half` seconds. */
export const struck =
  (half: number, begins = 0) =>
  (t: number): number =>
    t < begins ? 0 : Math.min(1, (t - begins) / 0.003) * 2 ** (-(t - begins) / half);

/** Fades in and out over some seconds at both ends. */
export const faded = (w: Wave, seconds: number): Wave => {
  const length = w.length / RATE;
  return gain(w, (t) => Math.min(1, t / seconds, (length - t) / seconds));
};

/** A wave that can be played over and over: its end runs over into its beginning. */
export function looped(w: Wave, seconds: number): Wave {
  const n = Math.round(seconds * RATE);
  const out = w.slice(0, w.length - n);
  for (let i = 0; i < n; i++) {
    const t = i / n;
    out[i] = out[i]! * Math.sqrt(t) + w[w.length - n + i]! * Math.sqrt(1 - t);
  }
  return out;
}

/** As loud as can be, but for a little. */
export const loud = (w: Wave, peak = 0.85): Wave => {
  const most = w.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
  return most > 0 ? gain(w, peak / most) : w;
};

/** A wave as a file: RIFF WAVE, one channel of 16 bits. */
export function wavFile(w: Wave): Uint8Array {
  const out = new DataView(new ArrayBuffer(44 + w.length * 2));
  const text = (at: number, s: string) => [...s].forEach((c, i) => out.setUint8(at + i, c.charCodeAt(0)));
  text(0, 'RIFF');
  out.setUint32(4, 36 + w.length * 2, true);
  text(8, 'WAVEfmt ');
  out.setUint32(16, 16, true);
  out.setUint16(20, 1, true);
  out.setUint16(22, 1, true);
  out.setUint32(24, RATE, true);
  out.setUint32(28, RATE * 2, true);
  out.setUint16(32, 2, true);
  out.setUint16(34, 16, true);
  text(36, 'data');
  out.setUint32(40, w.length * 2, true);
  w.forEach((x, i) => out.setInt16(44 + i * 2, Math.round(Math.max(-1, Math.min(1, x)) * 32_767), true));
  return new Uint8Array(out.buffer);
}
