import assert from 'node:assert/strict';
import { brushPlanes, partKey } from '@yesca/core';
import { clickOn, settled, until } from './browser.ts';
import type { Test } from './harness.ts';
import { Workshop } from './workshop.ts';

const position = (hud: string): number[] => hud.split(' ').map(Number);
const hud = (w: Workshop): Promise<{ at: string; drawn: string; cell: string }> =>
  w.page.$eval(
    '[data-testid=hud]',
    (e) => ({ ...(e as HTMLElement).dataset }) as { at: string; drawn: string; cell: string },
  );

/** Shares of a picture: mean brightness, how much neighbouring pixels differ, how many colours there are. */
function looks({ data, width }: { data: Uint8Array; width: number }): {
  mean: number;
  detail: number;
  colours: number;
} {
  let mean = 0;
  let detail = 0;
  const colours = new Set<number>();
  for (let i = 0; i < data.length; i += 4) {
    const y = 0.2126 * data[i]! + 0.7152 * data[i + 1]! + 0.0722 * data[i + 2]!;
    mean += y;
    colours.add(((data[i]! >> 4) << 8) | ((data[i + 1]! >> 4) << 4) | (data[i + 2]! >> 4));
    const j = i + 4 * width;
    if (j < data.length) detail += Math.abs(data[i + 1]! - data[j + 1]!);
  }
  const n = data.length / 4;
  return { mean: mean / n, detail: detail / n, colours: colours.size };
}

export const firstMap: Test = [
  'from an empty sheet to walking in a lit, textured room',
  async (world) => {
    const w = await Workshop.newMap(world, 'Empty sheet');
    await w.page.waitForFunction(() => document.querySelector('.register')?.textContent?.includes('Press R'));
    // A room by dragging, its sizes typed.
    await w.keys('r');
    await w.drag('plan', [-200, -160], [160, 160]);
    await w.type('512 384 272');
    await w.keys('Enter');
    let doc = await w.document();
    const room = [...doc.rooms.values()][0]!;
    assert.deepEqual(
      room.footprint[2]!.map((c, i) => c - room.footprint[0]![i]!),
      [512, 384],
    );
    assert.equal(room.ceiling - room.floor, 272);
    assert.equal(doc.brushes.size, 6);
    // Paint the floor: pick the material in Stock, then click the floor on the Plan.
    await w.press('Stock');
    await w.press('Material Slate');
    await w.keys('f', 'p');
    const [x0, y0] = room.footprint[0]!;
    await w.click('plan', x0 + 200, y0 + 120);
    doc = await w.document();
    const floor = [...doc.brushes.values()].find((b) => b.room && partKey(b.room.part) === 'floor:0')!;
    const top = floor.faces[brushPlanes(floor).findIndex((p) => p.normal[2] === 1)]!;
    assert.equal(top.material, 'slate');
    // A spawn and a light.
    await w.press('Things');
    await w.press('Spawn');
    await w.click('plan', x0 + 96, y0 + 192);
    await w.press('Point light');
    await w.click('plan', x0 + 256, y0 + 192);
    doc = await w.document();
    const kinds = [...doc.entities.values()].map((e) => [e.kind, e.at[2]]);
    assert.deepEqual(kinds.sort(), [
      ['pointLight', 200],
      ['spawn', 0],
    ]);
    await w.sealing('sealed');
    // Build and walk.
    await w.build('Review');
    assert.match(await w.text('[data-testid=build-run]'), /The map is sealed/);
    await w.press('Walk this build');
    await w.page.waitForSelector('[data-testid=play] canvas');
    await w.page.waitForFunction(
      () => (document.querySelector<HTMLElement>('[data-testid=hud]')?.dataset.drawn ?? '0') !== '0',
      { timeout: 20_000 },
    );
    const before = await hud(w);
    assert.equal(Number(before.drawn), 6);
    await until(
      async () => looks(await w.picture('[data-testid=play]')),
      ({ mean, detail, colours }) => mean > 25 && mean < 230 && detail > 0.5 && colours > 40,
      'the room is lit and textured',
    );
    await w.page.click('[data-testid=walk]');
    await settled(w.page);
    await w.page.keyboard.down('KeyW');
    const [bx] = position(before.at);
    const walked = async () => position((await hud(w)).at)[0]!;
    let last = bx!;
    // On to where the wall holds.
    await until(
      walked,
      (x) => {
        const stands = x > x0 + 512 - 21 && x === last;
        last = x;
        return stands;
      },
      'walked to the wall',
    );
    await w.page.keyboard.up('KeyW');
    const [ax, ay] = position((await hud(w)).at);
    assert.ok(ax! <= x0 + 512 - 20 + 0.1, 'the wall holds');
    assert.ok(Math.abs(ay! - (y0 + 192)) < 1);
    // Esc goes back to the editor.
    await w.page.keyboard.press('Escape');
    await w.page.waitForSelector('[data-pane=plan] canvas');
    w.clean();
  },
];

