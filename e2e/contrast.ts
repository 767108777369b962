import type { Page } from 'puppeteer-core';

/** A text that is too near its ground in brightness, with their ratio (WCAG 2.2, contrast of text, level AA: 4.5). */
export interface Faint {
  readonly text: string;
  readonly color: string;
  readonly ground: string;
  readonly ratio: number;
}

/** The texts of a page, as they stand now, that are too faint to read. What cannot be used just now does not count. */
export const faintTexts = (page: Page): Promise<Faint[]> =>
  page.evaluate(async () => {
    // A change of theme fades in: what is asked is how it looks when it has.
    await new Promise((done) => setTimeout(done, 100));
    const ending = document.getAnimations().filter((a) => a.effect?.getComputedTiming().endTime !== Infinity);
    await Promise.all(ending.map((a) => a.finished.catch(() => undefined)));
    const pen = new OffscreenCanvas(1, 1).getContext('2d', { willReadFrequently: true })!;
    /** Red, green, blue and opacity of a colour, 0 to 255. */
    const channels = (color: string): number[] => {
      pen.clearRect(0, 0, 1, 1);
      pen.fillStyle = color;
      pen.fillRect(0, 0, 1, 1);
      return [...pen.getImageData(0, 0, 1, 1).data];
    };
    const luminance = (c: readonly number[]): number => {
      const [r, g, b] = c
        .slice(0, 3)
        .map((v) => (v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4));
      return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
    };
    const groundOf = (element: Element): number[] => {
      const layers: number[][] = [];
      for (let e: Element | null = element; e; e = e.parentElement) {
        const c = channels(getComputedStyle(e).backgroundColor);
        layers.push(c);
        if (c[3] === 255) break;
      }
      return layers.reduceRight((under, c) => under.map((v, i) => v + ((c[i]! - v) * c[3]!) / 255), [255, 255, 255]);
    };
    const faint: { text: string; color: string; ground: string; ratio: number }[] = [];
    for (const e of document.querySelectorAll<HTMLElement>('body *')) {
      const text =
        e instanceof HTMLInputElement
          ? e.value
          : [...e.childNodes].flatMap((n) => (n.nodeType === Node.TEXT_NODE ? [n.textContent!.trim()] : [])).join('');
      if (!text || !e.offsetParent || e.closest('[data-disabled], :disabled, [aria-disabled=true]')) continue;
      const { color } = getComputedStyle(e);
      const ground = groundOf(e);
      const [a, b] = [luminance(channels(color)), luminance(ground)];
      const ratio = (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
      if (ratio < 4.5)
        faint.push({ text: text.slice(0, 40), color, ground: `rgb(${ground.map(Math.round).join(', ')})`, ratio });
    }
    return faint;
  });
