import { brushPlanes, brushVolume, findFlaw, partKey, solidOf } from '../brush/index.ts';
import { emptyMap, type MapDocument, type Point2 } from '../map/index.ts';
import { buildStructure } from '../compile/index.ts';
import { DRESS, oneRoom, rectangle, roomSpec, twoRooms } from '../testing/rooms.ts';
import { texelAt } from '../surface/index.ts';
import { applyAffine, mirror, rotation } from '../math/index.ts';
import { changeOpening, doorwayPlaces, openDoorway, openWall, removeOpenings, sideNear } from './openings.ts';
import { addInset, changeInset, removeInset } from './insets.ts';
import { addRoom, changeRoom, giveAllBack, giveBack, releaseRoom, removeRooms } from './rooms.ts';
import { movePicked, removePicked, resizePicked, transformPicked } from './brushes.ts';
import { paintFaces } from './faces.ts';
import { dressOf, waitingOpenings } from './remake.ts';

const volume = (doc: MapDocument) => [...doc.brushes.values()].reduce((v, b) => v + brushVolume(b), 0);
const allValid = (doc: MapDocument) => [...doc.brushes.values()].every((b) => findFlaw(solidOf(b)) === null);
const sealed = (doc: MapDocument, at: readonly [number, number, number]) => {
  const s = buildStructure(doc.brushes.values(), [{ id: 's', at }]);
  return s.leak === null && s.misplaced.length === 0 && s.cells.some((c) => c.inside);
};

