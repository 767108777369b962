import { wedgeSolid } from '../brush/index.ts';
import { applyAffine, rotation, type Vec3 } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { block, play, scene, STILL } from '../testing/playing.ts';
import { beginWorld, newPerson } from './index.ts';
import { worldOfMap } from './world.ts';

const floor = block('floor', [-2000, -2000, -20], [2000, 2000, 0]);

test('on a slope one walks, jumps and slides alike whichever way it faces', () => {
  const ways = ['east', 'north', 'west', 'south'] as const;
  const paths = (height: number, side: number) =>
    ways.map((way, k) => {
      const base = { min: [-200, -200, 0], max: [200, 200, height] } as const;
      const ramp = dressSolid(wedgeSolid(base, way), 'ramp', 'm');
      const world = worldOfMap(scene([floor, ramp], []));
      const turn = rotation(2, k * 90, [0, 0, 0]);
      const from = beginWorld(world, [newPerson(applyAffine(turn, [-320, 20, 0.1]), k * 90)]);
      const path: Vec3[] = [];
      const back = rotation(2, -k * 90, [0, 0, 0]);
      // Up the slope, a jump in between, and along it.
      const input = (t: number) => ({
        ...STILL,
        forward: 1,
        right: t > 1 ? side : 0,
        jump: t > 0.9 && t < 1,
        yaw: k * 90,
      });
      play(world, from, 2.5, input, (s) => path.push(applyAffine(back, s.people[0]!.body.at)));
      return path;
    });
  for (const height of [60, 320])
    for (const side of [-1, 0, 1]) {
      const [first, ...others] = paths(height, side);
      expect(Math.max(...first!.map((p) => p[2]))).toBeGreaterThan(30);
      for (const path of others)
        path.forEach((p, i) => p.forEach((c, axis) => expect(Math.abs(c - first![i]![axis]!)).toBeLessThan(0.01)));
    }
});
