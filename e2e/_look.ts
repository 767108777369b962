import { openBrowser, sleep } from './browser.ts';
import { startServer } from './harness.ts';
import type { ProjectCard } from '@yesca/contract';
const server = await startServer();
const { browser, close } = await openBrowser();
try {
  const maps = ((await (await fetch(`${server.base}/api/projects`)).json()) as ProjectCard[])[0]!.maps;
  const page = await browser.newPage();
  await page.goto(`${server.base}/maps/${maps.find((m) => /First/.test(m.name))!.id}/shape`);
  await page.waitForSelector('[data-pane=plan] canvas');
  await sleep(4000);
  await page.screenshot({ path: '/tmp/s1.png' });
  await page.keyboard.press('d');
  await sleep(300);
  await page.evaluate(() =>
    ([...document.querySelectorAll('button')].find((b) => b.textContent?.trim() === 'Draw') as HTMLElement).click(),
  );
  await sleep(500);
  for (let i = 0; i < 6; i++) {
    await page.keyboard.down('Shift');
    await page.keyboard.press('b');
    await page.keyboard.up('Shift');
    await sleep(150);
  }
  await page.screenshot({ path: '/tmp/s2.png' });
} finally {
  await close();
  await server.stop();
}
