import assert from 'node:assert/strict';
import { brushBounds, brushVolume, findFlaw, partKey, solidOf } from '@yesca/core';
import type { Test } from './harness.ts';
import { Workshop } from './workshop.ts';

export const drawing: Test = [
  'brushes are drawn, typed, moved, resized, copied, nudged and deleted; undo and redo lead there and back',
  async (world) => {
    const w = await Workshop.newMap(world, 'One sealed room');
    await w.keys('b');
    await w.drag('plan', [-64, -64], [0, 0]);
    await w.type('96 64 40');
    await w.keys('Enter');
    const find = async () => [...(await w.document()).brushes.values()].filter((b) => !b.room);
    let [crate] = await find();
    assert.deepEqual(brushBounds(crate!), { min: [-64, -64, 0], max: [32, 0, 40] });
    assert.equal(crate!.role, 'detail');
    // A prism and a wedge through the options.
    await w.choose('Shape', 'Prism');
    await w.drag('plan', [64, 64], [128, 128]);
    await w.keys('Enter');
    await w.choose('Shape', 'Wedge');
    await w.drag('plan', [64, -128], [192, -64]);
    await w.keys('Enter');
    const shapes = await find();
    assert.equal(shapes.length, 3);
    for (const b of shapes) assert.equal(findFlaw(solidOf(b)), null);
    assert.ok(shapes.some((b) => b.faces.length === 10) && shapes.some((b) => b.faces.length === 5));
    // Esc drops a ghost.
    await w.drag('plan', [-200, 100], [-160, 160]);
    await w.keys('Escape');
    assert.equal((await find()).length, 3);
    // Move by dragging the body, resize by the east handle, copy with Alt, nudge with arrows.
    await w.keys('v');
    await w.click('plan', -16, -32);
    await w.drag('plan', [-16, -32], [-80, -32]);
    [crate] = (await find()).filter((b) => b.id === crate!.id);
    assert.deepEqual(brushBounds(crate!).min, [-128, -64, 0]);
    await w.drag('plan', [-32, -32], [0, -32]);
    [crate] = (await find()).filter((b) => b.id === crate!.id);
    assert.deepEqual(brushBounds(crate!), { min: [-128, -64, 0], max: [0, 0, 40] });
    await w.keys('ArrowUp', 'Alt+ArrowUp');
    [crate] = (await find()).filter((b) => b.id === crate!.id);
    assert.deepEqual(brushBounds(crate!).min, [-128, -48, 16]);
    await w.drag('plan', [-64, -16], [-64, 112], 'Alt');
    assert.equal((await find()).length, 4);
    await w.keys('Delete');
    assert.equal((await find()).length, 3);
    const last = await w.document();
    for (let i = 0; i < 20; i++) await w.keys('Control+z');
    assert.equal((await find()).length, 0);
    for (let i = 0; i < 20; i++) await w.keys('Control+Shift+z');
    const again = await w.document();
    assert.equal(
      [...again.brushes.values()].reduce((v, b) => v + brushVolume(b), 0),
      [...last.brushes.values()].reduce((v, b) => v + brushVolume(b), 0),
    );
    // What the screen showed as saved is there after a reload.
    await w.page.reload({ waitUntil: 'networkidle0' });
    await w.page.waitForSelector('[data-pane=plan] canvas');
    assert.equal((await find()).length, 3);
    w.clean();
  },
];

