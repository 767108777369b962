import fc from 'fast-check';
import {
  boxSolid,
  brushBounds,
  brushVolume,
  findFlaw,
  prismSolid,
  solidOf,
  wedgeSolid,
  type Brush,
} from '../brush/index.ts';
import { emptyMap, parseMap, writeMap, type MapDocument } from '../map/index.ts';
import { mirror, rotation, type Vec3, type Affine } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import {
  addBrushes,
  movePicked,
  pickedBounds,
  removePicked,
  resizePicked,
  setRole,
  transformPicked,
} from './brushes.ts';
import { changeEntity, changeSettings, placeEntity, renameMap } from './entities.ts';
import { duplicatePicked } from './copies.ts';
import { copyPicked, pasteText } from './clipboard.ts';
import { allFaces, paintFaces, setFrames, setShow } from './faces.ts';
import { addShape, changeShape, groupPicked, membersOf, rootGroup, ungroup } from './groups.ts';
import { repeatAround, replaceWith } from './arranging.ts';
import { applyChange, diffDocuments, isEmptyChange } from './history.ts';

const box = (id: string, at: Vec3 = [0, 0, 0]): Brush =>
  dressSolid(boxSolid({ min: at, max: [at[0] + 64, at[1] + 32, at[2] + 128] }), id, 'limewash');
const start = (): MapDocument =>
  placeEntity(addBrushes(emptyMap('t'), [box('a'), box('b', [200, 0, 0])]), 'spawn', [10, 20, 30], 0, 's');
const A = { brushes: new Set(['a']) };

test('moving moves exactly what is picked', () => {
  const before = start();
  const doc = movePicked(before, { ...A, entities: new Set(['s']) }, [16, 0, -8]);
  expect(brushBounds(doc.brushes.get('a')!)).toEqual({ min: [16, 0, -8], max: [80, 32, 120] });
  expect(doc.entities.get('s')!.at).toEqual([26, 20, 22]);
  expect(doc.brushes.get('b')).toBe(before.brushes.get('b'));
});

test('resizing gives exactly the box that was asked for', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 999 }),
      fc.integer({ min: 1, max: 999 }),
      fc.integer({ min: 1, max: 999 }),
      (w, d, h) => {
        const doc = resizePicked(start(), A, { min: [-7, 3, 5], max: [-7 + w, 3 + d, 5 + h] });
        expect(brushBounds(doc.brushes.get('a')!)).toEqual({ min: [-7, 3, 5], max: [-7 + w, 3 + d, 5 + h] });
        expect(brushVolume(doc.brushes.get('a')!)).toBe(w * d * h);
      },
    ),
  );
});

test('things that are turned or mirrored look where that leads, whichever way they looked', () => {
  const looks = (turn: number, m: Affine) => {
    const doc = placeEntity(emptyMap('t'), 'spawn', [10, 20, 30], turn, 's');
    return transformPicked(doc, { entities: new Set(['s']) }, m).entities.get('s')!.turn;
  };
  const round = (angle: number) => ((angle % 360) + 360) % 360;
  for (let turn = 0; turn < 360; turn += 15) {
    for (let by = -345; by < 360; by += 15) expect(looks(turn, rotation(2, by, [3, 4, 5]))).toBe(round(turn + by));
    expect(looks(turn, mirror(0, 7))).toBe(round(180 - turn));
    expect(looks(turn, mirror(1, 7))).toBe(round(-turn));
  }
});

test('turning an entity turns where it looks', () => {
  const doc = transformPicked(start(), { entities: new Set(['s']) }, rotation(2, 90, [0, 0, 0]));
  expect(doc.entities.get('s')).toMatchObject({ turn: 90, at: [-20, 10, 30] });
  expect(transformPicked(start(), { entities: new Set(['s']) }, mirror(0, 0)).entities.get('s')!.turn).toBe(180);
});

