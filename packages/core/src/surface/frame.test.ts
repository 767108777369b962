import fc from 'fast-check';
import { boxSolid, brushPlanes, faceWinding, hullOf, findFlaw } from '../brush/index.ts';
import {
  addScaled,
  cross,
  length,
  mirror,
  normalize,
  rotation,
  scale,
  scaling,
  translation,
  type Affine,
  type Plane,
  type Vec3,
} from '../math/index.ts';
import {
  carryFrame,
  dressSolid,
  faceFrame,
  isUsableFrame,
  naturalFrame,
  readFrame,
  redress,
  shiftFrame,
  texelAt,
  transformBrush,
  turnFrame,
  worldFrame,
  writeFrame,
} from './frame.ts';
import { dressCap } from './dress.ts';

const SLOPE: Plane = { normal: [0.6, 0, 0.8], distance: 40 };

describe('projection', () => {
  test('on a wall columns run along it and rows run down, two texels a cm', () => {
    const f = worldFrame([0, -1, 0]);
    expect(texelAt(f, [10, 0, 5])).toEqual([20, -10]);
    expect(texelAt(worldFrame([0, 1, 0]), [10, 0, 5])).toEqual([-20, -10]);
    expect(texelAt(worldFrame([1, 0, 0]), [0, 10, 5])).toEqual([20, -10]);
  });

  test('on a floor north is up', () => {
    expect(texelAt(worldFrame([0, 0, 1]), [3, 4, 99])).toEqual([6, -8]);
  });

  test('laid in a slope nothing is stretched: one texel covers half a cm in any direction of the plane', () => {
    const f = faceFrame(SLOPE);
    const along: Vec3 = [0.8, 0, -0.6];
    const [u0, v0] = texelAt(f, [0, 0, 50]);
    const [u1, v1] = texelAt(f, [along[0] * 10, 0, 50 + along[2] * 10]);
    expect(Math.hypot(u1 - u0, v1 - v0)).toBeCloseTo(20, 9);
    const [u2, v2] = texelAt(f, [0, 10, 50]);
    expect(Math.hypot(u2 - u0, v2 - v0)).toBeCloseTo(20, 9);
  });
});

describe('numbers of a frame', () => {
  test('what is written is read again', () => {
    const number = fc.double({ min: 0.1, max: 8, noNaN: true });
    fc.assert(
      fc.property(
        number,
        number,
        fc.boolean(),
        fc.integer({ min: -179, max: 179 }),
        fc.integer({ min: -500, max: 500 }),
        (sx, sy, flip, turn, offset) => {
          for (const plane of [
            SLOPE,
            { normal: [0, -1, 0], distance: 7 } as Plane,
            { normal: [0, 0, 1], distance: 0 } as Plane,
          ]) {
            const read = readFrame(
              writeFrame({ offset: [offset, -offset], scale: [flip ? -sx : sx, sy], turn, skew: turn % 60 }, plane),
              plane,
            );
            expect(read.scale[0]).toBeCloseTo(flip ? -sx : sx, 6);
            expect(read.scale[1]).toBeCloseTo(sy, 6);
            expect(read.turn).toBeCloseTo(turn, 6);
            expect(read.skew).toBeCloseTo(turn % 60, 6);
            expect(read.offset).toEqual([offset, -offset]);
          }
        },
      ),
    );
  });

  test('turning about a point keeps the texel at that point', () => {
    const about: Vec3 = [12, 0, 40];
    const plane: Plane = { normal: [0, -1, 0], distance: 0 };
    const f = worldFrame(plane.normal);
    const turned = turnFrame(f, plane, 90, about);
    expect(texelAt(turned, about)[0]).toBeCloseTo(texelAt(f, about)[0], 9);
    expect(texelAt(turned, about)[1]).toBeCloseTo(texelAt(f, about)[1], 9);
    expect(readFrame(turned, plane).turn).toBeCloseTo(90, 9);
  });

  test('shifting moves by texels', () => {
    expect(texelAt(shiftFrame(worldFrame([0, 0, 1]), 5, -3), [0, 0, 0])).toEqual([5, -3]);
  });

  test('a frame that squashes the picture is not usable', () => {
    expect(isUsableFrame({ u: [1, 0, 0, 0], v: [2, 0, 0, 0] }, [0, 0, 1])).toBe(false);
    expect(isUsableFrame({ u: [NaN, 0, 0, 0], v: [0, 1, 0, 0] }, [0, 0, 1])).toBe(false);
    expect(isUsableFrame(worldFrame([0, 0, 1]), [0, 0, 1])).toBe(true);
  });

  test('a frame is of use on a plane on which it shows an area, whichever way that looks, and is not endlessly dense', () => {
    const part = fc.double({ min: -3, max: 3, noNaN: true });
    const way = fc.tuple(part, part, part);
    fc.assert(
      fc.property(way, way, way, (n, a, b) => {
        fc.pre(length(n) > 0.5);
        const normal = normalize(n);
        const s = normalize(cross(normal, Math.abs(normal[0]) < 0.7 ? [1, 0, 0] : [0, 1, 0]));
        const t = cross(normal, s);
        const flat = (x: number, y: number): Vec3 => addScaled(scale(s, x), t, y);
        const row = (v: Vec3): [number, number, number, number] => [...v, 7];
        const usable = (u: Vec3, v: Vec3) => isUsableFrame({ u: row(u), v: row(v) }, normal);
        // However much of each row runs along the normal, what it shows is what lies in the plane.
        const [u, v] = [flat(2, 0.5), flat(-0.3, 1.5)].map((x, k) => addScaled(x, normal, a[k]!)) as [Vec3, Vec3];
        expect(usable(u, v)).toBe(true);
        expect(usable(scale(normal, 2), b)).toBe(false);
        expect(usable(u, addScaled(scale(u, 2), normal, b[0]))).toBe(false);
        for (const far of [scale(u, 1e7), scale(v, 1e7)]) {
          expect(usable(far, v)).toBe(false);
          expect(usable(u, far)).toBe(false);
        }
      }),
    );
  });
});

