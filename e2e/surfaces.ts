import assert from 'node:assert/strict';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import {
  addBrushes,
  boxSolid,
  brushPlanes,
  dot,
  dressSolid,
  findFaces,
  prismSolid,
  texelAt,
  type FaceRef,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import { MATERIALS, TEMPLATES } from '@yesca/stock';
import { settled, until } from './browser.ts';
import type { Test } from './harness.ts';
import { eyePoint, Workshop } from './workshop.ts';

/** A room with a door leaf and a column of twelve sides before the spawn. */
function trialRoom(): MapDocument {
  const room = TEMPLATES.find((t) => t.key === 'one-room')!.make('Surfaces');
  const door = dressSolid(boxSolid({ min: [40, 30, 0], max: [48, 142, 208] }), 'door', 'slate', { role: 'detail' });
  const column = dressSolid(prismSolid({ min: [40, -140, 0], max: [120, -60, 200] }, 12), 'column', 'limewash', {
    role: 'detail',
  });
  return addBrushes(room, [door, column]);
}

/** The face of a brush that looks most one way. */
function facing(doc: MapDocument, brush: string, way: Vec3): FaceRef {
  const b = doc.brushes.get(brush)!;
  const planes = brushPlanes(b);
  const best = planes.reduce((k, p, i) => (dot(p.normal, way) > dot(planes[k]!.normal, way) ? i : k), 0);
  return { brush, face: b.faces[best]!.id };
}
const look = (doc: MapDocument, ref: FaceRef) => findFaces(doc, [ref])[0]!;
const near = (got: readonly number[], want: readonly number[], within = 1e-6) =>
  want.forEach((c, i) => assert.ok(Math.abs(got[i]! - c) < within, `${got.join()} is not ${want.join()}`));

type Color = [number, number, number];

/** The pixels round a world point, as the Eye shows them. */
async function pixelsAt(w: Workshop, p: Vec3, reach: number): Promise<Color[]> {
  const box = (await (await w.page.$('[data-pane=eye]'))!.boundingBox())!;
  const { data, width } = await w.picture('[data-pane=eye]');
  const [x, y] = (await eyePoint(w.page, p)).map((c, i) => Math.round(c - (i === 0 ? box.x : box.y))) as [
    number,
    number,
  ];
  const side = Array.from({ length: 2 * reach + 1 }, (_, i) => i - reach);
  const pixel = (px: number, py: number) =>
    [...data.subarray((py * width + px) * 4, (py * width + px) * 4 + 3)] as Color;
  return side.flatMap((dy) => side.map((dx) => pixel(x + dx, y + dy)));
}

/** The mean colour round a world point, as the Eye shows it. */
async function colorAt(w: Workshop, p: Vec3): Promise<Color> {
  const pixels = await pixelsAt(w, p, 3);
  return [0, 1, 2].map((c) => pixels.reduce((sum, rgb) => sum + rgb[c]!, 0) / pixels.length) as Color;
}

export const surfaces: Test = [
  'paint, pick up, fit a door, flow round a column, mirror across, import a pack, replace a material',
  async (world) => {
    const w = await Workshop.withMap(world, trialRoom());
    await w.press('Fill the centre with the eye');
    await w.keys('Home', 'p', 'Shift+s');

    // A material dragged from Stock lands on the face it is dropped on, though its card was open.
    await w.fill('Search materials', 'Tarred board');
    const board = (await (await w.page.waitForSelector('[aria-label="Material Tarred board"]'))!.boundingBox())!;
    await w.page.mouse.move(board.x + 20, board.y + 20);
    await w.page.waitForSelector('.swatch-card');
    await w.page.mouse.down();
    await w.page.mouse.move(board.x + 40, board.y + 20, { steps: 4 });
    await w.page.mouse.move(...(await eyePoint(w.page, [40, 90, 160])), { steps: 6 });
    await w.page.mouse.up();
    let doc = await w.document();
    const leaf = facing(doc, 'door', [-1, 0, 0]);
    assert.deepEqual(
      doc.brushes.get('door')!.faces.flatMap((f) => (f.material === 'tarred-board' ? [f.id] : [])),
      [leaf.face],
    );

    // The door's leaf takes the door of a sheet exactly, from corner to corner.
    await w.takeMaterial('Doors and shutters');
    const before = await colorAt(w, [40, 90, 160]);
    await w.look([40, 90, 160]);
    doc = await w.document();
    assert.equal(look(doc, leaf).face.material, 'mill-doors');
    await w.keys('Shift+a');
    doc = await w.document();
    const { regions } = MATERIALS.find((m) => m.name === 'mill-doors')!;
    const door = regions!.find((r) => r.name === 'plank door')!;
    near(texelAt(look(doc, leaf).frame, [40, 142, 208]), [door.x, door.y]);
    near(texelAt(look(doc, leaf).frame, [40, 30, 0]), [door.x + door.width, door.y + door.height]);
    const after = await until(
      () => colorAt(w, [40, 90, 160]),
      ([r, , b]) => r > b + 25,
      'the leaf shows wood',
    );
    assert.ok(Math.hypot(...after.map((c, i) => c - before[i]!)) > 30, 'and looked otherwise before');

    // I held picks the material of the floor up, with another tool in hand.
    await w.keys('v');
    await w.page.keyboard.down('i');
    await w.look([150, 0, 0]);
    await w.page.keyboard.up('i');
    await w.keys('p');
    assert.match(await w.text('[data-testid=tool-options]'), /Oak plank/);

    // Brick flows round the column from face to face: equal along every shared edge.
    await w.takeMaterial('Red brick');
    const middle: Vec3 = [80, -100, 100];
    const towards = (degrees: number): Vec3 => [
      Math.cos((degrees * Math.PI) / 180),
      Math.sin((degrees * Math.PI) / 180),
      0,
    ];
    const sides = [150, 180, 210].map((a) => facing(doc, 'column', towards(a)));
    const spot = (ref: FaceRef): Vec3 => {
      const { plane } = look(doc, ref);
      const d = plane.distance - dot(plane.normal, middle);
      return [middle[0] + plane.normal[0] * d, middle[1] + plane.normal[1] * d, 100];
    };
    await w.look(spot(sides[0]!));
    await w.press('Flow');
    await w.look(spot(sides[1]!));
    await w.look(spot(sides[2]!));
    await w.press('Face');
    doc = await w.document();
    for (const ref of sides) assert.equal(look(doc, ref).face.material, 'red-brick');
    for (const [a, b] of [
      [0, 1],
      [1, 2],
    ] as const) {
      const [x, y] = [look(doc, sides[a]!), look(doc, sides[b]!)];
      const shared = x.winding.filter((p) =>
        y.winding.some((q) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]) < 1e-6),
      );
      assert.equal(shared.length, 2);
      for (const p of shared) near(texelAt(x.frame, p), texelAt(y.frame, p));
    }

    // The north wall's picture, moved a little, comes to the south wall in a mirror.
    const wall = (way: Vec3) =>
      [...doc.brushes.values()]
        .flatMap((b) => (b.room?.part.kind === 'wall' ? [facing(doc, b.id, way)] : []))
        .find(
          (r) =>
            look(doc, r).plane.normal[1] === way[1] &&
            Math.abs(look(doc, r).plane.distance) === 192 &&
            look(doc, r).winding.length === 4,
        )!;
    const [north, south] = [wall([0, -1, 0]), wall([0, 1, 0])];
    await w.look([200, 192, 255], 'Control');
    // What was selected before goes: only the wall is to be nudged.
    await w.keys('Escape');
    await w.look([200, 192, 255], 'Control');
    await w.keys('Shift+ArrowRight');
    await w.look([200, -192, 255], 'Control');
    await w.keys('Alt+w');
    doc = await w.document();
    for (const p of [
      [-100, 30],
      [120, 200],
    ] as const)
      near(texelAt(look(doc, south).frame, [p[0], -192, p[1]]), texelAt(look(doc, north).frame, [p[0], 192, p[1]]));
    near([look(doc, north).frame.u[3]], [-8]);

    // A pack of one picture comes in through the Materials page.
    const folder = mkdtempSync(join(tmpdir(), 'yesca-pictures-'));
    const image = new PNG({ width: 64, height: 64 });
    for (let i = 0; i < 64 * 64; i++) image.data.set([196, 40, 150, 255], i * 4);
    const file = join(folder, 'heather_cloth_64cm.png');
    writeFileSync(file, PNG.sync.write(image));
    const shelf = await Workshop.open(world, '/materials');
    const input = await shelf.page.waitForSelector('[data-testid=import-files]');
    await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(file);
    await shelf.page.waitForSelector('[data-testid=import-report]');
    assert.match(
      await shelf.text('[data-testid=import-report]'),
      /1 imported into .*heather-cloth from heather_cloth_64cm\.png/s,
    );
    assert.equal(await (await shelf.field('Density')).evaluate((e) => e.value), '100');
    shelf.clean();
    await shelf.page.close();
    rmSync(folder, { recursive: true });

    // It takes the place of the plaster through the whole map, and undo brings that back.
    await w.page.reload({ waitUntil: 'networkidle0' });
    await w.page.waitForSelector('[data-pane=eye] canvas');
    await settled(w.page);
    await w.takeMaterial('Heather cloth');
    await w.fill('Search materials', 'Limewash');
    const tile = (await w.page.waitForSelector('[aria-label="Material Limewash"]'))!;
    await tile.click({ button: 'right' });
    await w.press('Replace it with the active material');
    doc = await w.document();
    const counts = (name: string) =>
      [...doc.brushes.values()].flatMap((b) => b.faces.filter((f) => f.material === name)).length;
    assert.equal(counts('limewash'), 0);
    const replaced = counts('heather-cloth');
    assert.ok(replaced > 20, `${replaced} faces`);
    await w.keys('Home');
    // It is there with Stock closed too, as when the map is opened another day.
    await w.keys('Shift+s');
    await w.saved();
    await w.page.reload({ waitUntil: 'networkidle0' });
    await w.page.waitForSelector('[data-pane=eye] canvas');
    await w.keys('Home');
    const seen = () => colorAt(w, [256, -10, 140]);
    await until(seen, ([r, g, b]) => r > g + 40 && b > g + 30, 'the wall shows it');
    await w.keys('Control+z');
    doc = await w.document();
    assert.equal(counts('heather-cloth'), 0);
    assert.equal(counts('limewash'), replaced);
    w.clean();
  },
];

