import fc from 'fast-check';
import { boxSolid, brushPlanes, pipeSolids, archSolids, prismSolid, vaultSolids } from '../brush/index.ts';
import type { MapDocument } from '../map/index.ts';
import { dot, lerp, type Vec3 } from '../math/index.ts';
import { sharedEdge, texelAt } from '../surface/index.ts';
import { oneRoom } from '../testing/rooms.ts';
import { allFaces, findFaces, paintFaces, type FaceRef } from './faces.ts';
import { alignFaces, flowFaces } from './surfaces.ts';
import { facts, withBrushes, box, facing, SOUTH, look, texel } from '../testing/pictures.ts';

const near = (got: readonly number[], want: readonly number[]) =>
  want.forEach((w, i) => expect(got[i]).toBeCloseTo(w, 6));

describe('as one piece', () => {
  const doc = withBrushes([
    boxSolid({ min: [0, 0, 0], max: [100, 10, 50] }),
    boxSolid({ min: [100, 0, 0], max: [300, 10, 200] }),
  ]);
  const refs = ['b0', 'b1'].map((b) => facing(doc, b, SOUTH));

  test('flush faces are fitted to their bounds together', () => {
    const fitted = alignFaces(doc, refs, { do: 'fit', repeats: [1, 1] }, { facts, asPiece: true });
    near(texel(fitted, refs[0]!, [0, 0, 0]), [0, 256]);
    near(texel(fitted, refs[1]!, [300, 0, 200]), [512, 0]);
    near(texel(fitted, refs[0]!, [100, 0, 20]), texel(fitted, refs[1]!, [100, 0, 20]));
  });
  test('round a corner they are fitted as if folded open', () => {
    const east = facing(doc, 'b1', [1, 0, 0]);
    const fitted = alignFaces(doc, [refs[1]!, east], { do: 'fit', repeats: [2, 1] }, { facts, asPiece: true });
    near(texel(fitted, refs[1]!, [100, 0, 200]), [0, 0]);
    near(texel(fitted, east, [300, 10, 0]), [1024, 256]);
    near(texel(fitted, east, [300, 0, 70]), texel(fitted, refs[1]!, [300, 0, 70]));
  });
  test('apart but looking the same way they still are one sheet', () => {
    const two = withBrushes([
      boxSolid({ min: [0, 0, 0], max: [50, 10, 100] }),
      boxSolid({ min: [150, 40, 0], max: [200, 50, 100] }),
    ]);
    const fitted = alignFaces(
      two,
      ['b0', 'b1'].map((b) => facing(two, b, SOUTH)),
      { do: 'fit', repeats: [1, 1] },
      { facts, asPiece: true },
    );
    near(texel(fitted, facing(two, 'b0', SOUTH), [0, 0, 100]), [0, 0]);
    near(texel(fitted, facing(two, 'b1', SOUTH), [200, 40, 0]), [512, 256]);
  });
});

/** Every line on which two faces meet has the same texels from both, as long as they are not on either side of a seam. */
function meetingGaps(doc: MapDocument, refs: readonly FaceRef[]): number[] {
  const faces = findFaces(doc, refs);
  const gaps: number[] = [];
  faces.forEach((a, i) =>
    faces.slice(i + 1).forEach((b) => {
      const edge = sharedEdge(a, b);
      if (!edge) return;
      let gap = 0;
      for (const t of [0, 0.3, 1]) {
        const p = lerp(edge[0], edge[1], t);
        const [x, y] = [texelAt(a.frame, p), texelAt(b.frame, p)];
        gap = Math.max(gap, Math.hypot(x[0] - y[0], x[1] - y[1]));
      }
      gaps.push(gap);
    }),
  );
  return gaps;
}
/** The upright faces of a brush. */
const sides = (doc: MapDocument, id: string): FaceRef[] => {
  const b = doc.brushes.get(id)!;
  return b.faces
    .filter((_, i) => Math.abs(brushPlanes(b)[i]!.normal[2]) < 0.01)
    .map((f) => ({ brush: id, face: f.id }));
};

