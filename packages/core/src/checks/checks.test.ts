import { boxSolid, type Brush } from '../brush/index.ts';
import {
  addWire,
  addBrushes,
  addLayer,
  addRoom,
  alignFaces,
  changeEntity,
  changeLayer,
  changeOpening,
  changeRoom,
  findFaces,
  moveToLayer,
  openDoorway,
  paintFaces,
  placeEntity,
  removePicked,
  setFrames,
  setRole,
  setShow,
  type FaceRef,
} from '../edit/index.ts';
import { buildStructure, placesOf, seedsOf } from '../compile/index.ts';
import { bodyIn } from '../play/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import type { Box } from '../math/index.ts';
import { dressSolid, texelAt, type MaterialFacts } from '../surface/index.ts';
import { oneRoom } from '../testing/rooms.ts';
import { fixLabels, fixFinding, runChecks, type CheckContext } from './index.ts';

const box = (id: string, b: Box, material = 'limewash') => dressSolid(boxSolid(b), id, material, { role: 'detail' });
const lit = (): MapDocument =>
  placeEntity(placeEntity(oneRoom(), 'spawn', [100, 100, 0], 0, 's'), 'pointLight', [100, 100, 200], 0, 'l');
const rules = (doc: MapDocument, context: CheckContext = {}) => runChecks(doc, context).map((p) => p.code);

/** Every fix of a problem makes it go away and brings no new one. */
function expectFixed(doc: MapDocument, context: CheckContext = {}): MapDocument {
  const [problem] = runChecks(doc, context);
  expect(fixLabels(doc, problem!)).not.toEqual([]);
  const fixed = fixFinding(doc, problem!, context);
  expect(runChecks(fixed, context)).toEqual([]);
  return fixed;
}

test('a lit room with a spawn has no problems', () => {
  expect(runChecks(lit())).toEqual([]);
});

test('an empty map lacks a spawn; a room without light says so', () => {
  expect(rules(emptyMap('t'))).toEqual(['check.noSpawn']);
  expect(rules(oneRoom())).toEqual(['check.noSpawn', 'check.noLight']);
});

test('a face that glows is light as well', () => {
  const glows = (name: string) =>
    ({
      name,
      width: 512,
      height: 512,
      texelsPerCm: 2,
      solidity: 'solid',
      ...(name === 'slate' ? { glow: 10 } : {}),
    }) as const;
  const found = (materials?: typeof glows) =>
    runChecks(oneRoom(), { materials }).some((f) => f.code === 'check.noLight');
  expect([found(), found(glows)]).toEqual([true, false]);
});

test('a spawn inside a solid is found and put on top of it', () => {
  const doc = addBrushes(lit(), [box('crate', { min: [64, 64, 0], max: [160, 160, 80] })]);
  expect(rules(doc)).toEqual(['check.spawnPlace']);
  expect(expectFixed(doc).entities.get('s')!.at).toEqual([100, 100, 80]);
});

test('a spawn in the void is found and removed', () => {
  const context: CheckContext = { placeOf: (p) => (p[0] < 0 ? 'void' : 'open') };
  const doc = placeEntity(lit(), 'spawn', [-500, 0, 0], 0, 'lost');
  expect(rules(doc, context)).toEqual(['check.spawnPlace']);
  expect(expectFixed(doc, context).entities.has('lost')).toBe(false);
});

test('a brush too small to see is found and removed', () => {
  const doc = addBrushes(lit(), [box('crumb', { min: [200, 200, 10], max: [201, 201, 11] })]);
  expect(rules(doc)).toEqual(['check.tinyBrush']);
  expectFixed(doc);
});

test('corners between centimetres are found and moved onto them', () => {
  const doc = addBrushes(lit(), [box('odd', { min: [200, 200, 0.25], max: [264, 264, 63.5] })]);
  expect(rules(doc)).toEqual(['check.offGrid']);
  expectFixed(doc);
});

