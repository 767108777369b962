import assert from 'node:assert/strict';
import { brushPlanes, changeEntity, paintFaces, placeEntity, type MapDocument } from '@yesca/core';
import { TEMPLATES } from '@yesca/stock';
import { PNG } from 'pngjs';
import { settled, until } from './browser.ts';
import type { Test } from './harness.ts';
import { eyePoint, Workshop } from './workshop.ts';

/** The room of the template with two lamps, one of them red. */
function rooms(): MapDocument {
  let doc = TEMPLATES.find((t) => t.key === 'one-room')!.make('Lamps');
  for (const e of doc.entities.values())
    if (e.kind === 'pointLight')
      doc = changeEntity(doc, e.id, { name: 'White lamp', params: { candela: 200, color: '#ffffff' } });
  const [x, y] = [...doc.entities.values()].find((e) => e.kind === 'pointLight')!.at;
  doc = placeEntity(doc, 'pointLight', [x + 90, y + 60, 160], 0, 'red');
  return changeEntity(doc, 'red', { name: 'Red lamp', params: { candela: 80, color: '#ff3010' } });
}

/** Light is found within this on a busy machine, ms. */
const LIT = 60_000;

export const lights: Test = [
  'the light of a map is seen while it is made: live, metered, set to so many lux, muted, and beside a build',
  async (world) => {
    const w = await Workshop.withMap(world, rooms());
    const from = () => w.text('[data-testid=lit-from]');
    const meter = async () => parseFloat(await w.text('[data-testid=meter]'));
    await w.keys('Alt+i', 's');
    await until(from, (t) => t === 'Live, as fine as review', 'the light is found', LIT);
    // The floor beyond the white lamp.
    const doc = await w.document();
    const lamp = [...doc.entities.values()].find((e) => e.name === 'White lamp')!;
    const spawn = [...doc.entities.values()].find((e) => e.kind === 'spawn')!;
    await w.page.mouse.move(...(await eyePoint(w.page, [lamp.at[0] + 100, lamp.at[1], spawn.at[2]])));
    await until(meter, (lux) => lux > 1, 'the meter reads the floor');
    const before = await meter();
    await w.keys('Alt+k');
    // Without the white lamp there is less, and alone it gives the rest but for the even light.
    await w.press('Without White lamp');
    await until(meter, (lux) => lux < 0.8 * before, 'the lamp is out');
    const without = await meter();
    await w.press('Without White lamp');
    await until(meter, (lux) => Math.abs(lux - before) < 0.02 * before, 'it is lit again');
    await w.press('White lamp alone');
    await until(meter, (lux) => Math.abs(lux + without - before) < 0.03 * before, 'it shines alone');
    await w.press('White lamp alone');
    assert.equal((await w.document()).entities.get('red')!.params.candela, 80);
    // All lamps so strong together that there are 40 lux, and back.
    await w.fill('Make it here', '40');
    await until(meter, (lux) => Math.abs(lux - 40) < 0.5, 'the place has 40 lux');
    const set = (await w.document()).entities.get('red')!.params.candela as number;
    assert.ok(Math.abs(set - 80) > 5, `the red lamp has ${set} cd`);
    assert.equal(await from(), 'Live, as fine as review');
    await w.keys('Control+z');
    await until(meter, (lux) => Math.abs(lux - before) < 0.02 * before, 'undone');
    // A lamp that is moved is lit anew.
    await w.press('Red lamp');
    await w.page.hover('[data-pane=plan]');
    for (let i = 0; i < 4; i++) await w.keys('ArrowLeft');
    await until(meter, (lux) => Math.abs(lux - before) > 0.02 * before, 'the light follows the lamp', LIT);
    await until(from, (t) => t === 'Live, as fine as review', 'the light is fine again', LIT);
    await w.saved();
    await w.build('Sketch');
    await w.press('Shape');
    await w.page.waitForSelector('[data-pane=eye] canvas');
    await w.page.waitForSelector('[data-testid=lit-from]');
    await w.choose('Compare with', 'sketch');
    const line = (await w.page.waitForSelector('[role=slider][aria-label^="Between the two builds"]'))!;
    const place = () => line.evaluate((e) => Number(e.getAttribute('aria-valuenow')));
    assert.equal(await place(), 50);
    await line.focus();
    await w.keys('ArrowLeft', 'ArrowLeft');
    assert.equal(await place(), 46);
    await until(
      () => w.text('[data-testid=meter]'),
      (t) => t.includes('beside'),
      'both builds are metered',
    );
    // By how much they differ is a picture of its own, without the line.
    await w.press('Show the difference');
    await w.page.waitForFunction(() => document.querySelector('[aria-label^="Between the two builds"]') === null);
    await w.press('Show the difference');
    await w.page.waitForSelector('[aria-label^="Between the two builds"]');
    await w.press('Show luxels');
    w.clean();
    await w.page.close();
  },
];

