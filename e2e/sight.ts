import assert from 'node:assert/strict';
import {
  addBrushes,
  addRoom,
  boxSolid,
  changeEntity,
  doorInOpening,
  dressSolid,
  emptyMap,
  openDoorway,
  placeEntity,
  placeProps,
  type Brush,
  type MapDocument,
  type Point2,
  type Vec3,
} from '@yesca/core';
import { propFacts } from '@yesca/stock';
import { DRESS } from '../packages/core/src/testing/rooms.ts';
import { clickOn, settled, until } from './browser.ts';
import type { Test } from './harness.ts';
import { sheetPoint, Workshop } from './workshop.ts';

/** Three rooms round a corner: through both doorways, 40 wide in walls of 48, no line leads. */
function corner(): MapDocument {
  const square = (x: number, y: number): Point2[] => [
    [x, y],
    [x + 240, y],
    [x + 240, y + 240],
    [x, y + 240],
  ];
  const room = (x: number, y: number) => ({ footprint: square(x, y), floor: 0, ceiling: 272, wall: 48 });
  const opening = { width: 40, height: 200, sill: 0, at: 40 };
  let doc = addRoom(emptyMap('Round a corner'), room(64, 64), DRESS, 'a');
  doc = addRoom(doc, room(352, 64), DRESS, 'b');
  doc = addRoom(doc, room(352, 352), DRESS, 'c');
  doc = openDoorway(openDoorway(doc, 'a', 'b', opening), 'b', 'c', opening);
  return placeEntity(placeEntity(doc, 'pointLight', [180, 180, 200]), 'spawn', [150, 150, 0]);
}

/** Presses the Plan at a point of the map. */
async function pin(w: Workshop, x: number, y: number, shift = false): Promise<void> {
  const [px, py] = await sheetPoint(w.page, 'plan', x, y);
  if (shift) await w.page.keyboard.down('Shift');
  await w.page.mouse.click(px, py);
  if (shift) await w.page.keyboard.up('Shift');
  await settled(w.page);
}

const textOf = (w: Workshop, id: string): Promise<string> =>
  w.page.$eval(`[data-testid=${id}]`, (e) => e.textContent ?? '').catch(() => '');
const answer = (w: Workshop): Promise<string> =>
  w.page.$eval('[data-testid=sight-why]', (e) => (e as HTMLElement).dataset.answer ?? '').catch(() => '');

export const sights: Test = [
  'sight: live before any build, what a pin sees and why, and the same of a build',
  async (world) => {
    const w = await Workshop.withMap(world, corner());
    await w.press('Sight');
    await until(
      () => textOf(w, 'sight-empty'),
      (t) => t.includes('not built yet'),
      'it says what to do',
    );
    await w.press('Turn on Live');
    await w.page.waitForSelector('.sight-scale');
    await pin(w, 180, 180);
    await until(
      () => textOf(w, 'sight-pinned'),
      (t) => t.includes('From A 4 of 5 cells'),
      'what A sees',
    );
    await w.page.waitForSelector('.sight-view canvas');
    await pin(w, 470, 470, true);
    assert.equal(await answer(w), 'no');
    await pin(w, 470, 180, true);
    assert.equal(await answer(w), 'yes');
    assert.match(await textOf(w, 'sight-why'), /through [23] portals/);
    await w.page.keyboard.press('Escape');
    await until(
      () => textOf(w, 'sight-why'),
      (t) => t === '',
      'Esc clears both points',
    );
    // The longest line is drawn when it is picked.
    await clickOn(w.page, '.sight-row[aria-pressed=false]');
    await w.page.waitForSelector('.sight-row[aria-pressed=true]');
    // Of a build it says the same.
    await w.press('Live');
    await w.press('Go to Build');
    await w.build('Review');
    await w.press('Sight');
    await w.page.waitForSelector('.sight-scale');
    await pin(w, 180, 180);
    await until(
      () => textOf(w, 'sight-pinned'),
      (t) => t.includes('From A 4 of 5 cells'),
      'what A sees in the build',
    );
    await pin(w, 470, 470, true);
    assert.equal(await answer(w), 'no');
    // The Eye shows the same among its cells, from wherever one looks; a press on its notice is none on the map.
    await w.press('Shape');
    await w.page.waitForSelector('[data-pane=eye] canvas');
    await w.press('Cells');
    const notice = () => textOf(w, 'cells-notice');
    await until(
      notice,
      (t) => t.includes('As seen from the pin: 4 of 5 cells'),
      'what the pin sees in the Eye',
      20_000,
    );
    const eye = () =>
      w.page.$eval('[data-pane=eye]', (e) => JSON.parse((e as HTMLElement).dataset.eye!).at as number[]);
    await w.keys('f', 'z');
    await w.press('Look from it');
    await until(eye, ([x, y]) => Math.hypot(x! - 180, y! - 180) < 1, 'the camera is at the pin');
    assert.equal(await w.page.$('.register-row[data-selected]'), null);
    await w.press('Show all');
    await until(notice, (t) => !t.includes('pin'), 'no pin');
    assert.deepEqual(w.errors, []);
  },
];

