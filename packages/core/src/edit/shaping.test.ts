import {
  boxSolid,
  brushBounds,
  brushPlanes,
  brushVolume,
  faceWinding,
  findFlaw,
  solidOf,
  type Brush,
} from '../brush/index.ts';
import { emptyMap, parseMap, writeMap, type MapDocument } from '../map/index.ts';
import { boxOf, rotation, shear, translation, windingArea, type Vec3 } from '../math/index.ts';
import { dressSolid, texelAt } from '../surface/index.ts';
import { DRESS, oneRoom, rectangle, roomSpec } from '../testing/rooms.ts';
import { alignPicked, distributePicked, guidesFor, repeatAlong, repeatAround, replaceWith } from './arranging.ts';
import { addBrushes, movePicked, pickedBounds, removePicked, transformPicked } from './brushes.ts';
import { addShape, changeShape, groupPicked, membersOf, renameGroup, ungroup } from './groups.ts';
import { openWall } from './openings.ts';
import { brushesOf } from './remake.ts';
import {
  cutBrushes,
  intersectPicked,
  mergePicked,
  pullFace,
  repairPicked,
  reshapeBrushes,
  shellPicked,
  snapToGrid,
  stretchPicked,
  subtractBrushes,
  subtractTargets,
  volumeOf,
} from './shaping.ts';
import {
  addLayer,
  addStorey,
  changeLayer,
  changeStorey,
  moveToLayer,
  removeLayer,
  removeStorey,
  removeView,
  saveView,
  storeysOf,
} from './sheets.ts';
import { facesFacing, facesIntoRoom, similarBrushes, similarEntities, wallsOf } from './similar.ts';
import { placeEntity } from './entities.ts';
import { addRoom } from './rooms.ts';
import { crateAlone } from '../testing/props.ts';
import { placeProps } from './props.ts';

const box = (id: string, min: Vec3, max: Vec3, more: Partial<Brush> = {}) =>
  dressSolid(boxSolid({ min, max }), id, 'brick', more);
const map = (...brushes: Brush[]) => addBrushes(emptyMap('t'), brushes);
const ids = (...list: string[]) => new Set(list);
const all = (doc: MapDocument) => new Set(doc.brushes.keys());
const total = (doc: MapDocument) => volumeOf(doc, all(doc));
const valid = (doc: MapDocument) => [...doc.brushes.values()].every((b) => findFlaw(solidOf(b)) === null);
const code = (c: string) => expect.objectContaining({ code: c });
const wall = box('wall', [0, 0, 0], [400, 32, 300]);

