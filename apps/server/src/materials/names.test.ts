import { densityOfName, guessOf, labelOf, slugOf, takeApart } from './names.ts';

test.each([
  ['old_brick.png', 'old_brick', 'albedo', []],
  ['old_brick_normal.png', 'old_brick', 'normal', []],
  ['old-brick_N.jpg', 'old-brick', 'normal', []],
  ['walls/old brick.roughness.webp', 'old brick', 'roughness', ['walls']],
  ['OakPlank_basecolor.png', 'OakPlank', 'albedo', []],
  ['n.png', 'n', 'albedo', []],
])('%s is taken apart', (path, stem, kind, folders) => {
  expect(takeApart(path)).toEqual({ stem, kind, folders });
});

test('labels and names for maps come from the words, without sizes', () => {
  expect(labelOf('OakPlank_200cm_2k')).toBe('Oak plank');
  expect(slugOf('OakPlank_200cm_2k')).toBe('oak-plank');
  expect(slugOf('../../etc')).toBe('etc');
  expect([labelOf('mur_été'), slugOf('mur_été')]).toEqual(['Mur été', 'mur-ete']);
  expect([labelOf('ЗелёнаяСтена'), slugOf('ЗелёнаяСтена')]).toEqual(['Зелёная стена', 'zelyonaya-stena']);
  for (const odd of ['壁', '', '-', '.', '🧱', 'a'.repeat(300)]) expect(slugOf(odd)).toMatch(/^[a-z0-9-]{1,80}$/);
});

test('substance and tags are guessed from name and folders', () => {
  expect(guessOf('old_brick', ['walls'])).toEqual({ substance: 'brick', tags: ['old', 'brick', 'walls'] });
  expect(guessOf('thing', []).substance).toBe('none');
});

test('density comes from a size in the name, else a picture is 256 cm wide', () => {
  expect(densityOfName('wall_200cm', 1024)).toBe(5.12);
  expect(densityOfName('wall_2m', 1024)).toBe(5.12);
  expect(densityOfName('wall', 512)).toBe(2);
  expect(densityOfName('wall_0cm', 512)).toBe(2);
});
