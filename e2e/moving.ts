import assert from 'node:assert/strict';
import {
  addRoom,
  brushBounds,
  call,
  doCommand,
  emptyMap,
  openDoorway,
  placeEntity,
  type Call,
  type MapDocument,
  type Point2,
  type Vec3,
} from '@yesca/core';
import { DRESS } from '../packages/core/src/testing/rooms.ts';
import { clickOn, settled, until } from './browser.ts';
import type { Test } from './harness.ts';
import { Workshop } from './workshop.ts';

const rectangle = (x: number, y: number, w: number, d: number): Point2[] => [
  [x, y],
  [x + w, y],
  [x + w, y + d],
  [x, y + d],
];

/** Two rooms side by side with a doorway between them, lit, with a spawn that looks at it. */
function rooms(name: string, ceiling = 272, width = 128): MapDocument {
  const room = { floor: 0, ceiling, wall: 16 };
  let doc = addRoom(emptyMap(name), { footprint: rectangle(0, 0, 512, 384), ...room }, DRESS, 'a');
  doc = addRoom(doc, { footprint: rectangle(528, 0, 384, 384), ...room }, DRESS, 'b');
  doc = openDoorway(doc, 'a', 'b', { width, height: 216, sill: 0 }, 'o');
  for (const [id, x] of [
    ['l1', 256],
    ['l2', 720],
  ] as const)
    doc = placeEntity(doc, 'pointLight', [x, 60, 220], 0, id);
  return placeEntity(doc, 'spawn', [100, 192, 0], 0, 's');
}

/** Takes a kind from the open Stock to place it. */
async function placing(w: Workshop, kind: string): Promise<void> {
  await clickOn(w.page, '.stock ::-p-text(Things)');
  await clickOn(w.page, `.stock-kinds ::-p-text(${kind})`);
  await settled(w.page);
}

/** Where the player is in Play. */
const where = (w: Workshop): Promise<number[]> =>
  w.page.$eval('[data-testid=hud]', (e) => ((e as HTMLElement).dataset.at ?? '').split(' ').map(Number));

/** Waits until something that Play shows is as a test wants it. */
const shows = (w: Workshop, selector: string, words: string): Promise<unknown> =>
  w.page.waitForFunction(
    (s, t) => document.querySelector(s)?.textContent?.includes(t),
    { timeout: 15_000 },
    selector,
    words,
  );

const reaches = (w: Workshop, axis: 0 | 1 | 2, more: number): Promise<unknown> =>
  w.page.waitForFunction(
    (axis, more) =>
      Number(
        ((document.querySelector('[data-testid=hud]') as HTMLElement | null)?.dataset.at ?? '').split(' ')[axis] ?? NaN,
      ) > more,
    { timeout: 20_000 },
    axis,
    more,
  );

async function playNow(w: Workshop): Promise<void> {
  await w.saved();
  // Drawn without a graphics card a large picture takes longer than the steps between two.
  await w.page.setViewport({ width: 640, height: 400 });
  await w.page.goto(w.page.url().replace(/\/shape.*/, '/play?fresh=1'));
  await w.page.waitForSelector('[data-testid=walk]', { timeout: 60_000 });
  await w.page.waitForFunction(() => (document.querySelector('[data-testid=hud]') as HTMLElement)?.dataset.at);
  await w.page.click('[data-testid=walk]');
  await w.page.waitForFunction(() => document.querySelector('[data-testid=walk]') === null);
}