describe('carry', () => {
  const maps: [string, Affine][] = [
    ['a move', translation([17, -5, 3])],
    ['a turn', rotation(2, 37, [5, 6, 7])],
    ['a tilt', rotation(0, 15, [0, 0, 0])],
    ['a mirror image', mirror(1, 33)],
    ['a stretch', scaling([2, 0.5, 3], [1, 2, 3])],
  ];
  test.each(maps)('every corner keeps its texel through %s', (_, m) => {
    const brush = dressSolid(boxSolid({ min: [0, 0, 0], max: [64, 32, 128] }), 'b', 'm');
    const moved = transformBrush(brush, m, true);
    brush.faces.forEach((face, i) => {
      face.loop.forEach((k) => {
        const before = texelAt(face.frame, brush.vertices[k]!);
        const after = texelAt(moved.faces[i]!.frame, moved.vertices[k]!);
        expect(after[0]).toBeCloseTo(before[0], 6);
        expect(after[1]).toBeCloseTo(before[1], 6);
      });
    });
  });

  test('left in the world, frames do not change', () => {
    const brush = dressSolid(boxSolid({ min: [0, 0, 0], max: [64, 32, 128] }), 'b', 'm');
    expect(transformBrush(brush, translation([10, 0, 0]), false).faces.map((f) => f.frame)).toEqual(
      brush.faces.map((f) => f.frame),
    );
  });

  test('a map that flattens space leaves the frame alone', () => {
    const f = worldFrame([0, 0, 1]);
    expect(carryFrame(f, scaling([0, 1, 1], [0, 0, 0]))).toBe(f);
  });
});

describe('redress', () => {
  test('a cut shows what most of the brush shows, all its faces together', () => {
    const slab = dressSolid(boxSolid({ min: [0, 0, 0], max: [100, 100, 30] }), 'b', 'sides');
    const planes = brushPlanes(slab);
    const painted = (top: string, bottom: string) => ({
      ...slab,
      faces: slab.faces.map((f, i) => {
        const up = planes[i]!.normal[2];
        return up > 0 ? { ...f, material: top } : up < 0 ? { ...f, material: bottom } : f;
      }),
    });
    const cut: Plane = { normal: [1, 0, 0], distance: 50 };
    // Four sides of 3,000 cm² together are more than either of two of 10,000, and less than both.
    expect(dressCap(cut, painted('top', 'bottom')).material).toBe('sides');
    const decked = painted('deck', 'deck');
    expect(dressCap(cut, decked).material).toBe('deck');
    expect(dressCap(cut, { ...decked, faces: decked.faces.toReversed() }).material).toBe('deck');
    const { frame } = dressCap(cut, slab);
    expect(frame).toEqual(naturalFrame(cut));
  });

  test('faces that look the same way keep id and material', () => {
    const base = dressSolid(boxSolid({ min: [0, 0, 0], max: [64, 64, 64] }), 'b', 'plain');
    const old = { ...base, faces: base.faces.map((f) => (f.id === 2 ? { ...f, material: 'top' } : f)) };
    const cut = hullOf([[0, 0, 0], [64, 0, 0], [64, 64, 0], [0, 64, 0], [0, 0, 64], [40, 0, 64], [40, 64, 64], [0, 64, 64], [64, 0, 40], [64, 64, 40]]); // prettier-ignore
    const dressed = redress(cut, old);
    expect(findFlaw({ vertices: dressed.vertices, loops: dressed.faces.map((f) => f.loop) })).toBeNull();
    const top = dressed.faces[brushPlanes(dressed).findIndex((p) => p.normal[2] === 1)]!;
    expect(top).toMatchObject({ id: 2, material: 'top' });
    expect(new Set(dressed.faces.map((f) => f.id)).size).toBe(7);
    expect(faceWinding(dressed, 0).length).toBeGreaterThanOrEqual(3);
  });
});
