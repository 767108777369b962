import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { openPage } from './browser.ts';
import type { Test } from './harness.ts';
import { replay } from './replay-run.ts';

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** What is played, as one script for a page: bundled as the web application is, with its own tool. */
async function script(): Promise<string> {
  const vite = createRequire(at('../apps/web/package.json')).resolve('vite');
  const { build } = (await import(pathToFileURL(vite).href)) as { build: (how: object) => Promise<unknown> };
  const built = await build({
    configFile: false,
    logLevel: 'error',
    build: {
      write: false,
      target: 'es2022',
      lib: { entry: at('replay-run.ts'), formats: ['iife'], name: 'played' },
    },
  });
  const [bundle] = [built].flat() as { readonly output: readonly { readonly code: string }[] }[];
  return bundle!.output[0]!.code;
}

const SECONDS = 20;

export const replays: Test = [
  'the Tidemill played with the same inputs gives the same states to the last bit in Node and in the browser',
  async ({ browser, base }) => {
    const map = readFileSync(at('../packages/stock/assets/maps/halyard-tidemill.yesca.json'), 'utf8');
    const code = await script();
    const { page } = await openPage(browser, base);
    for (const seed of [1, 77, 4242]) {
      const here = replay(map, SECONDS, seed);
      const there = await page.evaluate(
        (code, map, seconds, seed) => {
          const { replay } = new Function(`${code}; return played`)() as { replay: (...args: unknown[]) => string[] };
          return replay(map, seconds, seed);
        },
        code,
        map,
        SECONDS,
        seed,
      );
      assert.equal(there.length, SECONDS);
      here.forEach((state, k) => assert.equal(there[k], state, `after ${k + 1} s, seed ${seed}`));
    }
    await page.close();
  },
];