describe('cut', () => {
  const plane = { normal: [1, 0, 0] as Vec3, distance: 100 };
  test('keeps both halves, the near or the far one', () => {
    const both = cutBrushes(map(wall), ids('wall'), plane, 'both');
    expect([both.brushes.size, total(both.doc), valid(both.doc)]).toEqual([2, 400 * 32 * 300, true]);
    expect(total(cutBrushes(map(wall), ids('wall'), plane, 'front').doc)).toBe(300 * 32 * 300);
    expect(total(cutBrushes(map(wall), ids('wall'), plane, 'back').doc)).toBe(100 * 32 * 300);
  });
  test('fresh faces show what the brush shows, or the material chosen for them', () => {
    const shown = (doc: MapDocument) =>
      [...doc.brushes.values()].map((b) => b.faces.filter((f) => f.material === 'plaster').length);
    expect(shown(cutBrushes(map(wall), ids('wall'), plane, 'both').doc)).toEqual([0, 0]);
    expect(shown(cutBrushes(map(wall), ids('wall'), plane, 'both', 'plaster').doc)).toEqual([1, 1]);
    const hole = box('w', [150, -50, 100], [250, 50, 220]);
    const fresh = subtractBrushes(map(wall, hole), ids('w'), undefined, false, 'plaster').doc;
    const boxes = [...fresh.brushes.values()].flatMap((b) =>
      b.faces.map((f) => ({ material: f.material, box: boxOf(f.loop.map((k) => b.vertices[k]!)) })),
    );
    const at = (p: Vec3) =>
      boxes.filter((f) => p.every((x, k) => f.box.min[k]! <= x && x <= f.box.max[k]!)).map((f) => f.material);
    // The four sides of the opening, and both faces of the wall beside it.
    for (const p of [
      [150, 16, 160],
      [250, 16, 160],
      [200, 16, 100],
      [200, 16, 220],
    ] as Vec3[])
      expect(at(p)).toEqual(['plaster']);
    for (const p of [
      [60, 0, 160],
      [60, 32, 160],
    ] as Vec3[])
      expect(at(p)).toEqual(['brick']);
  });
  test('leaves what it misses whole and selected, drops what is on the unwanted side, and says when it hits nothing', () => {
    const doc = map(wall, box('east', [500, 0, 0], [600, 32, 300]));
    const out = cutBrushes(doc, all(doc), plane, 'front');
    expect(out.brushes.has('east')).toBe(true);
    expect(out.doc.brushes.get('east')).toBe(doc.brushes.get('east'));
    expect(cutBrushes(doc, all(doc), plane, 'back').doc.brushes.has('east')).toBe(false);
    expect(() => cutBrushes(doc, ids('east'), plane, 'both')).toThrow(code('cut.missed'));
    expect(() => cutBrushes(doc, ids('gone'), plane, 'both')).toThrow(code('select.brushes'));
  });
});

describe('subtract', () => {
  const window = box('w', [150, -50, 100], [250, 50, 220]);
  test('carves everything solid the cutter reaches into and removes the cutter', () => {
    const doc = map(
      wall,
      window,
      box('far', [900, 0, 0], [950, 50, 50]),
      box('hint', [0, -50, 0], [400, 50, 300], { role: 'hint' }),
    );
    expect([...subtractTargets(doc, ids('w'))]).toEqual(['wall']);
    const out = subtractBrushes(doc, ids('w'));
    expect(out.doc.brushes.has('w')).toBe(false);
    expect(out.brushes.size).toBe(4);
    expect(volumeOf(out.doc, out.brushes)).toBe(400 * 32 * 300 - 100 * 32 * 120);
    expect(subtractBrushes(doc, ids('w'), ids('wall'), true).doc.brushes.has('w')).toBe(true);
  });
  test('through a room’s wall releases only that wall', () => {
    const room = oneRoom();
    const doc = addBrushes(room, [box('w', [200, 0, 60], [300, 64, 200])]);
    const out = subtractBrushes(doc, ids('w')).doc;
    expect(out.rooms.get('a')!.released).toEqual([{ kind: 'wall', side: 0, piece: 0 }]);
    expect(total(out)).toBeCloseTo(total(room) - 100 * 16 * 140, 3);
    expect(brushesOf(out, 'a').filter((b) => b.room!.released)).toHaveLength(4);
  });
  test('of itself, of nothing, and of everything is refused', () => {
    const doc = map(wall, window, box('all', [-10, -10, -10], [500, 50, 400]), box('far', [900, 0, 0], [950, 50, 50]));
    expect(() => subtractBrushes(doc, ids('w'), ids('w'))).toThrow(code('subtract.itself'));
    expect(() => subtractBrushes(doc, ids('far'))).toThrow(code('subtract.missed'));
    expect(() => subtractBrushes(doc, ids('all'), ids('wall'))).toThrow(code('subtract.nothingLeft'));
  });
  test('leaves locked and hidden layers alone', () => {
    let doc = moveToLayer(addLayer(map(wall, window), 'Shell', 'l'), { brushes: ids('wall') }, 'l');
    doc = changeLayer(doc, 'l', { locked: true });
    expect(() => subtractBrushes(doc, ids('w'))).toThrow(code('subtract.missed'));
  });
});

