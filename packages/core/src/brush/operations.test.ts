import fc from 'fast-check';
import { boxOf, planeFromPoints, rotation, signedDistance, translation, type Vec3 } from '../math/index.ts';
import { DRESS_CARRIED, dressSolid, texelAt, transformBrush } from '../surface/index.ts';
import { oracle, oracleSolid } from '../testing/oracle.ts';
import { hullOf } from './hull.ts';
import { exactUnion, mergeConvex, sharedVolume, uniteConvex } from './merge.ts';
import { boxSolid, prismSolid, wedgeSolid } from './primitives.ts';
import { pullOut } from './pull.ts';
import { edgesOf, moveCorners, repairBrush, splitConcave } from './reshape.ts';
import { coneSolid, spikeSolid } from './round.ts';
import { offsetSolid, shellBrush } from './shell.ts';
import { brushBounds, brushContains, brushPlanes, brushVolume, findFlaw, solidOf, solidVolume } from './solid.ts';
import { stretchSide } from './stretch.ts';
import { intersectBrushes, subtractAll, subtractBrush } from './subtract.ts';
import type { Brush } from './types.ts';

const box = (min: Vec3, max: Vec3, id = 'b', material = 'm') => dressSolid(boxSolid({ min, max }), id, material);
const volume = (brushes: readonly Brush[]) => brushes.reduce((v, b) => v + brushVolume(b), 0);
const valid = (brushes: readonly Brush[]) => brushes.every((b) => findFlaw(solidOf(b)) === null);
const code = (c: string) => expect.objectContaining({ code: c });
const wall = box([0, 0, 0], [400, 32, 300], 'wall', 'brick');

describe('subtract', () => {
  test('a window leaves two full-height piers, a sill and a head, of the wall’s own material', () => {
    const window = box([150, -50, 100], [250, 50, 220], 'w', 'placeholder');
    const { pieces, missed, exact } = subtractBrush(wall, window, DRESS_CARRIED);
    expect([pieces.length, missed, exact, valid(pieces)]).toEqual([4, false, true, true]);
    expect(volume(pieces)).toBe(400 * 32 * 300 - 100 * 32 * 120);
    const sizes = pieces.map((p) => brushBounds(p)).map(({ min, max }) => [max[0] - min[0], max[2] - min[2]]);
    expect(sizes.sort()).toEqual([
      [100, 100],
      [100, 80],
      [150, 300],
      [150, 300],
    ]);
    expect(new Set(pieces.flatMap((p) => p.faces.map((f) => f.material)))).toEqual(new Set(['brick']));
  });

  test('faces that stay keep their frame', () => {
    const { pieces } = subtractBrush(wall, box([150, -50, 100], [250, 50, 220]), DRESS_CARRIED);
    for (const p of pieces)
      p.faces.forEach((f, i) => {
        const from = wall.faces.find(
          (_, k) =>
            brushPlanes(wall)[k]!.normal.every((c, a) => c === brushPlanes(p)[i]!.normal[a]) &&
            brushPlanes(wall)[k]!.distance === brushPlanes(p)[i]!.distance,
        );
        if (from) expect(texelAt(f.frame, [7, 11, 13])).toEqual(texelAt(from.frame, [7, 11, 13]));
      });
  });

  test('what misses, only touches, or swallows is told apart', () => {
    expect(subtractBrush(wall, box([500, 0, 0], [600, 32, 300]), DRESS_CARRIED).missed).toBe(true);
    expect(subtractBrush(wall, box([400, 0, 0], [600, 32, 300]), DRESS_CARRIED).missed).toBe(true);
    expect(subtractBrush(wall, box([-1, -1, -1], [401, 33, 301]), DRESS_CARRIED)).toEqual({
      pieces: [],
      missed: false,
      exact: true,
    });
  });

  test('a notch at a corner and a slot through need no more pieces than planes that bound them', () => {
    expect(subtractBrush(wall, box([300, -1, 200], [500, 33, 400]), DRESS_CARRIED).pieces).toHaveLength(2);
    expect(subtractBrush(wall, box([-1, -1, 100], [401, 33, 200]), DRESS_CARRIED).pieces).toHaveLength(2);
    expect(subtractBrush(wall, box([150, 8, 100], [250, 24, 220]), DRESS_CARRIED).pieces).toHaveLength(6);
  });

  test('a second cut that removes what a first one left makes whole pieces again', () => {
    const cutters = [box([100, -1, 100], [200, 33, 200]), box([200, -1, 100], [300, 33, 200])];
    const { pieces } = subtractAll(wall, cutters, DRESS_CARRIED);
    expect(volume(pieces)).toBe(400 * 32 * 300 - 200 * 32 * 100);
    expect(pieces.length).toBeLessThanOrEqual(6);
    expect(valid(pieces)).toBe(true);
  });

  test('and intersect share a brush out exactly', () => {
    const round = dressSolid(prismSolid({ min: [100, -50, 50], max: [260, 110, 250] }, 12), 'r', 'm');
    const inside = intersectBrushes(wall, round, DRESS_CARRIED.cap)!;
    const { pieces } = subtractBrush(wall, round, DRESS_CARRIED);
    expect(volume(pieces) + brushVolume(inside)).toBeCloseTo(brushVolume(wall), 4);
    expect(sharedVolume(wall, round)).toBeCloseTo(brushVolume(inside), 6);
    for (const p of pieces) expect(sharedVolume(p, round)).toBeCloseTo(0, 6);
  });

  test('of a tilted brush agrees with the kernel', async () => {
    await oracle();
    const tilted = transformBrush(box([-40, -40, -200], [40, 40, 200]), rotation(1, 30, [200, 16, 150]), true);
    const moved = transformBrush(tilted, translation([200, 16, 150]), true);
    const { pieces, exact } = subtractBrush(wall, moved, DRESS_CARRIED);
    const truth = (await oracleSolid(solidOf(wall))).subtract(await oracleSolid(solidOf(moved))).volume();
    expect(exact).toBe(true);
    expect(Math.abs(volume(pieces) / truth - 1)).toBeLessThan(1e-6);
  });
});

