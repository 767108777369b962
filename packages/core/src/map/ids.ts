import { customAlphabet } from 'nanoid';
import { contentHash } from '../math/index.ts';

const ALPHABET = '23456789abcdefghijkmnpqrstuvwxyz';
const LENGTH = 12;

const randomId = customAlphabet(ALPHABET, LENGTH);

let source: () => string = randomId;

/** A new id: short enough for one line a brush, long enough never to meet another (60 bits). Random, unless within {@link withIds}. */
export const newId = (): string => source();

/** Runs something to whose new ids `next` gives. */
export function withIds<T>(next: () => string, run: () => T): T {
  const before = source;
  source = next;
  try {
    return run();
  } finally {
    source = before;
  }
}

/** Ids that follow from a seed, one after the other and always the same. */
export function seededIds(seed: string): () => string {
  let count = 0;
  return () => {
    const hash = BigInt(`0x${contentHash(`${seed} ${count++}`)}`);
    return Array.from({ length: LENGTH }, (_, i) => ALPHABET[Number((hash >> BigInt(5 * i)) & 31n)]).join('');
  };
}
