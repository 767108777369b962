import assert from 'node:assert/strict';
import { PNG } from 'pngjs';
import type { ElementHandle, Page } from 'puppeteer-core';
import type { BuildRow, MapBody, ProjectCard } from '@yesca/contract';
import { parseMap, writeMap, type MapDocument, type Vec3 } from '@yesca/core';
import { clickAtRest, clickOn, openPage, settled } from './browser.ts';
import type { World } from './harness.ts';

/** Where a world point (across, up) lies on screen in a drawing. */
export const sheetPoint = (page: Page, pane: 'plan' | 'section', h: number, v: number): Promise<[number, number]> =>
  page.$eval(
    `[data-pane=${pane}]`,
    (element, pane, h, v) => {
      const { centre, zoom } = JSON.parse((element as HTMLElement).dataset.view!) as { centre: number[]; zoom: number };
      const box = element.getBoundingClientRect();
      return [
        box.left + box.width / 2 + (h - centre[0]!) * zoom,
        box.top + box.height / 2 - (v - centre[pane === 'plan' ? 1 : 2]!) * zoom,
      ] as [number, number];
    },
    pane,
    h,
    v,
  );

/** Half of the Eye's field of view, upright, as a slope. */
const EYE_SLOPE = Math.tan((75 / 2) * (Math.PI / 180));

/** Where a world point lies on screen in the Eye. */
export const eyePoint = (page: Page, p: Vec3): Promise<[number, number]> =>
  page.$eval(
    '[data-pane=eye]',
    (element, p, slope) => {
      const { at, target: f } = JSON.parse((element as HTMLElement).dataset.eye!) as { at: number[]; target: number[] };
      const flat = Math.hypot(f[0]!, f[1]!);
      const right = [f[1]! / flat, -f[0]! / flat, 0];
      const up = [(-f[0]! * f[2]!) / flat, (-f[1]! * f[2]!) / flat, flat];
      const d = p.map((c, i) => c - at[i]!);
      const along = (v: number[]) => d[0]! * v[0]! + d[1]! * v[1]! + d[2]! * v[2]!;
      const box = element.getBoundingClientRect();
      const k = box.height / 2 / slope / along(f);
      return [box.left + box.width / 2 + along(right) * k, box.top + box.height / 2 - along(up) * k] as [
        number,
        number,
      ];
    },
    p as unknown as number[],
    EYE_SLOPE,
  );

let trials = 0;

/** The interface as a person uses it: by what is written on it, by pointer and by keys. */
export class Workshop {
  readonly page: Page;
  readonly errors: string[];
  private readonly world: World;

  private constructor(page: Page, errors: string[], world: World) {
    this.page = page;
    this.errors = errors;
    this.world = world;
  }

  static async open(world: World, path = '/'): Promise<Workshop> {
    const { page, errors } = await openPage(world.browser, world.base + path);
    return new Workshop(page, errors, world);
  }

  /** A new map made on the Shelf from a template. */
  static async newMap(world: World, template: string): Promise<Workshop> {
    const w = await Workshop.open(world);
    await w.press('New map');
    // What is typed before the dialog has the focus is lost; and maps of other tests may be called like a template.
    await w.page.waitForFunction(() => document.activeElement?.matches('[role=dialog] input'));
    await w.type(`Trial ${++trials}`);
    await clickOn(w.page, `[role=dialog] ::-p-text(${template})`);
    await w.page.waitForSelector('[data-pane=plan] canvas');
    await w.page.waitForSelector('[data-pane=eye] canvas');
    await settled(w.page);
    return w;
  }

