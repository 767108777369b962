import { create } from 'zustand';
import { brightness, surfaceBrushes, lightPlace, luxAt, type LightPlace, type Vec3 } from '@yesca/core';
import type { Lit } from './lit.ts';

/** A place on a brush whose light is read. */
export interface Metered {
  readonly brush: string;
  readonly at: Vec3;
}

/** The light meter: where the pointer is, and where it was told to stay. */
export const useMeter = create<{ readonly pointed: Metered | null; readonly held: Metered | null }>()(() => ({
  pointed: null,
  held: null,
}));

export const pointMeter = (pointed: Metered | null): void => {
  if (pointed || useMeter.getState().pointed) useMeter.setState({ pointed });
};

const surfacesOf = new WeakMap<Lit, ReadonlyMap<string, readonly number[]>>();

/** Where on the pages of light a place is lit; null where no surface is that was lit. */
export function placeOf(lit: Lit, { brush, at }: Metered): LightPlace | null {
  let byBrush = surfacesOf.get(lit);
  if (!byBrush) {
    const lists = new Map<string, number[]>();
    for (let s = 0; s < lit.level.surfaceMaterial.length; s++)
      for (const place of surfaceBrushes(lit.ledger, s)) {
        const { id } = lit.ledger.brushes[place]!;
        const list = lists.get(id);
        if (list) list.push(s);
        else lists.set(id, [s]);
      }
    surfacesOf.set(lit, (byBrush = lists));
  }
  return lightPlace(lit.level, byBrush.get(brush) ?? [], at);
}

/** How bright a place is as it is shown, lux; null where nothing is lit. */
export function luxThere(lit: Lit, metered: Metered): number | null {
  const place = placeOf(lit, metered);
  return place && brightness(luxAt(lit.level.meta.pages, lit.mix.texels, place));
}