export const doubleDoor: Test = [
  'a double door made from an opening is tried in the editor, undone, built, opened by use and walked through',
  async (world) => {
    const w = await Workshop.withMap(world, rooms('Double door'));
    await w.keys('f');
    await w.click('plan', 300, 100);
    await w.press('Make a door here');
    await w.choose('Leaves', 'Two');
    await w.press('Make it');
    let doc = await w.document();
    const door = [...doc.entities.values()].find((e) => e.kind === 'door')!;
    const leaves = door.params.leaves as unknown as { moves: string; travel: Vec3 }[];
    assert.deepEqual(
      leaves.map((l) => [l.moves, l.travel.map((c) => Math.abs(c))]),
      [
        ['slides', [0, 64, 0]],
        ['slides', [0, 64, 0]],
      ],
    );
    await w.sealing('sealed');
    // Its arrow dragged: the leaf that slides north goes on by 32.
    const north = leaves.findIndex((l) => l.travel[1] > 0);
    const tip = 192 + 32 + 64;
    await w.drag('plan', [520, tip], [520, tip + 32]);
    doc = await w.document();
    const travel = () => (doc.entities.get(door.id)!.params.leaves as unknown as { travel: Vec3 }[])[north]!.travel[1];
    assert.equal(travel(), 96);
    await w.keys('Control+z');
    doc = await w.document();
    assert.equal(travel(), 64);
    // Tried: it is drawn open, and stands as before when that ends.
    const before = await w.picture('[data-pane=plan]');
    await w.keys('a');
    await w.page.waitForSelector('[data-testid=trying]');
    await w.page.waitForFunction(() => document.querySelector('[data-testid=trying]') !== null);
    const differs = async () => {
      const now = await w.picture('[data-pane=plan]');
      return now.data.some((v, i) => Math.abs(v - before.data[i]!) > 60);
    };
    for (let k = 0; k < 20 && !(await differs()); k++) await settled(w.page);
    assert.ok(await differs());
    await w.keys('Escape');
    await w.page.waitForFunction(() => document.querySelector('[data-testid=trying]') === null);
    assert.deepEqual((await w.document()).entities.get(door.id), doc.entities.get(door.id));
    // Made in one step, so undone in one.
    await w.keys('Control+z');
    assert.equal(
      [...(await w.document()).entities.values()].some((e) => e.kind === 'door'),
      false,
    );
    await w.keys('Control+Shift+z');
    await playNow(w);
    await w.page.keyboard.down('w');
    await shows(w, '[data-testid=hint]', 'E · Door');
    // Closed: nobody gets through.
    await w.page.waitForFunction(
      () => Number((document.querySelector('[data-testid=hud]') as HTMLElement).dataset.at!.split(' ')[0]) > 490,
    );
    assert.ok((await where(w))[0]! < 500);
    await w.page.keyboard.press('e', { delay: 80 });
    await reaches(w, 0, 600);
    await w.page.keyboard.up('w');
    w.clean();
    await w.page.close();
  },
];

/** Facing east, goes aside until north is `goal` within 24: in steps, since on a busy machine a key is let go late. */
async function sidestep(w: Workshop, goal: number): Promise<void> {
  await until(
    async () => {
      const off = goal - (await where(w))[1]!;
      if (Math.abs(off) > 24)
        await w.page.keyboard.press(off > 0 ? 'a' : 'd', { delay: Math.min(600, 80 + 2 * Math.abs(off)) });
      return off;
    },
    (off) => Math.abs(off) <= 24,
    'beside the door',
    20_000,
  );
}

