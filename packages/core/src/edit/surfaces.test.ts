import { boxSolid, prismSolid } from '../brush/index.ts';
import { addScaled, dot, type Box, type Vec3 } from '../math/index.ts';
import { densityOf, readFrame, texelAt, worldFrame } from '../surface/index.ts';
import {
  allFaces,
  dressFaces,
  findFaces,
  paintFaces,
  replaceMaterial,
  setFrames,
  setGrain,
  setMirror,
} from './faces.ts';
import { reshapeBrushes } from './shaping.ts';
import {
  alignFaces,
  copyAlignment,
  farFace,
  flushFaces,
  mirrorAlignment,
  pointOfTexel,
  regionsFor,
  scatterAlignment,
  showBothSides,
  type Alignment,
} from './surfaces.ts';
import { WALL, facts, withBrushes, box, facing, SOUTH, look, texel } from '../testing/pictures.ts';

const near = (got: readonly number[], want: readonly number[]) =>
  want.forEach((w, i) => expect(got[i]).toBeCloseTo(w, 6));

describe('each face by itself', () => {
  // A wall 300 long and 200 high that looks south.
  const doc = withBrushes([box(300, 20, 200)]);
  const south = facing(doc, 'b0', SOUTH);
  const after = (what: Alignment, on = doc) => alignFaces(on, [south], what, { facts });

  test('fit lays the whole picture from corner to corner, as often as asked', () => {
    near(texel(after({ do: 'fit', repeats: [1, 1] }), south, [0, 0, 200]), [0, 0]);
    near(texel(after({ do: 'fit', repeats: [1, 1] }), south, [300, 0, 0]), [512, 256]);
    near(texel(after({ do: 'fit', repeats: [3, 0.5] }), south, [300, 0, 0]), [1536, 128]);
  });

  test('fit keeps a mirrored picture mirrored and a turned one turned', () => {
    const fitted = after({ do: 'fit', repeats: [1, 1] }, after({ do: 'flip', way: 'across' }));
    near(texel(fitted, south, [0, 0, 200]), [512, 0]);
    near(texel(fitted, south, [300, 0, 0]), [0, 256]);
    const turned = after({ do: 'fit', repeats: [1, 1] }, after({ do: 'turn', degrees: 90 }));
    expect(readFrame(look(turned, south).frame, look(turned, south).plane).turn).toBeCloseTo(90, 9);
  });

  test.each([
    ['left', [0, 0, 100], 0, 0],
    ['right', [300, 0, 100], 0, 512],
    ['top', [100, 0, 200], 1, 0],
    ['bottom', [100, 0, 0], 1, 256],
  ] as const)('set to edge %s puts the picture’s border on that border', (side, at, axis, want) => {
    expect(texel(after({ do: 'edge', side }), south, at)[axis]).toBeCloseTo(want, 9);
  });
  test('set to the centre puts the picture’s middle in the middle', () => {
    near(texel(after({ do: 'edge', side: 'centre' }), south, [150, 0, 100]), [256, 128]);
  });

  test('a turn keeps the texel in the middle, and four quarters are none', () => {
    const middle: Vec3 = [150, 0, 100];
    near(texel(after({ do: 'turn', degrees: 37 }), south, middle), texel(doc, south, middle));
    const round = [1, 2, 3, 4].reduce((d) => after({ do: 'turn', degrees: 90 }, d), doc);
    near(
      [...look(round, south).frame.u, ...look(round, south).frame.v],
      [...look(doc, south).frame.u, ...look(doc, south).frame.v],
    );
  });

  test('a flip changes left and right, and twice is none', () => {
    near(texel(after({ do: 'flip', way: 'across' }), south, [0, 0, 50]), texel(doc, south, [300, 0, 50]));
    near(texel(after({ do: 'flip', way: 'down' }), south, [70, 0, 0]), texel(doc, south, [70, 0, 200]));
    near(
      texel(after({ do: 'flip', way: 'across' }, after({ do: 'flip', way: 'across' })), south, [9, 0, 9]),
      texel(doc, south, [9, 0, 9]),
    );
  });

  test('a nudge moves the picture: what was seen here is now that many texels to the right and down', () => {
    near(texel(after({ do: 'nudge', across: 8, down: 4 }), south, [104, 0, 98]), texel(doc, south, [100, 0, 100]));
  });

  test('a mirrored picture is nudged to the same side', () => {
    const mirrored = after({ do: 'flip', way: 'across' });
    near(
      texel(after({ do: 'nudge', across: 8, down: 0 }, mirrored), south, [104, 0, 100]),
      texel(mirrored, south, [100, 0, 100]),
    );
  });

  test('a nudge in centimetres goes as far on the face, whatever the picture’s size and side', () => {
    const coarse = setFrames(doc, [south], () => ({ u: [-0.5, 0, 0, 3], v: [0, 0, -4, 5] }));
    const moved = after({ do: 'nudge', across: 16, down: 8, unit: 'cm' }, coarse);
    near(texel(moved, south, [116, 0, 92]), texel(coarse, south, [100, 0, 100]));
  });

  test('natural size undoes any stretch, keeps turn and side, and holds the middle', () => {
    const stretched = setFrames(doc, [south], () => ({ u: [-7, 0, 0.5, 3], v: [0.2, 0, -0.3, 5] }));
    const natural = after({ do: 'natural' }, stretched);
    const { frame, plane } = look(natural, south);
    expect(densityOf(frame, plane)).toEqual({
      most: expect.closeTo(2, 9),
      least: expect.closeTo(2, 9),
      mean: expect.closeTo(2, 9),
    });
    expect(readFrame(frame, plane).scale[0]).toBeLessThan(0);
    near(texel(natural, south, [150, 0, 100]), texel(stretched, south, [150, 0, 100]));
  });

  test('world and face projection agree on axis planes and differ on slopes', () => {
    near(texel(after({ do: 'world' }), south, [10, 0, 5]), [20, -10]);
    near(texel(after({ do: 'face' }), south, [10, 0, 5]), [20, -10]);
  });

  test('repeats of zero, a face that is gone and a flat frame are refused', () => {
    expect(() => after({ do: 'fit', repeats: [0, 1] })).toThrow(expect.objectContaining({ code: 'fit.repeats' }));
    expect(() => after({ do: 'fit', repeats: [NaN, 1] })).toThrow(expect.objectContaining({ code: 'fit.repeats' }));
    expect(() => alignFaces(doc, [{ brush: 'b0', face: 99 }], { do: 'natural' }, { facts })).toThrow(
      expect.objectContaining({ code: 'face.unknown' }),
    );
    expect(() => after({ do: 'nudge', across: NaN, down: 0 })).toThrow(expect.objectContaining({ code: 'frame.flat' }));
  });
});