describe('a room', () => {
  test('is six valid brushes that fill exactly its shell', () => {
    const doc = oneRoom();
    expect(doc.brushes.size).toBe(6);
    expect(allValid(doc)).toBe(true);
    const walls = 544 * 416 * 304 - 512 * 384 * 304;
    const slabs = 2 * 512 * 384 * 16;
    expect(volume(doc)).toBe(walls + slabs);
  });

  test('with any simple footprint is sealed', () => {
    const shapes: Point2[][] = [
      [
        [0, 0],
        [400, 0],
        [400, 400],
        [200, 400],
        [200, 200],
        [0, 200],
      ],
      [
        [0, 0],
        [300, -80],
        [420, 160],
        [240, 380],
        [-60, 260],
      ],
      [
        [0, 0],
        [600, 0],
        [600, 600],
        [0, 600],
        [0, 400],
        [400, 400],
        [400, 200],
        [0, 200],
      ],
    ];
    for (const footprint of shapes) {
      const doc = addRoom(emptyMap('t'), roomSpec(footprint), DRESS);
      expect(allValid(doc)).toBe(true);
      expect(sealed(doc, [footprint[0]![0] + 60, footprint[0]![1] + 60, 100])).toBe(true);
    }
  });

  test('may lie anywhere, also below zero; what is too low is refused wherever it lies', () => {
    for (const floor of [-900, -136, 0, 4000]) {
      const spec = { footprint: rectangle(0, 0, 256, 256), wall: 16 };
      expect(addRoom(emptyMap('t'), { ...spec, floor, ceiling: floor + 8 }, DRESS, 'a').rooms.get('a')!.ceiling).toBe(
        floor + 8,
      );
      expect(() => addRoom(emptyMap('t'), { ...spec, floor, ceiling: floor + 7.9 }, DRESS, 'a')).toThrow(
        expect.objectContaining({ code: 'room.tooLow' }),
      );
    }
  });

  test('is known by what it shows inside, not by what its brushes show to the void', () => {
    const doc = oneRoom();
    const brushes = [...doc.brushes.values()];
    const shown = { floor: [0, 0, 1], ceiling: [0, 0, -1] } as const;
    let painted = paintFaces(
      doc,
      brushes.flatMap((b) => b.faces.map((f) => ({ brush: b.id, face: f.id }))),
      'outside',
    );
    for (const part of ['floor', 'ceiling'] as const) {
      const inward = brushes
        .filter((b) => b.room!.part.kind === part)
        .flatMap((b) => {
          const k = brushPlanes(b).findIndex((p) => p.normal[2] === shown[part][2]);
          return [{ brush: b.id, face: b.faces[k]!.id }];
        });
      painted = paintFaces(painted, inward, `${part}-inside`);
    }
    expect(dressOf([...painted.brushes.values()])).toMatchObject({ floor: 'floor-inside', ceiling: 'ceiling-inside' });
    expect(dressOf([])).toEqual({ wall: 'limewash', floor: 'limewash', ceiling: 'limewash' });
  });

  test('with numbers that make no room is refused and the document stays', () => {
    const cases: [string, Parameters<typeof roomSpec>[1]][] = [
      ['room.tooLow', { ceiling: 4 }],
      ['room.wall', { wall: 0 }],
      ['room.notFinite', { ceiling: Infinity }],
    ];
    for (const [code, more] of cases)
      expect(() => addRoom(emptyMap('t'), roomSpec(rectangle(0, 0, 100, 100), more), DRESS)).toThrow(
        expect.objectContaining({ code }),
      );
  });

  test('can get another height, wall and footprint; its brushes keep their ids and dressing', () => {
    const doc = oneRoom();
    const wall = [...doc.brushes.values()].find((b) => partKey(b.room!.part) === 'wall:1:0')!;
    const inner = wall.faces[brushPlanes(wall).findIndex((p) => p.normal[0] === -1)]!;
    let changed = paintFaces(doc, [{ brush: wall.id, face: inner.id }], 'red-brick');
    changed = changeRoom(changed, 'a', { ceiling: 400, footprint: rectangle(32, 32, 640, 384) });
    const again = changed.brushes.get(wall.id)!;
    const face = again.faces[brushPlanes(again).findIndex((p) => p.normal[0] === -1)]!;
    expect(face).toMatchObject({ id: inner.id, material: 'red-brick' });
    expect(brushPlanes(again).find((p) => p.normal[0] === -1)!.distance).toBe(-672);
    expect(allValid(changed) && sealed(changed, [100, 100, 10])).toBe(true);
  });

  test('open to the sky shows it in its ceiling and nowhere else', () => {
    const doc = addRoom(emptyMap('t'), roomSpec(rectangle(0, 0, 300, 300), { open: true }), DRESS, 'r');
    const skies = [...doc.brushes.values()].flatMap((b) =>
      b.faces.flatMap((f, i) => (f.show === 'sky' ? [brushPlanes(b)[i]!] : [])),
    );
    expect(skies).toEqual([{ normal: [0, 0, -1], distance: -272 }]);
    const closed = changeRoom(doc, 'r', { open: false });
    expect([...closed.brushes.values()].some((b) => b.faces.some((f) => f.show))).toBe(false);
  });

  test('moved as a whole stays a room and carries its textures', () => {
    const doc = oneRoom();
    const moved = movePicked(doc, { rooms: new Set(['a']) }, [100, -40, 16]);
    expect(moved.rooms.get('a')).toMatchObject({ floor: 16, ceiling: 288, footprint: rectangle(132, -8, 512, 384) });
    for (const brush of doc.brushes.values()) {
      const after = moved.brushes.get(brush.id)!;
      brush.faces.forEach((face) => {
        const other = after.faces.find((f) => f.id === face.id)!;
        const p = brush.vertices[face.loop[0]!]!;
        const was = texelAt(face.frame, p);
        const is = texelAt(other.frame, [p[0] + 100, p[1] - 40, p[2] + 16]);
        expect(is[0]).toBeCloseTo(was[0], 6);
        expect(is[1]).toBeCloseTo(was[1], 6);
      });
    }
  });

  test('resized by its box gets exactly that clear inside', () => {
    const doc = resizePicked(oneRoom(), { rooms: new Set(['a']) }, { min: [0, 0, 0], max: [640, 400, 300] });
    expect(doc.rooms.get('a')).toMatchObject({ footprint: rectangle(0, 0, 640, 400), floor: 0, ceiling: 300 });
    expect(sealed(doc, [100, 100, 10])).toBe(true);
  });

  test('lets one brush be shaped by hand, shows it, moves it along, and never touches it again', () => {
    const doc = oneRoom();
    const wall = [...doc.brushes.values()].find((b) => partKey(b.room!.part) === 'wall:0:0')!;
    const shaped = movePicked(doc, { brushes: new Set([wall.id]) }, [0, -16, 0]);
    expect(shaped.brushes.get(wall.id)!.room).toEqual({
      id: 'a',
      part: { kind: 'wall', side: 0, piece: 0 },
      released: true,
    });
    expect(shaped.rooms.get('a')!.released).toEqual([{ kind: 'wall', side: 0, piece: 0 }]);
    expect(shaped.brushes.size).toBe(6);
    // The room changes; the released brush stays as it was shaped.
    const higher = changeRoom(shaped, 'a', { ceiling: 400 });
    expect(higher.brushes.get(wall.id)!.vertices).toEqual(shaped.brushes.get(wall.id)!.vertices);
    expect(higher.brushes.size).toBe(6);
    const moved = movePicked(higher, { rooms: new Set(['a']) }, [64, 0, 0]);
    expect(moved.brushes.get(wall.id)!.vertices).toEqual(
      higher.brushes.get(wall.id)!.vertices.map((v) => [v[0] + 64, v[1], v[2]]),
    );
    expect(() => openWall(moved, 'a', 0, { width: 64, height: 64, sill: 64 })).toThrow(
      expect.objectContaining({ code: 'opening.released' }),
    );
    // Given back it is a wall again, and the room is sealed.
    const back = giveBack(moved, new Set([wall.id]));
    expect(back.rooms.get('a')!.released).toBeUndefined();
    expect(sealed(back, [200, 100, 10])).toBe(true);
    expect(() => giveBack(back, new Set([wall.id]))).toThrow(expect.objectContaining({ code: 'room.notReleased' }));
  });

  test('does not make a removed wall again until it is asked to', () => {
    const doc = oneRoom();
    const wall = [...doc.brushes.values()].find((b) => partKey(b.room!.part) === 'wall:1:0')!;
    const gone = changeRoom(removePicked(doc, { brushes: new Set([wall.id]) }), 'a', { ceiling: 300 });
    expect(gone.brushes.size).toBe(5);
    const whole = giveAllBack(gone, 'a');
    expect(whole.brushes.size).toBe(6);
    expect(sealed(whole, [100, 100, 10])).toBe(true);
  });

  test('released as a whole leaves its brushes as they are, without a room', () => {
    const doc = oneRoom();
    const loose = releaseRoom(doc, 'a');
    expect([loose.rooms.size, loose.brushes.size]).toEqual([0, 6]);
    expect([...loose.brushes.values()].every((b) => b.room === undefined)).toBe(true);
    expect([...loose.brushes.values()].map((b) => b.vertices)).toEqual(
      [...doc.brushes.values()].map((b) => b.vertices),
    );
  });

  test('with a niche keeps the dressing of every wall, the opening where it was, and is sealed', () => {
    let doc = oneRoom();
    doc = openWall(doc, 'a', 0, { width: 96, height: 96, sill: 96, at: 100 }, 'w');
    const paint = (part: RegExp, material: string) => {
      const refs = [...doc.brushes.values()]
        .filter((b) => part.test(partKey(b.room!.part)))
        .flatMap((b) => b.faces.map((f) => ({ brush: b.id, face: f.id })));
      doc = paintFaces(doc, refs, material);
    };
    for (let i = 0; i < 4; i++) paint(new RegExp(`^(wall|sill|head):${i}:`), `m${i}`);
    // A niche in the east wall: four more corners.
    const footprint: Point2[] = [[32, 32], [544, 32], [544, 160], [608, 160], [608, 288], [544, 288], [544, 416], [32, 416]]; // prettier-ignore
    const niche = changeRoom(removeOpenings(doc, new Set(['w'])), 'a', { footprint });
    expect(allValid(niche) && sealed(niche, [100, 100, 10])).toBe(true);
    const materials = (d: MapDocument, side: number) => [
      ...new Set(
        [...d.brushes.values()]
          .filter((b) => b.room!.part.kind === 'wall' && b.room!.part.side === side)
          .flatMap((b) => b.faces.map((f) => f.material)),
      ),
    ];
    expect([0, 1, 3, 5, 6, 7].map((i) => materials(niche, i))).toEqual([
      ['m0'],
      ['m1'],
      ['m1'],
      ['m1'],
      ['m2'],
      ['m3'],
    ]);
    const kept = changeRoom(doc, 'a', { footprint });
    expect(kept.openings.get('w')).toMatchObject({ side: 0, at: 100 });
  });

  test('drawn out at a corner keeps an opening where it is in the world', () => {
    const doc = openWall(oneRoom(), 'a', 0, { width: 96, height: 96, sill: 96, at: 200 }, 'w');
    const wider = changeRoom(doc, 'a', { footprint: rectangle(-32, 32, 576, 384) });
    expect(wider.openings.get('w')).toMatchObject({ side: 0, at: 264 });
  });

  test('whose wall is parted keeps an opening where it is, on the shorter part too', () => {
    const hall = addRoom(emptyMap('t'), roomSpec(rectangle(0, 0, 800, 400)), DRESS, 'a');
    const doc = openWall(hall, 'a', 0, { width: 96, height: 96, sill: 96, at: 650 }, 'w');
    const footprint: Point2[] = [[0, 0], [480, 0], [480, 64], [560, 64], [560, 0], [800, 0], [800, 400], [0, 400]]; // prettier-ignore
    const parted = changeRoom(doc, 'a', { footprint });
    const { side, at } = parted.openings.get('w')!;
    expect(parted.rooms.get('a')!.footprint[side]).toEqual([560, 0]);
    expect(at).toBeCloseTo(90, 6);
    expect(waitingOpenings(parted)).toEqual([]);
  });

  test('no wall of which runs as one did has the opening wait where one looks most the same way', () => {
    const hall = addRoom(emptyMap('t'), roomSpec(rectangle(0, 0, 800, 400)), DRESS, 'a');
    const footprint: Point2[] = [[0, 0], [500, -200], [840, 20], [800, 260], [380, 520]]; // prettier-ignore
    for (let was = 0; was < 4; was++) {
      const doc = openWall(hall, 'a', was, { width: 96, height: 96, sill: 96, at: 200 }, 'w');
      const [x, y] = [[0, -1], [1, 0], [0, 1], [-1, 0]][was]!; // prettier-ignore
      const alike = footprint.map((a, k) => {
        const b = footprint[(k + 1) % footprint.length]!;
        return ((b[1] - a[1]) * x! - (b[0] - a[0]) * y!) / Math.hypot(b[0] - a[0], b[1] - a[1]);
      });
      const leant = changeRoom(doc, 'a', { footprint });
      expect(leant.openings.get('w')!.side).toBe(alike.indexOf(Math.max(...alike)));
    }
  });

  test('turned or mirrored stays a room with its doorway, and carries its textures', () => {
    const doc = twoRooms();
    const both = { rooms: new Set(['a', 'b']) };
    for (const m of [rotation(2, 90, [0, 0, 0]), mirror(0, 300), mirror(1, 0), rotation(2, 30, [10, 20, 0])]) {
      const turned = transformPicked(doc, both, m);
      expect(turned.openings.get('door')).toMatchObject({ width: 112, height: 208, sill: 0 });
      expect(volume(turned)).toBeCloseTo(volume(doc), 2);
      const p = applyAffine(m, [100, 100, 10]);
      expect(sealed(turned, p)).toBe(true);
      const q = applyAffine(m, [800, 200, 10]);
      expect(sealed(turned, q)).toBe(true);
      for (const brush of doc.brushes.values()) {
        const after = turned.brushes.get(brush.id);
        const face = brush.faces[0]!;
        const other = after?.faces.find((f) => f.id === face.id);
        if (!after || !other || brush.room!.part.kind !== 'floor') continue;
        const v = brush.vertices[face.loop[0]!]!;
        const [was, is] = [texelAt(face.frame, v), texelAt(other.frame, applyAffine(m, v))];
        expect(Math.hypot(is[0] - was[0], is[1] - was[1])).toBeLessThan(1e-6);
      }
    }
    expect(() => transformPicked(doc, both, rotation(0, 90, [0, 0, 0]))).toThrow(
      expect.objectContaining({ code: 'room.tilted' }),
    );
  });
});

