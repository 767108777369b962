import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import puppeteer, { type Browser, type BrowserContext, type ElementHandle, type Page } from 'puppeteer-core';

const FLAGS = [
  '--headless=new',
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  // Drawn by the processor a frame may take long: that is no hang.
  '--disable-gpu-watchdog',
];
/** Software rendering through EGL is two to four times faster where its libraries are installed. */
const FAST = ['--use-angle=gl-egl', '--ignore-gpu-blocklist'];

const executable = (): string => {
  const found = [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].find(
    (p) => p && existsSync(p),
  );
  if (!found) throw new Error('Chromium is missing. Install Debian’s package chromium, or set CHROMIUM to its path.');
  return found;
};

/**
 * Pages painted by the processor itself, and scenes without smoothed edges: where there is no graphics card either way, that takes a third of
 * the time.
 */
export const PAINTED = [
  '--disable-gpu-compositing',
  '--disable-gpu-rasterization',
  '--disable-accelerated-2d-canvas',
  '--webgl-antialiasing-mode=none',
];

/** Opens headless Chromium; falls back to plain software rendering when the fast one gives no WebGL. */
export async function openBrowser(
  more: readonly string[] = [],
): Promise<{ browser: Browser; close: () => Promise<void> }> {
  for (const extra of [FAST, []]) {
    const profile = mkdtempSync(join(tmpdir(), 'yesca-browser-'));
    const browser = await puppeteer.launch({
      executablePath: executable(),
      args: [...FLAGS, ...more, ...extra, `--user-data-dir=${profile}`],
      defaultViewport: { width: 1280, height: 800 },
    });
    const page = await browser.newPage();
    const works = await page.evaluate(() => document.createElement('canvas').getContext('webgl2') !== null);
    await page.close();
    if (works || extra.length === 0)
      return {
        browser,
        close: async () => {
          await browser.close();
          rmSync(profile, { recursive: true, force: true });
        },
      };
    await browser.close();
    rmSync(profile, { recursive: true, force: true });
  }
  throw new Error('unreachable');
}

/** A page that reports its own errors. */
export async function openPage(
  browser: Pick<BrowserContext, 'newPage'>,
  url: string,
): Promise<{ page: Page; errors: string[] }> {
  const page = await browser.newPage();
  const errors: string[] = [];
  page.on('pageerror', (e) => errors.push(String(e)));
  page.on('console', (m) => {
    if (m.type() === 'error') errors.push(m.text());
  });
  // The loader that runs these tests marks functions with a helper that pages do not have.
  await page.evaluateOnNewDocument('globalThis.__name = (f) => f');
  await page.goto(url, { waitUntil: 'networkidle0' });
  return { page, errors };
}

export const sleep = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** Waits until what was asked of the page has been drawn: two frames, what they left to do, and panels that follow when there is time. */
export const settled = (page: Page): Promise<void> =>
  page.evaluate(async () => {
    const frame = () => new Promise((done) => requestAnimationFrame(done));
    await frame();
    await frame();
    await new Promise((done) => setTimeout(done));
    for (let k = 0; k < 300 && document.querySelector('[data-behind]'); k++) await frame();
  });

/** Clicks what has come to rest and can be pressed: a notice that still slides in, or waits for the server, would be missed. */
export async function clickAtRest(element: ElementHandle<Element>): Promise<void> {
  await element.evaluate(async (e) => {
    let was = '';
    for (let k = 0; k < 300; k++) {
      const { x, y, width, height } = e.getBoundingClientRect();
      const is = [x, y, width, height].join(' ');
      if (is === was && !e.closest(':disabled')) return;
      was = is;
      await new Promise((done) => requestAnimationFrame(done));
    }
  });
  await element.click();
}

/** Waits for what a selector names, and clicks it at rest. */
export const clickOn = async (page: Page, selector: string): Promise<void> =>
  clickAtRest((await page.waitForSelector(selector))!);

/** Waits until something holds, looking again and again; fails with what it last came to. */
export async function until<T>(
  look: () => Promise<T>,
  holds: (seen: T) => boolean,
  what: string,
  within = 10_000,
): Promise<T> {
  const end = Date.now() + within;
  for (;;) {
    const seen = await look();
    if (holds(seen)) return seen;
    if (Date.now() > end) throw new Error(`${what}: ${JSON.stringify(seen)}`);
    await sleep(50);
  }
}
