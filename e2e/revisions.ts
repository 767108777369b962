import assert from 'node:assert/strict';
import { clickOn, settled } from './browser.ts';
import type { Test } from './harness.ts';
import { Workshop } from './workshop.ts';

export const revisions: Test = [
  'undo survives a reload; revisions are named, compared and restored; bound keys and layers are kept',
  async (world) => {
    const w = await Workshop.newMap(world, 'One sealed room');
    const crates = async () => [...(await w.document()).brushes.values()].filter((b) => !b.room).length;
    const draw = async (x: number) => {
      await w.keys('b');
      await w.drag('plan', [x, -96], [x + 64, -32]);
      await w.keys('Enter', 'v');
    };
    await draw(-128);
    assert.equal(await crates(), 1);
    await draw(32);
    assert.equal(await crates(), 2);
    await w.page.reload({ waitUntil: 'networkidle0' });
    await w.page.waitForSelector('[data-pane=plan] canvas');
    await settled(w.page);
    // The steps from before the reload are taken back and made again.
    await w.keys('Control+z');
    assert.equal(await crates(), 1);
    await w.keys('Control+z');
    assert.equal(await crates(), 0);
    await w.keys('Control+Shift+z', 'Control+Shift+z');
    assert.equal(await crates(), 2);
    // Compare with the first revision, name it, go back to it, and undo that.
    await w.keys('Escape');
    await w.press('Revisions');
    await w.page.waitForSelector('.revisions-list .row');
    await settled(w.page);
    await w.page.click('.revisions-list .row:last-child');
    await w.page.waitForSelector('[data-testid=comparison]');
    assert.match(
      await w.text('[data-testid=comparison]'),
      /2 brushes added since.*0 brushes removed since.*0 brushes changed since/s,
    );
    const field = (await w.page.$('.revisions-compare input'))!;
    await field.click();
    await w.type('Bare room');
    await w.keys('Enter');
    await w.page.waitForFunction(() => document.querySelector('.revisions-list')?.textContent?.includes('Bare room'), {
      timeout: 4000,
    });
    await w.press('Restore this revision');
    assert.equal(await crates(), 0);
    await w.keys('Control+z');
    assert.equal(await crates(), 2);
    // A layer is locked: what is on it cannot be picked on the drawings any more.
    await w.click('plan', -96, -64);
    await w.press('Add a layer');
    await w.asked();
    await w.type('Stores');
    await w.keys('Enter');
    await w.answered();
    await w.press('Stores');
    await w.press('Lock Stores');
    await w.keys('Escape');
    await w.click('plan', -80, -48);
    const layered = await w.document();
    const [layer] = [...layered.layers.values()];
    assert.deepEqual([layer!.name, layer!.locked], ['Stores', true]);
    assert.equal([...layered.brushes.values()].filter((b) => b.layer === layer!.id).length, 1);
    await w.page.waitForFunction(
      () => !document.querySelector('[data-testid=particulars]')?.textContent?.includes('Solids'),
      { timeout: 3000 },
    );
    // Another key for Cut, kept in this browser.
    await w.type('?');
    await w.page.waitForSelector('.shortcut');
    await clickOn(w.page, '[aria-label="Key for Cut"]');
    await w.keys('Shift+z');
    assert.match(await w.text('[data-testid=binding-note]'), /Cut is Shift Z now/);
    await w.keys('Escape');
    await w.page.reload({ waitUntil: 'networkidle0' });
    await w.page.waitForSelector('[data-pane=plan] canvas');
    await settled(w.page);
    await w.keys('Shift+z');
    assert.equal(await w.page.$eval('.tool[aria-pressed=true]', (e) => e.textContent), 'Cut');
    w.clean();
  },
];