export const skies: Test = [
  'a sky is chosen with its sun, the sun is dragged over the dome, a lamp is made like a candle, and a signal takes up a mood',
  async (world) => {
    let map = placeEntity(rooms(), 'sun', [300, 300, 200], 200, 'sun');
    map = placeEntity(map, 'zone', [300, 300, 0], 0, 'zone');
    map = changeEntity(changeEntity(map, 'sun', { name: 'Late sun' }), 'zone', { name: 'Doormat' });
    const w = await Workshop.withMap(world, map);
    await w.keys('Alt+i', 'Escape');
    await w.choose('Sky like', 'Dusk');
    let doc = await w.document();
    assert.deepEqual([doc.settings.skyHorizon, doc.settings.skyNits], ['#d98f6a', 5]);
    assert.equal(doc.entities.get('sun')!.params.height, 2);
    assert.equal(await (await w.field('Sky like')).evaluate((e) => e.value), 'Dusk');
    await w.keys('Control+z');
    assert.notEqual((await w.document()).settings.skyHorizon, '#d98f6a');
    // Dragged to the north, half of the way up.
    await w.press('Late sun');
    const dome = (await w.page.waitForSelector('[role=slider][aria-label="Its place in the sky"]'))!;
    await dome.scrollIntoView();
    const { x, y, width } = (await dome.boundingBox())!;
    const [cx, cy] = [x + width / 2, y + width / 2];
    await w.page.mouse.move(cx + 10, cy + 10);
    await w.page.mouse.down();
    await w.page.mouse.move(cx, cy - (46 / 112) * width * 0.5, { steps: 4 });
    await w.page.mouse.up();
    doc = await w.document();
    const sun = doc.entities.get('sun')!;
    assert.ok(Math.abs(sun.turn - 90) <= 2, `it stands ${sun.turn}° from east`);
    assert.ok(Math.abs((sun.params.height as number) - 45) <= 2, `it is ${sun.params.height as number}° high`);
    await dome.focus();
    await w.keys('Shift+ArrowUp');
    assert.equal((await w.document()).entities.get('sun')!.params.height, (sun.params.height as number) + 15);
    await w.press('Red lamp');
    await w.choose('Like', 'Candle');
    const { candela, kelvin } = (await w.document()).entities.get('red')!.params;
    assert.deepEqual([candela, kelvin], [1, 1900]);
    // A mood is kept, the lamp is changed, and a zone takes the mood up in play.
    await w.press('Keep this mood');
    await w.asked();
    await w.page.keyboard.down('Control');
    await w.page.keyboard.press('a');
    await w.page.keyboard.up('Control');
    await w.type('By candle');
    await w.keys('Enter');
    await w.answered();
    await w.fill('Strength of Red lamp, typed', '4');
    await w.press('Wire By candle');
    await w.choose('When', 'Doormat is entered');
    const wires = [...(await w.document()).wires.values()];
    assert.deepEqual(
      wires.map(({ from, to }) => [from.thing, from.signal, to.action]),
      wires.map(() => ['zone', 'entered', 'fade']),
    );
    assert.equal(wires.find((wire) => wire.to.thing === 'red')!.value, 0.25);
    await w.keys('Control+z');
    assert.equal((await w.document()).wires.size, 0);
    w.clean();
    await w.page.close();
  },
];

