import assert from 'node:assert/strict';
import type { MapBody } from '@yesca/contract';
import { parseMap } from '@yesca/core';
import { clickOn, settled, until } from './browser.ts';
import { faintTexts } from './contrast.ts';
import { startServer, type Test, type World } from './harness.ts';
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
    const names = async () => (await w.projects()).flatMap((p) => p.maps.map((m) => m.name));
    /** Waits until the server lists a map, or no longer does. */
    const listed = (name: string, wanted: boolean) =>
      until(names, (all) => all.includes(name) === wanted, `${name} is ${wanted ? 'there' : 'gone'}`);
    await w.press('Menu of First Room');
    await w.press('Duplicate');
    await listed('First Room copy', true);
    await w.press('Menu of First Room copy');
    await w.press('Rename');
    await w.page.waitForFunction(() => document.activeElement?.tagName === 'INPUT');
    await w.type('Second Room');
    await w.keys('Enter');
    // What is typed takes the place of the whole name.
    await listed('Second Room', true);
    await w.press('Menu of Second Room');
    await w.press('Delete');
    await listed('Second Room', false);
    await w.press('Undo');
    await listed('Second Room', true);
    w.clean();
  },
];

export const keyboard: Test = [
  'palette, shortcut sheet, themes and names of controls',
  async (world) => {
    const w = await Workshop.newMap(world, 'One sealed room');
    await w.palette('coarser');
    assert.equal((await w.document()).settings.grid, 32);
    await w.type('?');
    await w.page.waitForSelector('.shortcut');
    assert.match(await w.text('.shortcut-columns'), /Frame the selection or the map/);
    await w.keys('Escape');
    await w.page.waitForFunction(() => document.querySelector('[role=dialog]') === null);
    const paper = await w.page.evaluate(() => getComputedStyle(document.body).backgroundColor);
    const groundIs = (same: boolean) =>
      w.page.waitForFunction(
        (was, wanted) => (getComputedStyle(document.body).backgroundColor === was) === wanted,
        {},
        paper,
        same,
      );
    await w.press('Night theme');
    await groundIs(false);
    await w.press('Paper theme');
    await groundIs(true);
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
      // Colours pass over into one another.
      await settled(w.page);
      await w.page.evaluate(() => Promise.all(document.getAnimations().map((a) => a.finished.catch(() => null))));
      assert.deepEqual(await faintTexts(w.page), []);
    }
    w.clean();
  },
];

