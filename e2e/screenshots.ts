/** `npm run screenshots`: takes docs/screenshots/ anew from the demo data, at 1280 × 800. */
import { fileURLToPath } from 'node:url';
import type { ProjectCard } from '@yesca/contract';
import { openBrowser, openPage, sleep } from './browser.ts';
import { startServer } from './harness.ts';
import { sheetPoint } from './workshop.ts';

const target = (name: string) =>
  fileURLToPath(new URL(`../docs/screenshots/${name}.png`, import.meta.url)) as `${string}.png`;

const server = await startServer();
const { browser, close } = await openBrowser();
try {
  const maps = async () => ((await (await fetch(`${server.base}/api/projects`)).json()) as ProjectCard[])[0]!.maps;
  while ((await maps()).some((m) => !m.lastBuild)) await sleep(500);
  const tidemill = (await maps()).find((m) => m.name === 'Halyard Tidemill')!.id;
  const { page } = await openPage(browser, server.base);
  await sleep(600);
  await page.screenshot({ path: target('shelf') });

  const at = (pane: 'plan' | 'section', h: number, v: number) => sheetPoint(page, pane, h, v);
  await page.goto(`${server.base}/maps/${tidemill}/shape`, { waitUntil: 'networkidle0' });
  await sleep(2500);
  // The wheel hall, seen from its south-east corner, with a post's foot picked and its size shown.
  await page.mouse.click(...(await at('plan', 704, 136)));
  await page.mouse.click(...(await at('plan', 900, 300)), { button: 'right' });
  await sleep(300);
  await (await page.waitForSelector('::-p-text(Camera here)'))!.click();
  await sleep(800);
  const eye = (await (await page.$('[data-pane=eye]'))!.boundingBox())!;
  await page.mouse.move(eye.x + 200, eye.y + 300);
  await page.mouse.down({ button: 'right' });
  await page.mouse.move(eye.x + 190, eye.y + 320, { steps: 4 });
  await page.mouse.up({ button: 'right' });
  await sleep(1200);
  await page.screenshot({ path: target('shape') });

  await page.goto(`${server.base}/maps/${tidemill}/build`, { waitUntil: 'networkidle0' });
  await sleep(1200);
  for (const preset of ['Sketch', 'Review']) {
    await page.evaluate(
      (name) =>
        [...document.querySelectorAll<HTMLButtonElement>('.preset')]
          .find((b) => b.textContent!.startsWith(name))!
          .click(),
      preset,
    );
    await (await page.waitForSelector(`::-p-text(Build ${preset.toLowerCase()})`))!.click();
    await sleep(500);
    await page.waitForFunction(
      () => document.querySelector('[data-testid=build-run]')?.getAttribute('data-status') === 'done',
      { timeout: 180_000 },
    );
  }
  await sleep(1000);
  await page.screenshot({ path: target('build') });

  await page.goto(`${server.base}/maps/${tidemill}/play`, { waitUntil: 'networkidle0' });
  await sleep(3000);
  await page.click('[data-testid=walk]');
  await sleep(800);
  await page.screenshot({ path: target('play') });
} finally {
  await close();
  await server.stop();
}