describe('regions', () => {
  test('the best one by proportion is laid exactly, turned on its side where it suits better so', () => {
    const door = withBrushes([box(100, 8, 210)], 'signs');
    const south = facing(door, 'b0', SOUTH);
    expect(regionsFor(door, south, facts)[0]!.region.name).toBe('door');
    const laid = alignFaces(door, [south], { do: 'region' }, { facts });
    near(texel(laid, south, [0, 0, 210]), [0, 64]);
    near(texel(laid, south, [100, 0, 0]), [128, 320]);
    const mirrored = alignFaces(door, [south], { do: 'region', mirrored: true }, { facts });
    near(texel(mirrored, south, [0, 0, 210]), [128, 64]);

    // A post is a band on its end.
    const post = withBrushes([box(32, 32, 256)], 'signs');
    const side = facing(post, 'b0', SOUTH);
    expect(regionsFor(post, side, facts)[0]).toMatchObject({ region: { name: 'band' }, turned: true });
    const standing = alignFaces(post, [side], { do: 'region' }, { facts });
    const corners = [
      [0, 0, 0],
      [32, 0, 0],
      [32, 0, 256],
      [0, 0, 256],
    ].map((p) => texel(standing, side, p as unknown as Vec3));
    near([Math.min(...corners.map((c) => c[0])), Math.max(...corners.map((c) => c[0]))], [0, 512]);
    near([Math.min(...corners.map((c) => c[1])), Math.max(...corners.map((c) => c[1]))], [0, 64]);
  });
  test('one by name, and a name that is not there is refused', () => {
    const door = withBrushes([box(100, 8, 210)], 'signs');
    const south = facing(door, 'b0', SOUTH);
    near(texel(alignFaces(door, [south], { do: 'region', name: 'plate' }, { facts }), south, [0, 0, 210]), [128, 64]);
    expect(() => alignFaces(door, [south], { do: 'region', name: 'lid' }, { facts })).toThrow(
      expect.objectContaining({ code: 'region.none' }),
    );
    expect(() => alignFaces(withBrushes([box(9, 9, 9)]), [south], { do: 'region' }, { facts })).toThrow(
      expect.objectContaining({ code: 'region.none' }),
    );
  });
});

