import assert from 'node:assert/strict';
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strFromU8, unzipSync } from 'fflate';
import {
  addBrushes,
  addRoom,
  boxSize,
  boxSolid,
  changeEntity,
  decalOf,
  dressSolid,
  emptyMap,
  isPatch,
  modelOf,
  placeDecals,
  placeEntity,
  placeProps,
  type Entity,
  type MapDocument,
} from '@yesca/core';
import { MATERIALS, propFacts, TEMPLATES, type Prop } from '@yesca/stock';
import { DRESS } from '../packages/core/src/testing/rooms.ts';
import { settled, until } from './browser.ts';
import type { Test } from './harness.ts';
import { Workshop } from './workshop.ts';

export const furnishing: Test = [
  'a room is furnished from Stock: placed, replaced, undone; a sign is laid round a corner and cut; a crate stops a player at its face',
  async (world) => {
    const w = await Workshop.withMap(world, TEMPLATES.find((t) => t.key === 'one-room')!.make('Store'));
    const before = await w.document();
    const walls = [...before.rooms.values()][0]!.footprint;
    const spawn = [...before.entities.values()].find((e) => e.kind === 'spawn')!;
    const props = async () => [...(await w.document()).entities.values()].filter((e) => modelOf(e));
    await w.keys('Shift+s');
    await w.page.waitForSelector('[aria-label="What Stock shows"]');
    await w.choose('What Stock shows', 'Props');
    await w.press('Crate');
    assert.equal(await (await w.field('Prop')).evaluate((e) => e.value), 'Crate');
    // Before the spawn, on the floor.
    await w.click('plan', spawn.at[0] + 160, spawn.at[1]);
    const [crate] = await props();
    assert.deepEqual(
      [crate!.name, crate!.at, modelOf(crate!)!.name],
      ['Crate', [spawn.at[0] + 160, spawn.at[1], 0], 'crate'],
    );
    await w.press('Lantern');
    await w.click('plan', spawn.at[0] + 96, spawn.at[1] + 96);
    const lit = [...(await w.document()).entities.values()];
    const lantern = lit.find((e) => modelOf(e)?.name === 'lantern')!;
    const lamp = lit.find((e) => e.group === lantern.group && !modelOf(e))!;
    assert.equal(lamp.kind, 'pointLight');
    // A wall of modules: the second joins the first, and gets a window in its place; then what belongs to a room in pieces.
    await w.press('Wall module');
    await w.click('plan', -112, 176);
    await w.click('plan', 0, 176);
    await w.page.click('.stock-prop ::-p-text(Wall module with a window)', { button: 'right' });
    await w.press('Put it in place of the selected props');
    for (const [label, x, y] of [
      ['Column', -208, 208],
      ['Stair module', 176, 176],
      ['Cornice module', -112, -208],
      ['Roof module', 16, -192],
    ] as const) {
      await w.press(label);
      await w.click('plan', x, y);
    }
    const modules = (await props())
      .map((e) => [modelOf(e)!.name, ...e.at.slice(0, 2)])
      .filter(([name]) => !['crate', 'lantern'].includes(String(name)));
    assert.deepEqual(modules.filter(([name]) => String(name).includes('wall')).sort(), [
      ['wall-module', -112, 176],
      ['wall-window-module', 16, 176],
    ]);
    assert.deepEqual(modules.map(([name]) => name).sort(), [
      'column',
      'roof-module',
      'stair-module',
      'trim-module',
      'wall-module',
      'wall-window-module',
    ]);
    // Picked on the plan where it stands, and made another one in its particulars; then that is taken back.
    await w.keys('v');
    await w.click('plan', crate!.at[0] + 20, crate!.at[1] + 20);
    await w.choose('Prop', 'Tarred crate');
    const model = async () => modelOf((await w.document()).entities.get(crate!.id)!)!.name;
    assert.equal(await model(), 'crate-tarred');
    await w.press('Undo');
    assert.equal(await model(), 'crate');
    // What players run into lies over the picture: blue where the crate is.
    const blue = async () => {
      await settled(w.page);
      const { data } = await w.picture('[data-pane=eye] canvas');
      let sum = 0;
      for (let i = 0; i < data.length; i += 4) if (data[i + 2]! > data[i]! + 12) sum++;
      return sum;
    };
    const plain = await blue();
    await w.keys('Alt+p');
    await until(blue, (n) => n > plain + 500, 'the crate is shown as it collides');
    await w.keys('Alt+p');
    await until(blue, (n) => n < plain + 100, 'and no longer');
    // A sign is laid round the corner behind it: on both walls, as wide on each.
    await w.choose('What Stock shows', 'Decals');
    await w.press('quay sign');
    const [x0, y0] = [Math.max(...walls.map((p) => p[0])), Math.min(...walls.map((p) => p[1]))];
    await w.look([x0, y0 + 8, 130]);
    const sign = async () => decalOf([...(await w.document()).entities.values()].find((e) => decalOf(e))!)!;
    const laid = await sign();
    assert.deepEqual([laid.region, laid.at[0], laid.at[1]], ['quay sign', x0, y0]);
    assert.ok(Math.abs(laid.through[0] + laid.through[1]) < 0.01 && laid.through[0] < 0, 'it looks out of the corner');
    await until(blue, (n) => n > plain + 300, 'the sign is seen');
    const whole = await blue();
    // As patches it is a thin brush on either wall, and looks the same; taken back, it is a decal again.
    await w.keys('Alt+j');
    const patches = [...(await w.document()).brushes.values()].filter(isPatch);
    assert.equal(patches.length, 2);
    await until(blue, (n) => Math.abs(n - whole) < (whole - plain) * 0.3, 'the patches show the sign');
    await w.press('Undo');
    await until(blue, (n) => Math.abs(n - whole) < 40, 'the sign is a decal again');
    // The upper half of its picture is kept.
    const box = async () => (await (await w.page.waitForSelector('.decal-sheet'))!.boundingBox())!;
    // Fields above it come one after the other: it is taken where it came to rest.
    let sheet = await box();
    await until(
      async () => {
        const before = sheet;
        await settled(w.page);
        sheet = await box();
        return Math.abs(sheet.y - before.y) + Math.abs(sheet.height - before.height);
      },
      (moved) => moved < 0.5,
      'the sheet is at rest',
    );
    await w.page.mouse.move(sheet.x + 12, sheet.y + 10);
    await w.page.mouse.down();
    await w.page.mouse.move(sheet.x + sheet.width - 12, sheet.y + sheet.height / 2, { steps: 4 });
    await w.page.mouse.up();
    await until(blue, (n) => n < plain + (whole - plain) * 0.75, 'half of the sign is cut away');
    const left = (await sign()).outline.map((p) => p[1]);
    assert.ok(left.length === 4 && Math.abs(Math.min(...left) - 0.5) < 0.05 && Math.max(...left) > 0.8, String(left));
    await w.saved();
    await w.build('Sketch');
    await w.press('Walk this build');
    await w.page.waitForSelector('[data-testid=play] canvas');
    await w.page.setViewport({ width: 640, height: 400 });
    const hud = () => w.page.$eval('[data-testid=hud]', (e) => ({ ...(e as HTMLElement).dataset }));
    await until(hud, (h) => Number(h.drawn ?? 0) > 0, 'the room is drawn', 20_000);
    await w.page.click('[data-testid=walk]');
    await settled(w.page);
    // What the build cut of the sign is seen in its light.
    const { data, width, height } = await w.picture('[data-testid=play] canvas');
    let teal = 0;
    for (let i = 0; i < data.length; i += 4) if (data[i + 2]! > data[i]! + 12) teal++;
    assert.ok(teal > (width * height) / 2000, `${teal} of ${width * height} points show the sign`);
    await w.page.keyboard.down('KeyW');
    // The face of the crate is 32 before its middle, the player's front 20 before theirs.
    const stop = crate!.at[0] - 32 - 20;
    const x = async () => Number((await hud()).at?.split(' ')[0]);
    await until(x, (at) => at > stop - 1, 'the player reaches the crate', 30_000);
    await settled(w.page);
    await settled(w.page);
    const at = await x();
    await w.page.keyboard.up('KeyW');
    assert.ok(Math.abs(at - stop) < 0.1, `stopped at ${at}, the face is at ${stop}`);
    w.clean();
    await w.page.close();
  },
];