describe('making one of several', () => {
  test('intersect keeps what is shared', () => {
    const doc = map(wall, box('b', [300, -10, 200], [500, 20, 400]));
    expect(total(intersectPicked(doc, all(doc)).doc)).toBe(100 * 20 * 100);
    expect(() => intersectPicked(map(wall, box('b', [500, 0, 0], [600, 9, 9])), ids('wall', 'b'))).toThrow(
      code('intersect.nothing'),
    );
    expect(() => intersectPicked(doc, ids('wall'))).toThrow(code('select.two'));
  });
  test('merge makes the hull, or the exact union when that is convex', () => {
    const flush = map(wall, box('b', [400, 0, 0], [500, 32, 300]));
    const union = mergePicked(flush, all(flush), 'union');
    expect([union.doc.brushes.size, total(union.doc)]).toEqual([1, 500 * 32 * 300]);
    const step = map(wall, box('b', [400, 0, 0], [500, 32, 100]));
    expect(() => mergePicked(step, all(step), 'union')).toThrow(code('merge.notConvex'));
    expect(total(mergePicked(step, all(step), 'hull').doc)).toBeCloseTo(32 * (400 * 300 + 100 * 200), 3);
  });
  test('shell and pull out add brushes dressed like their source', () => {
    const hollow = shellPicked(map(box('c', [0, 0, 0], [200, 200, 200])), ids('c'), 16, 'inside');
    expect(total(hollow.doc)).toBe(200 ** 3 - 168 ** 3);
    const doc = map(wall);
    const end = wall.faces[brushPlanes(wall).findIndex((p) => p.normal[0] === 1)]!.id;
    const first = pullFace(doc, 'wall', end, 100);
    expect(volumeOf(first.doc, first.brushes)).toBe(100 * 32 * 300);
    const made = first.doc.brushes.get([...first.brushes][0]!)!;
    expect(made.faces.every((f) => f.material === 'brick')).toBe(true);
    expect(() => pullFace(doc, 'wall', end, -4)).toThrow(code('pull.distance'));
    expect(() => shellPicked(doc, ids('wall'), 16, 'inside')).toThrow(code('shell.thickness'));
  });
});