describe('one face like another', () => {
  const doc = withBrushes([box(300, 20, 200), boxSolid({ min: [0, 400, 0], max: [300, 420, 200] })]);
  const [south, north] = [facing(doc, 'b1', SOUTH), facing(doc, 'b0', [0, 1, 0])];
  const laid = setFrames(doc, [south], () => ({ u: [3, 0, 0.5, 7], v: [0.1, 0, -2, 11] }));

  test('copied to a face that looks the same way the very same picture runs on', () => {
    const other = facing(doc, 'b0', SOUTH);
    const out = copyAlignment(laid, south, [south, other]);
    for (const p of [
      [0, 0, 0],
      [120, 0, 40],
    ] as const)
      near(texel(out, other, p), texel(out, south, [p[0], 400, p[2]]));
  });
  test('copied to the same face of a copy the very same picture runs on there too', () => {
    const twin = { ...doc.brushes.get('b0')!, id: 'twin' };
    const two = { ...laid, brushes: new Map(laid.brushes).set('twin', twin) };
    const there = { brush: 'twin', face: south.face };
    const out = copyAlignment(two, south, [south, there]);
    for (const p of [
      [0, 0, 0],
      [120, 0, 40],
    ] as const)
      near(texel(out, there, p), texel(laid, south, p));
  });
  test('copied to another direction the numbers are the same', () => {
    const out = copyAlignment(laid, south, [north]);
    const [a, b] = [look(out, south), look(out, north)];
    const [x, y] = [readFrame(a.frame, a.plane), readFrame(b.frame, b.plane)];
    near([...x.scale, x.turn, x.skew, ...x.offset], [...y.scale, y.turn, y.skew, ...y.offset]);
  });
  test('mirrored to the opposite face each point shows what its mirror image shows', () => {
    const out = mirrorAlignment(laid, south, [south, north]);
    for (const p of [
      [0, 0, 0],
      [120, 0, 40],
      [300, 0, 200],
    ] as const)
      near(texel(out, north, [p[0], 20, p[2]]), texel(laid, south, [p[0], 400, p[2]]));
    expect(() => mirrorAlignment(laid, south, [facing(doc, 'b0', [1, 0, 0])])).toThrow(
      expect.objectContaining({ code: 'mirror.notOpposite' }),
    );
  });
  test('mirrored over a slant, lengths stay', () => {
    const slanted = withBrushes([
      prismSolid({ min: [0, 0, 0], max: [100, 100, 100] }, 5),
      prismSolid({ min: [0, 300, 0], max: [100, 400, 100] }, 10),
    ]);
    const faces = findFaces(slanted, allFaces(slanted, ['b0', 'b1']));
    const [a, b] = faces.flatMap((f) =>
      faces
        .filter(
          (g) =>
            dot(f.plane.normal, g.plane.normal) < -1 + 1e-9 &&
            Math.abs(f.plane.normal[2]) < 0.1 &&
            Math.abs(f.plane.normal[0]) > 0.1 &&
            Math.abs(f.plane.normal[1]) > 0.1,
        )
        .map((g) => [f, g] as const),
    )[0]!;
    const out = mirrorAlignment(slanted, a.ref, [b.ref]);
    expect(densityOf(look(out, b.ref).frame, b.plane).most).toBeCloseTo(2, 9);
    // The mirror stands halfway between the two planes: each corner of one shows what its image in it shows on the other.
    const n = a.plane.normal;
    const halfway = (a.plane.distance - b.plane.distance) / 2;
    for (const p of a.winding) {
      const image = addScaled(p, n, -2 * (dot(n, p) - halfway));
      near(texelAt(look(out, b.ref).frame, image), texelAt(look(slanted, a.ref).frame, p));
    }
  });
  test('both sides: every point of the far face shows the texel right opposite', () => {
    const net = setFrames(withBrushes([box(128, 1, 128)]), [], () => worldFrame([0, 0, 1]));
    const front = facing(net, 'b0', SOUTH);
    const turned = alignFaces(net, [front], { do: 'turn', degrees: 30 }, { facts });
    const out = showBothSides(paintFaces(turned, [front], 'signs'), [front]);
    const back = farFace(out, front);
    expect(back).toEqual(facing(net, 'b0', [0, 1, 0]));
    expect(look(out, back).face.material).toBe('signs');
    for (const p of [
      [0, 0, 0],
      [70, 0, 13],
    ] as const)
      near(texel(out, back, [p[0], 1, p[2]]), texel(out, front, p));
  });
  test('scattered by seed: the same seed gives the same, another one something else, and sizes stay', () => {
    const refs = allFaces(doc, doc.brushes.keys());
    const once = scatterAlignment(doc, refs, 7, { facts, turn: true });
    expect(findFaces(scatterAlignment(doc, refs, 7, { facts, turn: true }), refs).map((f) => f.frame)).toEqual(
      findFaces(once, refs).map((f) => f.frame),
    );
    expect(findFaces(scatterAlignment(doc, refs, 8, { facts }), refs).map((f) => f.frame)).not.toEqual(
      findFaces(once, refs).map((f) => f.frame),
    );
    for (const f of findFaces(once, refs)) expect(densityOf(f.frame, f.plane).mean).toBeCloseTo(2, 9);
  });
  test('flush faces are found over several brushes, and only those that touch', () => {
    const row = withBrushes([
      boxSolid({ min: [0, 0, 0], max: [50, 10, 50] }),
      boxSolid({ min: [50, 0, 0], max: [90, 10, 80] }),
      boxSolid({ min: [100, 0, 0], max: [150, 10, 50] }),
    ]);
    expect(flushFaces(row, facing(row, 'b0', SOUTH)).map((r) => r.brush)).toEqual(['b0', 'b1']);
  });
});

