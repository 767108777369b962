/**
 * `npm run screenshots`: takes docs/screenshots/ anew from the demo data, at 1280 × 800. `npm run screenshots -- 'cut|build'` only those
 * whose name matches.
 */
import { fileURLToPath } from 'node:url';
import type { Page } from 'puppeteer-core';
import type { MapBody, ProjectCard } from '@yesca/contract';
import { call, parseMap, runScript, shines, writeMap } from '@yesca/core';
import { clickOn, openBrowser, settled, sleep, until } from './browser.ts';
import { startServer } from './harness.ts';
import { sheetPoint, Workshop } from './workshop.ts';

const wanted = new RegExp(process.argv[2] ?? '');
const target = (name: string) =>
  fileURLToPath(new URL(`../docs/screenshots/${name}.png`, import.meta.url)) as `${string}.png`;

const server = await startServer();
const { browser, close } = await openBrowser();
const maps = async () => ((await (await fetch(`${server.base}/api/projects`)).json()) as ProjectCard[])[0]!.maps;

/** Waits until the page looks the same twice in a row; what moves by itself is taken as it is after some looks. */
async function stands(page: Page, most = 40): Promise<void> {
  let was = '';
  for (let looks = 0; looks < most; looks++) {
    await settled(page);
    const is = await page.screenshot({ encoding: 'base64' });
    if (is === was) return;
    was = is;
    await sleep(150);
  }
}

/** Turns the Eye by dragging with the right button: pixels to the right and down. */
async function look(page: Page, dx: number, dy: number): Promise<void> {
  const eye = (await (await page.$('[data-pane=eye]'))!.boundingBox())!;
  await page.mouse.move(eye.x + 200, eye.y + 300);
  await page.mouse.down({ button: 'right' });
  await page.mouse.move(eye.x + 200 + dx, eye.y + 300 + dy, { steps: 6 });
  await page.mouse.up({ button: 'right' });
  await stands(page);
}

/** The Eye's camera stands where a point of the Plan is. */
async function standAt(w: Workshop, h: number, v: number): Promise<void> {
  await w.page.mouse.move(...(await sheetPoint(w.page, 'plan', h, v)));
  await w.keys('z');
  await stands(w.page);
}

/** The Plan nearer, round a point, by the wheel. */
async function nearer(w: Workshop, h: number, v: number, turns: number): Promise<void> {
  await w.page.mouse.move(...(await sheetPoint(w.page, 'plan', h, v)));
  for (let i = 0; i < turns; i++) await w.page.mouse.wheel({ deltaY: -200 });
  await stands(w.page);
}

/** The gear pier in the wheel hall, picked, with the Eye in front of it. */
async function atThePier(w: Workshop): Promise<void> {
  await nearer(w, 540, 400, 4);
  await w.click('plan', 504, 352);
  await standAt(w, 900, 300);
  await look(w.page, 20, 30);
}

/** In the hall, in front of the gate's leaf, its door's face selected in Paint and Stock open. */
async function atTheGate(w: Workshop): Promise<void> {
  await nearer(w, 500, 200, 3);
  await standAt(w, 372, 236);
  await look(w.page, -366, 20);
  await w.keys('Shift+s', 'p');
  await w.look([440, 8, 150], 'Control');
}

/** A map with a few mistakes in it, beside those that have none. */
async function mistakes(): Promise<void> {
  const [project] = (await (await fetch(`${server.base}/api/projects`)).json()) as ProjectCard[];
  const room = project!.maps.find((m) => m.name === 'First Room')!;
  const doc = parseMap(((await (await fetch(`${server.base}/api/maps/${room.id}`)).json()) as MapBody).document);
  const wall = [...doc.brushes.values()].find((b) => b.room?.part.kind === 'wall' && b.room.part.side === 2)!;
  const crate = { kind: 'box', box: { min: [0, 0, 0], max: [60, 60, 60] }, params: {} } as const;
  const lamp = [...doc.entities.values()].find((e) => shines(e))!;
  const calls = [
    call('map.rename', { name: 'First Room, half done' }),
    call('pick.remove', { picked: { brushes: [wall.id] } }),
    call('brush.draw', { shape: crate, material: 'oak-plank', role: 'detail' }),
    call('brush.draw', { shape: crate, material: 'oak-plank', role: 'detail' }),
    call('thing.change', { things: [lamp.id], at: [20, 20, 20] }),
  ];
  const document = writeMap(runScript(doc, calls, { materials: () => undefined }).doc);
  const body = JSON.stringify({ projectId: project!.id, name: 'First Room, half done', document });
  await fetch(`${server.base}/api/maps`, { method: 'POST', headers: { 'content-type': 'application/json' }, body });
}