export const rooms: Test = [
  'two rooms are drawn, share a wall, get a doorway, and stay rooms when their numbers change',
  async (world) => {
    const w = await Workshop.newMap(world, 'Empty sheet');
    await w.keys('r');
    await w.drag('plan', [-320, -128], [-64, 128]);
    await w.keys('Enter');
    // Drawn onto the first room's side it moves off by one wall.
    await w.drag('plan', [-64, -128], [192, 128]);
    await w.keys('Enter', 'v');
    let doc = await w.document();
    const [west, east] = [...doc.rooms.values()].sort((a, b) => a.footprint[0]![0] - b.footprint[0]![0]);
    assert.equal(Math.min(...east!.footprint.map((p) => p[0])) - Math.max(...west!.footprint.map((p) => p[0])), 16);
    // Select both and open the doorway by its key.
    await w.press(west!.name);
    await w.page.keyboard.down('Control');
    await w.press(east!.name);
    await w.page.keyboard.up('Control');
    await w.keys('Control+o');
    doc = await w.document();
    assert.equal(doc.openings.size, 1);
    await w.keys('l');

    await w.press('Spawn');
    await w.click('plan', -192, 0);
    await w.sealing('sealed');
    // A typed sum in Particulars: the ceiling goes up, the room stays a sealed room with its doorway.
    await w.keys('v');
    await w.press(west!.name);
    const field = (await w.page.$('::-p-aria([name="Ceiling"][role="textbox"])'))!;
    await field.click({ count: 3 });
    await w.type('2*128+64');
    await w.keys('Enter');
    doc = await w.document();
    assert.equal(doc.rooms.get(west!.id)!.ceiling, 320);
    assert.equal(doc.openings.size, 1);
    await w.sealing('sealed');
    // A polygon by clicks.
    await w.keys('r');
    for (const [x, y] of [
      [-320, -336],
      [-64, -336],
      [-64, -192],
      [-192, -160],
      [-320, -192],
    ] as const)
      await w.click('plan', x, y);
    await w.keys('Enter');
    doc = await w.document();
    assert.equal(doc.rooms.size, 3);
    assert.ok([...doc.rooms.values()].some((r) => r.footprint.length === 5));
    // An impossible wish is refused with a notice and changes nothing.
    await w.click('plan', 240, 200);
    await w.click('plan', 336, 296);
    await w.click('plan', 336, 200);
    await w.click('plan', 240, 296);
    await w.keys('Enter');
    await w.page.waitForFunction(() => document.body.textContent!.includes('crosses itself'), { timeout: 3000 });
    assert.equal((await w.document()).rooms.size, 3);
    await w.keys('Escape');
    await w.palette('as a drawing');
    const drawn = await w.page.waitForFunction(() => {
      const picture = document.querySelector<HTMLImageElement>('.drawing-picture img');
      return picture && picture.complete && picture.naturalWidth > 0
        ? [picture.naturalWidth, picture.naturalHeight]
        : null;
    });
    assert.ok((await drawn.jsonValue())!.every((side) => side > 100));
    await w.press('Save as SVG');
    await w.page.waitForFunction(() => /-plan\.svg is saved\./.test(document.body.textContent!));
    w.clean();
  },
];

export const faces: Test = [
  'faces are picked with Alt, painted together, and their texture is turned by numbers',
  async (world) => {
    const w = await Workshop.newMap(world, 'One sealed room');
    await w.click('plan', 100, 60, 'Alt');
    assert.match(await w.text('[data-testid=particulars]'), /Face/);
    const turn = (await w.page.$('::-p-aria([name="Turn"][role="textbox"])'))!;
    await turn.click({ count: 3 });
    await w.type('45');
    await w.keys('Enter');
    let doc = await w.document();
    const floor = () => [...doc.brushes.values()].find((b) => b.room && partKey(b.room.part) === 'floor:0')!;
    const face = floor().faces.find((f) => Math.abs(f.frame.u[1]) > 0.1)!;
    assert.ok(Math.abs(Math.abs(face.frame.u[0]) - Math.SQRT2) < 1e-9);
    // I held picks up, a click puts down, Shift paints the whole brush.
    await w.keys('p');
    await w.page.keyboard.down('i');
    await w.click('plan', 100, 60);
    await w.page.keyboard.up('i');
    await w.press('Stock');
    await w.press('Material Wet sand');
    await w.click('plan', 100, 60, 'Shift');
    doc = await w.document();
    assert.deepEqual([...new Set(floor().faces.map((f) => f.material))], ['wet-sand']);
    // Painting in the Eye hits the face under the pointer.
    const eye = (await (await w.page.$('[data-pane=eye]'))!.boundingBox())!;
    await w.press('Material Red brick');
    await w.page.mouse.click(eye.x + eye.width / 2, eye.y + eye.height / 2);
    doc = await w.document();
    assert.equal([...doc.brushes.values()].flatMap((b) => b.faces).filter((f) => f.material === 'red-brick').length, 1);
    w.clean();
  },
];