export const reflections: Test = [
  'a shiny floor reflects its room from a probe that is put there and moved, or from the one chosen for it',
  async (world) => {
    let map = rooms();
    // Dim, so that the picture is not white.
    for (const e of map.entities.values())
      if (e.kind === 'pointLight') map = changeEntity(map, e.id, { params: { candela: 12 } });
    const floor = [...map.brushes.values()].find((b) => b.room?.part.kind === 'floor')!;
    const top = floor.faces.filter((_, k) => brushPlanes(floor)[k]!.normal[2] > 0.9);
    map = paintFaces(
      map,
      top.map((f) => ({ brush: floor.id, face: f.id })),
      'pond-ice',
    );
    const w = await Workshop.withMap(world, map);
    const from = () => w.text('[data-testid=lit-from]');
    const fine = () => until(from, (t) => t === 'Live, as fine as review', 'the light is found', LIT);
    await w.keys('Alt+i', 's');
    await fine();
    /** The lower quarter of the Eye: the floor alone. */
    const picture = async () => {
      await settled(w.page);
      const eye = (await w.page.$('[data-pane=eye] canvas'))!;
      const { data } = PNG.sync.read(Buffer.from(await eye.screenshot()));
      return data.subarray(Math.floor(data.length * 0.75));
    };
    /** How much two pictures differ, mean of all channels. */
    const differ = (a: Buffer, b: Buffer) => a.reduce((sum, c, k) => sum + Math.abs(c - b[k]!), 0) / a.length;
    const without = await picture();
    await w.press('One in each room');
    const [probe] = [...(await w.document()).entities.values()].filter((e) => e.kind === 'reflectionProbe');
    assert.ok(probe, 'the room has a probe');
    const group = () => w.text('[role=group][aria-label=Reflections]');
    await until(group, (t) => /1 reflection probe, \d+ kB/.test(t), 'its picture is there', LIT);
    await fine();
    await w.keys('Escape');
    const seen = await picture();
    assert.ok(differ(without, seen) > 0.2, `the floor reflects: ${differ(without, seen)}`);
    await w.press('Relief and reflections');
    const flat = await picture();
    assert.ok(
      differ(flat, seen) > differ(without, seen) / 2,
      `relief and reflections can be left out: ${differ(flat, seen)}`,
    );
    await w.press('Relief and reflections');
    // It is moved, and sees another part of the room.
    await w.press(probe.name!);
    await w.page.hover('[data-pane=plan]');
    for (let k = 0; k < 6; k++) await w.keys('ArrowRight');
    assert.notDeepEqual((await w.document()).entities.get(probe.id)!.at, probe.at);
    await w.keys('Escape');
    await until(
      async () => differ(await picture(), seen),
      (d) => d > 0.01,
      'the picture follows',
      LIT,
    );
    await fine();
    const eye = (await (await w.page.$('[data-pane=eye]'))!.boundingBox())!;
    await w.page.keyboard.down('Alt');
    await w.page.mouse.click(eye.x + eye.width / 2, eye.y + eye.height * 0.92);
    await w.page.keyboard.up('Alt');
    await w.choose('Reflects', probe.name!);
    const faces = [...(await w.document()).brushes.values()].flatMap((b) => b.faces);
    assert.deepEqual(
      faces.flatMap((f) => f.reflection ?? []),
      [probe.id],
    );
    await w.saved();
    await w.build('Sketch');
    assert.match(await w.text('[data-testid=build-run]'), /1 reflection probe takes \d+ kB/);
    w.clean();
    await w.page.close();
  },
];