  /** A map that was made elsewhere, put on the Shelf and opened. */
  static async withMap(world: World, doc: MapDocument): Promise<Workshop> {
    const [project] = (await (await fetch(`${world.base}/api/projects`)).json()) as ProjectCard[];
    const made = await fetch(`${world.base}/api/maps`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ projectId: project!.id, name: doc.name, document: writeMap(doc) }),
    });
    const { id } = (await made.json()) as MapBody;
    const w = await Workshop.open(world, `/maps/${id}/shape`);
    await w.page.waitForSelector('[data-pane=eye] canvas');
    await settled(w.page);
    return w;
  }

  /** Clicks a world point in the Eye. */
  async look(p: Vec3, key?: 'Alt' | 'Shift' | 'Control'): Promise<void> {
    const [x, y] = await eyePoint(this.page, p);
    if (key) await this.page.keyboard.down(key);
    await this.page.mouse.click(x, y);
    if (key) await this.page.keyboard.up(key);
    await settled(this.page);
  }

  get mapId(): string {
    return /maps\/([\w-]+)/.exec(this.page.url())![1]!;
  }

  /** Clicks the first visible control with a name. */
  async press(name: string): Promise<void> {
    const named = await this.page.waitForSelector(`::-p-aria([name="${name}"]), ::-p-text(${name})`, { timeout: 5000 });
    // The input behind a segmented control has the name, but its label takes the click.
    await clickAtRest(named!).catch(async () =>
      clickAtRest((await this.page.waitForSelector(`label ::-p-text(${name})`, { timeout: 2000 }))!),
    );
    await settled(this.page);
  }

  /** What has just opened and has the keyboard: what is typed goes there. */
  async asked(): Promise<void> {
    await this.page.waitForFunction(() => document.activeElement?.matches('[role=dialog] input'));
    await settled(this.page);
  }

  /** A dialog has gone. */
  async answered(): Promise<void> {
    await this.page.waitForFunction(() => document.querySelector('[role=dialog]') === null);
  }

  /** The input with a label, or with that name for readers of the screen. */
  async field(label: string): Promise<ElementHandle<HTMLInputElement>> {
    const found = await this.page.waitForFunction(
      (label) =>
        [...document.querySelectorAll('input')].find(
          (e) => e.offsetParent && (e.labels?.[0]?.textContent ?? e.getAttribute('aria-label')) === label,
        ),
      { timeout: 8000 },
      label,
    );
    return found as ElementHandle<HTMLInputElement>;
  }

  /** Types into the field with a label and commits. */
  async fill(label: string, text: string): Promise<void> {
    await (await this.field(label)).click({ count: 3 });
    await this.type(text);
    await this.keys('Enter');
  }

  /** Takes one of the choices of a field: they lie side by side, or drop down from it. */
  async choose(field: string, entry: string): Promise<void> {
    const beside = await this.page.$(`[role=radiogroup][aria-label="${field}"] label ::-p-text(${entry})`);
    if (beside) {
      await beside.click();
      return settled(this.page);
    }
    await (await this.field(field)).click();
    // Lists that were open before stay in the page, unseen.
    const option = await this.page.waitForFunction(
      (entry) =>
        [...document.querySelectorAll<HTMLElement>('[role=option]')].find(
          (o) => o.offsetParent && o.textContent?.includes(entry),
        ),
      { timeout: 5000 },
      entry,
    );
    await clickAtRest(option as ElementHandle<HTMLElement>);
    await settled(this.page);
  }

  /** Makes a material active by searching Stock for it. */
  async takeMaterial(label: string): Promise<void> {
    await this.fill('Search materials', label);
    await this.page.waitForSelector(`[aria-label="Material ${label}"]`);
    await this.page.evaluate(
      (name) => document.querySelector<HTMLElement>(`[aria-label="Material ${name}"]`)!.click(),
      label,
    );
    await settled(this.page);
  }

  /** Where a world point lies on screen in a drawing. */
  at(pane: 'plan' | 'section', h: number, v: number): Promise<[number, number]> {
    return sheetPoint(this.page, pane, h, v);
  }

  async click(pane: 'plan' | 'section', h: number, v: number, key?: 'Alt' | 'Shift' | 'Control'): Promise<void> {
    const [x, y] = await this.at(pane, h, v);
    if (key) await this.page.keyboard.down(key);
    await this.page.mouse.click(x, y);
    if (key) await this.page.keyboard.up(key);
    await settled(this.page);
  }

  async drag(
    pane: 'plan' | 'section',
    from: readonly [number, number],
    to: readonly [number, number],
    key?: 'Alt' | 'Shift',
  ): Promise<void> {
    const a = await this.at(pane, ...from);
    const b = await this.at(pane, ...to);
    if (key) await this.page.keyboard.down(key);
    await this.page.mouse.move(...a);
    await this.page.mouse.down();
    await this.page.mouse.move((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, { steps: 2 });
    await this.page.mouse.move(...b, { steps: 2 });
    await this.page.mouse.up();
    if (key) await this.page.keyboard.up(key);
    await settled(this.page);
  }

  async keys(...keys: string[]): Promise<void> {
    for (const key of keys) {
      const parts = key.split('+');
      for (const mod of parts.slice(0, -1)) await this.page.keyboard.down(mod as 'Control');
      await this.page.keyboard.press(parts.at(-1) as 'a');
      for (const mod of parts.slice(0, -1)) await this.page.keyboard.up(mod as 'Control');
      await settled(this.page);
    }
  }

  /** Does the command that some words find in the palette. Keys belong to the palette from when it has the focus until it has gone. */
  async palette(words: string): Promise<void> {
    await this.keys('Control+k');
    const field = await this.page.waitForFunction(() => {
      const active = document.activeElement;
      return active && active.closest('[role=dialog]')?.querySelector('input') === active && active;
    });
    await this.type(words);
    await this.page.waitForFunction(
      (w) =>
        [...document.querySelectorAll('[role=dialog] button')].every((b) => b.textContent!.toLowerCase().includes(w)),
      {},
      words.toLowerCase(),
    );
    await this.keys('Enter');
    // What it opens may be a dialog too.
    await this.page.waitForFunction((input) => !(input as Element).isConnected, {}, field);
  }

  async type(text: string): Promise<void> {
    await this.page.keyboard.type(text, { delay: 15 });
    await settled(this.page);
  }

  /** Waits until the screen says that everything is saved. */
  async saved(): Promise<void> {
    // What was just done shows as unsaved first.
    await settled(this.page);
    await this.page.waitForFunction(() => document.querySelector('[data-testid=save-state]')?.textContent === 'Saved', {
      timeout: 10_000,
    });
  }

  /** The map as the server has it. */
  async document(): Promise<MapDocument> {
    await this.saved();
    const body = (await (await fetch(`${this.world.base}/api/maps/${this.mapId}`)).json()) as MapBody;
    return parseMap(body.document);
  }

  async projects(): Promise<ProjectCard[]> {
    return (await (await fetch(`${this.world.base}/api/projects`)).json()) as ProjectCard[];
  }

  async sealing(wanted: string): Promise<void> {
    await this.page.waitForFunction(
      (w) => document.querySelector('[data-testid=sealing]')?.textContent === w,
      { timeout: 8000 },
      wanted,
    );
  }

  async text(selector: string): Promise<string> {
    return this.page.$eval(selector, (e) => e.textContent ?? '');
  }

  /** What is seen in a part of the page, as RGBA pixels. */
  async picture(selector: string): Promise<{ width: number; height: number; data: Uint8Array }> {
    // Where it is, not the element itself: that may be replaced while its picture is taken.
    const clip = await this.page.$eval(selector, (e) => {
      const { x, y, width, height } = e.getBoundingClientRect();
      return { x, y, width, height };
    });
    const { width, height, data } = PNG.sync.read(Buffer.from(await this.page.screenshot({ clip })));
    return { width, height, data };
  }

  /** Builds on the Build page with a preset and waits for the end. */
  async build(preset: 'Sketch' | 'Review' | 'Final', timeout = 60_000): Promise<void> {
    await this.press('Build');
    await this.page.waitForSelector('.presets');
    await this.page.evaluate(
      (name) =>
        [...document.querySelectorAll<HTMLButtonElement>('.preset')]
          .find((b) => b.textContent!.startsWith(name))!
          .click(),
      preset,
    );
    const begun = this.page.waitForResponse((r) => r.request().method() === 'POST' && r.url().endsWith('/builds'));
    await this.press(`Build ${preset.toLowerCase()}`);
    const { id } = (await (await begun).json()) as BuildRow;
    // Another build of the map may have been done before.
    await this.page.waitForSelector(`[data-testid=build-run][data-build="${id}"][data-status=done]`, { timeout });
    await settled(this.page);
  }

  /** Nothing went wrong unseen. */
  clean(): void {
    assert.deepEqual(this.errors, []);
  }
}