describe('flow', () => {
  test('round an outer corner the next face goes on where the first ends', () => {
    const doc = withBrushes([box(300, 20, 200)]);
    const [south, east] = [facing(doc, 'b0', SOUTH), facing(doc, 'b0', [1, 0, 0])];
    const out = flowFaces(doc, south, [east], { facts });
    // 300 cm along the south face and 15 more round the corner: 630 texels.
    near(texel(out, east, [300, 15, 40]), [630, -80]);
  });

  test('in an inner corner too, where the faces belong to brushes that run on behind it', () => {
    const doc = withBrushes([
      boxSolid({ min: [0, 100, 0], max: [200, 120, 100] }),
      boxSolid({ min: [200, 0, 0], max: [220, 200, 100] }),
    ]);
    const [north, east] = [facing(doc, 'b0', SOUTH), facing(doc, 'b1', [-1, 0, 0])];
    const out = flowFaces(doc, north, [east], { facts });
    near(texel(out, east, [200, 100, 30]), texel(doc, north, [200, 100, 30]));
    // Looking north the picture goes on to the right, which is south along the east wall.
    near(texel(out, east, [200, 60, 30]), [400 + 80, -60]);
  });

  test('round columns of any number of sides all edges meet but one, and with whole repeats that one too', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 24 }),
        fc.integer({ min: 40, max: 400 }),
        fc.integer({ min: -90, max: 90 }),
        (n, size, turn) => {
          const plain = withBrushes([prismSolid({ min: [0, 0, 0], max: [size, size, 300] }, n)]);
          const refs = sides(plain, 'b0');
          const doc = alignFaces(plain, [refs[0]!], { do: 'turn', degrees: turn }, { facts });
          const open = meetingGaps(flowFaces(doc, refs[0]!, refs, { facts }), refs);
          expect(open).toHaveLength(n);
          expect(open.filter((g) => g > 1e-6).length).toBeLessThanOrEqual(1);
          const upright = flowFaces(plain, refs[0]!, refs, { facts, close: true });
          // A ring that would need more than half as much again, or less than two thirds, is left open.
          const round = meetingGaps(flowFaces(plain, refs[0]!, refs, { facts }), refs).find((g) => g > 1e-3) ?? 512;
          if (Math.abs(Math.log((Math.max(1, Math.round(round / 512)) * 512) / round)) > Math.log(1.499)) return;
          for (const gap of meetingGaps(upright, refs))
            expect(Math.abs(gap / 512 - Math.round(gap / 512))).toBeLessThan(1e-6);
        },
      ),
      { numRuns: 60 },
    );
  });

  test('the seam lies opposite, or at the first face’s left or right edge', () => {
    const doc = withBrushes([prismSolid({ min: [0, 0, 0], max: [100, 100, 100] }, 8)]);
    const refs = sides(doc, 'b0');
    const first = refs[0]!;
    const seamAt = (seam: 'far' | 'left' | 'right') => {
      const out = flowFaces(doc, first, refs, { facts, seam });
      const faces = findFaces(out, refs);
      const widths: [number, number] = [0, 0];
      const torn = faces.filter((f) => {
        const e = f.ref.face === first.face ? null : sharedEdge(faces[0]!, f);
        if (!e) return false;
        const at = lerp(e[0], e[1], 0.5);
        return Math.abs(texelAt(faces[0]!.frame, at)[0] - texelAt(f.frame, at)[0]) > 1e-3;
      });
      const own = faces[0]!.winding.map((p) => texelAt(faces[0]!.frame, p)[0]);
      widths[0] = Math.min(...own);
      widths[1] = Math.max(...own);
      return torn.map((f) => {
        const at = lerp(...sharedEdge(faces[0]!, f)!, 0.5);
        return texelAt(faces[0]!.frame, at)[0] - widths[0] < widths[1] - texelAt(faces[0]!.frame, at)[0]
          ? 'left'
          : 'right';
      });
    };
    expect(seamAt('far')).toEqual([]);
    expect(seamAt('left')).toEqual(['left']);
    expect(seamAt('right')).toEqual(['right']);
  });

  /** The faces that an axis point lies in front of (or behind) by more than so much, without the ends along an axis. */
  const seenFrom = (doc: MapDocument, c: Vec3, along: 1 | 2, front: number): FaceRef[] =>
    findFaces(doc, allFaces(doc, doc.brushes.keys()))
      .filter(
        ({ plane: p }) =>
          Math.abs(p.normal[along]) < 0.01 && (dot(p.normal, c) - p.distance) * Math.sign(front) > Math.abs(front),
      )
      .map((f) => f.ref);
  const pipe = withBrushes(pipeSolids({ min: [0, 0, 0], max: [200, 200, 80] }, 12, 20));
  const arch = withBrushes(
    archSolids(
      { min: [0, 0, 0], max: [300, 40, 200] },
      { segments: 8, thickness: 20, rise: 100, wall: false, through: 'north' },
    ),
  );
  test.each([
    ['a pipe’s outside', pipe, seenFrom(pipe, [100, 100, 0], 2, -60), 12, 1],
    ['a pipe’s inside', pipe, seenFrom(pipe, [100, 100, 0], 2, 60), 12, 1],
    ['an arch’s underside', arch, seenFrom(arch, [150, 0, 80], 1, 30), 9, 0],
  ])('along %s every shared edge meets within a millionth of a texel', (_, doc, refs, edges, seams) => {
    const gaps = meetingGaps(flowFaces(doc, refs[0]!, refs, { facts }), refs);
    expect(gaps).toHaveLength(edges);
    expect(gaps.filter((g) => g > 1e-6)).toHaveLength(seams);
  });

  test('over a vault of unequal facets no neighbour that got its picture from another is off', () => {
    const doc = withBrushes(vaultSolids({ min: [0, 0, 0], max: [300, 300, 150] }, 8, 3, 20));
    const refs = allFaces(doc, doc.brushes.keys());
    const gaps = meetingGaps(flowFaces(doc, refs[0]!, refs, { facts }), refs);
    // Each face but the first has its picture over one edge, at which it meets; the edges left over are seams, and are off.
    expect(gaps.filter((g) => g < 1e-6).length).toBeGreaterThanOrEqual(refs.length - 1);
    expect(gaps.length).toBeGreaterThan(refs.length);
  });

  test('takes the material along when asked, and is refused where nothing meets', () => {
    const doc = withBrushes([box(300, 20, 200)]);
    const [south, east] = [facing(doc, 'b0', SOUTH), facing(doc, 'b0', [1, 0, 0])];
    const painted = flowFaces(paintFaces(doc, [south], 'signs'), south, [east], { facts, paint: true });
    expect(look(painted, east).face.material).toBe('signs');
    expect(() => flowFaces(doc, south, [facing(doc, 'b0', [0, 1, 0])], { facts })).toThrow(
      expect.objectContaining({ code: 'flow.nothing' }),
    );
  });

  test('round the inner walls of a room all four corners meet but the seam', () => {
    const doc = oneRoom();
    const { footprint } = [...doc.rooms.values()][0]!;
    const inner = findFaces(doc, allFaces(doc, doc.brushes.keys()))
      .filter(({ plane }) => {
        const before = footprint.map(([x, y]) => dot(plane.normal, [x, y, 0]) - plane.distance);
        return plane.normal[2] === 0 && before.every((d) => d > -0.1) && before.filter((d) => d < 0.1).length === 2;
      })
      .map((f) => f.ref);
    expect(inner).toHaveLength(4);
    const gaps = meetingGaps(flowFaces(doc, inner[0]!, inner, { facts }), inner);
    expect(gaps).toHaveLength(4);
    expect(gaps.filter((g) => g > 1e-6)).toHaveLength(1);
  });
});
