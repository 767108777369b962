/**
 * A 64-bit FNV-1a content hash as 16 hexadecimal digits (Fowler, Noll, Vo). Names content for the stage cache and undo;
 * not meant to withstand somebody who wants two contents to collide.
 */
export function contentHash(data: string | Uint8Array): string {
  const bytes = typeof data === 'string' ? utf8(data) : data;
  let lo = 0x84222325;
  let hi = 0xcbf29ce4;
  for (let i = 0; i < bytes.length; i++) {
    lo = (lo ^ bytes[i]!) >>> 0;
    // (hi:lo) · 0x100000001b3 in 32-bit halves.
    const low = lo * 0x1b3;
    const carry = Math.floor(low / 0x1_0000_0000);
    hi = (Math.imul(hi, 0x1b3) + carry + (lo << 8)) >>> 0;
    lo = low >>> 0;
  }
  return hi.toString(16).padStart(8, '0') + lo.toString(16).padStart(8, '0');
}

function utf8(text: string): Uint8Array {
  // A character of two units takes four bytes, one of a single unit three at most.
  const out = new Uint8Array(text.length * 3);
  let n = 0;
  for (let i = 0; i < text.length; i++) {
    const c = text.codePointAt(i)!;
    if (c < 0x80) out[n++] = c;
    else if (c < 0x800) {
      out[n++] = 0xc0 | (c >> 6);
      out[n++] = 0x80 | (c & 63);
    } else if (c < 0x10000) {
      out[n++] = 0xe0 | (c >> 12);
      out[n++] = 0x80 | ((c >> 6) & 63);
      out[n++] = 0x80 | (c & 63);
    } else {
      i++;
      out[n++] = 0xf0 | (c >> 18);
      out[n++] = 0x80 | ((c >> 12) & 63);
      out[n++] = 0x80 | ((c >> 6) & 63);
      out[n++] = 0x80 | (c & 63);
    }
  }
  return out.subarray(0, n);
}

/** A repeatable number in [0, 1) from whole numbers: the counter-based random source of the compile. */
export function hashRandom(...keys: number[]): number {
  let h = 0x9e3779b9;
  for (const k of keys) {
    h = Math.imul(h ^ (k | 0), 0x85ebca6b);
    h ^= h >>> 13;
    h = Math.imul(h, 0xc2b2ae35);
    h ^= h >>> 16;
  }
  return (h >>> 0) / 0x1_0000_0000;
}

/**
 * A number for whole coordinates on a lattice, to gather what is near by; others may have the same (Teschner et al., Optimized Spatial
 * Hashing for Collision Detection of Deformable Objects, 2003).
 */
export const latticeHash = (x: number, y: number, z: number): number =>
  Math.imul(x, 73856093) ^ Math.imul(y, 19349663) ^ Math.imul(z, 83492791);