export const liftAndHatch: Test = [
  'a lift from Stock is wired to a zone and ridden; a priced hatch refuses, takes tokens and opens; all saved and reloaded',
  async (world) => {
    let doc = rooms('Lift and hatch', 640, 256);
    const act = (c: Call) => (doc = doCommand(doc, c, { materials: () => undefined }).doc);
    act(call('door.inOpening', { opening: 'o', leaves: 'one', thickness: 6, material: 'oak-plank', moves: 'slides' }));
    const w = await Workshop.withMap(world, doc);
    await w.keys('f');
    // A lift placed from Stock at the far wall of the second room, which ends the way of who walks on too long; where it halts is typed.
    await w.press('Stock');
    await placing(w, 'Lift');
    await w.click('plan', 832, 192);
    await w.keys('v');
    doc = await w.document();
    const lift = [...doc.entities.values()].find((e) => e.kind === 'lift')!;
    assert.equal([...doc.brushes.values()].filter((b) => b.owner?.id === lift.id).length, 1);
    // A zone before it starts it: the likely signal and action are chosen.
    await placing(w, 'Zone');
    await w.click('plan', 688, 192);
    await w.keys('v');
    await w.choose('Starts', 'Lift');
    doc = await w.document();
    const [wire] = [...doc.wires.values()];
    assert.deepEqual([wire!.from.signal, wire!.to], ['entered', { thing: lift.id, action: 'next' }]);
    await w.fill('After', '2');
    assert.equal([...(await w.document()).wires.values()][0]!.delay, 2);
    // The hatch costs three tokens, and tokens lie before it.
    await w.press('Register');
    await clickOn(w.page, '.register-row ::-p-text(Door)');
    await settled(w.page);
    await w.fill('Price', '3');
    assert.equal([...(await w.document()).entities.values()].find((e) => e.kind === 'door')!.params.price, 3);
    await w.page.waitForFunction(() => document.body.textContent?.includes('problem'));
    await w.press('Stock');
    await placing(w, 'Pickup');
    await w.click('plan', 32, 80);
    await w.keys('v');
    await w.choose('Lies on it', 'Tokens');
    await w.saved();
    await w.page.reload();
    await w.page.waitForSelector('[data-pane=eye] canvas');
    doc = await w.document();
    assert.deepEqual([doc.wires.size, [...doc.entities.values()].filter((e) => e.kind === 'pickup').length], [1, 1]);
    await playNow(w);
    await w.page.keyboard.down('w');
    await shows(w, '[data-testid=hint]', 'E · Door');
    await w.page.keyboard.press('e', { delay: 80 });
    await shows(w, '[data-testid=hint]', 'wants 3 tokens');
    await w.page.keyboard.up('w');
    // Back to the wall and along it, over the pickup, and to the hatch again.
    await w.page.keyboard.down('s');
    await w.page.waitForFunction(
      () => Number((document.querySelector('[data-testid=hud]') as HTMLElement).dataset.at!.split(' ')[0]) < 25,
    );
    await w.page.keyboard.up('s');
    await w.page.keyboard.down('d');
    await shows(w, '[data-testid=vitals]', 'token');
    await w.page.keyboard.up('d');
    await sidestep(w, 192);
    await w.page.keyboard.down('w');
    await shows(w, '[data-testid=hint]', 'E · Door');
    await w.page.keyboard.press('e', { delay: 80 });
    await reaches(w, 0, 690);
    await reaches(w, 0, 800);
    await w.page.keyboard.up('w');
    // The zone has called it: it leaves with whoever stands on it by then.
    await reaches(w, 2, 200);
    w.clean();
    await w.page.close();
  },
];

/** A room, and behind a doorway a deep one that is dark, with a ledge at its far end as high as the first one's floor. */
function overThePool(): MapDocument {
  let doc = addRoom(
    emptyMap('Over the pool'),
    { footprint: rectangle(0, 0, 512, 384), floor: 240, ceiling: 640, wall: 16 },
    DRESS,
    'a',
  );
  doc = addRoom(doc, { footprint: rectangle(528, 0, 640, 384), floor: 0, ceiling: 640, wall: 16 }, DRESS, 'b');
  doc = openDoorway(doc, 'a', 'b', { width: 128, height: 216, sill: 0 }, 'o');
  const box = { min: [960, 0, 0], max: [1168, 384, 240] } as const;
  const ledge = call('brush.draw', { shape: { kind: 'box', box, params: {} }, material: 'slate', role: 'detail' });
  doc = doCommand(doc, ledge, { materials: () => undefined }).doc;
  doc = placeEntity(doc, 'pointLight', [256, 60, 540], 0, 'near');
  doc = placeEntity(doc, 'pointLight', [800, 330, 580], 0, 'far');
  return placeEntity(doc, 'spawn', [100, 192, 240], 0, 's');
}

/** How many pixels of a part of the page are nearly white: lit from close by. */
async function glaring(w: Workshop, selector: string): Promise<number> {
  const { data } = await w.picture(selector);
  let count = 0;
  for (let i = 0; i < data.length; i += 4) if (Math.min(data[i]!, data[i + 1]!, data[i + 2]!) > 225) count++;
  return count;
}

