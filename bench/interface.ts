import type { Browser, CDPSession, Page } from 'puppeteer-core';
import {
  addBrushes,
  boxSolid,
  changeEntity,
  dressSolid,
  emptyMap,
  placeEntity,
  writeMap,
  type MapDocument,
} from '@yesca/core';
import { MATERIALS } from '@yesca/stock';
import { openBrowser, openPage, sleep } from '../e2e/browser.ts';
import { startServer } from '../e2e/harness.ts';
import { sheetPoint } from '../e2e/workshop.ts';
import { furnished } from './props.ts';
import { asBrushes, roomSlabs } from './scenes.ts';

export interface InterfaceFigures {
  readonly brushes: number;
  /** From asking for the page to a drawn Plan, ms of script and in all; and script until the Eye shows all pictures too. */
  readonly open: { readonly script: number; readonly whole: number; readonly dressed: number };
  /** Median ms of script in a frame of a drag, of a marquee, of sliding the drawing. */
  readonly drag: number;
  /** The same of dragging the arrow of a door, with its ghost and what it meets. */
  readonly arrow: number;
  readonly marquee: number;
  readonly pan: number;
  /** Median ms of script of an arrow's nudge until it is drawn: of one brush, and of all of the smaller map. */
  readonly nudge: number;
  readonly nudgeAll: { readonly brushes: number; readonly script: number };
  /** Median ms of script in a frame of turning the Eye, and of dragging a picture on a face in it. */
  readonly look: number;
  readonly texture: number;
  readonly materials: number;
  /** With 2,000 props of 40 kinds: script until all is drawn, in a frame of a drag, and of turning the Eye. */
  readonly props: { readonly open: number; readonly drag: number; readonly look: number };
}

const MATERIAL_COUNT = 40;

/** A map of rooms of slabs with a crate to drag, as a designer has it on screen. */
function bigMap(rooms: number): MapDocument {
  const crate = dressSolid(boxSolid({ min: [160, 160, 0], max: [224, 224, 64] }), 'crate', 'oak-plank', {
    role: 'detail',
  });
  const solid = MATERIALS.filter((m) => m.solidity === 'solid' && !m.tool).slice(0, MATERIAL_COUNT);
  const dressed = asBrushes(roomSlabs(rooms)).map((b, i) => ({
    ...b,
    faces: b.faces.map((f, k) => ({ ...f, material: solid[(i * 7 + k) % solid.length]!.name })),
  }));
  const leaf = {
    ...dressSolid(boxSolid({ min: [300, 96, 0], max: [308, 160, 120] }), 'leaf', 'oak-plank', { role: 'detail' }),
    owner: { id: 'door' },
  };
  const doc = placeEntity(addBrushes(emptyMap('Bench'), [...dressed, crate, leaf]), 'spawn', [100, 100, 0]);
  const slides = { moves: 'slides', travel: [0, 64, 0], hinge: [0, 0, 0], axis: [0, 0, 1], angle: 0 };
  return changeEntity(placeEntity(doc, 'door', [304, 128, 0], 0, 'door'), 'door', { params: { leaves: [slides] } });
}

const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1]!;

/** Seconds of script so far, as the browser counts them. */
async function scriptTime(session: CDPSession): Promise<number> {
  const { metrics } = await session.send('Performance.getMetrics');
  return metrics.find((m) => m.name === 'ScriptDuration')!.value;
}

/** Waits until the page has nothing left to do: what an edit leaves for later is done, and counts with nothing that comes after. */
async function idle(session: CDPSession): Promise<void> {
  for (let still = 0, before = -1; still < 4;) {
    await sleep(150);
    const now = await scriptTime(session);
    still = now - before < 0.002 ? still + 1 : 0;
    before = now;
  }
}

/** Two frames of the page: what a pointer move changed is drawn then. */
const frame = (page: Page) =>
  page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));