test('duplicates are new things with the same shape', () => {
  const { doc, picked } = duplicatePicked(start(), { ...A, entities: new Set(['s']) }, [0, 100, 0]);
  expect(doc.brushes.size).toBe(3);
  const copy = doc.brushes.get([...picked.brushes][0]!)!;
  expect(brushBounds(copy).min).toEqual([0, 100, 0]);
  expect(picked.brushes.has('a')).toBe(false);
  expect(pickedBounds(doc, picked)).toEqual({ min: [0, 100, 0], max: [64, 132, 128] });
});

test('what was copied as text is pasted as new things, also into another map; other text is refused', () => {
  const doc = start();
  const text = copyPicked(doc, { ...A, entities: new Set(['s']) });
  const pasted = pasteText(emptyMap('other'), text, [0, 64, 0]);
  expect([...pasted.doc.brushes.values()].map((b) => brushBounds(b))).toEqual([
    { min: [0, 64, 0], max: [64, 96, 128] },
  ]);
  expect([...pasted.doc.entities.values()][0]).toMatchObject({ kind: 'spawn', at: [10, 84, 30] });
  expect(pasted.picked.brushes.has('a')).toBe(false);
  expect(pasteText(doc, text, [0, 0, 0]).doc.brushes.size).toBe(3);
  for (const other of ['hello', '{"a":1}', '', text.replace('"loop":[3,2,1,0]', '"loop":[3,2,1]')]) {
    expect(() => pasteText(doc, other, [0, 0, 0])).toThrow(expect.objectContaining({ code: 'paste.notBrushes' }));
  }
});

test('any chain of commands keeps brushes valid, and taking every step back gives the first document', () => {
  const step = fc.oneof(
    fc.tuple(fc.constant('move' as const), fc.integer({ min: -64, max: 64 }), fc.integer({ min: -64, max: 64 })),
    fc.tuple(fc.constant('turn' as const), fc.integer({ min: 0, max: 2 }), fc.constantFrom(90, 180, 45)),
    fc.tuple(fc.constant('mirror' as const), fc.integer({ min: 0, max: 2 }), fc.integer({ min: -64, max: 64 })),
    fc.tuple(fc.constant('resize' as const), fc.integer({ min: 8, max: 256 }), fc.integer({ min: 8, max: 256 })),
  );
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 10 }), (steps) => {
      const first = addBrushes(emptyMap('t'), [
        box('a'),
        dressSolid(wedgeSolid({ min: [0, 0, 0], max: [64, 64, 64] }, 'east'), 'w', 'm'),
        dressSolid(prismSolid({ min: [0, 0, 0], max: [64, 64, 64] }, 7), 'p', 'm'),
      ]);
      const picked = { brushes: new Set(['a', 'w', 'p']) };
      let doc = first;
      const changes = steps.map(([kind, x, y]) => {
        const before = doc;
        if (kind === 'move') doc = movePicked(doc, picked, [x, y, x - y]);
        else if (kind === 'turn') doc = transformPicked(doc, picked, rotation(x as 0, y, [8, 8, 8]));
        else if (kind === 'mirror') doc = transformPicked(doc, picked, mirror(x as 0, y));
        else doc = resizePicked(doc, picked, { min: [0, 0, 0], max: [x, y, x] });
        return diffDocuments(before, doc, kind);
      });
      for (const b of doc.brushes.values()) expect(findFlaw(solidOf(b))).toBeNull();
      const last = writeMap(doc);
      for (const c of changes.toReversed()) doc = applyChange(doc, c, 'before');
      expect(writeMap(doc)).toBe(writeMap(first));
      for (const c of changes) doc = applyChange(doc, c, 'after');
      expect(writeMap(doc)).toBe(last);
    }),
    { numRuns: 100 },
  );
});

test('a change knows what was added, removed and renamed; nothing done is no change', () => {
  const before = start();
  const after = renameMap(removePicked(addBrushes(before, [box('c')]), A), 'Other');
  const change = diffDocuments(before, after, 'many');
  expect(change.items.map((i) => [i.id, i.before !== undefined, i.after !== undefined])).toEqual([
    ['a', true, false],
    ['c', false, true],
  ]);
  expect(applyChange(after, change, 'before').name).toBe('t');
  expect(isEmptyChange(diffDocuments(before, before, ''))).toBe(true);
});

