/**
 * The container of a level file: `YESCALV8`, the length of a JSON header (uint32, little-endian), the header in ASCII, then
 * the arrays named in the header, each on an 8-byte boundary. See docs/formats/level.md.
 */
export type LevelArray = Float64Array | Float32Array | Uint32Array | Int32Array | Uint16Array | Uint8Array;

const TYPES = {
  f64: Float64Array,
  f32: Float32Array,
  u32: Uint32Array,
  i32: Int32Array,
  u16: Uint16Array,
  u8: Uint8Array,
} as const;
type TypeName = keyof typeof TYPES;

const MAGIC = 'YESCALV8';

/** A level file that cannot be read. */
export class LevelFileError extends Error {
  override name = 'LevelFileError';
  readonly code = 'level.unreadable';
}

// By its name: arrays may come from another thread's or window's kind.
const typeOf = (a: LevelArray): TypeName =>
  (Object.keys(TYPES) as TypeName[]).find((k) => a[Symbol.toStringTag] === TYPES[k].name)!;
const aligned = (n: number): number => (n + 7) & ~7;

/** Characters beyond ASCII are escaped, so that one character is one byte. */
const ascii = (value: unknown): string =>
  JSON.stringify(value).replace(/[\u007f-\uffff]/g, (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`);

export function writeContainer(meta: unknown, arrays: Readonly<Record<string, LevelArray>>): Uint8Array {
  let offset = 0;
  const entries = Object.entries(arrays).map(([name, a]) => {
    const entry = { name, type: typeOf(a), offset, length: a.length };
    offset = aligned(offset + a.byteLength);
    return entry;
  });
  const header = ascii({ meta, arrays: entries });
  const start = aligned(12 + header.length);
  const bytes = new Uint8Array(start + offset);
  for (let i = 0; i < 8; i++) bytes[i] = MAGIC.charCodeAt(i);
  new DataView(bytes.buffer).setUint32(8, header.length, true);
  for (let i = 0; i < header.length; i++) bytes[12 + i] = header.charCodeAt(i);
  entries.forEach((e) => {
    const a = arrays[e.name]!;
    bytes.set(new Uint8Array(a.buffer, a.byteOffset, a.byteLength), start + e.offset);
  });
  return bytes;
}

export function readContainer(bytes: Uint8Array): { meta: unknown; arrays: Record<string, LevelArray> } {
  if (bytes.length < 16 || [...MAGIC].some((c, i) => bytes[i] !== c.charCodeAt(0)))
    throw new LevelFileError('This is not a Yesca level file. Build the map again.');
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(8, true);
  const start = aligned(12 + length);
  if (start > bytes.length) throw new LevelFileError('The level file is cut off. Build the map again.');
  let text = '';
  for (let i = 0; i < length; i += 4096)
    text += String.fromCharCode(...bytes.subarray(12 + i, 12 + Math.min(length, i + 4096)));
  const header = JSON.parse(text) as {
    meta: unknown;
    arrays: { name: string; type: TypeName; offset: number; length: number }[];
  };
  const arrays: Record<string, LevelArray> = {};
  for (const { name, type, offset, length: n } of header.arrays) {
    const Type = TYPES[type];
    if (!Type || start + offset + n * Type.BYTES_PER_ELEMENT > bytes.length)
      throw new LevelFileError('The level file is cut off. Build the map again.');
    // A copy: the source need not lie on the array's boundary. What Node reads has a slice of its own, which is none.
    const copy = Uint8Array.prototype.slice.call(bytes, start + offset, start + offset + n * Type.BYTES_PER_ELEMENT);
    arrays[name] = new Type(copy.buffer, 0, n);
  }
  return { meta: header.meta, arrays };
}
