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
  placeProps(
    emptyMap('m'),
    places.map(([at, turn]) => ({ model: 'wall', at, turn })),
    known,
  ).doc;
const joined = (doc: ReturnType<typeof walls>, at: Vec3, turn = 0, scale = 1) =>
  joinNeighbours(doc, { bounds: WALL.bounds, at, turn, up: UP, scale }, known, 24).at;

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
      c(-40_000, 40_000),
      c(-40_000, 40_000),
      c(0, 360),
      fc.constantFrom(0, 90, 180, 270),
      c(-20, 20),
      c(-11, 11),
      c(0.5, 2),
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
        const mine = boxOf(
          boxCorners(WALL.bounds).map((p) => applyAffine(composeAffine(invertAffine(first)!, pose), p)),
        );
        const gap = Math.max(mine.min[0] - 64, -64 - mine.max[0], mine.min[1] - 8, -8 - mine.max[1]);
        expect(gap).toBeGreaterThan(-1e-6);
        expect(gap).toBeLessThan(1e-6);
      },
    ),
  );
});

describe('sockets', () => {
  const end = (s: number, z = 0) => ({ name: 'pipe', at: [64 * s, 0, z] as Vec3, way: [s, 0, 0] as Vec3 });
  const PIPE = boxProp('pipe', [-64, -10, 0], [64, 10, 24], { sockets: [end(-1, 12), end(1, 12)] });
  const BEND = boxProp('bend', [-36, -10, 0], [10, 36, 24], {
    sockets: [
      { name: 'pipe', at: [-36, 0, 12], way: [-1, 0, 0] },
      { name: 'pipe', at: [0, 36, 12], way: [0, 1, 0] },
    ],
  });
  const STEP = boxProp('step', [-64, -64, 0], [64, 64, 64], {
    sockets: [
      { name: 'stair', at: [0, -64, 0], way: [0, -1, 0] },
      { name: 'stair', at: [0, 64, 64], way: [0, 1, 0] },
    ],
  });
  const all = new Map([PIPE, BEND, STEP].map((p) => [p.name, p]));
  const lookup = (name: string) => all.get(name);
  const put = (...wishes: readonly { model: string; at: Vec3; turn?: number; scale?: number; up?: Vec3 }[]) =>
    placeProps(emptyMap('m'), wishes, lookup).doc;
  const join = (doc: ReturnType<typeof put>, name: string, at: Vec3, turn = 0, more: object = {}) =>
    joinNeighbours(doc, { ...all.get(name)!, at, turn, up: UP, scale: 1, ...more }, lookup, 24);

  test('of one name meet and look against each other, whatever way both are turned and however large', () => {
    const c = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(
        c(-40_000, 40_000),
        c(0, 360),
        c(-14, 14),
        c(-14, 14),
        c(-20, 20),
        c(0.5, 2),
        fc.constantFrom('pipe', 'bend'),
        (x, turn, dx, dy, off, scale, name) => {
          const doc = put({ model: 'pipe', at: [x, -x / 3, 40], turn, scale });
          const [thing] = [...doc.entities.values()];
          const first = propPose(modelOf(thing!)!, thing!.at, thing!.turn);
          const mouth = applyAffine(first, [64, 0, 12]);
          // About where it belongs behind the east end.
          const way = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)] as const;
          const long = name === 'pipe' ? 64 : 36;
          const at: Vec3 = [mouth[0] + way[0] * long + dx, mouth[1] + way[1] * long + dy, mouth[2] - 12];
          const joined = join(doc, name, at, turn + off);
          const pose = propPose({ ...modelOf(thing!)!, scale: 1 }, joined.at, joined.turn);
          expect(distance(applyAffine(pose, [-long, 0, 12]), mouth)).toBeLessThan(1e-4);
          const out = applyAffine(pose, [-long - 1, 0, 12]);
          expect(distance(out, [mouth[0] - way[0], mouth[1] - way[1], mouth[2]])).toBeLessThan(1e-4);
        },
      ),
    );
  });

  test('lead a stair upward, and stay free of what was joined there already', () => {
    const one = put({ model: 'step', at: [0, 0, 0] });
    expect(join(one, 'step', [5, 120, 70])).toEqual({ at: [0, 128, 64], turn: 0 });
    const two = put({ model: 'step', at: [0, 0, 0] }, { model: 'step', at: [0, 128, 64] });
    expect(join(two, 'step', [5, 110, 60]).at).not.toEqual([0, 128, 64]);
  });

  test('leave alone what is far, across, leaning, or of another name', () => {
    const one = put({ model: 'pipe', at: [0, 0, 0] });
    expect(join(one, 'pipe', [128, 4, 0], 20)).toEqual({ at: [128, 0, 0], turn: 0 });
    expect(join(one, 'pipe', [190, 0, 0]).at).toEqual([190, 0, 0]);
    expect(join(one, 'pipe', [80, 80, 0], 90).turn).toBe(90);
    expect(join(one, 'pipe', [128, 4, 0], 20, { up: [1, 0, 1] })).toEqual({ at: [128, 4, 0], turn: 20 });
    expect(join(put({ model: 'pipe', at: [0, 0, 0], up: [1, 0, 1] }), 'pipe', [128, 4, 0], 20).turn).toBe(20);
    expect(join(one, 'step', [128, 4, 0], 20)).toEqual({ at: [128, 4, 0], turn: 20 });
  });
});
