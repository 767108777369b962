import fc from 'fast-check';
import { modelOf, propPose } from '../entity/index.ts';
import { emptyMap } from '../map/index.ts';
import { applyAffine, boxCorners, boxOf, composeAffine, distance, invertAffine, type Vec3 } from '../math/index.ts';
import { boxProp } from '../testing/props.ts';
import { joinNeighbours } from './neighbours.ts';
import { placeProps } from './props.ts';

const WALL = boxProp('wall', [-64, -8, 0], [64, 8, 256]);
const known = (name: string) => (name === 'wall' ? WALL : undefined);
const UP: Vec3 = [0, 0, 1];
const walls = (...places: readonly (readonly [at: Vec3, turn: number])[]) =>
  placeProps(emptyMap('m'), places.map(([at, turn]) => ({ model: 'wall', at, turn })), known).doc; // prettier-ignore
const joined = (doc: ReturnType<typeof walls>, at: Vec3, turn = 0, scale = 1) =>
  joinNeighbours(doc, { bounds: WALL.bounds, at, turn, up: UP, scale }, known, 24);

test('a wall goes on where the last one ends, turns its corner, and stays where none is near', () => {
  const one = walls([[0, 0, 0], 0]);
  expect(joined(one, [120, 5, 0])).toEqual([128, 0, 0]);
  // Round the corner: its side flush with the end, its own end in line with the side.
  expect(joined(one, [78, 60, 0], 90).map(Math.round)).toEqual([72, 56, 0]);
  expect(joined(one, [200, 0, 0])).toEqual([200, 0, 0]);
  expect(joined(one, [120, 5, 300])).toEqual([120, 5, 300]);
  // Askew there is no side to join.
  expect(joined(one, [120, 5, 0], 20)).toEqual([120, 5, 0]);
  expect(joined(walls(), [1, 2, 3])).toEqual([1, 2, 3]);
});

test('boxes end flush and do not overlap, however both are turned together, wherever they stand', () => {
  const c = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  fc.assert(
    fc.property(
      c(-40_000, 40_000), c(-40_000, 40_000), c(0, 360), fc.constantFrom(0, 90, 180, 270), c(-20, 20), c(-11, 11), c(0.5, 2),
      (x, y, turn, more, dx, dy, scale) => {
        const doc = walls([[x, y, 0], turn]);
        const [thing] = [...doc.entities.values()];
        const first = propPose(modelOf(thing!)!, thing!.at, thing!.turn);
        const wish = { up: UP, scale, turn: turn + more };
        const half = more % 180 === 0 ? 64 * scale : 8 * scale;
        const at = applyAffine(first, [64 + half + dx, dy, 0]);
        const now = joined(doc, at, wish.turn, scale);
        expect(distance(now, at)).toBeLessThan(36);
        const pose = propPose({ ...modelOf(thing!)!, ...wish }, now, wish.turn);
        const mine = boxOf(boxCorners(WALL.bounds).map((p) => applyAffine(composeAffine(invertAffine(first)!, pose), p)));
        const gap = Math.max(mine.min[0] - 64, -64 - mine.max[0], mine.min[1] - 8, -8 - mine.max[1]);
        expect(gap).toBeGreaterThan(-1e-6);
        expect(gap).toBeLessThan(1e-6);
      },
    ),
  ); // prettier-ignore
});