/** In Play, once it has begun. */
async function walking(w: Workshop): Promise<void> {
  await clickOn(w.page, '[data-testid=walk]');
}

/** Every picture by name: what is done on the Tidemill's pages before it is taken. */
const pictures: Record<string, { page: string; prepare?: (w: Workshop) => Promise<void> }> = {
  shelf: { page: '' },
  shape: {
    page: 'shape',
    prepare: async (w) => {
      // The wheel hall seen from its south-east corner, with a post's foot picked.
      await nearer(w, 620, 330, 2);
      await w.click('plan', 704, 136);
      await standAt(w, 950, 90);
      await look(w.page, 60, 10);
    },
  },
  'blocking-out': {
    page: 'shape',
    prepare: async (w) => {
      // An arch drawn on the quay, its sizes typed, before Enter.
      await nearer(w, 1000, -420, 3);
      await standAt(w, 900, -640);
      await look(w.page, 245, -10);
      await w.keys('b');
      await w.choose('Shape', 'Arch');
      await w.drag('plan', [848, -352], [1040, -304]);
      await w.type('192 48 256');
    },
  },
  doors: {
    page: 'shape',
    prepare: async (w) => {
      // The sack lift picked: its stop, what calls it, and where it halts in the loft.
      await nearer(w, 860, 480, 3);
      await standAt(w, 1000, 250);
      await look(w.page, 110, 40);
      await w.click('plan', 944, 490);
    },
  },
  cutting: {
    page: 'shape',
    prepare: async (w) => {
      await atThePier(w);
      await w.keys('c');
      await w.drag('plan', [464, 384], [560, 304]);
    },
  },
  storeys: {
    page: 'shape',
    prepare: async (w) => {
      // The loft's storey, with the section line turned to look east along the loft.
      await w.keys('PageUp', 'PageUp', 'Alt+d', 'Alt+d', 'Alt+d', 'Shift+f');
      await nearer(w, 520, 400, 2);
      await standAt(w, 930, 700);
      await look(w.page, -110, 10);
    },
  },
  compare: {
    page: 'shape',
    prepare: async (w) => {
      await nearer(w, 700, -360, 2);
      await w.keys('b');
      await w.choose('Shape', 'Cylinder');
      await w.drag('plan', [560, -480], [720, -320]);
      await w.keys('Enter', 'v');
      await w.click('plan', 1340, -120);
      for (let i = 0; i < 9; i++) await w.keys('ArrowDown');
      await w.click('plan', 768, -664);
      await w.keys('Delete');
      await w.saved();
      await w.keys('Escape');
      await w.press('Revisions');
      await clickOn(w.page, '.revisions-list .row:last-child');
    },
  },
  surfaces: { page: 'shape', prepare: atTheGate },
  furnishing: {
    page: 'shape',
    prepare: async (w) => {
      await w.keys('Shift+s');
      await w.choose('What Stock shows', 'Props');
      await w.press('Barrel');
    },
  },
  decals: {
    page: 'shape',
    prepare: async (w) => {
      // Before the mill, its mark picked: its sheet in Particulars, the tide's mark along the wall.
      await nearer(w, 820, -200, 3);
      await standAt(w, 820, -300);
      await look(w.page, 250, 20);
      await w.keys('Shift+s');
      await w.choose('What Stock shows', 'Decals');
      await w.click('plan', 770, -32);
    },
  },
  materials: { page: '/materials?name=mill-trim' },
  props: { page: '/props?name=keg' },
  build: {
    page: 'build',
    prepare: async (w) => {
      await w.build('Sketch', 180_000);
      await w.build('Review', 180_000);
    },
  },
  findings: {
    page: '',
    prepare: async (w) => {
      await mistakes();
      const [project] = (await (await fetch(`${server.base}/api/projects`)).json()) as ProjectCard[];
      await w.page.goto(`${server.base}/projects/${project!.id}/findings`);
      await w.page.waitForFunction(() => document.querySelectorAll('[data-testid=finding-counts]').length === 3);
    },
  },
  lights: {
    page: 'shape',
    prepare: async (w) => {
      await w.keys('Alt+i', 's');
      const from = () => w.page.$eval('[data-testid=lit-from]', (e) => e.textContent);
      await until(from, (t) => t === 'Live, as fine as review', 'the light is found', 120_000);
      const eye = (await (await w.page.$('[data-pane=eye]'))!.boundingBox())!;
      await w.page.mouse.move(eye.x + 260, eye.y + 480);
      await w.keys('Alt+k');
      await until(
        () => w.text('[data-testid=meter]'),
        (t) => t.includes('lx'),
        'the meter reads',
      );
    },
  },
  sight: {
    page: 'shape',
    prepare: async (w) => {
      await w.press('Sight');
      await w.press('Live');
      await w.page.waitForSelector('.sight-scale');
      await stands(w.page);
      const press = async (h: number, v: number) => w.page.mouse.click(...(await sheetPoint(w.page, 'plan', h, v)));
      await press(1250, 250);
      await w.page.keyboard.down('Shift');
      await press(0, 1150);
      await w.page.keyboard.up('Shift');
      await w.page.mouse.move(30, 600);
    },
  },
  leak: {
    page: 'shape',
    prepare: async (w) => {
      // The west wall of the sluice gallery taken out.
      await nearer(w, -420, 560, 3);
      await w.click('plan', -560, 560);
      await w.click('plan', -560, 560);
      await w.keys('Delete');
      await w.sealing('leaking');
      await standAt(w, -80, 480);
      await look(w.page, 40, 30);
    },
  },
  play: { page: 'play?at=900%20140%200&turn=130', prepare: walking },
  // From the bank over the water.
  distance: { page: 'play?at=560%201380%20-32&turn=84', prepare: walking },
};

