import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { layersOf, makePlaces } from './picture-places.ts';

const side = fc.constantFrom(32, 64, 96, 512, 1024, 4096);
const asked = fc.array(fc.tuple(fc.integer({ min: 0, max: 60 }), side, side), { maxLength: 120 });

describe('places of pictures', () => {
  test('no two materials share one, pages hold pictures of one size, and no more than fit', () => {
    fc.assert(
      fc.property(asked, (list) => {
        const places = makePlaces();
        const owner = new Map<string, string>();
        for (const [n, w, h] of list) {
          const { place } = places.placeOf(`m${n}`, [w, h]);
          const at = `${place.page} ${place.layer}`;
          expect(owner.get(at) ?? `m${n}`).toBe(`m${n}`);
          owner.set(at, `m${n}`);
          expect(places.size(place.page)).toEqual([w, h]);
          expect(place.layer).toBeLessThan(layersOf([w, h]));
        }
      }),
    );
  });
  test('a material keeps its place, and gets another with a picture of another size', () => {
    const places = makePlaces();
    const first = places.placeOf('slate', [512, 512]);
    expect(first.fresh).toBe(true);
    expect(places.placeOf('slate', [512, 512])).toEqual({ place: first.place, fresh: false });
    const second = places.placeOf('slate', [256, 512]);
    expect(second.fresh).toBe(true);
    expect(second.place.page).not.toBe(first.place.page);
  });
  test('forty pictures of one size take three pages; a page of large ones stays small', () => {
    const places = makePlaces();
    const pages = new Set(Array.from({ length: 40 }, (_, i) => places.placeOf(`m${i}`, [512, 512]).place.page));
    expect(pages.size).toBe(3);
    expect(layersOf([1024, 1024])).toBe(4);
    expect(layersOf([4096, 4096])).toBe(1);
  });
});