describe('an opening', () => {
  test('to the outside takes its volume out of the wall and lets the void in', () => {
    const doc = oneRoom();
    const open = openWall(doc, 'a', 1, { width: 128, height: 96, sill: 100 }, 'w');
    expect(open.openings.get('w')).toMatchObject({ rooms: ['a'], side: 1, at: 192 });
    expect(volume(doc) - volume(open)).toBeCloseTo(128 * 96 * 16, 3);
    expect(sealed(open, [100, 100, 10])).toBe(false);
    expect(volume(removeOpenings(open, new Set(['w'])))).toBe(volume(doc));
  });
  test('in a wall with a neighbour behind goes through both', () => {
    const closed = removeOpenings(twoRooms(), new Set(['door']));
    const open = openWall(closed, 'a', 1, { width: 64, height: 96, sill: 96, at: 100, kind: 'window' }, 'w');
    expect(open.openings.get('w')!.rooms).toEqual(['a', 'b']);
    expect(volume(closed) - volume(open)).toBeCloseTo(64 * 96 * 16, 3);
  });
  test('as an arch leaves the corners above its curve standing, and stays sealed between rooms', () => {
    const doc = changeOpening(twoRooms(), 'door', { kind: 'arch' });
    const closed = removeOpenings(twoRooms(), new Set(['door']));
    const half = 56;
    // Eight chords under a half circle of the half width, above a rectangle.
    const area = 112 * (208 - half) + 8 * 0.5 * half * half * Math.sin(Math.PI / 8);
    expect(volume(closed) - volume(doc)).toBeCloseTo(area * 16, 2);
    expect(allValid(doc) && sealed(doc, [100, 100, 10])).toBe(true);
    const flat = changeOpening(doc, 'door', { rise: 28 });
    expect(volume(flat)).toBeLessThan(volume(doc));
  });
  test('as an arch where the wall grows thinner within it, leaves corners as thick as the wall is at each place', () => {
    // Of the east wall of room a, all from 192 on stands 8 cm from room b and is a quarter as thick.
    const doc = addRoom(oneRoom(), roomSpec(rectangle(552, 224, 384, 384)), DRESS, 'b');
    const own = (d: MapDocument) =>
      [...d.brushes.values()].reduce((v, b) => v + (b.room?.id === 'a' ? brushVolume(b) : 0), 0);
    const thick = (s: number) => (s < 192 ? 16 : 4);
    for (const at of [140, 147, 150, 155, 160]) {
      const arch = openWall(doc, 'a', 1, { width: 96, height: 120, sill: 40, at, kind: 'arch' }, 'w');
      let left = 0;
      for (let k = 0; k < 9600; k++) {
        const s = -48 + (k + 0.5) / 100;
        // Eight chords under a half circle.
        const [from, to] = [Math.floor((Math.acos(-s / 48) * 8) / Math.PI), 1].map(
          (c, i, [a]) => ((a! + i * c) * Math.PI) / 8,
        );
        const part = (s + 48 * Math.cos(from!)) / (48 * Math.cos(from!) - 48 * Math.cos(to!));
        const height = 72 + 48 * (Math.sin(from!) + part * (Math.sin(to!) - Math.sin(from!)));
        left += (height * thick(at + s)) / 100;
      }
      expect((own(doc) - own(arch)) / left).toBeCloseTo(1, 4);
      expect(allValid(arch)).toBe(true);
    }
  });
  test('is found and placed by a spot on the plan', () => {
    expect(sideNear(oneRoom(), 'a', [300, 20])).toEqual({ side: 0, at: 268, distance: 12 });
    expect(() => openWall(oneRoom(), 'a', 9, { width: 64, height: 64, sill: 0 })).toThrow(
      expect.objectContaining({ code: 'opening.side' }),
    );
    expect(() => openWall(oneRoom(), 'a', 0, { width: 64, height: 64, sill: NaN })).toThrow(
      expect.objectContaining({ code: 'opening.size' }),
    );
    expect(() => openWall(oneRoom(), 'a', 0, { width: 64, height: 640, sill: 0 })).toThrow(
      expect.objectContaining({ code: 'opening.outside', message: expect.stringContaining('fit in its wall') }),
    );
  });
});