try {
  await until(maps, (all) => all.every((m) => m.lastBuild), 'the demo maps are built', 300_000);
  const tidemill = (await maps()).find((m) => m.name === 'Halyard Tidemill')!.id;
  for (const [name, { page, prepare }] of Object.entries(pictures)) {
    if (!wanted.test(name)) continue;
    // Each on a browser without memory of the others, and a map as it was delivered.
    const copy =
      page === 'shape'
        ? (
            (await (await fetch(`${server.base}/api/maps/${tidemill}/duplicate`, { method: 'POST' })).json()) as {
              id: string;
            }
          ).id
        : tidemill;
    if (page === 'shape')
      await fetch(`${server.base}/api/maps/${copy}`, {
        method: 'PATCH',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name: 'Halyard Tidemill' }),
      });
    const context = await browser.createBrowserContext();
    const w = await Workshop.open(
      { browser: context, base: server.base },
      page.startsWith('/') ? page : page ? `/maps/${copy}/${page}` : '/',
    );
    if (page === 'shape') await w.page.waitForSelector('[data-pane=eye] canvas');
    // In Play the mill turns, and never stands.
    const most = page.startsWith('play') ? 8 : 40;
    await stands(w.page, most);
    if (prepare) {
      await prepare(w);
      await stands(w.page, most);
    }
    await w.page.screenshot({ path: target(name) });
    console.log(name);
    await context.close();
    if (copy !== tidemill) await fetch(`${server.base}/api/maps/${copy}`, { method: 'DELETE' });
  }
} finally {
  await close();
  await server.stop();
}