/** Median script time (ms) of each of some steps, less what the measuring itself takes. */
async function perFrame(
  page: Page,
  session: CDPSession,
  steps: number,
  step: (i: number) => Promise<void>,
): Promise<number> {
  const run = async (act: boolean) => {
    const took: number[] = [];
    for (let i = 0; i < steps; i++) {
      const before = await scriptTime(session);
      if (act) await step(i);
      await frame(page);
      took.push((await scriptTime(session)) - before);
    }
    return median(took) * 1000;
  };
  const idle = await run(false);
  return Math.max(0, (await run(true)) - idle);
}

/** Brings the Plan nearer round a point by the wheel, until a step of it is seen as one works on it. */
async function nearer(page: Page, session: CDPSession, h: number, v: number): Promise<void> {
  await page.mouse.move(...(await sheetPoint(page, 'plan', h, v)));
  const zoom = () =>
    page.$eval('[data-pane=plan]', (e) => (JSON.parse((e as HTMLElement).dataset.view!) as { zoom: number }).zoom);
  for (let turn = 0; turn < 40 && (await zoom()) < 0.7; turn++) {
    await page.mouse.wheel({ deltaY: -200 });
    await frame(page);
  }
  await idle(session);
}

/** Median script of nudging everything there is in a map, ms. */
async function nudgeOfAll(browser: Browser, url: string): Promise<number> {
  const { page } = await openPage(browser, url);
  const session = await page.createCDPSession();
  await session.send('Performance.enable');
  await page.waitForSelector('[data-pane=plan] canvas');
  await idle(session);
  await (await page.$('[data-pane=plan]'))!.focus();
  await page.keyboard.down('Control');
  await page.keyboard.press('a');
  await page.keyboard.up('Control');
  await idle(session);
  return perFrame(page, session, 12, (i) => page.keyboard.press(i % 2 ? 'ArrowLeft' : 'ArrowRight'));
}

/** Median script of a frame of turning the Eye by the right button, ms, and where its middle is. */
async function turningEye(page: Page, session: CDPSession): Promise<{ look: number; ex: number; ey: number }> {
  const eye = (await (await page.$('[data-pane=eye]'))!.boundingBox())!;
  const [ex, ey] = [eye.x + eye.width / 2, eye.y + eye.height / 2];
  await page.mouse.move(ex, ey);
  await page.mouse.down({ button: 'right' });
  const look = await perFrame(page, session, 60, (i) => page.mouse.move(ex + (i % 30) * 3, ey + (i % 11)));
  await page.mouse.up({ button: 'right' });
  return { look, ex, ey };
}

/** Of a map with many props: opening it, a frame of dragging one on the Plan with the Eye beside, and of turning the Eye; ms of script. */
async function withProps(browser: Browser, url: string): Promise<InterfaceFigures['props']> {
  const { page } = await openPage(browser, 'about:blank');
  const session = await page.createCDPSession();
  await session.send('Performance.enable');
  await page.goto(url);
  await page.waitForSelector('[data-pane=eye] canvas');
  await frame(page);
  await idle(session);
  const open = (await scriptTime(session)) * 1000;
  await nearer(page, session, 200, 200);
  const [x, y] = await sheetPoint(page, 'plan', 200, 200);
  await page.mouse.click(x, y);
  await idle(session);
  await page.mouse.move(x, y);
  await page.mouse.down();
  const drag = await perFrame(page, session, 60, (i) => page.mouse.move(x + 10 + (i % 30) * 3, y - 6 - (i % 20) * 3));
  await page.mouse.up();
  const { look } = await turningEye(page, session);
  await page.close({ runBeforeUnload: false });
  return { open, drag, look };
}

