import { MATERIALS, type Material } from '@yesca/stock';
import { oklab, searchMaterials, type LibraryContext, type LibraryQuery } from './search.ts';

const ALL: LibraryQuery = { text: '', color: null, size: 'any', show: 'all' };
const NONE: LibraryContext = { counts: new Map(), recent: [], favourites: [], packsOff: [] };
const names = (query: Partial<LibraryQuery>, context: Partial<LibraryContext> = {}) =>
  searchMaterials(MATERIALS, { ...ALL, ...query }, { ...NONE, ...context }).map((m) => m.name);

test('words begin words of label, name, tags or substance, and all must', () => {
  expect(names({ text: 'thin plant' }).sort()).toEqual(['fern', 'ivy', 'leaf-canopy', 'reed']);
  expect(names({ text: 'tide' })).toEqual(['tide-stone']);
  expect(names({ text: 'net' })).toEqual(['rope-net']);
  expect(names({ text: 'ick' })).toEqual([]);
  expect(names({ text: '  ' })).toHaveLength(MATERIALS.length);
});

test('by colour: what looks like it, the nearest first', () => {
  const red = names({ color: '#8a4030' });
  expect(red.slice(0, 3)).toEqual(expect.arrayContaining(['red-brick', 'roof-tile']));
  expect(red).not.toContain('salt-meadow');
  expect(names({ color: 'red' })).toHaveLength(MATERIALS.length);
});

test('colours of the space are those of its paper: white is light 1 without hue, red leans to a', () => {
  expect(oklab('#ffffff')).toEqual([expect.closeTo(1, 4), expect.closeTo(0, 4), expect.closeTo(0, 4)]);
  expect(oklab('#ff0000')).toEqual([
    expect.closeTo(0.62796, 4),
    expect.closeTo(0.22486, 4),
    expect.closeTo(0.12585, 4),
  ]);
});

test('used here with the most used first, recent with the newest first, favourites, sizes, packs off', () => {
  expect(
    names(
      { show: 'used' },
      {
        counts: new Map([
          ['slate', 2],
          ['reed', 9],
          ['gone', 4],
        ]),
      },
    ),
  ).toEqual(['reed', 'slate']);
  expect(names({ show: 'recent' }, { recent: ['reed', 'limewash'] })).toEqual(['reed', 'limewash']);
  expect(names({ show: 'favourites' }, { favourites: ['slate'] })).toEqual(['slate']);
  expect(names({ size: 'large' })).toEqual(['placeholder']);
  expect(names({ size: 'small' })).toContain('lamp-glass');
  const own: Material = { ...MATERIALS[0]!, name: 'mine', pack: 'p1' };
  expect(searchMaterials([own], ALL, { ...NONE, packsOff: ['p1'] })).toEqual([]);
});