test('faces with different looks in one plane are found, unless hidden or alike', () => {
  const one = box('one', { min: [200, 200, 0], max: [264, 264, 64] });
  const overlapping = addBrushes(lit(), [one, box('two', { min: [230, 200, 0], max: [300, 264, 64] }, 'slate')]);
  expect(new Set(rules(overlapping))).toEqual(new Set(['check.coplanar']));
  // Top, south and north, and the floor side that nobody can see from above counts too without a structure.
  expect(rules(overlapping)).toHaveLength(4);
  const alike = addBrushes(lit(), [one, box('two', { min: [230, 200, 0], max: [300, 264, 64] })]);
  expect(rules(alike)).toEqual([]);
  const beside = addBrushes(lit(), [one, box('two', { min: [264, 200, 0], max: [300, 264, 64] }, 'slate')]);
  expect(rules(beside)).toEqual([]);
  let fixed = overlapping;
  for (let problem = runChecks(fixed)[0]; problem; problem = runChecks(fixed)[0]) fixed = fixFinding(fixed, problem);
  expect(runChecks(fixed)).toEqual([]);
});

describe('ways through', () => {
  const DRESS = { floor: 'slate', wall: 'limewash', ceiling: 'oak-plank' };
  const spec = (x: number) => ({
    footprint: [
      [x, 0],
      [x + 400, 0],
      [x + 400, 400],
      [x, 400],
    ] as const,
    floor: 0,
    ceiling: 272,
    wall: 16,
  });
  /** Two rooms side by side with a doorway of a size between them. */
  const joined = (width: number, height: number, sill = 0): MapDocument => {
    const rooms = addRoom(addRoom(emptyMap('t'), spec(0), DRESS, 'a'), spec(416), DRESS, 'b');
    const doc = openDoorway(rooms, 'a', 'b', { width, height, sill }, 'o');
    return placeEntity(placeEntity(doc, 'spawn', [100, 100, 0], 0, 's'), 'pointLight', [100, 100, 200], 0, 'l');
  };
  const context = (doc: MapDocument): CheckContext => {
    const structure = buildStructure(doc.brushes.values(), seedsOf(doc));
    return { placeOf: placesOf(structure), body: bodyIn(doc) };
  };
  const found = (doc: MapDocument) => runChecks(doc, context(doc)).map((p) => [p.code, p.text] as const);

  test.each<[string, number, number, number, string[]]>([
    ['wide and high enough', 44, 180, 0, []],
    ['exactly as wide and high as the player', 40, 176, 0, []],
    ['too narrow', 36, 208, 0, ['check.narrow']],
    ['only to crouch through', 112, 150, 0, ['check.lowOpening']],
    ['too low even to crouch', 112, 96, 0, ['check.lowOpening']],
    ['both', 36, 150, 0, ['check.lowOpening', 'check.narrow']],
    ['a window, which nobody walks through', 36, 96, 96, []],
    ['a slit that nobody would try', 8, 208, 0, []],
  ])('a doorway that is %s', (_, width, height, sill, wanted) =>
    expect(found(joined(width, height, sill)).map(([rule]) => rule)).toEqual(wanted),
  );

  test('the report says how wide or high it is, what is needed, and where', () => {
    const [narrow] = runChecks(joined(36, 208), context(joined(36, 208)));
    expect(narrow!.text).toMatch(/36 cm wide; a player needs 40/);
    expect(narrow!.at![0]).toBeGreaterThan(399);
    expect(narrow!.at![0]).toBeLessThan(417);
    expect(narrow!.at!.slice(1)).toEqual([200, expect.closeTo(0, 1)]);
    const sentences = [150, 96].map((height) => found(joined(112, height))[0]![1]);
    expect(sentences[0]).toBe(
      'The doorway from Room 1 to Room 2 is 150 cm high: a player gets through it only crouching; upright takes 176. Make it higher.',
    );
    expect(sentences[1]).toMatch(/96 cm high: even a crouching player needs \d+\. Make it higher\.$/);
  });

  test('a beam over a wide doorway is a low passage, with the same words', () => {
    // Not the opening is low, but what was hung into it.
    const beam = box('beam', { min: [400, 140, 150], max: [416, 260, 208] });
    const doc = addBrushes(joined(112, 208), [{ ...beam, role: 'structure' }]);
    expect(found(doc).filter(([rule]) => rule === 'check.low')).toEqual([
      ['check.low', expect.stringMatching(/150 cm high.*only crouching/)],
    ]);
  });

  test('a low doorway is made high enough, or as high as its rooms are; arches are, windows are not told of', () => {
    const fixed = (doc: MapDocument) => {
      const problem = runChecks(doc, context(doc)).find((p) => p.code === 'check.lowOpening')!;
      return fixFinding(doc, problem, context(doc));
    };
    const higher = fixed(joined(112, 150));
    expect(higher.openings.get('o')!.height).toBe(184);
    expect(found(higher)).toEqual([]);
    const low = changeRoom(joined(112, 150), 'b', { ceiling: 170 });
    expect(fixed(low).openings.get('o')!.height).toBe(170);
    const kind = (k: 'arch' | 'window') => {
      const doc = joined(112, 150);
      return changeOpening(doc, 'o', { kind: k });
    };
    expect(found(kind('arch')).map(([rule, text]) => [rule, /^The arch/.test(text)])).toEqual([
      ['check.lowOpening', true],
    ]);
    expect(found(kind('window')).filter(([rule]) => rule === 'check.lowOpening')).toEqual([]);
  });
});