describe('reshape', () => {
  test('moves corners through the hull and keeps faces, materials and frames', () => {
    const doc = map(wall);
    const top = wall.vertices.flatMap((v, i) =>
      v[2] === 300 && v[0] === 400 ? [[i, [400, v[1], 200] as Vec3] as const] : [],
    );
    const out = reshapeBrushes(doc, new Map([['wall', new Map(top)]]));
    expect(out.concave).toBe(false);
    expect(total(out.doc)).toBeCloseTo(32 * 400 * 250, 3);
    const b = out.doc.brushes.get('wall')!;
    expect(b.faces.map((f) => f.id).sort()).toEqual([1, 2, 3, 4, 5, 6]);
    const south = brushPlanes(b).findIndex((p) => p.normal[1] === -1);
    const was = wall.faces[brushPlanes(wall).findIndex((p) => p.normal[1] === -1)]!;
    expect(texelAt(b.faces[south]!.frame, [10, 0, 10])).toEqual(texelAt(was.frame, [10, 0, 10]));
  });
  test('offers the concave wish as convex parts', () => {
    const crate = box('c', [0, 0, 0], [100, 100, 100]);
    const corner = crate.vertices.findIndex((v) => v.every((c) => c === 100));
    const moves = new Map([['c', new Map([[corner, [40, 40, 40] as Vec3]])]]);
    expect(reshapeBrushes(map(crate), moves)).toMatchObject({ concave: true, brushes: { size: 1 } });
    const split = reshapeBrushes(map(crate), moves, true);
    expect(split.brushes.size).toBeGreaterThan(1);
    expect(valid(split.doc)).toBe(true);
    expect(() => reshapeBrushes(map(crate), new Map([['c', new Map([[corner, [NaN, 0, 0] as Vec3]])]]))).toThrow(
      code('brush.notFinite'),
    );
  });
  test('stretch keeps slopes and only touches brushes at the moved side', () => {
    const doc = map(wall, box('low', [0, 0, 0], [400, 32, 100]));
    const out = stretchPicked(doc, all(doc), { min: [0, 0, 0], max: [400, 32, 340] }).doc;
    expect(brushBounds(out.brushes.get('wall')!).max[2]).toBe(340);
    expect(out.brushes.get('low')).toBe(doc.brushes.get('low'));
    expect(() => stretchPicked(doc, all(doc), { min: [0, 0, 0], max: [0, 32, 340] })).toThrow(code('resize.empty'));
  });
  test('stretch carries the picture of each side that moves, and leaves that of the side across where it is', () => {
    const size = { min: [0, 0, 0], max: [400, 200, 100] } as const;
    const base = box('b', size.min, size.max);
    const doc = map(base);
    for (const axis of [0, 1, 2] as const)
      for (const end of ['min', 'max'] as const)
        for (const by of [-40, 56]) {
          const to = { ...size, [end]: size[end].map((c, i) => (i === axis ? c + by : c)) };
          const brush = stretchPicked(doc, all(doc), to).doc.brushes.get('b')!;
          brushPlanes(base).forEach(({ normal }, face) => {
            if (normal[axis] === 0) return;
            const moves = normal[axis] > 0 === (end === 'max');
            const { id, frame: was } = base.faces[face]!;
            const is = brush.faces.find((f) => f.id === id)!.frame;
            const middle = [0, 1, 2].map((i) => (i === axis ? size[normal[axis]! > 0 ? 'max' : 'min'][i]! : 50));
            const moved = middle.map((c, i) => (i === axis && moves ? c + by : c));
            const [before, after] = [texelAt(was, middle as never), texelAt(is, moved as never)];
            expect([after[0] - before[0], after[1] - before[1]].map(Math.abs).every((d) => d < 1e-9)).toBe(true);
          });
        }
    // A leant side that moves along takes its picture along too.
    const wide = stretchPicked(map(wall), all(map(wall)), {
      min: brushBounds(wall).min,
      max: brushBounds(wall).max.map((c, i) => (i === 0 ? c + 64 : c)) as unknown as Vec3,
    }).doc.brushes.get('wall')!;
    brushPlanes(wall).forEach(({ normal }, face) => {
      if (normal[0] < 1e-9) return;
      const { id, frame: was, loop } = wall.faces[face]!;
      const p = wall.vertices[loop[0]!]!;
      const is = wide.faces.find((f) => f.id === id)!.frame;
      const [before, after] = [texelAt(was, p), texelAt(is, [p[0] + 64, p[1], p[2]])];
      expect(Math.hypot(after[0] - before[0], after[1] - before[1])).toBeLessThan(1e-6);
    });
  });
  test('snap puts corners on the grid, repair mends and removes', () => {
    const off = box('o', [0.4, 0, 0], [63.6, 64, 64]);
    expect(brushBounds(snapToGrid(map(off), ids('o'), 16).doc.brushes.get('o')!)).toEqual({
      min: [0, 0, 0],
      max: [64, 64, 64],
    });
    const broken: Brush = { ...off, id: 'x', vertices: off.vertices.map((v, i) => (i === 6 ? [20, 20, 20] : v)) };
    const flat: Brush = { ...off, id: 'f', vertices: off.vertices.map((v): Vec3 => [v[0], v[1], 0]) };
    const doc = { ...map(off), brushes: new Map([off, broken, flat].map((b) => [b.id, b])) };
    expect(repairPicked(doc, all(doc))).toMatchObject({ mended: 1, removed: 1 });
    expect(valid(repairPicked(doc, all(doc)).doc)).toBe(true);
  });
});

