import { boxSolid, dressSolid, firstHit, hashRandom, makeTracer, solidAt, type Brush, type Vec3 } from '@yesca/core';
import { PickTracer } from './pick-tracer.ts';

const box = (id: string, k: number): Brush => {
  const at = [0, 1, 2].map((i) => hashRandom(k, i) * 900) as unknown as Vec3;
  return dressSolid(boxSolid({ min: at, max: [at[0] + 60, at[1] + 60, at[2] + 60] }), id, 'm');
};

test('through any edits the pick index meets what an index made anew would', () => {
  let brushes = new Map<string, Brush>(Array.from({ length: 300 }, (_, i) => [`b${i}`, box(`b${i}`, i)] as const));
  const picks = new PickTracer();
  for (let step = 0; step < 40; step++) {
    const next = new Map(brushes);
    for (let n = 0; n < (step % 9 === 8 ? 250 : 7); n++) {
      const id = `b${Math.floor(hashRandom(step, n * 3) * 330)}`;
      if (hashRandom(step, n * 3 + 1) < 0.3) next.delete(id);
      else next.set(id, box(id, step * 1000 + n));
    }
    brushes = next;
    picks.update(brushes);
    const anew = makeTracer([...brushes.values()]);
    for (let r = 0; r < 60; r++) {
      const from: Vec3 = [hashRandom(r, step) * 1000, hashRandom(r, step + 1) * 1000, -50];
      const towards: Vec3 = [hashRandom(r, 9) - 0.5, hashRandom(r, 10) - 0.5, 1];
      const [a, b] = [picks.firstHit(from, towards, 5000), firstHit(anew, from, towards, 5000)];
      expect(a?.at).toBe(b?.at);
      const p: Vec3 = [from[0], from[1], hashRandom(r, 11) * 900];
      expect(picks.solidAt(p) === null).toBe(solidAt(anew, p) === null);
    }
  }
});