export const pictures: Test = [
  'each face shows its own picture, and bars let through what is behind them, textured and as clay',
  async (world) => {
    const slab = (id: string, material: string, x: number, y: number, height: number) =>
      dressSolid(boxSolid({ min: [x, y, 0], max: [x + 4, y + 112, height] }), id, material, { role: 'detail' });
    const room = TEMPLATES.find((t) => t.key === 'one-room')!.make('Pictures');
    const w = await Workshop.withMap(
      world,
      addBrushes(room, [
        slab('brick', 'red-brick', 60, 20, 220),
        slab('blue', 'blue-wash', 60, -140, 220),
        slab('bars', 'iron-bars', 40, 20, 110),
      ]),
    );
    await w.press('Fill the centre with the eye');
    await w.keys('Home');
    await until(
      () => colorAt(w, [60, 76, 180]),
      ([r, , b]) => r > b + 25,
      'brick is red',
    );
    await until(
      () => colorAt(w, [60, -84, 180]),
      ([r, , b]) => b > r + 8,
      'blue wash is blue',
    );
    /** The share of red pixels round a point. */
    const brick = async (p: Vec3) => {
      const pixels = await pixelsAt(w, p, 22);
      return pixels.filter(([r, , b]) => r > b + 25).length / pixels.length;
    };
    const bare = await until(
      () => brick([60, 76, 180]),
      (share) => share > 0.5,
      'brick is red',
    );
    const barred = await brick([40, 76, 60]);
    assert.ok(bare > 0.5 && barred > 0.1 && barred < 0.9 * bare, `${bare} of it red bare, ${barred} behind bars`);
    // As clay nothing is red any more, and the bars are still bars.
    await w.press('Clay');
    await until(
      () => brick([60, 76, 180]),
      (share) => share === 0,
      'nothing is red as clay',
    );
    const light = (await pixelsAt(w, [40, 76, 60], 22)).map(([r]) => r);
    assert.ok(Math.max(...light) - Math.min(...light) > 60, 'dark bars before pale clay');
    w.clean();
  },
];

