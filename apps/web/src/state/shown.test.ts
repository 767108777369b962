import { changeEntity, emptyMap, placeEntity, placeProps } from '@yesca/core';
import { PROPS, propFacts } from '@yesca/stock';
import { useLibrary } from './library.ts';
import { splitShown } from './shown.ts';

const ids = (things: readonly { readonly id: string }[]) => things.map((t) => t.id);

test('a gesture draws anew what it changes and what names that, and leaves the same list of all others', () => {
  useLibrary.getState().setProps(PROPS);
  const { doc: placed, made } = placeProps(
    emptyMap('m'),
    [
      { model: 'crate', at: [0, 0, 0] },
      { model: 'crate', at: [100, 0, 0] },
    ],
    propFacts,
  );
  const [moved, other] = made.entities as [string, string];
  let doc = placeEntity(placed, 'spotLight', [0, 0, 200], 0, 'aimed');
  doc = changeEntity(placeEntity(doc, 'spotLight', [50, 0, 200], 0, 'free'), 'aimed', { params: { target: moved } });
  const still = splitShown({ doc, draft: null });
  expect([ids(still.thingsLive), still.propsLive, still.propsStill.length]).toEqual([[], [], 2]);
  const drag = (x: number) => splitShown({ doc, draft: changeEntity(doc, moved, { at: [x, 0, 0] }) });
  const [first, second] = [drag(16), drag(32)];
  expect(ids(first.thingsLive).sort()).toEqual(['aimed', moved].sort());
  expect(ids(first.thingsStill).sort()).toEqual(['free', other].sort());
  expect(first.propsStill.map((p) => p.thing)).toEqual([other]);
  expect(second.propsLive.map((p) => p.thing)).toEqual([moved]);
  expect(second.thingsLive.find((t) => t.id === moved)!.at[0]).toBe(32);
  // What is made of those that stand still is kept from one frame to the next.
  expect(second.thingsStill).toBe(first.thingsStill);
  expect(second.propsStill).toBe(first.propsStill);
  // One that is taken away is in neither.
  const gone = splitShown({
    doc,
    draft: { ...doc, entities: new Map([...doc.entities].filter(([id]) => id !== other)) },
  });
  expect([...gone.thingsStill, ...gone.thingsLive].some((t) => t.id === other)).toBe(false);
});