export const movingProps: Test = [
  'a door is made of two props and tried, one leaf is taken off; a picture stands crosswise, then turns to the eye',
  async (world) => {
    const w = await Workshop.withMap(world, TEMPLATES.find((t) => t.key === 'one-room')!.make('Gate'));
    const things = async (is: (e: Entity) => boolean) => [...(await w.document()).entities.values()].filter(is);
    const leaves = () => things((e) => modelOf(e)?.name === 'door-leaf');
    await w.keys('Shift+s');
    await w.page.waitForSelector('[aria-label="What Stock shows"]');
    await w.choose('What Stock shows', 'Props');
    await w.press('Door leaf');
    await w.click('plan', 64, -80);
    await w.click('plan', 168, -80);
    await w.keys('v');
    await w.click('plan', 64, -78);
    await w.click('plan', 168, -78, 'Shift');
    await w.palette('Make a door, each brush or prop a leaf');
    const [door] = await things((e) => e.kind === 'door');
    assert.deepEqual((await leaves()).map((e) => [e.carrier!.id, e.carrier!.part ?? 0]).sort(), [
      [door!.id, 0],
      [door!.id, 1],
    ]);
    await w.click('plan', 116, -80);
    await w.page.waitForSelector('::-p-text(2 props)');
    // Tried, the leaves are elsewhere in the Eye; Esc puts them back.
    let still = await w.picture('[data-pane=eye] canvas');
    const changed = async () => {
      await settled(w.page);
      const now = await w.picture('[data-pane=eye] canvas');
      let n = 0;
      for (let i = 0; i < now.data.length; i += 4) if (Math.abs(now.data[i]! - still.data[i]!) > 24) n++;
      return { n, now };
    };
    /** What is selected is drawn a little later. */
    const rest = () => until(changed, ({ n, now }) => ((still = now), n === 0), 'the Eye is at rest');
    await rest();
    await w.keys('a');
    await until(changed, ({ n }) => n > 1000, 'the leaves move');
    await w.keys('Escape');
    await until(changed, ({ n }) => n < 50, 'they are back');
    await w.palette('Take brushes and props off their thing');
    assert.ok((await leaves()).every((e) => !e.carrier));
    // A picture of the active material stands as two planes through one another, and then turns.
    await w.choose('What Stock shows', 'Materials');
    await w.takeMaterial('Fern');
    await w.click('plan', -120, -120);
    await w.keys('l');
    await w.choose('Thing to place', 'Billboard');
    await w.choose('Faces', 'crosswise');
    await w.fill('Height', '90');
    await rest();
    await w.click('plan', 48, 64);
    const fern = async () => (await things((e) => modelOf(e)?.picture !== undefined))[0]!;
    assert.deepEqual(modelOf(await fern())!.picture, {
      material: 'fern',
      region: '',
      faces: 'crossed',
      width: 90,
      height: 90,
      tint: '#ffffff',
    });
    await until(changed, ({ n }) => n > 300, 'it is seen');
    await w.keys('v');
    await w.click('plan', 48 + 30, 64);
    await w.choose('Faces', 'who looks, about its upright');
    assert.equal(modelOf(await fern())!.picture!.faces, 'upright');
    w.clean();
    await w.page.close();
  },
];

