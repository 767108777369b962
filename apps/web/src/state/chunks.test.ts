import { boxSolid, dressSolid, type Brush } from '@yesca/core';
import { Chunker } from './chunks.ts';

const brush = (id: string): Brush =>
  dressSolid(boxSolid({ min: [0, 0, 0], max: [10, 10, 10] }), id, 'm', { role: 'structure' });
const many = (n: number): Brush[] => Array.from({ length: n }, (_, i) => brush(`b${i}`));

describe('chunks of brushes', () => {
  test('every brush is in one of them, and none is much fuller than others', () => {
    const list = many(5000);
    const chunks = new Chunker().update(list);
    expect(new Set(chunks.flat())).toEqual(new Set(list));
    expect(chunks.flat()).toHaveLength(list.length);
    expect(chunks.length).toBeGreaterThan(4);
    expect(Math.max(...chunks.map((c) => c.length))).toBeLessThan(2 * Math.min(...chunks.map((c) => c.length)));
  });

  test('a change of one brush, one more or one less leaves all chunks but one as they are', () => {
    const chunker = new Chunker();
    const list = many(5000);
    const changedIn = (next: readonly Brush[]) => {
      const before = chunker.update(list);
      return chunker.update(next).filter((c) => !before.includes(c)).length;
    };
    expect(changedIn(list.map((b, i) => (i === 1234 ? { ...b } : b)))).toBe(1);
    expect(changedIn([...list, brush('new')])).toBe(1);
    expect(changedIn(list.slice(1))).toBe(1);
    // The names of the rest are as they were, wherever they stand in the list.
    expect(changedIn(list.slice(0, -1))).toBe(1);
  });

  test('nothing changed is the very same', () => {
    const chunker = new Chunker();
    const list = many(700);
    const before = chunker.update(list);
    expect(chunker.update([...list])).toBe(before);
  });

  test('few brushes are one chunk in their order, and none at all is no brush', () => {
    expect(new Chunker().update(many(3)).map((c) => c.map((b) => b.id))).toEqual([['b0', 'b1', 'b2']]);
    expect(new Chunker().update([]).flat()).toEqual([]);
  });

  test('the division holds when a map loses some and gets them back', () => {
    const chunker = new Chunker();
    const list = many(1030);
    const count = chunker.update(list).length;
    expect(chunker.update(list.slice(0, 1000)).length).toBe(count);
    expect(chunker.update(list.slice(0, 10)).length).toBe(1);
  });
});
