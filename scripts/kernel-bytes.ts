import asc from 'assemblyscript/asc';
import { existsSync, readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const FOLDER = fileURLToPath(new URL('../packages/core/kernel', import.meta.url));

/** A module with the bytes of the kernel, compiled from AssemblyScript. */
export async function kernelBytes(): Promise<string> {
  let bytes: Uint8Array | undefined;
  const { error, stderr } = await asc.main(
    // Rays are many: `-O3`. It takes no memory of its own and throws nothing: no runtime.
    [
      'index.ts',
      '--outFile',
      'kernel.wasm',
      '--runtime',
      'stub',
      '--enable',
      'simd',
      '-O3',
      '--noAssert',
      '--importMemory',
    ],
    {
      readFile: (name) => {
        const path = join(FOLDER, basename(name));
        return existsSync(path) ? readFileSync(path, 'utf8') : null;
      },
      writeFile: (_name, contents) => {
        if (typeof contents !== 'string') bytes = contents;
      },
      listFiles: () => [],
    },
  );
  if (error || !bytes) throw new Error(`The kernel does not compile:\n${String(stderr)}`);
  return `// Made by \`npm run generate\` from what lies in kernel/. A test says when it is stale.\nexport default [${bytes.join(',')}];\n`;
}