export const largeLibrary: Test = [
  'two thousand materials are searched and scrolled with only those in sight on the page',
  async (world) => {
    const all = Array.from({ length: 2000 }, (_, i) => ({
      ...MATERIALS[i % MATERIALS.length]!,
      name: `trial-${i}`,
      label: `Trial ${i}`,
    }));
    const w = await Workshop.open(world);
    // The pictures of materials that only this test knows are all one.
    await w.page.setRequestInterception(true);
    const picture = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    );
    w.page.on('request', (request) => {
      const url = request.url();
      if (url.endsWith('/api/stock/materials'))
        void request.respond({ contentType: 'application/json', body: JSON.stringify(all) });
      else if (url.includes('/stock/pictures/trial-'))
        void request.respond({ contentType: 'image/png', body: picture });
      else if (url.includes('/api/materials/')) void request.respond({ contentType: 'application/json', body: '[]' });
      else void request.continue();
    });
    await w.page.goto(`${world.base}/materials?name=trial-7`, { waitUntil: 'networkidle0' });
    const tiles = () => w.page.$$eval('.library-tile', (list) => list.map((e) => e.textContent));
    const shown = await tiles();
    assert.ok(shown.length > 12 && shown.length < 120, `${shown.length} tiles`);
    // The end comes into sight by scrolling, and no more tiles are kept than before.
    await w.page.$eval('[data-testid=library]', (e) => e.scrollTo(0, e.scrollHeight));
    await w.page.waitForFunction(() => document.querySelector('.library')!.textContent!.includes('Trial 1999'));
    assert.ok((await tiles()).length < 120);
    // Words narrow it down at once; arrows go from tile to tile.
    await w.fill('Search materials', 'trial 77');
    await w.page.waitForFunction(() => !document.querySelector('.library')!.textContent!.includes('Trial 1999'));
    assert.ok((await tiles()).every((t) => t!.includes('77')));
    await (await w.page.$('.library-tile button'))!.focus();
    await w.keys('ArrowRight', 'ArrowDown');
    const focused = await w.page.evaluate(() => (document.activeElement as HTMLElement).dataset.material);
    assert.ok(focused?.startsWith('trial-'), String(focused));
    assert.notEqual(focused, (await tiles())[0]);
    w.clean();
  },
];