describe('shapes and groups', () => {
  const recipe = {
    kind: 'stair',
    box: { min: [0, 0, 0], max: [128, 256, 128] },
    params: { steps: 8, rises: 'north' },
  } as const;
  let n = 0;
  const made = () =>
    addShape(emptyMap('t'), recipe, { material: 'oak' }, { group: 'g', brush: () => `s${n++}` }, 'Stair');
  test('a shape keeps its numbers, and changing them makes it anew where it stands, dressed as before', () => {
    const doc = made();
    expect(membersOf(doc, 'g').brushes).toHaveLength(8);
    const turned = transformPicked(doc, { brushes: all(doc) }, rotation(2, 90, [0, 0, 0]));
    const moved = movePicked(turned, { brushes: all(turned) }, [10, 20, 30]);
    const changed = changeShape(moved, 'g', { params: { steps: 4 } });
    expect(changed.brushes.size).toBe(4);
    expect(pickedBounds(changed, { brushes: all(changed) })).toEqual({ min: [-246, 20, 30], max: [10, 148, 158] });
    expect([...changed.brushes.values()].every((b) => b.faces.every((f) => f.material === 'oak'))).toBe(true);
    // Four steps fill a quarter, a half, three quarters and all of the height: five eighths of the box.
    expect(total(changed)).toBeCloseTo((128 * 256 * 128 * 5) / 8, 3);
    expect(() => changeShape(doc, 'g', { params: { steps: 0 } })).toThrow(code('brush.steps'));
  });
  test('a shape loses its numbers when one brush of it is shaped or moved alone', () => {
    const doc = made();
    const [first] = doc.brushes.keys();
    for (const out of [
      movePicked(doc, { brushes: ids(first!) }, [1, 0, 0]),
      cutBrushes(doc, ids(first!), { normal: [1, 0, 0], distance: 64 }, 'both').doc,
    ]) {
      expect(out.groups.get('g')!.shape).toBeUndefined();
      expect(() => changeShape(out, 'g', { params: { steps: 4 } })).toThrow(code('shape.unknown'));
    }
  });
  test('groups are made, named, ended, and go with their last member', () => {
    let doc = groupPicked(
      placeEntity(map(wall, box('b', [0, 0, 0], [9, 9, 9])), 'spawn', [0, 0, 0], 0, 'e'),
      { brushes: ids('wall', 'b'), entities: ids('e') },
      'Pier',
      'p',
    );
    expect(membersOf(doc, 'p')).toEqual({ brushes: ['b', 'wall'].sort().reverse(), entities: ['e'] });
    doc = renameGroup(doc, 'p', '  East pier ');
    expect(doc.groups.get('p')!.name).toBe('East pier');
    expect(ungroup(doc, ids('p')).groups.size).toBe(0);
    expect(removePicked(doc, { brushes: ids('wall', 'b'), entities: ids('e') }).groups.size).toBe(0);
    expect(() => groupPicked(doc, { brushes: ids('wall') })).toThrow(code('group.tooFew'));
    expect(() => renameGroup(doc, 'p', ' ')).toThrow(code('group.name'));
    // A part of a group becomes a group in it; what belongs to several goes where all of them are.
    const four = 'abcd'.split('').map((id, k) => box(id, [k * 50, 0, 0], [k * 50 + 9, 9, 9]));
    const outer = groupPicked(map(...four), { brushes: ids('a', 'b', 'c', 'd') }, 'Outer', 'o');
    const inner = groupPicked(outer, { brushes: ids('a', 'b') }, 'Inner', 'i');
    expect([inner.groups.get('i')!.parent, inner.groups.get('o')!.parent]).toEqual(['o', undefined]);
    expect(membersOf(inner, 'o').brushes).toHaveLength(4);
    const across = groupPicked(inner, { brushes: ids('b', 'c') }, 'Across', 'x');
    expect([across.groups.get('x')!.parent, membersOf(across, 'i').brushes]).toEqual(['o', ['a']]);
    const round = groupPicked(inner, { brushes: ids('a', 'b', 'c') }, 'Round', 'r');
    expect([round.groups.get('r')!.parent, round.groups.get('i')!.parent]).toEqual(['o', 'r']);
    const all = groupPicked(inner, { brushes: ids('a', 'b', 'c', 'd') }, 'All', 'all');
    expect([all.groups.get('all')!.parent, all.groups.get('o')!.parent]).toEqual([undefined, 'all']);
    expect(parseMap(writeMap(all)).groups).toEqual(all.groups);
    // Steps that are picked out of a stair leave it: its numbers make it as a whole.
    const stair = made();
    const [first, second] = membersOf(stair, 'g').brushes as [string, string];
    const apart = groupPicked(stair, { brushes: ids(first, second) }, 'Two', 'two');
    expect(apart.groups.get('two')).toEqual({ id: 'two', name: 'Two' });
    // And they survive the file.
    const again = parseMap(writeMap(made()));
    expect(again.groups.get('g')).toEqual(made().groups.get('g'));
    expect([...again.brushes.values()].every((b) => b.group === 'g')).toBe(true);
  });
});