describe('materials of other sizes', () => {
  const doc = withBrushes([box(256, 20, 128)]);
  const south = facing(doc, 'b0', SOUTH);
  test('a picture of twice the density covers as much as before', () => {
    const out = paintFaces(doc, [south], 'fine', facts);
    expect(densityOf(look(out, south).frame, look(out, south).plane).mean).toBeCloseTo(4, 9);
    near(texel(out, south, [100, 0, 0]), [400, 0]);
  });
  test('one is put in the place of another through the whole map; an unused one is refused', () => {
    const out = replaceMaterial(paintFaces(doc, [south], 'signs'), 'wall', 'fine', facts);
    expect(look(out, south).face.material).toBe('signs');
    expect(out.brushes.get('b0')!.faces.filter((f) => f.material === 'fine')).toHaveLength(5);
    expect(() => replaceMaterial(doc, 'nowhere', 'fine')).toThrow(
      expect.objectContaining({ code: 'material.notUsed' }),
    );
  });
  test('painting shows the material, Sky and Unseen change how a face is shown, a whole brush keeps its Unseen faces', () => {
    const tools = (name: string) => (name === 'hide' ? { ...WALL, name, tool: 'unseen' as const } : facts(name));
    const hidden = dressFaces(doc, [south], 'hide', tools);
    expect(look(hidden, south).face).toMatchObject({ material: 'wall', show: 'unseen' });
    expect(look(dressFaces(hidden, [south], 'signs', tools, true), south).face).toMatchObject({
      material: 'signs',
      show: 'unseen',
    });
    expect(look(dressFaces(hidden, [south], 'signs', tools), south).face.show).toBeUndefined();
  });
  test('mirror strength and grain are kept in their ranges, and none is not written', () => {
    const set = setGrain(setMirror(doc, [south], 0.4), [south], 0.5);
    expect(look(set, south).face).toMatchObject({ mirror: 0.4, grain: 0.5 });
    const unset = setGrain(setMirror(set, [south], 0), [south], 1);
    expect(look(unset, south).face).toEqual(look(doc, south).face);
    for (const bad of [-1, 2, NaN])
      expect(() => setMirror(doc, [south], bad)).toThrow(expect.objectContaining({ code: 'face.mirror' }));
    for (const bad of [0, 9, NaN])
      expect(() => setGrain(doc, [south], bad)).toThrow(expect.objectContaining({ code: 'face.grain' }));
  });
  test('the point of a texel is where the frame says it is', () => {
    const { frame, plane } = look(doc, south);
    const p = pointOfTexel(frame, plane, [37, -91])!;
    near(texelAt(frame, p), [37, -91]);
    expect(dot(plane.normal, p)).toBeCloseTo(plane.distance, 9);
    expect(pointOfTexel({ u: [0, 1, 0, 0], v: [0, 0, 1, 0] }, plane, [0, 0])).toBeNull();
  });
});