export const grilleAndPool: Test = [
  'a grille is broken and lights the lamp it is wired to; behind it one swims through a pool and climbs a ladder out of it',
  async (world) => {
    const w = await Workshop.withMap(world, overThePool());
    await w.keys('f');
    // A grille drawn across the doorway, and made to break.
    await w.keys('b');
    await w.drag('plan', [512, 128], [528, 256]);
    await w.type('16 128 216');
    await w.keys('Enter', 'v');
    await w.palette('into a breakable');
    let doc = await w.document();
    const grille = [...doc.entities.values()].find((e) => e.kind === 'breakable')!;
    assert.equal([...doc.brushes.values()].filter((b) => b.owner?.id === grille.id).length, 1);
    // The lamp behind it is dark until a wire that is dragged there from the grille lights it.
    await w.click('plan', 800, 330);
    await w.press('Lit at first');
    assert.equal((await w.document()).entities.get('far')!.params.lit, false);
    await clickOn(w.page, '.register-row ::-p-text(Breakable)');
    await settled(w.page);
    const [x, y] = await w.at('plan', grille.at[0], grille.at[1]);
    const [lampX, lampY] = await w.at('plan', 800, 330);
    await w.page.mouse.move(x - 17, y + 17);
    await w.page.mouse.down();
    await w.page.mouse.move((x + lampX) / 2, (y + lampY) / 2, { steps: 4 });
    await w.page.mouse.move(lampX, lampY, { steps: 4 });
    assert.match(await w.text('[data-testid=tool-note]'), /breakable is broken, a point light: switch/);
    await w.page.mouse.up();
    await settled(w.page);
    doc = await w.document();
    assert.deepEqual(
      [...doc.wires.values()].map((e) => [e.from, e.to]),
      [
        [
          { thing: grille.id, signal: 'broken' },
          { thing: 'far', action: 'toggle' },
        ],
      ],
    );
    // Down on the deep floor: a ladder up the ledge, and water.
    await w.keys('PageDown', 'b');
    await w.drag('plan', [944, 160], [960, 224]);
    await w.type('16 64 240');
    await w.keys('Enter', 'v');
    await w.choose('Role', 'Ladder');
    await w.keys('Escape', 'b');
    await w.choose('Role', 'Liquid');
    await w.drag('plan', [528, 0], [944, 384]);
    await w.type('432 384 220');
    await w.keys('Enter', 'v');
    doc = await w.document();
    const of = (role: string) => [...doc.brushes.values()].filter((b) => b.role === role).map(brushBounds);
    assert.deepEqual(
      [of('ladder'), of('liquid')],
      [[{ min: [944, 160, 0], max: [960, 224, 240] }], [{ min: [528, 0, 0], max: [960, 384, 220] }]],
    );
    // Undone, done again, and still there after the page was loaded anew.
    await w.keys('Control+z');
    doc = await w.document();
    assert.equal(of('liquid').length, 0);
    await w.keys('Control+Shift+z');
    await w.saved();
    await w.page.reload();
    await w.page.waitForSelector('[data-pane=eye] canvas');
    doc = await w.document();
    assert.deepEqual([of('ladder').length, of('liquid').length, doc.wires.size], [1, 1, 1]);
    await playNow(w);
    await w.page.keyboard.down('w');
    await shows(w, '[data-testid=hint]', 'E · Breakable');
    await w.page.keyboard.up('w');
    await settled(w.page);
    assert.ok((await glaring(w, '.play canvas')) < 20);
    // It bears two blows; those that come within one frame are one.
    await until(
      async () => {
        await w.page.keyboard.press('e', { delay: 80 });
        return w.text('[data-testid=hint]');
      },
      (hint) => hint === '',
      'the grille is gone',
    );
    // And what lies behind it is lit.
    await until(
      () => glaring(w, '.play canvas'),
      (now) => now > 500,
      'the lamp is lit',
    );
    await w.page.keyboard.down('w');
    await reaches(w, 0, 700);
    assert.ok((await where(w))[2]! < 200, 'one swims');
    await reaches(w, 0, 1000);
    await w.page.keyboard.up('w');
    await until(
      () => where(w),
      ([, , z]) => Math.abs(z! - 240) < 1,
      'one stands on the ledge',
    );
    w.clean();
    await w.page.close();
  },
];
