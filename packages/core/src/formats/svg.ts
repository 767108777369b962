/** An element of SVG as it is written. */
export interface SvgNode {
  readonly text: string;
}

const ESCAPES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** What XML 1.0 has no way to say at all. */
// eslint-disable-next-line no-control-regex
const UNSAYABLE = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff\p{Surrogate}]/gu;

/** Text as XML writes it, in elements and attributes. */
export const xmlText = (text: string): string =>
  text.replace(UNSAYABLE, '\ufffd').replace(/[&<>"]/g, (c) => ESCAPES[c]!);

/** By name; those that are undefined are left out. */
export type SvgAttributes = Readonly<Record<string, string | number | undefined>>;

/** Writes an element; what stands in it is text or other elements. */
export function element(name: string, attributes: SvgAttributes, inside: string | readonly SvgNode[] = []): SvgNode {
  const written = Object.entries(attributes).map(([key, value]) =>
    value === undefined ? '' : ` ${key}="${xmlText(String(value))}"`,
  );
  const content = typeof inside === 'string' ? xmlText(inside) : inside.map((node) => node.text).join('');
  return { text: `<${name}${written.join('')}${content === '' ? '/>' : `>${content}</${name}>`}` };
}

/** Hundredths of a unit are as fine as it is drawn. */
export const round = (n: number): number => Math.round(n * 100) / 100 + 0;