describe('merge', () => {
  test('joins halves again to the very brush that was cut, ids and frames with it', () => {
    const halves = [box([0, 0, 0], [100, 32, 300], 'a'), box([100, 0, 0], [400, 32, 300], 'b')];
    const [whole, ...none] = mergeConvex(halves, DRESS_CARRIED.like);
    expect(none).toEqual([]);
    expect([whole!.id, whole!.faces.length, brushVolume(whole!)]).toEqual(['a', 6, 400 * 32 * 300]);
  });
  test('keeps apart what would not be convex, what only shares an edge, and different roles', () => {
    const a = box([0, 0, 0], [100, 100, 100], 'a');
    expect(uniteConvex(a, box([100, 0, 0], [200, 100, 90], 'b'), DRESS_CARRIED.like)).toBeNull();
    expect(uniteConvex(a, box([100, 100, 0], [200, 200, 100], 'b'), DRESS_CARRIED.like)).toBeNull();
    expect(
      mergeConvex([a, { ...box([100, 0, 0], [200, 100, 100], 'b'), role: 'clip' }], DRESS_CARRIED.like),
    ).toHaveLength(2);
  });
  test('finds a convex whole that no two parts make: four brushes in a whirl round a fifth', () => {
    const whirl = [
      box([0, 0, 0], [200, 100, 50], '1'),
      box([200, 0, 0], [300, 200, 50], '2'),
      box([100, 200, 0], [300, 300, 50], '3'),
      box([0, 100, 0], [100, 300, 50], '4'),
      box([100, 100, 0], [200, 200, 50], '5'),
    ];
    expect(solidVolume(exactUnion(whirl))).toBe(300 * 300 * 50);
    expect(() => exactUnion(whirl.slice(0, 4))).toThrow(code('merge.notConvex'));
  });
});