describe('a footprint in a room', () => {
  const square = rectangle(200, 150, 100, 80);
  const shell = volume(oneRoom());
  test('raised is a platform, and up to the ceiling a pillar', () => {
    const platform = addInset(oneRoom(), 'a', { footprint: square, height: 32 }, 'p');
    expect(volume(platform)).toBe(shell + 100 * 80 * 32);
    const pillar = changeInset(platform, 'a', 'p', { height: 1000 });
    expect(volume(pillar)).toBe(shell + 100 * 80 * 272);
    expect(volume(removeInset(pillar, 'a', 'p'))).toBe(shell);
  });
  test.each([8, 16, 40, 120])('sunk by %i is a pit with walls and a bottom, and the room stays sealed', (depth) => {
    const doc = addInset(oneRoom(), 'a', { footprint: square, height: -depth }, 'p');
    expect(allValid(doc)).toBe(true);
    expect(sealed(doc, [100, 100, 10])).toBe(true);
    expect(sealed(doc, [250, 190, 4 - depth])).toBe(true);
    const hole = 100 * 80 * 16;
    const bottom = 100 * 80 * 16;
    const walls = depth > 15 ? (132 * 112 - 100 * 80) * depth : 0;
    expect(volume(doc)).toBeCloseTo(shell - hole + bottom + walls, 3);
  });
  test('against the wall, or with a concave outline, is sealed too', () => {
    const corner = addInset(oneRoom(), 'a', { footprint: rectangle(32, 32, 200, 100), height: -64 }, 'p');
    expect(allValid(corner) && sealed(corner, [100, 100, -30]) && sealed(corner, [500, 300, 10])).toBe(true);
    const L: Point2[] = [[200, 100], [400, 100], [400, 200], [300, 200], [300, 300], [200, 300]]; // prettier-ignore
    const bent = addInset(oneRoom(), 'a', { footprint: L, height: -64 }, 'p');
    expect(allValid(bent) && sealed(bent, [250, 250, -30]) && sealed(bent, [500, 300, 10])).toBe(true);
  });
  test('filled is a pool: a liquid brush up to its surface', () => {
    const doc = addInset(oneRoom(), 'a', { footprint: square, height: -64, fill: 16 }, 'p');
    const [water, ...more] = [...doc.brushes.values()].filter((b) => b.role === 'liquid');
    expect(more).toEqual([]);
    expect(brushVolume(water!)).toBe(100 * 80 * 48);
    expect(changeInset(doc, 'a', 'p', { height: -8 }).rooms.get('a')!.insets![0]!.fill).toBeUndefined();
  });
  test('moves with its room and keeps its dressing', () => {
    let doc = addInset(oneRoom(), 'a', { footprint: square, height: 32 }, 'p');
    const brush = [...doc.brushes.values()].find((b) => b.room!.part.kind === 'inset')!;
    doc = paintFaces(doc, [{ brush: brush.id, face: brush.faces[1]!.id }], 'black-iron');
    doc = changeInset(movePicked(doc, { rooms: new Set(['a']) }, [64, 0, 0]), 'a', 'p', { height: 48 });
    const again = doc.brushes.get(brush.id)!;
    expect(again.faces.some((f) => f.material === 'black-iron')).toBe(true);
    expect(doc.rooms.get('a')!.insets![0]!.footprint[0]).toEqual([264, 150]);
  });
  test('out of the room, over another, or of no height is refused', () => {
    const doc = addInset(oneRoom(), 'a', { footprint: square, height: 32 }, 'p');
    const cases: [string, Parameters<typeof addInset>[2]][] = [
      ['inset.outside', { footprint: rectangle(500, 150, 100, 80), height: 32 }],
      ['inset.overlap', { footprint: rectangle(250, 150, 100, 80), height: -32 }],
      ['inset.height', { footprint: rectangle(320, 150, 100, 80), height: 0 }],
      ['inset.height', { footprint: rectangle(320, 150, 100, 80), height: -20, fill: 30 }],
      [
        'room.footprint',
        {
          footprint: [
            [0, 0],
            [1, 0],
          ],
          height: 20,
        },
      ],
    ];
    for (const [code, spec] of cases) expect(() => addInset(doc, 'a', spec)).toThrow(expect.objectContaining({ code }));
    expect(() => changeInset(doc, 'a', 'gone', { height: 9 })).toThrow(
      expect.objectContaining({ code: 'inset.unknown' }),
    );
  });
});