test('a brush wholly inside another is found and removed; structure inside detail seals and stays', () => {
  const outer = box('outer', { min: [200, 200, 0], max: [300, 300, 100] });
  const inner = box('inner', { min: [220, 220, 20], max: [260, 260, 60] });
  const doc = addBrushes(lit(), [outer, inner]);
  expect(rules(doc)).toEqual(['check.buried']);
  expect([...expectFixed(doc).brushes.keys()]).toContain('outer');
  expect(rules(addBrushes(lit(), [outer, { ...inner, role: 'structure' }]))).toEqual([]);
  const peeping = box('inner', { min: [220, 220, 20], max: [260, 260, 101] });
  expect(rules(addBrushes(lit(), [outer, peeping]))).toEqual([]);
  // Of two copies in one place one is kept.
  const twin = addBrushes(lit(), [outer, { ...outer, id: 'twin' }]);
  expect(rules(twin)).toEqual(['check.buried']);
  expect(expectFixed(twin).brushes.has('outer')).toBe(true);
});

test('a brush that was released from its room is found in a wall of another; walls that rooms made are not', () => {
  const wall = {
    ...box('wall', { min: [200, 200, 0], max: [300, 300, 100] }),
    room: { id: 'r', part: { kind: 'wall', side: 0, piece: 0 } as const },
  };
  const inner = (released: boolean, id: string) => ({
    ...box(id, { min: [220, 220, 20], max: [260, 260, 60] }),
    room: { id: 's', part: { kind: 'wall', side: 0, piece: 0 } as const, ...(released && { released }) },
  });
  const found = (...brushes: Brush[]) =>
    runChecks(addBrushes(emptyMap('Walls'), brushes)).flatMap((f) => (f.code === 'check.buried' ? [f.brushes] : []));
  for (const id of ['a', 'z']) {
    for (const list of [
      [wall, inner(true, id)],
      [inner(true, id), wall],
    ])
      expect(found(...list)).toEqual([[id, 'wall']]);
    for (const list of [
      [wall, inner(false, id)],
      [inner(false, id), wall],
    ])
      expect(found(...list)).toEqual([]);
  }
});

test('a selection on a locked or hidden layer is pointed out, and freed', () => {
  const crate = box('crate', { min: [200, 200, 0], max: [264, 264, 64] });
  const doc = moveToLayer(addLayer(addBrushes(lit(), [crate]), 'Stores', 'L'), { brushes: new Set(['crate']) }, 'L');
  const selected = new Set(['crate', 'l']);
  expect(rules(doc, { selected })).toEqual([]);
  for (const change of [{ locked: true }, { visible: false }]) {
    const off = changeLayer(doc, 'L', change);
    expect(rules(off)).toEqual([]);
    expect(rules(off, { selected })).toEqual(['check.unseenSelection']);
    expect(expectFixed(off, { selected }).layers.get('L')).toMatchObject({ visible: true, locked: false });
  }
});