describe('arranging', () => {
  const row = () =>
    map(box('a', [0, 0, 0], [10, 10, 10]), box('b', [30, 5, 0], [50, 25, 40]), box('c', [90, 0, 8], [100, 10, 20]));
  const bounds = (doc: MapDocument, id: string) => brushBounds(doc.brushes.get(id)!);
  test('align brings ends or middles together', () => {
    expect(['a', 'b', 'c'].map((i) => bounds(alignPicked(row(), { brushes: all(row()) }, 2, 'low'), i).min[2])).toEqual(
      [0, 0, 0],
    );
    expect(
      ['a', 'b', 'c'].map((i) => bounds(alignPicked(row(), { brushes: all(row()) }, 1, 'high'), i).max[1]),
    ).toEqual([25, 25, 25]);
    expect(() => alignPicked(row(), { brushes: ids('a') }, 0, 'low')).toThrow(code('align.tooFew'));
  });
  test('distribute makes the gaps equal', () => {
    const doc = distributePicked(row(), { brushes: all(row()) }, 0);
    expect([bounds(doc, 'a').min[0], bounds(doc, 'b').min[0], bounds(doc, 'c').min[0]]).toEqual([0, 40, 90]);
    expect(() => distributePicked(row(), { brushes: ids('a', 'b') }, 0)).toThrow(code('distribute.tooFew'));
  });
  test('repeat copies along a line and around a centre', () => {
    const line = repeatAlong(row(), { brushes: ids('a') }, 3, [20, 0, 5]);
    expect([line.picked.brushes.size, pickedBounds(line.doc, line.picked)!.max]).toEqual([4, [70, 10, 25]]);
    const ring = repeatAround(row(), { brushes: ids('a') }, 3, 2, [100, 0, 0], 90);
    expect(pickedBounds(ring.doc, ring.picked)).toEqual({ min: [0, -100, 0], max: [200, 100, 10] });
    expect(() => repeatAlong(row(), { brushes: ids('a') }, 0, [1, 0, 0])).toThrow(code('repeat.count'));
    expect(() => repeatAlong(row(), { brushes: ids('a') }, 2, [0, 0, 0])).toThrow(code('repeat.step'));
    expect(() => repeatAround(row(), { brushes: ids('a') }, 2, 2, [0, 0, 0], 0)).toThrow(code('repeat.angle'));
  });
  test('replace fits other brushes to the bounds of each selected one', () => {
    const doc = row();
    const out = replaceWith(doc, { brushes: ids('b', 'c') }, ids('a'));
    expect(out.picked.brushes.size).toBe(2);
    const boxes = [...out.picked.brushes].map((id) => bounds(out.doc, id));
    expect(boxes).toEqual([bounds(doc, 'b'), bounds(doc, 'c')]);
    // Wherever what is copied stood; a thing among what is picked stays.
    const aside = movePicked(placeEntity(doc, 'spawn', [5, 5, 5], 0, 's'), { brushes: ids('a') }, [70, -130, 50]);
    const there = replaceWith(aside, { brushes: ids('b'), entities: ids('s') }, ids('a'));
    expect([...there.picked.brushes].map((id) => bounds(there.doc, id))).toEqual([bounds(doc, 'b')]);
    expect(there.doc.entities.get('s')).toEqual(aside.entities.get('s'));
    expect(() => replaceWith(doc, { brushes: ids('b') }, ids('gone'))).toThrow(code('replace.nothing'));
  });
  test('guides are the sides and middles of what is near and not picked', () => {
    const guides = guidesFor(row(), { brushes: ids('a') }, { min: [0, 0, 0], max: [60, 60, 60] }, 0);
    expect(guides.map((g) => g.at)).toEqual([30, 40, 50]);
    // A prop has those of its box.
    const { doc, made } = placeProps(row(), [{ model: 'crate', at: [10, 20, 0] }], crateAlone);
    const near = { min: [0, 0, 0], max: [60, 60, 60] } as const;
    const all = (entities: ReadonlySet<string>) =>
      guidesFor(doc, { brushes: ids('a', 'b'), entities }, near, 0).map((g) => g.at);
    expect(all(new Set())).toEqual([-22, 10, 42]);
    expect(all(new Set(made.entities))).toEqual([]);
  });
  test('skew leans a brush over without changing its volume', () => {
    const doc = transformPicked(row(), { brushes: ids('b') }, shear(0, 2, 0.5, 0));
    expect([brushVolume(doc.brushes.get('b')!), bounds(doc, 'b').max[0]]).toEqual([20 * 20 * 40, 70]);
    expect(bounds(transformPicked(row(), { brushes: ids('b') }, translation([1, 2, 3])), 'b').min).toEqual([31, 7, 3]);
  });
});