describe('two rooms', () => {
  test('share the wall between them, each a half, and do not overlap', () => {
    const doc = removeOpenings(twoRooms(), new Set(['door']));
    const shell = (w: number) => (w + 16 + 8) * 416 * 304 - w * 384 * 304 + 2 * w * 384 * 16;
    expect(volume(doc)).toBeCloseTo(shell(512) + shell(384), 3);
  });

  test('a doorway takes exactly its volume out of both walls, and closing it puts that back', () => {
    const open = twoRooms();
    const closed = removeOpenings(open, new Set(['door']));
    expect(volume(closed) - volume(open)).toBeCloseTo(112 * 208 * 16, 3);
    expect(allValid(open) && sealed(open, [100, 100, 10])).toBe(true);
  });

  test('a doorway can be moved and resized; what does not fit is refused', () => {
    const doc = changeOpening(twoRooms(), 'door', { width: 64, at: 60 });
    expect(doc.openings.get('door')).toMatchObject({ width: 64, at: 60 });
    expect(() => changeOpening(doc, 'door', { at: 10 })).toThrow(
      expect.objectContaining({ code: 'opening.outside', message: expect.stringContaining('the two rooms share') }),
    );
    expect(() => changeOpening(doc, 'door', { height: 600 })).toThrow(
      expect.objectContaining({ code: 'opening.outside' }),
    );
    expect(() => changeOpening(doc, 'door', { width: 0 })).toThrow(expect.objectContaining({ code: 'opening.size' }));
  });

  test('rooms that stand apart, or without space for a wall, cannot be joined', () => {
    const apart = addRoom(oneRoom(), roomSpec(rectangle(700, 32, 200, 200)), DRESS, 'c');
    expect(doorwayPlaces(apart, 'a', 'c')).toEqual([]);
    expect(() => openDoorway(apart, 'a', 'c', { width: 100, height: 200, sill: 0 })).toThrow(
      expect.objectContaining({ code: 'opening.notTouching' }),
    );
    expect(() => addRoom(oneRoom(), roomSpec(rectangle(544, 32, 200, 200)), DRESS)).toThrow(
      expect.objectContaining({ code: 'room.noWall' }),
    );
  });

  test('removing one closes the other again', () => {
    const doc = removeRooms(twoRooms(), new Set(['b']));
    expect(doc.openings.size).toBe(0);
    expect(volume(doc)).toBe(volume(oneRoom()));
    expect(sealed(doc, [100, 100, 10])).toBe(true);
  });

  test('moved away from its neighbour a room keeps the doorway, which waits, and both stay sealed', () => {
    const doc = movePicked(twoRooms(), { rooms: new Set(['b']) }, [320, 0, 0]);
    expect(doc.openings.size).toBe(1);
    expect(sealed(doc, [100, 100, 10])).toBe(true);
    expect(sealed(doc, [1000, 100, 10])).toBe(true);
  });
});