export const leakingMap: Test = [
  'a hole in the wall shows as a leak while editing and ends a build with a drawn trail',
  async (world) => {
    const w = await Workshop.newMap(world, 'One sealed room');
    await w.sealing('sealed');
    // The second click on the east wall takes the wall itself out of its room; then it goes.
    await w.click('plan', 264, 100);
    const edge = () => w.page.$eval('.particulars', (e) => e.getBoundingClientRect().right);
    assert.ok(
      (await edge()) <= w.page.viewport()!.width,
      'what a room adds to the options pushes nothing out of sight',
    );
    await w.click('plan', 264, 100);
    assert.match(await w.text('[data-testid=particulars]'), /^Brush/);
    await w.keys('Delete');
    await w.sealing('leaking');
    /** Pixels in the ink of errors (the section line's ember is another red). */
    const madder = async () => {
      const { data } = await w.picture('[data-pane=plan]');
      let n = 0;
      for (let i = 0; i < data.length; i += 4)
        if (Math.abs(data[i]! - 163) < 14 && Math.abs(data[i + 1]! - 34) < 14 && Math.abs(data[i + 2]! - 44) < 14) n++;
      return n;
    };
    assert.ok((await madder()) > 60, 'the trail is drawn on the Plan');
    // The Eye flies along the trail, out through the hole.
    await clickOn(w.page, '[aria-label^="Checks:"]');
    await w.press('Fly along the trail');
    const eye = () => w.page.$eval('[data-pane=eye]', (e) => JSON.parse((e as HTMLElement).dataset.eye ?? '{}'));
    await until(eye, ({ at }: { at?: number[] }) => (at?.[0] ?? 0) > 264, 'the camera is out of the room', 15_000);
    await w.page.keyboard.press('Escape');
    await w.build('Sketch');
    assert.match(await w.text('[data-testid=build-run]'), /The map leaks/);
    await w.press('Go there');
    await until(madder, (n) => n > 60, 'the trail is drawn beside the build');
    // The level can be walked all the same.
    await w.press('Walk this build');
    await w.page.waitForFunction(() => document.querySelector('[data-testid=hud]')?.textContent?.includes('leaks'), {
      timeout: 20_000,
    });
    await w.page.keyboard.press('Escape');
    await w.page.waitForSelector('[data-pane=plan] canvas');
    // The project's findings name it too, and lead back to it.
    const mine = await w.text('.shell-map');
    await clickOn(w.page, '[aria-label^="Checks:"]');
    await w.press('Findings of all maps of this project');
    const named = `.findings-map[aria-label="${mine}"]`;
    await w.page.waitForFunction(
      (s) => document.querySelector(s)?.textContent?.includes('leaking'),
      { timeout: 20_000 },
      named,
    );
    assert.match(await w.text(named), /The map leaks/);
    // Maps of others may still come in above and push it down.
    await w.page.$eval(`${named} .finding a`, (a) => (a as HTMLAnchorElement).click());
    await w.page.waitForSelector('[data-pane=plan] canvas');
    await w.sealing('leaking');
    // A brush in the gap closes it, as one step.
    await clickOn(w.page, '[aria-label^="Checks:"]');
    await w.press('Fill with a brush');
    await w.sealing('sealed');
    await w.page.keyboard.press('Escape');
    await w.keys('Control+z');
    await w.sealing('leaking');
    // Undo brings the wall back.
    await w.page.waitForSelector('[aria-label=Undo]:not([disabled])');
    await w.keys('Control+z');
    await w.sealing('sealed');
    assert.ok((await madder()) < 10, 'the trail is gone');
    w.clean();
  },
];