export const assemblies: Test = [
  'crates are strewn with a brush and taken away; what was kept as an assembly is placed turned, in another map too',
  async (world) => {
    const w = await Workshop.withMap(world, TEMPLATES.find((t) => t.key === 'one-room')!.make('Nook'));
    const props = async () => [...(await w.document()).entities.values()].filter((e) => modelOf(e));
    await w.keys('Shift+s');
    await w.keys('l');
    await w.choose('Thing to place', 'Props, strewn');
    await w.page.waitForSelector('.stock-prop');
    await w.press('Stones');
    for (const [label, value] of [
      ['Radius', '48'],
      ['Spacing', '40'],
      ['Density a stroke', '1'],
    ] as const)
      await w.fill(label, value);
    await w.drag('plan', [-96, 96], [96, 96]);
    const strewn = await props();
    assert.ok(strewn.length >= 5, `${strewn.length} are strewn`);
    for (const { at } of strewn) assert.ok(at[2] === 0 && Math.abs(at[1] - 96) <= 49, String(at));
    await w.drag('plan', [-96, 96], [-80, 96], 'Shift');
    const left = await props();
    assert.ok(left.length < strewn.length && left.every((e) => Math.hypot(e.at[0] + 96, e.at[1] - 96) > 48));
    // All that is left is one group: a click takes all of it, and it is kept.
    await w.keys('v');
    const [one] = left;
    await w.click('plan', one!.at[0], one!.at[1]);
    await w.keys('Control+Alt+g');
    await w.asked();
    await w.type('Rubble');
    await w.keys('Enter');
    await w.answered();
    await w.page.waitForSelector('.stock-assembly path');
    await w.press('Rubble');
    await w.fill('Turn', '90');
    await w.click('plan', 0, -96);
    await until(props, (all) => all.length === 2 * left.length, 'as many stand there once more');
    const span = (all: readonly Entity[], k: 0 | 1) =>
      Math.max(...all.map((e) => e.at[k])) - Math.min(...all.map((e) => e.at[k]));
    const ids = new Set(left.map((e) => e.id));
    const placed = (await props()).filter((e) => !ids.has(e.id));
    assert.ok(Math.abs(span(placed, 1) - span(left, 0)) < 0.01, 'it is turned by a quarter');
    await w.saved();
    w.clean();
    await w.page.close();
    // In another map it is there as well.
    const other = await Workshop.withMap(world, TEMPLATES.find((t) => t.key === 'one-room')!.make('Other'));
    await other.page.waitForSelector('[aria-label="What Stock shows"]');
    await other.choose('What Stock shows', 'Props');
    await other.press('Rubble');
    // It is in hand as soon as its file is there.
    await other.page.waitForSelector('.stock-prop[data-active] ::-p-text(Rubble)');
    await other.click('plan', 0, 0);
    const there = [...(await other.document()).entities.values()].filter((e) => modelOf(e));
    assert.equal(there.length, left.length);
    other.clean();
    await other.page.close();
  },
];

