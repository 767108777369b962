import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { BrowserContext, Page } from 'puppeteer-core';
import { openBrowser, PAINTED, sleep } from './browser.ts';

const root = fileURLToPath(new URL('..', import.meta.url));

export interface World {
  /** A browser without memory of the tests before. */
  readonly browser: BrowserContext;
  /** Address of the server under test. */
  readonly base: string;
}

export type Test = readonly [name: string, run: (world: World) => Promise<void>];

const freePort = (): Promise<number> =>
  new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => done(port));
    });
  });

export interface Server {
  readonly base: string;
  readonly data: string;
  /** Stops it in good order and removes its data folder. */
  readonly stop: () => Promise<void>;
  /** Ends it at once, as a power cut would, and leaves the data. */
  readonly kill: () => Promise<void>;
}

/** The built server, with the demo maps, these not built, or none, on a fresh data folder or on one that an earlier server left. */
export async function startServer(
  data = mkdtempSync(join(tmpdir(), 'yesca-e2e-')),
  demo: '1' | 'unbuilt' | 'none' = '1',
): Promise<Server> {
  const port = await freePort();
  const server: ChildProcess = spawn(process.execPath, [join(root, 'apps/server/dist/main.js')], {
    env: { ...process.env, YESCA_DATA: data, YESCA_PORT: String(port), YESCA_DEMO: demo, NODE_OPTIONS: '' },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const base = `http://127.0.0.1:${port}`;
  for (let i = 0; i < 300; i++) {
    try {
      if ((await fetch(`${base}/api/projects`)).ok) break;
    } catch {
      await sleep(100);
    }
  }
  const end = async (signal: 'SIGTERM' | 'SIGKILL') => {
    const ended = new Promise((done) => server.once('exit', done));
    server.kill(signal);
    await ended;
  };
  return {
    base,
    data,
    stop: async () => {
      await end('SIGTERM');
      rmSync(data, { recursive: true, force: true });
    },
    kill: () => end('SIGKILL'),
  };
}

/** Where a page stood when its test failed: what has the keyboard, what lies on top, and a picture. */
async function whatIsOn(page: Page): Promise<string> {
  try {
    // A page behind another paints nothing.
    await page.bringToFront();
    const path = join(mkdtempSync(join(tmpdir(), 'yesca-failed-')), 'page.png');
    await page.screenshot({ path: path as `${string}.png` });
    const seen = await page.evaluate(() => ({
      visible: document.visibilityState,
      keyboard: document.activeElement?.outerHTML.slice(0, 160),
      dialogs: [...document.querySelectorAll('[role=dialog]')].map((e) => e.textContent?.slice(0, 80)),
      notices: [...document.querySelectorAll('[role=alert]')].map((e) => e.textContent?.slice(0, 80)),
    }));
    return `    ${page.url()}\n    ${path}\n    ${JSON.stringify(seen)}`;
  } catch (error) {
    return `    the page does not answer: ${String(error)}`;
  }
}

/** So many tests go on at a time: two cores are never idle with three. */
const LANES = Number(process.env.LANES ?? 3);

/** Runs tests in one browser and writes how many passed and failed. */
export async function runAll(tests: readonly Test[], report?: string): Promise<boolean> {
  const server = await startServer(undefined, 'unbuilt');
  const { browser, close } = await openBrowser(PAINTED);
  let passed = 0;
  let failed = 0;
  const left = [...tests];
  const one = async ([name, run]: Test): Promise<void> => {
    const began = Date.now();
    const context = await browser.createBrowserContext();
    try {
      await run({ browser: context, base: server.base });
      passed++;
      console.log(`  ✓ ${name} (${((Date.now() - began) / 1000).toFixed(1)} s)`);
    } catch (error) {
      failed++;
      console.log(`  ✗ ${name}\n${error instanceof Error ? error.stack : String(error)}`);
      for (const page of await context.pages()) console.log(await whatIsOn(page));
    }
    await context.close();
  };
  /** Tests side by side, each in a context of its own: while one waits for the page the other works. */
  const lane = async (): Promise<void> => {
    for (let next = left.shift(); next; next = left.shift()) await one(next);
  };
  await Promise.all(Array.from({ length: LANES }, lane));
  await close();
  await server.stop();
  if (report) writeFileSync(report, JSON.stringify({ numPassedTests: passed, numFailedTests: failed }));
  return failed === 0;
}