describe('layers, storeys, views and likeness', () => {
  test('a room goes on a layer with all its brushes, keeps them there when re-made, and comes off when the layer ends', () => {
    let doc = moveToLayer(addLayer(oneRoom(), 'Shell', 'l'), { rooms: ids('a') }, 'l');
    expect([...doc.brushes.values()].every((b) => b.layer === 'l')).toBe(true);
    expect(parseMap(writeMap(doc)).layers.get('l')).toEqual({ id: 'l', name: 'Shell', visible: true, locked: false });
    doc = removeLayer(doc, 'l');
    expect([...doc.brushes.values(), ...doc.rooms.values()].some((b) => b.layer)).toBe(false);
    expect(() => moveToLayer(doc, { rooms: ids('a') }, 'l')).toThrow(code('layer.unknown'));
    expect(() => addLayer(doc, '')).toThrow(code('name.length'));
  });
  test('what is picked goes on a layer, and nothing else: brushes, things and rooms each', () => {
    let doc = addLayer(addRoom(oneRoom(), roomSpec(rectangle(1000, 0, 300, 300)), DRESS, 'b'), 'Shell', 'l');
    for (const id of ['s', 't']) doc = placeEntity(doc, 'spawn', [100, 100, 0], 0, id);
    const on = (picked: Parameters<typeof moveToLayer>[1]) => {
      const { brushes, entities, rooms } = moveToLayer(doc, picked, 'l');
      return [brushes, entities, rooms].map((map: ReadonlyMap<string, { id: string; layer?: string }>) =>
        [...map.values()].flatMap((x) => (x.layer === 'l' ? [x.id] : [])),
      );
    };
    const wall = [...doc.brushes.keys()][3]!;
    expect(on({ brushes: ids(wall) })).toEqual([[wall], [], []]);
    expect(on({ entities: ids('t') })).toEqual([[], ['t'], []]);
    const own = [...doc.brushes.values()].flatMap((b) => (b.room!.id === 'b' ? [b.id] : []));
    expect(on({ rooms: ids('b') })).toEqual([own, [], ['b']]);
  });
  test('storeys are named heights, or the rooms’ floors while there are none', () => {
    let doc = oneRoom();
    expect(storeysOf(doc).map((s) => s.floor)).toEqual([0]);
    doc = addStorey(
      addStorey(doc, { name: 'Loft', floor: 300, cut: 120 }, 'u'),
      { name: 'Quay', floor: 0, cut: 100 },
      'g',
    );
    expect(storeysOf(changeStorey(doc, 'u', { floor: -300 })).map((s) => s.name)).toEqual(['Loft', 'Quay']);
    // A named storey does not hide the floors that have no name yet.
    expect(storeysOf(addStorey(oneRoom(), { name: 'Loft', floor: 300, cut: 120 })).map((s) => s.floor)).toEqual([
      0, 300,
    ]);
    expect(() => changeStorey(doc, 'u', { cut: 0 })).toThrow(code('storey.height'));
    expect(removeStorey(doc, 'u').storeys.size).toBe(1);
  });
  test('views are kept in the file', () => {
    const doc = saveView(
      oneRoom(),
      {
        name: 'From the door',
        centre: [0, 0, 0],
        zoom: 0.5,
        level: 0,
        cutHeight: 120,
        section: { at: [0, 40], looks: 90 },
        eye: { at: [1, 2, 3], towards: [1, 0, 0] },
      },
      'v',
    );
    expect(parseMap(writeMap(doc)).views.get('v')).toEqual(doc.views.get('v'));
    expect(removeView(doc, 'v').views.size).toBe(0);
  });
  test('similar brushes share material, role, kind of solid, or size however turned', () => {
    const doc = placeEntity(
      placeEntity(
        map(wall, box('t', [0, 0, 0], [32, 400, 300]), box('s', [0, 0, 0], [9, 9, 9], { role: 'clip' })),
        'spawn',
        [0, 0, 0],
        0,
        'e',
      ),
      'spawn',
      [9, 9, 9],
      0,
      'f',
    );
    expect([...similarBrushes(doc, ids('wall'), 'size')].sort()).toEqual(['t', 'wall']);
    expect([...similarBrushes(doc, ids('wall'), 'kind')]).toHaveLength(3);
    expect([...similarBrushes(doc, ids('wall'), 'role')].sort()).toEqual(['t', 'wall']);
    expect([...similarBrushes(doc, ids('s'), 'material')]).toHaveLength(3);
    expect([...similarEntities(doc, ids('e'))]).toEqual(['e', 'f']);
    const room = oneRoom();
    expect(wallsOf(room, 'a').size).toBe(4);
    // What shows into the room: walls of 512 and 384, as high as they stand between the outsides of floor and ceiling, less a doorway;
    // floor, posts and loose brushes show no wall.
    const open = openWall(room, 'a', 0, { width: 96, height: 208, sill: 0 }, 'o');
    const into = facesIntoRoom(addBrushes(open, [box('loose', [100, 100, 0], [164, 164, 64])]), [
      ...open.brushes.keys(),
      'loose',
      'nobody',
    ]);
    const areas = into.map(({ brush, face }) => {
      const b = open.brushes.get(brush)!;
      expect(b.room!.part.side).toBeDefined();
      return windingArea(
        faceWinding(
          b,
          b.faces.findIndex((f) => f.id === face),
        ),
      );
    });
    expect(areas.reduce((sum, a) => sum + a, 0)).toBeCloseTo(2 * (512 + 384) * (272 + 2 * 16) - 96 * 208, 6);
    expect(facesFacing(room, wallsOf(room, 'a'), [0, 0, 1])).toHaveLength(4);
    expect(facesFacing(doc, ['wall', 't'], [0, 0, 1])).toHaveLength(2);
  });
});
