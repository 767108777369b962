import { openBrowser, sleep } from './browser.ts';
import { startServer } from './harness.ts';
import { sheetPoint, Workshop } from './workshop.ts';
import { addRoom, doCommand, call, emptyMap, openDoorway, placeEntity } from '@yesca/core';
const server = await startServer();
const { browser, close } = await openBrowser();
const D = { floor: 'oak-plank', wall: 'limewash', ceiling: 'slate' };
const rect = (x: number, y: number, w: number, d: number) =>
  [
    [x, y],
    [x + w, y],
    [x + w, y + d],
    [x, y + d],
  ] as [number, number][];
let doc = addRoom(
  emptyMap('Things trial'),
  { footprint: rect(0, 0, 512, 384), floor: 0, ceiling: 512, wall: 16 },
  D,
  'a',
);
doc = addRoom(doc, { footprint: rect(528, 0, 384, 384), floor: 0, ceiling: 512, wall: 16 }, D, 'b');
doc = openDoorway(doc, 'a', 'b', { width: 128, height: 216, sill: 0 }, 'o');
doc = placeEntity(placeEntity(doc, 'spawn', [60, 192, 0], 0, 's'), 'pointLight', [256, 192, 330], 0, 'l');
doc = placeEntity(doc, 'pointLight', [700, 192, 330], 0, 'l2');
const doit = (c: never) => {
  doc = doCommand(doc, c, { materials: () => undefined }).doc;
};
doit(call('thing.place', { kind: 'lift', at: [340, 300, 0], material: 'brass' }) as never);
doit(call('thing.place', { kind: 'zone', at: [300, 100, 0] }) as never);
doit(call('thing.place', { kind: 'mover', at: [780, 200, 120], material: 'slate' }) as never);
doit(call('thing.place', { kind: 'pickup', at: [180, 192, 0] }) as never);
doit(call('thing.place', { kind: 'breakable', at: [650, 100, 0], material: 'oak-plank' }) as never);
doit(
  call('door.inOpening', { opening: 'o', leaves: 'two', thickness: 6, material: 'oak-plank', moves: 'turns' }) as never,
);
doit(
  call('thing.change', {
    things: [[...doc.entities.values()].find((e) => e.kind === 'mover')!.id],
    params: { spin: 60 },
  }) as never,
);
doit(
  call('thing.change', {
    things: [[...doc.entities.values()].find((e) => e.kind === 'pickup')!.id],
    params: { what: 'tokens', amount: 5 },
  }) as never,
);
const w = await Workshop.withMap({ browser, base: server.base } as never, doc);
const shot = (n: string) => w.page.screenshot({ path: `/tmp/${n}.png` });
await w.page.setViewport({ width: 1280, height: 800 });
await sleep(500);
const pick = async (x: number, y: number) => {
  await w.page.mouse.click(...(await sheetPoint(w.page, 'plan', x, y)));
  await sleep(300);
};
await pick(340, 300);
await shot('t1');
const row = async (t: string) => {
  const r = await w.page.$$('.register-row');
  for (const e of r)
    if ((await e.evaluate((x) => x.textContent)) === t) {
      await e.click();
      break;
    }
  await sleep(300);
};
await row('Zone');
await shot('t2');
await w.press('Point').catch((e) => console.log(String(e)));
await pick(520, 192);
await shot('t3');
await row('Door');
await w.keys('Shift+s');
await sleep(500);
await shot('t4');
await w.page.goto(`${server.base}/maps/${w.mapId}/play?fresh=1`);
await w.page.waitForSelector('[data-testid=walk]', { timeout: 60000 });
await sleep(500);
await w.page.click('[data-testid=walk]');
await sleep(500);
await shot('t5');
await w.page.keyboard.down('w');
await sleep(1100);
await w.page.keyboard.up('w');
await sleep(300);
await shot('t6');
console.log(w.errors);
await close();
process.exit(0);