test('painting, flags and frames change the faces named and no others', () => {
  const doc = setShow(paintFaces(start(), [{ brush: 'a', face: 2 }], 'slate'), [{ brush: 'a', face: 3 }], 'unseen');
  expect(doc.brushes.get('a')!.faces.map((f) => [f.material, f.show])).toEqual([
    ['limewash', undefined],
    ['slate', undefined],
    ['limewash', 'unseen'],
    ['limewash', undefined],
    ['limewash', undefined],
    ['limewash', undefined],
  ]);
  expect(setShow(doc, [{ brush: 'a', face: 3 }], null).brushes.get('a')!.faces[2]!.show).toBeUndefined();
  expect(allFaces(doc, ['a', 'b'])).toHaveLength(12);
  expect(() => setFrames(doc, [{ brush: 'a', face: 1 }], () => ({ u: [0, 0, 0, 0], v: [0, 1, 0, 0] }))).toThrow(
    expect.objectContaining({ code: 'frame.flat' }),
  );
});

test('roles and settings are set, and nonsense is refused by code', () => {
  expect(setRole(start(), new Set(['a']), 'clip').brushes.get('a')!.role).toBe('clip');
  const refusals: [string, () => unknown][] = [
    ['brush.sameId', () => addBrushes(start(), [box('a')])],
    ['brush.role', () => setRole(start(), new Set(['a']), 'teapot' as never)],
    ['move.notFinite', () => movePicked(start(), A, [NaN, 0, 0])],
    ['brush.outOfWorld', () => movePicked(start(), A, [1e7, 0, 0])],
    ['resize.empty', () => resizePicked(start(), A, { min: [0, 0, 0], max: [0, 10, 10] })],
    ['resize.empty', () => resizePicked(start(), A, { min: [0, 0, 0], max: [-5, 10, 10] })],
    ['material.name', () => paintFaces(start(), [{ brush: 'a', face: 1 }], 'a b/../c')],
    ['face.unknown', () => paintFaces(start(), [{ brush: 'gone', face: 1 }], 'slate')],
    ['entity.kind', () => placeEntity(start(), 'teapot', [0, 0, 0])],
    ['entity.place', () => placeEntity(start(), 'spawn', [0, Infinity, 0])],
    [
      'entity.param',
      () => changeEntity(placeEntity(start(), 'pointLight', [0, 0, 0], 0, 'l'), 'l', { params: { candela: -1 } }),
    ],
    [
      'entity.param',
      () => changeEntity(placeEntity(start(), 'pointLight', [0, 0, 0], 0, 'l'), 'l', { params: { color: 'red' } }),
    ],
    ['settings.grid', () => changeSettings(start(), { grid: 0 })],
    ['settings.texelsPerCm', () => changeSettings(start(), { texelsPerCm: 0 })],
    ['settings.ambientLux', () => changeSettings(start(), { ambientLux: -1 })],
    ['settings.skyColor', () => changeSettings(start(), { skyColor: 'blue' })],
    ['map.name', () => renameMap(start(), '   ')],
  ];
  for (const [code, command] of refusals) expect(command).toThrow(expect.objectContaining({ code }));
});

