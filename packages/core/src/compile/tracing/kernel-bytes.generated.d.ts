/** A WebAssembly module, byte by byte. */
declare const bytes: readonly number[];
export default bytes;
