import { ENTITY_KINDS } from '@yesca/core';
import { KIND_ICONS } from './kind-icons.ts';

test('every kind of thing has an icon of its own, and no icon stands for a kind that is gone', () => {
  expect(Object.keys(KIND_ICONS).sort()).toEqual(ENTITY_KINDS.map((k) => k.kind).sort());
  expect(new Set(Object.values(KIND_ICONS)).size).toBe(ENTITY_KINDS.length);
});