export const propsPage: Test = [
  'a model comes in on the Props page, is turned, told about, made larger, and goes out in a pack',
  async (world) => {
    const w = await Workshop.open(world, '/props?name=lantern');
    const page = w.page;
    await page.waitForSelector('[data-testid=prop-preview] canvas');
    assert.match(await w.text('.stock-facts'), /Lantern.*Shines.*cd/s);
    const folder = mkdtempSync(join(tmpdir(), 'yesca-models-'));
    const file = join(folder, 'Deck_box.glb');
    copyFileSync('packages/stock/assets/props/crate.glb', file);
    const input = await page.waitForSelector('[data-testid=import-files]');
    await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(file);
    await page.waitForSelector('[data-testid=import-report]', { timeout: 30_000 });
    rmSync(folder, { recursive: true });
    assert.match(await w.text('[data-testid=import-report]'), /1 imported into Models.*deck-box from Deck_box\.glb/s);
    // A person as tall as the player stands beside it; the arrow keys turn both.
    const shot = async () => (await w.picture('[data-testid=prop-preview] canvas')).data;
    const differ = (a: Uint8Array, b: Uint8Array) => a.reduce((n, v, i) => n + (Math.abs(v - b[i]!) > 24 ? 1 : 0), 0);
    await w.press('Close');
    // What came in is the one that is shown from now on.
    await until(
      () => w.text('.stock-facts'),
      (facts) => facts.includes('deck-box'),
      'the imported one is shown',
    );
    await settled(page);
    let last = await shot();
    const changes = async (what: string) => {
      await until(
        async () => differ(await shot(), last),
        (n) => n > 400,
        what,
      );
      await settled(page);
      last = await shot();
    };
    await page.focus('[data-testid=prop-preview]');
    await w.keys('ArrowRight');
    await changes('it is turned');
    await w.press('Collision');
    await changes('what it collides as lies over it');
    await w.press('Dusk');
    await changes('it is seen by another light');
    const prop = async () => {
      const all = (await (await fetch(`${world.base}/api/stock/props`)).json()) as Prop[];
      return all.find((p) => p.name === 'deck-box')!;
    };
    await w.fill('Largest side', '1.5 m');
    await w.keys('Enter');
    await until(prop, (p) => Math.abs(Math.max(...boxSize(p.bounds)) - 150) < 0.01, 'it is made larger');
    await w.choose('Collides as', 'One convex body');
    await until(prop, (p) => p.collision === 'hull', 'it collides as one body');
    await w.fill('Label', 'Deck box, tarred');
    await w.keys('Enter');
    await until(prop, (p) => p.label === 'Deck box, tarred', 'it is named');
    const pack = (await prop()).pack!;
    const zip = unzipSync(new Uint8Array(await (await fetch(`${world.base}/api/packs/${pack}/export`)).arrayBuffer()));
    const list = JSON.parse(strFromU8(zip['pack.json']!)) as { props: { name: string; collision: string }[] };
    assert.deepEqual(
      list.props.filter((p) => p.name === 'deck-box').map((p) => p.collision),
      ['hull'],
    );
    assert.ok(zip['deck-box.glb']!.length > 1000);
    await w.press('Delete …');
    await w.press('Delete it');
    await until(prop, (p) => p === undefined, 'it is taken from Stock');
    w.clean();
    await page.close();
  },
];