describe('vertices dragged', () => {
  const size: Box = { min: [0, 0, 0], max: [200, 100, 100] };
  const doc = withBrushes([boxSolid(size)]);
  const brush = doc.brushes.get('b0')!;
  const top = brush.vertices.flatMap((v, i) =>
    v[2] === 100 && v[0] === 200 ? [[i, [200, v[1], 40] as Vec3] as const] : [],
  );
  test('a tilted top swings about the edge that stays, and is as dense as before', () => {
    const out = reshapeBrushes(doc, new Map([['b0', new Map(top)]])).doc;
    const ref = { brush: 'b0', face: facing(doc, 'b0', [0, 0, 1]).face };
    const { frame, plane } = look(out, ref);
    expect(plane.normal[0]).toBeGreaterThan(0.2);
    near(texel(out, ref, [0, 30, 100]), texel(doc, ref, [0, 30, 100]));
    expect(densityOf(frame, plane)).toMatchObject({ most: expect.closeTo(2, 9), least: expect.closeTo(2, 9) });
  });
  test('left in the world the picture stays where it was, seen from above', () => {
    const out = reshapeBrushes(doc, new Map([['b0', new Map(top)]]), false, false).doc;
    const ref = { brush: 'b0', face: facing(doc, 'b0', [0, 0, 1]).face };
    expect(look(out, ref).frame).toEqual(look(doc, ref).frame);
  });
  test('a face that moves along as a whole takes its picture along, or leaves it in the world', () => {
    // The east side slides north by 30: it keeps its texels at its corners.
    const east = facing(doc, 'b0', [1, 0, 0]);
    const moved = new Map(
      brush.vertices.flatMap((v, i) => (v[0] === 200 ? [[i, [200, v[1] + 30, v[2]] as Vec3] as const] : [])),
    );
    near(
      texel(reshapeBrushes(doc, new Map([['b0', moved]])).doc, east, [200, 130, 50]),
      texel(doc, east, [200, 100, 50]),
    );
    near(
      texel(reshapeBrushes(doc, new Map([['b0', moved]]), false, false).doc, east, [200, 130, 50]),
      texel(doc, east, [200, 130, 50]),
    );
  });
});
