/** A fixed-size set of small whole numbers, 32 to a word. */
export type Bits = Uint32Array;

export const makeBits = (size: number): Bits => new Uint32Array((size + 31) >> 5);
export const hasBit = (bits: Bits, i: number): boolean => (bits[i >> 5]! & (1 << (i & 31))) !== 0;
export const setBit = (bits: Bits, i: number): void => {
  bits[i >> 5]! |= 1 << (i & 31);
};
/** How many bits of a word are set. */
export function countOnes(word: number): number {
  let n = 0;
  for (let w = word; w; w &= w - 1) n++;
  return n;
}
export function countBits(bits: Bits): number {
  let n = 0;
  for (const w of bits) n += countOnes(w);
  return n;
}
/** The numbers in a set, ascending. */
export function onesOf(bits: Bits): number[] {
  const out: number[] = [];
  bits.forEach((word, i) => {
    for (let w = word; w; w &= w - 1) out.push(i * 32 + 31 - Math.clz32(w & -w));
  });
  return out;
}