/** A hall in which a beam lies between a lamp and a large crate, whose front is painted at its foot. */
function beamedHall(): MapDocument {
  const footprint = [[0, 0], [900, 0], [900, 600], [0, 600]] as const; // prettier-ignore
  let doc = addRoom(emptyMap('Beam'), { floor: 0, ceiling: 400, wall: 16, footprint }, DRESS, 'hall');
  doc = placeEntity(doc, 'spawn', [100, 300, 0], 0, 's');
  doc = changeEntity(placeEntity(doc, 'pointLight', [100, 300, 290], 0, 'l'), 'l', { params: { candela: 400 } });
  const beam = boxSolid({ min: [235, 20, 205], max: [245, 580, 225] });
  doc = addBrushes(doc, [dressSolid(beam, 'beam', 'oak-plank', { role: 'detail' })]);
  const crate = placeProps(doc, [{ model: 'crate', at: [500, 300, 0], scale: 4 }], propFacts);
  doc = changeEntity(crate.doc, crate.made.entities[0]!, { params: { takes: 'chart' } });
  const paint = { material: 'sea-paint', at: [372, 300, 40], normal: [-1, 0, 0], width: 200, height: 60 } as const;
  return placeDecals(doc, [paint], (name) => MATERIALS.find((m) => m.name === name)).doc;
}

export const shadedProp: Test = [
  'in play the shadow of a beam lies across a crate that is lit all over, and paint on its foot is seen as the level tells it',
  async (world) => {
    const w = await Workshop.withMap(world, beamedHall());
    await w.page.setViewport({ width: 640, height: 400 });
    await w.keys('Control+b');
    await w.page.waitForSelector('[data-testid=walk]', { timeout: 60_000 });
    await w.page.click('[data-testid=walk]');
    // Half the picture is 40 degrees; the crate's front is 272 away, eyes are 160 high.
    const half = 200 / Math.tan((40 * Math.PI) / 180);
    const row = async (z: number): Promise<readonly [number, number, number]> => {
      const { data, width } = await w.picture('.play canvas');
      const y = Math.round(200 - ((z - 160) / 272) * half);
      const sum: [number, number, number] = [0, 0, 0];
      for (let x = 260; x < 380; x++) for (let c = 0; c < 3; c++) sum[c]! += data[4 * (y * width + x) + c]! / 120;
      return sum;
    };
    const bright = async (z: number): Promise<number> => (await row(z)).reduce((a, b) => a + b);
    // From the lamp 290 high over the beam, and under it.
    await until(
      async () => [await bright(190), await bright(134), await bright(90)] as const,
      ([over, dark, under]) => Math.min(over, under) > 100 && dark < 0.75 * Math.min(over, under),
      'a shadow across the crate',
    );
    const [red, green] = await row(40);
    const [wood, other] = await row(90);
    assert.ok(green > red, `the paint is green: ${red} ${green}`);
    assert.ok(wood > other * 1.1, `the wood is not: ${wood} ${other}`);
    assert.deepEqual(w.errors, []);
  },
];
