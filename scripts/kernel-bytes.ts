import asc from 'assemblyscript/asc';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const SOURCE = fileURLToPath(new URL('../packages/core/kernel/tracer.ts', import.meta.url));

/** A module with the bytes of the ray kernel, compiled from AssemblyScript. */
export async function kernelBytes(): Promise<string> {
  let bytes: Uint8Array | undefined;
  const { error, stderr } = await asc.main(
    // Rays are many: `-O3`. It takes no memory of its own and throws nothing: no runtime.
    [
      'tracer.ts',
      '--outFile',
      'tracer.wasm',
      '--runtime',
      'stub',
      '--enable',
      'simd',
      '-O3',
      '--noAssert',
      '--importMemory',
    ],
    {
      readFile: (name) => (name === 'tracer.ts' ? readFileSync(SOURCE, 'utf8') : null),
      writeFile: (_name, contents) => {
        if (typeof contents !== 'string') bytes = contents;
      },
      listFiles: () => [],
    },
  );
  if (error || !bytes) throw new Error(`The kernel does not compile:\n${String(stderr)}`);
  return `// Made by \`npm run generate\` from kernel/tracer.ts. A test says when it is stale.\nexport default [${bytes.join(',')}];\n`;
}