/** Two rooms with a door between them that opens for who comes near, and a gate in its opening. */
function gated(): MapDocument {
  const room = (x: number) => ({
    footprint: [
      [x, 0],
      [x + 512, 0],
      [x + 512, 384],
      [x, 384],
    ] as Point2[],
    floor: 0,
    ceiling: 272,
    wall: 16,
  });
  let doc = addRoom(emptyMap('A gate'), room(0), DRESS, 'a');
  doc = openDoorway(addRoom(doc, room(528), DRESS, 'b'), 'a', 'b', { width: 128, height: 216, sill: 0 }, 'o');
  doc = doorInOpening(doc, 'o', {
    leaves: 'one',
    moves: 'slides',
    thickness: 6,
    material: 'oak-plank',
    zone: true,
  }).doc;
  doc = placeEntity(placeEntity(doc, 'pointLight', [256, 60, 220]), 'pointLight', [720, 60, 220]);
  return placeEntity(doc, 'spawn', [60, 192, 0], 0, 's');
}

export const gates: Test = [
  'gates: one fills an opening, what lies behind is drawn from the first movement of its door',
  async (world) => {
    const w = await Workshop.withMap(world, gated());
    const drawn = () =>
      w.page.$eval('[data-testid=hud]', (e) => Number((e as HTMLElement).dataset.drawn ?? NaN)).catch(() => NaN);
    /** Plays, and gives how many faces are drawn at the spawn. */
    const play = async () => {
      await w.keys('Control+b');
      return until(drawn, (n) => n > 0, 'play begins', 60_000);
    };
    const without = await play();
    await w.page.goBack();
    await w.page.waitForSelector('[data-pane=eye] canvas');
    await settled(w.page);
    await w.keys('f');
    await w.click('plan', 300, 100);
    await w.press('Fill with a gate');
    // Without a gate the other room is drawn through the closed door; with it only from its first movement on.
    const closed = await play();
    assert.ok(closed < without - 5, `${closed} of ${without} faces drawn behind the gate`);
    await w.page.click('[data-testid=walk]');
    await settled(w.page);
    await w.page.keyboard.down('w');
    await until(drawn, (n) => n >= without, 'all is drawn once the door moves', 20_000);
    await w.page.keyboard.up('w');
    assert.deepEqual(w.errors, []);
  },
];

/** A hall with rooms beside it, behind thick walls and narrow doorways. */
function sheds(): MapDocument {
  const room = (x: number, y: number, w: number, d: number) => ({
    footprint: [
      [x, y],
      [x + w, y],
      [x + w, y + d],
      [x, y + d],
    ] as Point2[],
    floor: 0,
    ceiling: 272,
    wall: 48,
  });
  let doc = addRoom(emptyMap('Sheds'), room(0, 0, 2100, 240), DRESS, 'hall');
  for (let i = 0; i < 3; i++) {
    doc = addRoom(doc, room(i * 700 + 200, 288, 300, 300), DRESS, `shed ${i}`);
    doc = openDoorway(doc, 'hall', `shed ${i}`, { width: 40, height: 200, sill: 0 }, `o${i}`);
  }
  return placeEntity(placeEntity(doc, 'pointLight', [60, 120, 200]), 'spawn', [60, 60, 0], 0, 's');
}

export const suggested: Test = [
  'sight: a hint is drawn and what it saves is told; what would help is tried, placed as one step, and the cost falls',
  async (world) => {
    const w = await Workshop.withMap(world, sheds());
    const hints = async () => [...(await w.document()).brushes.values()].filter((b) => b.role === 'hint').length;
    await w.keys('f', 'Shift+c');
    await w.drag('plan', [1050, 30], [1050, 200]);
    await until(
      () => textOf(w, 'tool-note'),
      (t) => /Saves \d+ %: [\d,]+ → [\d,]+ triangles/.test(t),
      'what the hint saves',
    );
    await w.keys('Enter');
    assert.equal(await hints(), 1);
    await w.keys('Control+z');
    assert.equal(await hints(), 0);
    await w.press('Sight');
    await w.press('Turn on Live');
    await w.page.waitForSelector('.sight-scale');
    await pin(w, 100, 120);
    const triangles = async () =>
      Number((/ and ([\d,]+) of/.exec(await textOf(w, 'sight-pinned'))?.[1] ?? 'NaN').replaceAll(',', ''));
    const before = await until(triangles, (n) => n > 0, 'triangles drawn from A');
    await w.press('Try hints and gates');
    await w.page.waitForSelector('[data-testid=sight-suggestions][data-state=done]', { timeout: 60_000 });
    await w.press('Place it');
    assert.equal(await hints(), 1);
    await until(triangles, (n) => n < before * 0.9, `fewer than ${before} triangles drawn from A`, 20_000);
    await w.keys('Control+z');
    await until(triangles, (n) => n === before, 'undone in one step', 20_000);
    assert.deepEqual(w.errors, []);
  },
];

