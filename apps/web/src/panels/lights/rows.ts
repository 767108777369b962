import {
  brightness,
  EVEN,
  layerColors,
  lightMark,
  materialOfGlow,
  OTHERS,
  SKY,
  shines,
  type LedgerLayer,
  type MapDocument,
  type MaterialLookup,
} from '@yesca/core';

/** A light of the list. */
export interface LightRow {
  /** As the ledger names it. */
  readonly name: string;
  readonly label: string;
  /** The thing; null for what glows, the even light, and lights that are counted together. */
  readonly thing: string | null;
  /** Its share of what all lights give straight to all surfaces, 0 to 1; null while that is not known. */
  readonly share: number | null;
  /** Its part of the work of finding the light, 0 to 1; null while that is not known. */
  readonly work: number | null;
  /** It was moved, turned or placed since the light was found. */
  readonly changed: boolean;
}

const labelOf = (name: string, labelOfMaterial: (name: string) => string): string => {
  const material = materialOfGlow(name);
  if (material !== null) return `Glow of ${labelOfMaterial(material)}`;
  return { [EVEN]: 'Even light', [SKY]: 'Sky', [OTHERS]: 'Weaker lights together' }[name] ?? name;
};

/** The lights of a map, strongest first; those that nothing is known of at the end, by name. */
export function lightRows(
  doc: MapDocument,
  layers: readonly LedgerLayer[] | null,
  materials: MaterialLookup,
  names: { readonly thing: (id: string) => string; readonly material: (name: string) => string },
): LightRow[] {
  const colors = layerColors(layers ?? [], doc, materials);
  const given = new Map((layers ?? []).map((l) => [l.thing, l.flux * brightness(colors.get(l.thing)!)]));
  const all = [...given.values()].reduce((sum, lumen) => sum + lumen, 0);
  const share = (name: string): number | null => (all > 0 && given.has(name) ? given.get(name)! / all : null);
  const work = (name: string): number | null => (layers ?? []).find((l) => l.thing === name)?.work ?? null;
  const marks = new Map((layers ?? []).map((l) => [l.thing, l.mark]));
  const things = [...doc.entities.values()]
    .filter((e) => shines(e))
    .map((e): LightRow => {
      const changed = layers !== null && marks.has(e.id) && marks.get(e.id) !== lightMark(doc, e);
      return { name: e.id, label: names.thing(e.id), thing: e.id, share: share(e.id), work: work(e.id), changed };
    });
  const others = (layers ?? [])
    .filter((l) => materialOfGlow(l.thing) !== null || [EVEN, SKY, OTHERS].includes(l.thing))
    .map((l): LightRow => {
      return {
        name: l.thing,
        label: labelOf(l.thing, names.material),
        thing: null,
        share: share(l.thing),
        work: work(l.thing),
        changed: false,
      };
    });
  return [...things, ...others].sort(
    (a, b) => (b.share ?? -1) - (a.share ?? -1) || a.label.localeCompare(b.label, undefined, { numeric: true }),
  );
}
