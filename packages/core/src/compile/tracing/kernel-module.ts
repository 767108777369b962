import bytes from './kernel-bytes.generated.js';

/** As much of the standard's interface as is needed here; core is compiled without that of pages. */
declare const WebAssembly: {
  readonly Module: new (bytes: Uint8Array) => object;
  readonly Instance: new (module: object, imports: object) => { readonly exports: unknown };
  readonly Memory: new (size: { initial: number }) => { readonly buffer: ArrayBuffer };
};

const PAGE = 65_536;

/** Compiled once in a thread; null where that cannot be done. */
const compiled: { module?: object | null } = {};

function module(): object | null {
  if (compiled.module === undefined)
    try {
      compiled.module = new WebAssembly.Module(Uint8Array.from(bytes));
    } catch {
      compiled.module = null;
    }
  return compiled.module;
}

/** Whether the WebAssembly kernel can be used here. */
export const kernelStarts = (): boolean => module() !== null;

/** The kernel (`packages/core/kernel`) with a memory of its own of at least so many bytes; null where it cannot start. */
export function startKernel<Exports>(size: number): { readonly kernel: Exports; readonly memory: ArrayBuffer } | null {
  const code = module();
  if (!code) return null;
  const memory = new WebAssembly.Memory({ initial: Math.ceil(size / PAGE) });
  const { exports } = new WebAssembly.Instance(code, { env: { memory } });
  return { kernel: exports as Exports, memory: memory.buffer };
}