/** Measures the drawing table in headless Chromium with a map of about 5,000 brushes. */
export async function measureInterface(): Promise<InterfaceFigures> {
  const server = await startServer();
  const { browser, close } = await openBrowser();
  try {
    const post = async (path: string, body: object) =>
      (await (
        await fetch(server.base + path, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
        })
      ).json()) as { id: string };
    const project = await post('/api/projects', { name: 'Bench' });
    const save = (name: string, document: MapDocument) =>
      post('/api/maps', { projectId: project.id, name, document: writeMap(document) });
    const doc = bigMap(29);
    const smaller = bigMap(18);
    const map = await save('Bench', doc);
    const second = await save('Smaller', smaller);
    const { page } = await openPage(browser, server.base);
    const session = await page.createCDPSession();
    await session.send('Performance.enable');
    const before = await scriptTime(session);
    const began = performance.now();
    await page.goto(`${server.base}/maps/${map.id}/shape`);
    await page.waitForSelector('[data-pane=plan] canvas');
    await frame(page);
    const whole = performance.now() - began;
    // The counter starts anew with the page.
    const after = await scriptTime(session);
    const opened = (now: number) => (now >= before ? now - before : now) * 1000;
    await idle(session);
    const open = { script: opened(after), whole, dressed: opened(await scriptTime(session)) };
    // Nearer, so that the crate can be taken: what is on paper is what one works on.
    await nearer(page, session, 192, 192);
    const zoomed = async (h: number, v: number) => sheetPoint(page, 'plan', h, v);
    const drags = async (from: [number, number], to: (i: number) => [number, number]) => {
      await page.mouse.move(...from);
      await page.mouse.down();
      const took = await perFrame(page, session, 60, (i) => page.mouse.move(...to(i)));
      await page.mouse.up();
      await idle(session);
      return took;
    };
    const [x, y] = await zoomed(192, 192);
    await page.mouse.click(x, y);
    await idle(session);
    const nudge = await perFrame(page, session, 20, (i) => page.keyboard.press(i % 2 ? 'ArrowLeft' : 'ArrowRight'));
    await idle(session);
    const drag = await drags([x, y], (i) => [x + 10 + (i % 30) * 3, y - 6 - (i % 20) * 3]);
    await page.keyboard.press('Escape');
    await idle(session);
    await page.mouse.click(...(await zoomed(304, 128)));
    await idle(session);
    const tip = await zoomed(304, 192);
    const arrow = await drags(tip, (i) => [tip[0] + (i % 7) * 2, tip[1] - 10 - (i % 30) * 3]);
    await page.keyboard.press('Escape');
    await idle(session);
    const [mx, my] = await zoomed(-200, -200);
    const marquee = await drags([mx, my], (i) => [mx + 20 + i * 4, my - 20 - i * 3]);
    await page.keyboard.down('Space');
    const pan = await drags([x, y], (i) => [x + 4 + (i % 30) * 2, y - (i % 20) * 2]);
    await page.keyboard.up('Space');
    // The Eye, turned by the right button; then the picture on the crate's top, dragged.
    await page.keyboard.press('Home');
    await idle(session);
    const { look, ex, ey } = await turningEye(page, session);
    await page.keyboard.press('p');
    await page.keyboard.down('Control');
    await page.mouse.click(ex, ey);
    await page.keyboard.up('Control');
    await idle(session);
    await page.mouse.move(ex, ey);
    await page.mouse.down();
    const texture = await perFrame(page, session, 60, (i) => page.mouse.move(ex + 8 + (i % 30) * 2, ey + (i % 20)));
    await page.mouse.up();
    await page.close({ runBeforeUnload: false });
    const nudgeAll = {
      brushes: smaller.brushes.size,
      script: await nudgeOfAll(browser, `${server.base}/maps/${second.id}/shape`),
    };
    return {
      brushes: doc.brushes.size,
      open,
      nudge,
      nudgeAll,
      drag,
      arrow,
      marquee,
      pan,
      look,
      texture,
      materials: MATERIAL_COUNT,
      props: await withProps(browser, `${server.base}/maps/${(await save('Furnished', furnished())).id}/shape`),
    };
  } finally {
    await close();
    await server.stop();
  }
}
