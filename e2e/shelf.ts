import assert from 'node:assert/strict';
import { parseMap } from '@yesca/core';
import { openPage, sleep } from './browser.ts';
import { faintTexts } from './contrast.ts';
import { startServer, type Test } from './harness.ts';
import { Workshop } from './workshop.ts';

export const shelf: Test = [
  'the Shelf shows the demo maps, loads no 3D code, and renames, copies, deletes and brings back',
  async (world) => {
    const page = await world.browser.newPage();
    let bytes = '';
    page.on('response', (r) => {
      if (r.url().includes('/assets/') && r.url().endsWith('.js')) bytes += `${r.url()} `;
    });
    await page.goto(world.base, { waitUntil: 'networkidle0' });
    const scripts = await Promise.all(
      bytes
        .trim()
        .split(' ')
        .map(async (url) => (await fetch(url)).text()),
    );
    assert.ok(scripts.length > 0 && scripts.every((s) => !s.includes('WebGLRenderer')), 'three is not loaded');
    const w = await Workshop.open(world);
    assert.match(await w.text('.shelf-body'), /Halyard Tidemill[\s\S]*First Room/);
    assert.ok((await w.page.$$('.card-plan svg path')).length >= 4);
    await w.press('New project');
    await sleep(400);
    const names = async () => (await w.projects()).flatMap((p) => p.maps.map((m) => m.name));
    await w.press('Menu of First Room');
    await w.press('Duplicate');
    await sleep(500);
    assert.ok((await names()).includes('First Room copy'));
    await w.press('Menu of First Room copy');
    await w.press('Rename');
    await w.type('Second Room');
    await w.keys('Enter');
    await sleep(500);
    const copied = (await names()).find((n) => n.includes('Second Room'))!;
    assert.ok(copied);
    await w.press(`Menu of ${copied}`);
    await w.press('Delete');
    await sleep(500);
    assert.ok(!(await names()).includes(copied));
    await w.press('Undo');
    await sleep(500);
    assert.ok((await names()).includes(copied));
    w.clean();
  },
];

export const keyboard: Test = [
  'palette, shortcut sheet, themes and names of controls',
  async (world) => {
    const w = await Workshop.newMap(world, 'One sealed room');
    await w.keys('Control+k');
    await w.type('coarser');
    await w.keys('Enter');
    assert.equal((await w.document()).settings.grid, 32);
    // Keys belong to the palette until it has gone.
    await w.page.waitForFunction(() => document.querySelector('[role=dialog]') === null);
    await w.type('?');
    await w.page.waitForSelector('.shortcut');
    assert.match(await w.text('.shortcut-columns'), /Frame the selection or the map/);
    await w.keys('Escape');
    await sleep(400);
    const ground = () => w.page.evaluate(() => getComputedStyle(document.body).backgroundColor);
    const paper = await ground();
    await w.press('Night theme');
    assert.notEqual(await ground(), paper);
    await w.press('Paper theme');
    const nameless = await w.page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('button, a, input, [role=switch]')]
        .filter(
          (e) =>
            e.offsetParent !== null &&
            !(
              e.getAttribute('aria-label') ||
              e.textContent?.trim() ||
              (e as HTMLInputElement).labels?.length ||
              e.getAttribute('title')
            ),
        )
        .map((e) => e.outerHTML.slice(0, 120)),
    );
    assert.deepEqual(nameless, []);
    // Words in every ink on every ground of the theme, beside those that stand on the page.
    await w.page.evaluate(() => {
      const inks = ['--ink', '--ink-soft', '--indigo', '--ember', '--verdigris', '--ochre', '--madder'];
      const pairs = inks.flatMap((ink) => ['--paper', '--sheet', '--panel'].map((ground) => [ink, ground]));
      for (const [ink, ground] of [...pairs, ['--on-ember', '--ember']]) {
        const word = document.createElement('span');
        word.textContent = `${ink} on ${ground}`;
        word.style.cssText = `color: var(${ink}); background: var(${ground})`;
        document.body.append(word);
      }
    });
    for (const theme of ['light', 'dark']) {
      await w.page.evaluate((t) => document.documentElement.setAttribute('data-mantine-color-scheme', t), theme);
      await sleep(300);
      assert.deepEqual(await faintTexts(w.page), []);
    }
    w.clean();
  },
];

export const savingBack: Test = [
  'a save from elsewhere is not overwritten, and the screen says so',
  async (world) => {
    const w = await Workshop.newMap(world, 'One sealed room');
    const other = await openPage(world.browser, w.page.url());
    await sleep(800);
    await other.page.bringToFront();
    await other.page.keyboard.down('Shift');
    await other.page.keyboard.press('G');
    await other.page.keyboard.up('Shift');
    await sleep(1500);
    await w.page.bringToFront();
    await w.keys('Alt+g');
    await w.page.waitForFunction(
      () => document.querySelector('[data-testid=save-state]')?.textContent === 'Changed elsewhere',
      { timeout: 8000 },
    );
  },
];

export const powerCut: Test = [
  'an edit that the screen showed as saved is there after the server was killed',
  async (world) => {
    const first = await startServer();
    const w = await Workshop.newMap({ browser: world.browser, base: first.base }, 'One sealed room');
    await w.keys('Alt+g');
    await w.saved();
    await first.kill();
    // While it is away the next edit is kept on screen and said to be unsaved.
    await w.keys('Alt+g');
    await w.page.waitForFunction(
      () => document.querySelector('[data-testid=save-state]')?.textContent?.includes('retrying'),
      { timeout: 8000 },
    );
    const second = await startServer(first.data);
    const body = (await (await fetch(`${second.base}/api/maps/${w.mapId}`)).json()) as { document: string };
    assert.equal(parseMap(body.document).settings.grid, 32);
    await second.stop();
  },
];

export const leaving: Test = [
  'going to the Shelf right after an edit saves it first',
  async (world) => {
    const w = await Workshop.newMap(world, 'One sealed room');
    const id = w.mapId;
    await w.page.keyboard.down('Alt');
    await w.page.keyboard.press('g');
    await w.page.keyboard.up('Alt');
    await w.page.click('.home-mark');
    await w.page.waitForSelector('.shelf-body');
    const body = (await (await fetch(`${world.base}/api/maps/${id}`)).json()) as { document: string };
    assert.equal(parseMap(body.document).settings.grid, 32);
    w.clean();
  },
];