describe('surfaces', () => {
  const known: MaterialFacts[] = [
    { name: 'limewash', width: 512, height: 512, texelsPerCm: 2, solidity: 'solid' },
    { name: 'slate', width: 512, height: 512, texelsPerCm: 2, solidity: 'solid' },
    { name: 'blank', width: 512, height: 512, texelsPerCm: 2, solidity: 'solid', tool: 'placeholder' },
    { name: 'net', width: 512, height: 512, texelsPerCm: 2, solidity: 'cutOut' },
  ];
  const materials = (name: string) => known.find((m) => m.name === name);
  const painted = (): MapDocument => {
    const doc = lit();
    const brushes = [...doc.brushes.values()].map((b) => ({
      ...b,
      faces: b.faces.map((f) => ({ ...f, material: 'slate' })),
    }));
    return { ...doc, brushes: new Map(brushes.map((b) => [b.id, b])) };
  };
  /** A crate that stands in the room, and its top. */
  const crate = (material = 'limewash'): MapDocument =>
    addBrushes(painted(), [box('crate', { min: [160, 160, 0], max: [224, 224, 64] }, material)]);
  const top: FaceRef = (() => {
    const f = findFaces(
      crate(),
      crate()
        .brushes.get('crate')!
        .faces.map((x) => ({ brush: 'crate', face: x.id })),
    ).find((x) => x.plane.normal[2] === 1)!;
    return f.ref;
  })();
  const context = (doc: MapDocument): CheckContext => ({
    placeOf: placesOf(buildStructure(doc.brushes.values(), seedsOf(doc))),
    materials,
  });
  const found = (doc: MapDocument) => runChecks(doc, context(doc));

  test('nothing is found where all is as it should be', () => {
    expect(found(crate())).toEqual([]);
  });
  test.each([
    ['check.density', 5],
    ['check.density', 0.3],
  ])('%s: a face laid %f times as dense is found and laid at natural size', (rule, factor) => {
    const doc = setFrames(crate(), [top], (f) => ({
      u: f.frame.u.map((c) => c * factor) as never,
      v: f.frame.v.map((c) => c * factor) as never,
    }));
    expect(found(doc)).toEqual([expect.objectContaining({ code: rule, faces: [top] })]);
    expect(found(fixFinding(doc, found(doc)[0]!, context(doc)))).toEqual([]);
  });
  test('the map’s own wish is what density is measured by', () => {
    const doc = crate();
    const coarse = { ...doc, settings: { ...doc.settings, texelsPerCm: 0.5 } };
    expect(new Set(found(coarse).map((p) => p.code))).toEqual(new Set(['check.density']));
  });
  test('a face stretched one way is found', () => {
    const doc = setFrames(crate(), [top], (f) => ({
      u: f.frame.u.map((c) => c * 1.3) as never,
      v: f.frame.v.map((c) => c / 1.3) as never,
    }));
    expect(found(doc).map((p) => p.code)).toEqual(['check.stretched']);
    expect(found(fixFinding(doc, found(doc)[0]!, context(doc)))).toEqual([]);
  });
  test.each([
    ['blank', 'check.placeholder'],
    ['lost', 'check.missingMaterial'],
  ])('%s on a face is found and gets what is round it', (material, rule) => {
    const doc = paintFaces(crate(), [top], material);
    expect(found(doc)).toEqual([expect.objectContaining({ code: rule, faces: [top] })]);
    const fixed = fixFinding(doc, found(doc)[0]!, context(doc));
    expect(findFaces(fixed, [top])[0]!.face.material).toBe('limewash');
  });
  test('one can see through a net, so structure of it is found and made detail', () => {
    const doc = setRole(crate('net'), new Set(['crate']), 'structure');
    expect(found(doc).map((p) => p.code)).toEqual(['check.cutOutSeals']);
    expect(fixFinding(doc, found(doc)[0]!, context(doc)).brushes.get('crate')!.role).toBe('detail');
  });
  test('an unseen face in view is found, one on the floor’s underside and a thin rim are not', () => {
    const doc = setShow(crate(), [top], 'unseen');
    expect(found(doc).map((p) => p.code)).toEqual(['check.unseenInView']);
    expect(found(fixFinding(doc, found(doc)[0]!, context(doc)))).toEqual([]);
    const leaf = box('leaf', { min: [240, 160, 0], max: [241, 224, 64] });
    const rim = findFaces(
      addBrushes(crate(), [leaf]),
      leaf.faces.map((f) => ({ brush: 'leaf', face: f.id })),
    ).filter((f) => f.plane.normal[0] === 0);
    expect(
      found(
        setShow(
          addBrushes(crate(), [leaf]),
          rim.map((f) => f.ref),
          'unseen',
        ),
      ),
    ).toEqual([]);
  });
  test('a seam between flush faces is found, whole repeats are none, and the fix makes them go on', () => {
    const beside = box('beside', { min: [224, 160, 0], max: [288, 224, 64] });
    const doc = addBrushes(crate(), [beside]);
    expect(found(doc)).toEqual([]);
    const there = { ...top, brush: 'beside' };
    const shifted = (by: number) =>
      alignFaces(doc, [there], { do: 'nudge', across: by, down: 0 }, { facts: materials });
    expect(found(shifted(1024))).toEqual([]);
    const torn = shifted(100);
    expect(found(torn)).toEqual([
      expect.objectContaining({ code: 'check.seam', faces: expect.arrayContaining([top, there]) }),
    ]);
    const fixed = fixFinding(torn, found(torn)[0]!, context(torn));
    expect(found(fixed)).toEqual([]);
    const [a, b] = findFaces(fixed, [top, there]);
    expect(texelAt(a!.frame, [224, 180, 64])[0] - texelAt(b!.frame, [224, 180, 64])[0]).toBeCloseTo(0, 9);
  });
});

