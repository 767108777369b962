import { addBrushes, boxSolid, dressSolid, emptyMap, isAway, placeEntity, worldOfMap, type Vec3 } from '@yesca/core';
import { playedFrom, playOn, USE, walkInput } from './walker.ts';

const box = (id: string, min: Vec3, max: Vec3, owner?: string) => ({
  ...dressSolid(boxSolid({ min, max }), id, 'm'),
  ...(owner ? { owner: { id: owner } } : {}),
});

/** Somebody before a crate that bears two blows. */
function beforeACrate() {
  let doc = addBrushes(emptyMap('t'), [
    box('floor', [-500, -500, -16], [500, 500, 0]),
    box('crate', [60, -50, 0], [120, 50, 200], 'b'),
  ]);
  doc = placeEntity(doc, 'breakable', [90, 0, 0], 0, 'b');
  const played = playedFrom(worldOfMap(doc), [0, 0, 0.1], 0);
  const thing = played.world.things.findIndex((t) => t.entity.id === 'b');
  return { played, broken: () => isAway(played.world, played.state, thing) };
}
const HELD = walkInput(new Set([USE]), 0, 0);
const NOTHING = walkInput(new Set(), 0, 0);

test('each press of use is done once, however long a frame is and however many came within it', () => {
  for (const frame of [0.001, 0.009, 0.25]) {
    const { played, broken } = beforeACrate();
    playOn(played, NOTHING, 0.1);
    const on = (uses: number) => {
      // What is held in the picture of a frame tells nothing of what was pressed before it.
      playOn(played, HELD, frame, uses);
      for (let t = 0; t < 0.1; t += frame) playOn(played, NOTHING, frame);
    };
    on(1);
    expect([frame, broken()]).toEqual([frame, false]);
    on(1);
    expect([frame, broken()]).toEqual([frame, true]);
    const both = beforeACrate();
    playOn(both.played, NOTHING, 0.1);
    playOn(both.played, NOTHING, frame, 2);
    playOn(both.played, NOTHING, 0.1);
    expect([frame, both.broken()]).toEqual([frame, true]);
  }
});

test('use that is held is one', () => {
  const { played, broken } = beforeACrate();
  playOn(played, HELD, 0.1, 1);
  for (let k = 0; k < 40; k++) playOn(played, HELD, 0.05);
  expect(broken()).toBe(false);
});