/** A yard under the open sky, and far from it a block on a plain: its scenery, sixteen times as large. */
function yard(): MapDocument {
  const open = { floor: 0, ceiling: 200, wall: 16, open: true };
  const corners: Point2[] = [
    [0, 0],
    [800, 0],
    [800, 600],
    [0, 600],
  ];
  let doc = addRoom(emptyMap('Yard'), { ...open, footprint: corners }, DRESS, 'yard');
  doc = placeEntity(placeEntity(doc, 'spawn', [100, 300, 0], 0, 's'), 'sun', [400, 300, 100], 200, 'sun');
  doc = placeEntity(doc, 'scenery', [6000, 0, 10], 0, 'far');
  doc = changeEntity(doc, 'far', { params: { scale: 16, stands: 's' } });
  const box = (id: string, min: Vec3, max: Vec3, extra: Partial<Brush> = {}) =>
    dressSolid(boxSolid({ min, max }), id, 'tarred-board', extra);
  doc = placeProps(doc, [{ model: 'crate-tarred', at: [6180, 120, 10] }], propFacts).doc;
  return addBrushes(doc, [
    box('plain', [5500, -500, 0], [6500, 500, 10]),
    box('block', [6160, -20, 10], [6200, 20, 60]),
    // It ends just behind where it is seen from.
    box('mark', [5998, -500, 0], [6500, 500, 400], { role: 'zone', owner: { id: 'far' } }),
  ]);
}

export const distance: Test = [
  'a distant scenery stands behind the sky where geometry puts it, and nobody runs into it',
  async (world) => {
    const w = await Workshop.withMap(world, yard());
    await w.sealing('sealed');
    await w.page.setViewport({ width: 640, height: 400 });
    await w.keys('Control+b');
    await w.page.waitForSelector('[data-testid=walk]', { timeout: 60_000 });
    await w.page.click('[data-testid=walk]');
    // Seen with the eyes 160 high: a block 640 wide, and 800 high, 2560 away; half the picture is 40 degrees.
    const half = 200 / Math.tan((40 * Math.PI) / 180);
    const [side, top] = [(320 / 2560) * half, ((800 - 160) / 2560) * half];
    const light = async (x: number, y: number) => {
      const { data, width } = await w.picture('.play canvas');
      const i = 4 * (Math.round(200 - y) * width + Math.round(320 + x));
      return data[i]! + data[i + 1]! + data[i + 2]!;
    };
    const sky = await until(
      () => light(0, top + 6),
      (n) => n > 250,
      'the sky over the block',
    );
    for (const [x, y] of [
      [0, top - 3],
      [side - 3, top - 6],
      [3 - side, top - 6],
    ] as const)
      assert.ok((await light(x, y)) < sky - 100, `the block at ${x} ${y}`);
    for (const x of [side + 3, -side - 3]) assert.ok((await light(x, top - 6)) > sky - 60, `the sky at ${x}`);
    // A crate stands to its left, its face 140 away and its top 78 over the eyes.
    assert.ok((await light((-120 / 180) * half, (320 / 2880) * half)) < sky - 100, 'the crate');
    assert.ok((await light((-120 / 180) * half, (100 / 140) * half)) > sky - 60, 'the sky over the crate');
    // Under the first of the skies that people know the picture is another one; nothing is built for that.
    await w.keys('k');
    await until(
      () => w.text('[data-testid=hint]'),
      (t) => t === 'Clear day',
      'another sky',
    );
    await until(
      () => light(0, top + 6),
      (n) => Math.abs(n - sky) > 8,
      'it is drawn',
    );
    // Farther back one looks past the scenery's own sky, to the left: there is the sky as well.
    await w.page.goto(w.page.url().replace(/\?.*/, '?at=20%20300%200&turn=90'));
    await w.page.waitForSelector('[data-testid=walk]', { timeout: 60_000 });
    await w.page.click('[data-testid=walk]');
    await until(
      () => light(-200, 150),
      (n) => n > 250,
      'the sky beside the scenery',
    );
    assert.deepEqual(w.errors, []);
  },
];