test('a lamp that is dark at first and that no wire lights says so, and is lit by the fix', () => {
  const of = (doc: MapDocument) => runChecks(doc).filter((f) => f.code === 'check.neverLit');
  const dark = changeEntity(lit(), 'l', { params: { lit: false } });

  const [found] = of(dark);
  expect(found!.text).toContain('no wire lights it');
  expect(of(fixFinding(dark, found!))).toEqual([]);
  const wired = placeEntity(dark, 'zone', [0, 0, 0], 0, 'z');
  expect(of(addWire(wired, { from: { thing: 'z', signal: 'entered' }, to: { thing: 'l', action: 'on' } }))).toEqual([]);
});

test('lights of no strength and of too much are found and given the usual one; a bright sky is light enough', () => {
  const of = (doc: MapDocument, code = 'check.lightStrength') => runChecks(doc).filter((f) => f.code === code);
  expect(of(lit())).toEqual([]);
  for (const [candela, says] of [
    [0, 'no strength'],
    [900_000, '900,000'],
  ] as const) {
    const odd = changeEntity(lit(), 'l', { params: { candela } });
    const [found] = of(odd);
    expect(found!.text).toContain(says);
    const fixed = fixFinding(odd, found!);
    expect(of(fixed)).toEqual([]);
    expect(fixed.entities.get('l')!.params).not.toHaveProperty('candela');
  }
  const dark = removePicked(lit(), { entities: new Set(['l']) });
  expect(of(dark, 'check.noLight')).toHaveLength(1);
  const [brush] = dark.brushes.values();
  const sky = { ...brush!, faces: brush!.faces.map((f) => ({ ...f, show: 'sky' as const })) };
  const open = { ...dark, brushes: new Map(dark.brushes).set(sky.id, sky) };
  expect(of(open, 'check.noLight')).toHaveLength(1);
  expect(of({ ...open, settings: { ...open.settings, skyNits: 30 } }, 'check.noLight')).toEqual([]);
});