/** Two tabs of one map, each with an edit of its own; the second to save learns that it was late. */
async function twoTabs(world: World, mine: string): Promise<Workshop> {
  const w = await Workshop.newMap(world, 'One sealed room');
  const body = (await (await fetch(`${world.base}/api/maps/${w.mapId}`)).json()) as MapBody;
  const spawn = [...parseMap(body.document).entities.values()].find((e) => e.kind === 'spawn')!;
  // The other one moves the spawn.
  const moved = { ...spawn, at: [spawn.at[0] + 32, spawn.at[1], spawn.at[2]] };
  const answer = await fetch(`${world.base}/api/maps/${w.mapId}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ baseVersion: body.version, items: [{ in: 'entities', id: spawn.id, item: moved }] }),
  });
  assert.equal(answer.status, 200);
  await w.keys(mine);
  await w.page.waitForSelector('[data-testid=conflict]', { timeout: 8000 });
  return w;
}
const press = async (w: Workshop, label: string) => clickOn(w.page, `button::-p-text(${label})`);
const stored = async (world: World, id: string) =>
  parseMap(((await (await fetch(`${world.base}/api/maps/${id}`)).json()) as MapBody).document);

export const savingBack: Test = [
  'a save from elsewhere is not overwritten: both are seen, merged, copied or taken',
  async (world) => {
    // Mine makes the grid coarser, theirs moved the spawn: merged, both hold.
    const w = await twoTabs(world, 'Alt+g');
    const before = await stored(world, w.mapId);
    await press(w, 'See both on the Plan');
    await w.page.waitForSelector('[data-testid=comparison]');
    await w.page.keyboard.press('Escape');
    await w.page.waitForSelector('[role=dialog]', { hidden: true });
    await press(w, 'Merge');
    await w.page.waitForSelector('[data-testid=conflict-merge]');
    await press(w, 'Take the merged map');
    await w.saved();
    const merged = await stored(world, w.mapId);
    assert.equal(merged.settings.grid, 32);
    assert.deepEqual([...merged.entities.values()], [...before.entities.values()]);
    assert.equal(await w.page.$('[data-testid=conflict]'), null);

    // Taken theirs, mine comes back with undo and is saved then.
    const second = await twoTabs(world, 'Alt+g');
    await press(second, 'Take theirs');
    await second.saved();
    assert.equal((await stored(world, second.mapId)).settings.grid, 16);
    await second.keys('Control+z');
    await second.saved();
    assert.equal((await stored(world, second.mapId)).settings.grid, 32);

    // Kept as a copy, theirs stays as it is and mine goes on beside it.
    const third = await twoTabs(world, 'Alt+g');
    const old = third.mapId;
    await press(third, 'Keep mine as a copy');
    await third.page.waitForFunction((id) => !location.pathname.includes(id), { timeout: 8000 }, old);
    const copy = /maps\/([\w-]+)/.exec(third.page.url())![1]!;
    assert.equal((await stored(world, copy)).settings.grid, 32);
    assert.equal((await stored(world, old)).settings.grid, 16);
  },
];

export const deletedElsewhere: Test = [
  'a map that was deleted elsewhere is brought back with what was done here',
  async (world) => {
    const w = await Workshop.newMap(world, 'One sealed room');
    assert.equal((await fetch(`${world.base}/api/maps/${w.mapId}`, { method: 'DELETE' })).status, 200);
    await w.keys('Alt+g');
    await w.page.waitForSelector('[data-testid=conflict]', { timeout: 8000 });
    await press(w, 'Bring it back');
    await w.saved();
    assert.equal((await stored(world, w.mapId)).settings.grid, 32);
  },
];

export const byKeyboard: Test = [
  'by keyboard alone: a room, a spawn, a light, built and played',
  async (world) => {
    const w = await Workshop.newMap(world, 'Empty sheet');
    const { keyboard } = w.page;
    const keys = async (...all: string[]) => {
      for (const key of all) await keyboard.press(key as 'Enter');
    };
    await w.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    // The panes are tab stops.
    for (let k = 0; k < 60; k++) {
      await keyboard.press('Tab');
      if (await w.page.evaluate(() => document.activeElement?.getAttribute('data-pane') === 'plan')) break;
    }
    assert.equal(await w.page.evaluate(() => document.activeElement?.getAttribute('data-pane')), 'plan');
    await keys('r', 'ArrowLeft', 'ArrowRight');
    await keyboard.type('512 384 272');
    await keys('Enter', 'l');
    for (let k = 0; k < 6; k++) await keys('ArrowRight', 'ArrowUp');
    await keys('Enter');
    await w.page.evaluate(() => document.querySelector<HTMLElement>('[data-pane=plan]')!.focus());
    await w.saved();
    await keyboard.press('Escape');
    // The kind of thing is chosen in the tool's options, which are reached by Tab as everything is.
    await (await w.field('Thing to place')).focus();
    await keyboard.press('ArrowDown');
    const marked = () => w.page.$eval('[role=option][data-combobox-selected]', (e) => e.textContent);
    while ((await marked().catch(() => null)) !== 'Point light') await keyboard.press('ArrowDown');
    await keyboard.press('Enter');
    await w.page.evaluate(() => document.querySelector<HTMLElement>('[data-pane=plan]')!.focus());
    for (let k = 0; k < 4; k++) await keys('ArrowRight');
    await keys('Enter');
    await w.saved();
    const doc = await stored(world, w.mapId);
    assert.deepEqual(
      [doc.rooms.size, [...doc.entities.values()].map((e) => e.kind).sort()],
      [1, ['pointLight', 'spawn']],
    );
    await keyboard.down('Control');
    await keyboard.press('b');
    await keyboard.up('Control');
    await w.page.waitForSelector('[data-testid=hud][data-at]', { timeout: 30_000 });
    assert.match(await w.page.$eval('[data-testid=hud]', (e) => e.textContent ?? ''), /sketch build/);
    assert.equal(await w.page.$('.play-trouble'), null);
  },
];

export const powerCut: Test = [
  'an edit that the screen showed as saved is there after the server was killed',
  async (world) => {
    const first = await startServer(undefined, 'none');
    await fetch(`${first.base}/api/projects`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'Halyard' }),
    });
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
    const second = await startServer(first.data, 'none');
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