describe('shell', () => {
  test('inside a box leaves walls of the thickness round a hollow', () => {
    const pieces = shellBrush(box([0, 0, 0], [200, 160, 120]), 16, 'inside', DRESS_CARRIED);
    expect([pieces.length, valid(pieces)]).toEqual([6, true]);
    expect(volume(pieces)).toBe(200 * 160 * 120 - 168 * 128 * 88);
    expect(pieces.some((p) => brushContains(p, [100, 80, 60]))).toBe(false);
  });
  test('outside adds the walls and leaves the brush’s own space free', () => {
    const inner = box([0, 0, 0], [200, 160, 120]);
    const pieces = shellBrush(inner, 16, 'outside', DRESS_CARRIED);
    expect(volume(pieces)).toBe(232 * 192 * 152 - 200 * 160 * 120);
    for (const p of pieces) expect(sharedVolume(p, inner)).toBe(0);
  });
  test('of a slope keeps the thickness square to it', () => {
    const wedge = dressSolid(wedgeSolid({ min: [0, 0, 0], max: [300, 200, 200] }, 'east'), 'w', 'm');
    const inner = dressSolid(offsetSolid(wedge, -16), 'i', 'm');
    brushPlanes(wedge).forEach((p) =>
      expect(Math.max(...inner.vertices.map((v) => signedDistance(p, v)))).toBeCloseTo(-16, 6),
    );
    const pieces = shellBrush(wedge, 16, 'inside', DRESS_CARRIED);
    expect(volume(pieces)).toBeCloseTo(brushVolume(wedge) - brushVolume(inner), 3);
  });
  test('too thick is refused', () => {
    expect(() => shellBrush(box([0, 0, 0], [200, 160, 30]), 16, 'inside', DRESS_CARRIED)).toThrow(
      code('shell.thickness'),
    );
    expect(() => shellBrush(wall, NaN, 'inside', DRESS_CARRIED)).toThrow(code('shell.thickness'));
  });
});

describe('pull out', () => {
  const crate = box([0, 0, 0], [100, 80, 60]);
  const top = crate.faces[brushPlanes(crate).findIndex((p) => p.normal[2] === 1)]!.id;
  test('makes a prism on the face, straight, slanted, tapered or to a point', () => {
    expect(solidVolume(pullOut(crate, top, 40))).toBe(100 * 80 * 40);
    expect(solidVolume(pullOut(crate, top, [30, 0, 40]))).toBeCloseTo(100 * 80 * 40, 6);
    expect(solidVolume(pullOut(crate, top, 40, 0.5))).toBeCloseTo((100 * 80 * 40 * (1 + 0.5 + 0.25)) / 3, 6);
    expect(solidVolume(pullOut(crate, top, 60, 0))).toBeCloseTo((100 * 80 * 60) / 3, 6);
  });
  test('inward, sideways or without end is refused', () => {
    for (const by of [-10, 0, [10, 0, 0], Infinity, NaN] as const)
      expect(() => pullOut(crate, top, by as number)).toThrow();
    expect(() => pullOut(crate, 99, 10)).toThrow(code('face.unknown'));
  });
});

describe('stretch with slopes kept', () => {
  test('a roof lifted keeps its pitch and grows at the eaves', () => {
    const roof = dressSolid(hullOf([[0, 0, 0], [200, 0, 0], [200, 300, 0], [0, 300, 0], [0, 0, 20], [200, 0, 20], [200, 300, 20], [0, 300, 20], [100, 0, 80], [100, 300, 80]]), 'r', 'm'); // prettier-ignore
    const lifted = stretchSide(roof, 2, 1, 50);
    const box = boxOf(lifted.vertices);
    expect(box).toEqual({ min: [0, 0, 0], max: [200, 300, 130] });
    expect(solidVolume(lifted)).toBeCloseTo(solidVolume(solidOf(roof)) + 200 * 300 * 50, 3);
  });
  test('a wedge drawn on at its high end goes on rising at the same slope', () => {
    const wedge = dressSolid(wedgeSolid({ min: [0, 0, 0], max: [200, 100, 100] }, 'east'), 'w', 'm');
    const longer = stretchSide(wedge, 0, 1, 100);
    expect(boxOf(longer.vertices).max).toEqual([300, 100, 150]);
    expect(solidVolume(longer)).toBeCloseTo((300 * 150 * 100) / 2, 3);
  });
  test('drawn in past its middle it is refused, not turned inside out', () => {
    expect(() => stretchSide(wall, 0, 1, -400)).toThrow();
  });
});