describe('groups', () => {
  const stair = (): MapDocument =>
    addShape(
      emptyMap('t'),
      { kind: 'stair', box: { min: [0, 0, 0], max: [128, 256, 160] }, params: {} },
      { material: 'oak' },
      { group: 'stair', brush: (i) => `step${i}` },
    );
  const all = (doc: MapDocument) => ({ brushes: new Set(doc.brushes.keys()) });
  /** The copy of the stair is one whose numbers can still be changed. */
  const expectLive = (doc: MapDocument, picked: { readonly brushes: ReadonlySet<string> }) => {
    const groups = new Set([...picked.brushes].map((id) => doc.brushes.get(id)!.group));
    expect(groups.size).toBe(1);
    const [group] = groups;
    expect(group).not.toBe('stair');
    const before = pickedBounds(doc, picked)!;
    const changed = changeShape(doc, group!, { params: { steps: 3 } });
    const steps = membersOf(changed, group!).brushes;
    expect(steps).toHaveLength(3);
    const after = pickedBounds(changed, { brushes: new Set(steps) })!;
    [...after.min, ...after.max].forEach((c, i) => expect(c).toBeCloseTo([...before.min, ...before.max][i]!, 6));
    expect(membersOf(changed, 'stair').brushes).toHaveLength(8);
  };

  test('are copied whole, numbers included: duplicate, paste, repeat, mirror, replace', () => {
    const doc = stair();
    const duplicate = duplicatePicked(doc, all(doc), [500, 0, 0]);
    expectLive(duplicate.doc, duplicate.picked);
    const pasted = pasteText(doc, copyPicked(doc, all(doc)), [500, 0, 0]);
    expectLive(pasted.doc, pasted.picked);
    const repeated = repeatAround(doc, all(doc), 1, 2, [300, 300, 0], 90);
    expectLive(repeated.doc, { brushes: new Set([...repeated.picked.brushes].filter((id) => !doc.brushes.has(id))) });
    const mirrored = duplicatePicked(doc, all(doc), [0, 0, 0]);
    expectLive(transformPicked(mirrored.doc, mirrored.picked, mirror(0, 200)), mirrored.picked);
    const target = addBrushes(doc, [box('target', [800, 0, 0])]);
    const replaced = replaceWith(target, { brushes: new Set(['target']) }, all(doc).brushes);
    expectLive(replaced.doc, replaced.picked);
    expect(replaced.doc.brushes.has('target')).toBe(false);
  });

  test('of which only a part is copied are left', () => {
    const doc = stair();
    const part = duplicatePicked(doc, { brushes: new Set(['step0', 'step1']) }, [500, 0, 0]);
    for (const id of part.picked.brushes) expect(part.doc.brushes.get(id)!.group).toBeUndefined();
    expect(part.doc.groups.size).toBe(1);
    const text = copyPicked(doc, { brushes: new Set(['step0']) });
    expect(pasteText(emptyMap('o'), text, [0, 0, 0]).doc.groups.size).toBe(0);
  });

  test('in groups stay groups when the outer one ends, however deep', () => {
    let doc = addBrushes(stair(), [box('a', [500, 0, 0]), box('b', [700, 0, 0])]);
    doc = groupPicked(doc, { brushes: new Set([...membersOf(doc, 'stair').brushes, 'a']) }, 'inner', 'inner');
    doc = groupPicked(doc, all(doc), 'outer', 'outer');
    expect(rootGroup(doc, doc.brushes.get('step0')!.group)).toBe('outer');
    expect(membersOf(doc, 'outer').brushes).toHaveLength(10);
    expect(doc.groups.get('stair')!.shape).toBeDefined();
    const once = ungroup(doc, new Set(['outer']));
    expect(once.brushes.get('b')!.group).toBeUndefined();
    expect(membersOf(once, 'inner').brushes).toHaveLength(9);
    const twice = ungroup(once, new Set(['inner']));
    expect(twice.brushes.get('a')!.group).toBeUndefined();
    expect(membersOf(twice, 'stair').brushes).toHaveLength(8);
    // The middle one alone: what was in it belongs to the outer one.
    const middle = ungroup(doc, new Set(['inner']));
    expect(middle.brushes.get('a')!.group).toBe('outer');
    expect(middle.groups.get('stair')!.parent).toBe('outer');
    const copy = duplicatePicked(doc, all(doc), [0, 900, 0]);
    expect(copy.doc.groups.size).toBe(6);
    expect(parseMap(writeMap(copy.doc)).groups.size).toBe(6);
    expect(removePicked(copy.doc, copy.picked).groups.size).toBe(3);
  });
});
