import assert from 'node:assert/strict';
import { brushBounds, brushVolume, findFlaw, solidOf, type Brush, type MapDocument } from '@yesca/core';
import { settled, until } from './browser.ts';
import type { Test } from './harness.ts';
import { Workshop } from './workshop.ts';

const near = (a: number, b: number, what: string, within = 1e-6) =>
  assert.ok(Math.abs(a - b) <= within * Math.max(1, Math.abs(b)), `${what}: ${a} instead of ${b}`);
const total = (list: readonly Brush[]) => list.reduce((v, b) => v + brushVolume(b), 0);
const loose = (doc: MapDocument) => [...doc.brushes.values()].filter((b) => !b.room);
const feet = async (w: Workshop): Promise<number[]> =>
  (await w.page.$eval('[data-testid=hud]', (e) => (e as HTMLElement).dataset.at!)).split(' ').map(Number);

export const blocking: Test = [
  'a two-storey building by hand: rooms, doorway, stair, window, column, curved wall; exact volumes; walked up',
  async (world) => {
    const w = await Workshop.newMap(world, 'Empty sheet');
    // Two rooms on the ground that share a wall, and a doorway between them.
    await w.keys('r');
    await w.drag('plan', [0, 0], [64, 64]);
    await w.type('512 384 272');
    await w.keys('Enter', 'f');
    await w.drag('plan', [528, 0], [600, 64]);
    await w.type('256 384 272');
    await w.keys('Enter', 'v', 'Control+a', 'Control+o', 'f');
    let doc = await w.document();
    assert.equal(doc.rooms.size, 2);
    assert.equal(doc.openings.size, 1);
    const west = [...doc.rooms.values()].find((r) => r.footprint[0]![0] === 0)!;
    assert.deepEqual(west.footprint, [
      [0, 0],
      [512, 0],
      [512, 384],
      [0, 384],
    ]);

    // A storey above the western one.
    await w.keys('r');
    await w.fill('Floor at', '304');
    await w.drag('plan', [0, 0], [64, 64]);
    await w.type('512 384 240');
    await w.keys('Enter');
    doc = await w.document();
    const upper = [...doc.rooms.values()].find((r) => r.floor === 304)!;
    assert.equal(upper.ceiling, 544);
    await w.press('Name the level of the Plan as a storey');
    await w.asked();
    await w.type('Upstairs');
    await w.keys('Enter');
    await w.answered();
    assert.deepEqual(
      [...(await w.document()).storeys.values()].map((s) => s.floor),
      [304],
    );
    await w.keys('PageDown');

    // The stairwell: a box through ceiling and floor, subtracted from both.
    await w.keys('b');
    await w.choose('Role', 'Structure');
    await w.fill('Height', '400');
    await w.drag('plan', [16, 64], [112, 352]);
    await w.type('96 304 400');
    await w.keys('Enter', 'v');
    const before = await w.document();
    const slabs = (d: MapDocument) =>
      [...d.brushes.values()].filter(
        (b) =>
          b.room &&
          ((b.room.id === west.id && b.room.part.kind === 'ceiling') ||
            (b.room.id === upper.id && b.room.part.kind === 'floor')),
      );
    // Raised so that it cuts the two slabs alone: from 260 to 304 and a little.
    await w.fill('Z', '256');
    await w.fill('Height', '64');
    await w.keys('Shift+x');
    doc = await w.document();
    near(total(slabs(doc)), total(slabs(before)) - 2 * 96 * 304 * 16, 'the slabs less the stairwell');
    assert.ok(slabs(doc).every((b) => b.room!.released));

    // The stair: sixteen steps of 19 from floor to floor, walked northward.
    await w.keys('b');
    await w.choose('Role', 'Detail');
    await w.choose('Shape', 'Stair');
    await w.fill('Steps', '16');
    await w.drag('plan', [16, 64], [112, 352]);
    await w.type('96 304 304');
    await w.keys('Enter');
    doc = await w.document();
    const steps = loose(doc);
    assert.equal(steps.length, 16);
    near(total(steps), 96 * 19 * 19 * ((16 * 17) / 2), 'a solid stair');
    assert.equal(Math.max(...steps.map((b) => brushBounds(b).max[2])), 304);

    // A window between hall and side room, by subtraction from both halves of the wall.
    const walls = (d: MapDocument) =>
      [...d.brushes.values()].filter(
        (b) => b.room && brushBounds(b).min[0] >= 512 && brushBounds(b).max[0] <= 528 && brushBounds(b).min[2] < 272,
      );
    const wallBefore = total(walls(doc));
    await w.choose('Shape', 'Box');
    await w.drag('plan', [496, 304], [544, 368]);
    await w.type('48 64 96');
    await w.keys('Enter', 'v');
    await w.fill('Z', '96');
    await w.keys('Shift+x');
    doc = await w.document();
    near(total(walls(doc)), wallBefore - 16 * 64 * 96, 'the wall less the window');

    // A column whose four edges are cut off.
    await w.keys('b');
    await w.drag('plan', [304, 160], [368, 224]);
    await w.type('64 64 272');
    await w.keys('Enter', 'c');
    for (const [from, to, drop] of [
      [
        [288, 192],
        [336, 144],
        [308, 164],
      ],
      [
        [336, 144],
        [384, 192],
        [364, 164],
      ],
      [
        [384, 192],
        [336, 240],
        [364, 220],
      ],
      [
        [336, 240],
        [288, 192],
        [308, 220],
      ],
    ] as const) {
      await w.drag('plan', from, to);
      await w.click('plan', drop[0], drop[1]);
      await w.keys('Enter');
    }
    doc = await w.document();
    const column = loose(doc).find((b) => brushBounds(b).min[0] === 304 && brushBounds(b).max[2] === 272)!;
    assert.equal(column.faces.length, 10);
    near(brushVolume(column), (64 * 64 - 4 * ((16 * 16) / 2)) * 272, 'an eight-sided column');

    // A curved wall: half a ring. Its area is that of half a regular polygon of sixteen sides less a smaller one.
    await w.keys('b');
    await w.choose('Shape', 'Pipe');
    await w.fill('Angle', '180');
    await w.drag('plan', [560, 64], [720, 224]);
    await w.type('160 160 128');
    await w.keys('Enter', 'v');
    doc = await w.document();
    const ring = [...doc.groups.values()].find((g) => g.name.startsWith('Pipe'))!;
    const curved = loose(doc).filter((b) => b.group === ring.id);
    assert.ok(curved.length >= 8);
    for (const b of curved) assert.equal(findFlaw(solidOf(b)), null);
    assert.deepEqual(
      [Math.max(...curved.map((b) => brushBounds(b).max[2])), Math.min(...curved.map((b) => brushBounds(b).min[2]))],
      [128, 0],
    );

    // A spawn at the foot of the stair, lights on both storeys, a build, and up on foot.
    await w.keys('l');
    await w.press('Stock');
    await w.press('Things');
    await w.press('Spawn');
    await w.click('plan', 64, 32);
    doc = await w.document();
    let spawn = [...doc.entities.values()].find((e) => e.kind === 'spawn')!;
    assert.equal(spawn.at[2], 0);
    await w.press('Point light');
    await w.click('plan', 240, 320);
    await w.keys('v');
    await w.click('plan', 64, 32);
    await w.fill('Looks towards', '90');
    await w.sealing('sealed');
    doc = await w.document();
    spawn = doc.entities.get(spawn.id)!;
    assert.equal(spawn.turn, 90);
    await w.build('Sketch');
    await w.press('Walk this build');
    await w.page.waitForSelector('[data-testid=play] canvas');
    // A small picture is drawn fast.
    await w.page.setViewport({ width: 640, height: 400 });
    await w.page.waitForFunction(
      () => (document.querySelector<HTMLElement>('[data-testid=hud]')?.dataset.drawn ?? '0') !== '0',
      { timeout: 20_000 },
    );
    await w.page.click('[data-testid=walk]');
    await settled(w.page);
    await w.page.keyboard.down('KeyW');
    await w.page.waitForFunction(
      () => Number(document.querySelector<HTMLElement>('[data-testid=hud]')!.dataset.at!.split(' ')[2]) > 300,
      { timeout: 20_000 },
    );
    const height = async () => (await feet(w))[2]!;
    await until(height, (z) => Math.abs(z - 304) < 0.1, 'walks onto the upper floor');
    await w.page.keyboard.up('KeyW');
    await settled(w.page);
    near(await height(), 304, 'stands on the upper floor', 0.001);
    w.clean();
  },
];