describe('reshape', () => {
  const crate = box([0, 0, 0], [100, 100, 100]);
  const corner = (p: Vec3) => crate.vertices.findIndex((v) => v.every((c, i) => c === p[i]));
  test('a lifted corner stays convex and takes the volume of its two new wedges', () => {
    const { solid, concave } = moveCorners(crate, new Map([[corner([100, 100, 100]), [100, 100, 130]]]));
    expect(concave).toBe(false);
    // The top folds along the diagonal to the lifted corner: over each half a pyramid of 100 × 100 / 2 by 30.
    expect(solidVolume(solid)).toBeCloseTo(100 ** 3 + 2 * ((100 * 100) / 2) * 30 * (1 / 3), 6);
  });
  test('a corner pushed into the brush is told to be concave, and splits into convex parts of the exact wish', () => {
    const to = new Map([[corner([100, 100, 100]), [40, 40, 40] as Vec3]]);
    const { solid, concave } = moveCorners(crate, to);
    expect(concave).toBe(true);
    expect(solidVolume(solid)).toBeCloseTo(1e6 - 1e6 / 6, 3);
    const parts = splitConcave(crate, to, DRESS_CARRIED.like);
    expect(valid(parts)).toBe(true);
    // Cut off the corner (a sixth), then take away the pyramid from that cut's triangle down to the new corner.
    const dent = (40 * 3 - 200) / Math.sqrt(3);
    const triangle = (Math.sqrt(3) / 4) * 2e4;
    expect(volume(parts)).toBeCloseTo(1e6 - 1e6 / 6 + (triangle * dent) / 3, 3);
    for (const [i, a] of parts.entries())
      for (const b of parts.slice(i + 1)) expect(sharedVolume(a, b)).toBeCloseTo(0, 3);
  });
  test('an edge pushed into the brush splits too', () => {
    const to = new Map<number, Vec3>([
      [corner([100, 0, 100]), [40, 0, 40]],
      [corner([100, 100, 100]), [40, 100, 40]],
    ]);
    const parts = splitConcave(crate, to, DRESS_CARRIED.like);
    expect(valid(parts)).toBe(true);
    // A square whose corner (100, 100) moved to (40, 40): 10000 − 2 × ½ × 100 × 60.
    expect(volume(parts)).toBeCloseTo(4000 * 100, 3);
  });
  test('any corner moved anywhere gives a valid brush or a refusal with a code', () => {
    const where = fc.integer({ min: -300, max: 300 });
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 7 }), where, where, where, (i, x, y, z) => {
        const to = new Map([[i, [x, y, z] as Vec3]]);
        const { solid, concave } = moveCorners(crate, to);
        expect(findFlaw(solid)).toBeNull();
        if (!concave) return;
        let parts: Brush[];
        try {
          parts = splitConcave(crate, to, DRESS_CARRIED.like);
        } catch (error) {
          expect((error as { code: string }).code).toMatch(/^reshape\./);
          return;
        }
        expect(valid(parts)).toBe(true);
        expect(volume(parts)).toBeLessThan(solidVolume(solid) + 1);
      }),
      { numRuns: 300 },
    );
  });
  test('a box has twelve edges', () => {
    expect(edgesOf(crate)).toHaveLength(12);
  });
  test('a brush whose corners nearly meet is welded, a flat one is dropped, a sound one left alone', () => {
    expect(repairBrush(crate, DRESS_CARRIED.like)).toBe(crate);
    const split: Brush = { ...crate, vertices: [...crate.vertices, [100, 100, 100.004]] };
    expect(brushVolume(repairBrush(split, DRESS_CARRIED.like)!)).toBeCloseTo(1e6, -2);
    const dented: Brush = {
      ...crate,
      vertices: crate.vertices.map((v, i) => (i === corner([100, 100, 100]) ? [40, 40, 40] : v)),
    };
    expect(findFlaw(solidOf(dented))).not.toBeNull();
    expect(findFlaw(solidOf(repairBrush(dented, DRESS_CARRIED.like)!))).toBeNull();
    const flat: Brush = { ...crate, vertices: crate.vertices.map((v): Vec3 => [v[0], v[1], 0]) };
    expect(repairBrush(flat, DRESS_CARRIED.like)).toBeNull();
  });
});

test('planes through three corners of a spike meet in its tip after an offset', () => {
  const spike = dressSolid(spikeSolid({ min: [-50, -50, 0], max: [50, 50, 200] }), 's', 'm');
  const inner = offsetSolid(spike, -5);
  const side = brushPlanes(spike).find((p) => p.normal[2] > 0)!;
  // All four sides move by 5: the tip sinks by 5 over the sine of the half angle.
  expect(boxOf(inner.vertices).max[2]).toBeCloseTo(200 - 5 / side.normal[2], 6);
  expect(planeFromPoints([0, 0, 0], [1, 0, 0], [0, 1, 0])!.normal).toEqual([0, 0, 1]);
  expect(solidVolume(coneSolid({ min: [0, 0, 0], max: [8, 8, 8] }, 4))).toBeCloseTo(512 / 3, 6);
});
