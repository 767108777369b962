import fc from 'fast-check';
import type { Brush } from '../brush/index.ts';
import { EditError, isPatch } from '../edit/index.ts';
import { RULES } from '../checks/index.ts';
import { decalOf, modelOf, reflects, strengthOf } from '../entity/index.ts';
import type { Vec3 } from '../math/index.ts';
import { emptyMap, parseMap, writeMap, type MapDocument } from '../map/index.ts';
import { boxProp } from '../testing/props.ts';
import { DRESS, rectangle } from '../testing/rooms.ts';
import {
  call,
  COMMANDS,
  doCommand,
  isRefusal,
  labelOf,
  parseScript,
  runScript,
  writeScript,
  type Call,
  type ScriptCall,
} from './index.ts';

const context = {
  materials: (name: string) => ({
    name,
    width: 512,
    height: 512,
    texelsPerCm: 2,
    solidity: name === 'reed' ? ('cutOut' as const) : ('solid' as const),
  }),
  props: (name: string) =>
    boxProp(name, [-10, -10, 0], [10, 10, 20], {
      label: 'Box',
      lights: [{ at: [0, 0, 30], candela: 5, kelvin: 2000 }],
    }),
};

/** A map made by commands alone, and what they made. */
const building: readonly ScriptCall[] = [
  {
    ...call('room.add', {
      footprint: rectangle(0, 0, 512, 384),
      floor: 0,
      ceiling: 272,
      wall: 16,
      dress: DRESS,
      name: 'Hall',
    }),
    seed: 'a',
  },
  {
    ...call('room.add', { footprint: rectangle(528, 0, 384, 384), floor: 0, ceiling: 272, wall: 16, dress: DRESS }),
    seed: 'b',
  },
  {
    ...call('brush.draw', {
      shape: { kind: 'stair', box: { min: [64, 64, 0], max: [192, 128, 96] }, params: {} },
      material: 'oak-plank',
      role: 'detail',
    }),
    seed: 'c',
  },
  {
    ...call('brush.draw', {
      shape: { kind: 'box', box: { min: [300, 64, 0], max: [364, 128, 64] }, params: {} },
      material: 'slate',
    }),
    seed: 'd',
  },
  {
    ...call('brush.draw', {
      shape: { kind: 'box', box: { min: [340, 100, 32], max: [404, 164, 96] }, params: {} },
      material: 'slate',
    }),
    seed: 'j',
  },
  { ...call('thing.place', { kind: 'spawn', at: [100, 200, 0] }), seed: 'e' },
  { ...call('thing.place', { kind: 'pointLight', at: [200, 200, 200], turn: 90 }), seed: 'f' },
  { ...call('layer.add', { name: 'Stores' }), seed: 'g' },
  { ...call('storey.add', { name: 'Upper', floor: 288, cut: 110 }), seed: 'h' },
  {
    ...call('view.save', {
      name: 'V',
      centre: [0, 0, 0],
      zoom: 1,
      level: 0,
      cutHeight: 110,
      section: { at: [0, 0], looks: 90 },
    }),
    seed: 'i',
  },
  { ...call('mood.save', { name: 'Noon' }), seed: 'k' },
  {
    ...call('decal.place', { decals: [{ material: 'slate', at: [0, 200, 60], normal: [1, 0, 0], scale: 0.5 }] }),
    seed: 'q',
  },
  {
    ...call('prop.place', { props: [{ model: 'box', at: [60, 60, 0], turn: 30, up: [0, 0, 1], scale: 2 }] }),
    seed: 'p',
  },
];
const built = (): MapDocument => runScript(emptyMap('Made'), building, context).doc;

/** The same with a footprint, an opening, and a brush that was released from its room. */
function furnished(): MapDocument {
  const doc = built();
  const [hall, store] = [...doc.rooms.keys()] as [string, string];
  const ceiling = [...doc.brushes.values()].find((b) => b.room?.id === store && b.room.part.kind === 'ceiling')!;
  const more = [
    call('inset.add', { room: hall, footprint: rectangle(400, 300, 64, 64), height: -40, fill: 8 }),
    call('opening.between', { rooms: [hall, store], width: 112, height: 208, sill: 0 }),
    call('brush.role', { brushes: [ceiling.id], role: 'structure' }),
    call('thing.place', { kind: 'zone', at: [200, 200, 0] }),
    call('thing.place', { kind: 'lift', at: [300, 300, 0] }),
    call('thing.place', { kind: 'reflectionProbe', at: [700, 200, 160] }),
  ];
  const made = runScript(doc, more, context).doc;
  const [zone, lift] = ['zone', 'lift'].map((kind) => [...made.entities.values()].find((e) => e.kind === kind)!.id);
  const wire = { from: { thing: zone!, signal: 'entered' }, to: { thing: lift!, action: 'next' } };
  // A door of two leaves on the table of the hall, and one of a single leaf.
  const panels = [0, 1, 2].map((k) => {
    const box = { min: [40 + k * 40, 40, 100], max: [72 + k * 40, 44, 180] } as const;
    return call('brush.draw', { shape: { kind: 'box', box, params: {} }, material: 'slate', role: 'detail' });
  });
  let out = runScript(made, [call('wire.add', wire)], context).doc;
  const ids = panels.map((panel) => {
    const drawn = doCommand(out, panel, context);
    out = drawn.doc;
    return [...drawn.made!.brushes!][0]!;
  });
  const doors = [ids.slice(0, 2), ids.slice(2)].map((brushes) => call('door.ofBrushes', { brushes, each: true }));
  // A patch on the floor of the hall, and a decal beside it.
  const laid = [120, 200].map((x) => ({ material: 'slate', at: [x, 200, 0], normal: [0, 0, 1], scale: 0.2 }) as const);
  const marked = doCommand(runScript(out, doors, context).doc, call('decal.place', { decals: laid }), context);
  return doCommand(marked.doc, call('decal.toPatch', { things: [...marked.made!.entities!].slice(0, 1) }), context).doc;
}

/** Every command once, with arguments that it takes in the map made above. */
function everyCall(doc: MapDocument): Call[] {
  const [hall, store] = [...doc.rooms.keys()] as [string, string];
  const loose = [...doc.brushes.values()].filter((b) => !b.room && !b.owner && !isPatch(b));
  const [box, crate] = loose.filter((b) => !b.group) as [Brush, Brush];
  const opening = [...doc.openings.keys()][0]!;
  const inset = doc.rooms.get(hall)!.insets![0]!.id;
  const [zone, lift] = ['zone', 'lift'].map((kind) => [...doc.entities.values()].find((e) => e.kind === kind));
  const leaves = (e: { params: object }) => (e.params as { leaves: unknown[] }).leaves.length;
  const doors = [...doc.entities.values()]
    .filter((e) => e.kind === 'door')
    .sort((x, y) => leaves(y) - leaves(x))
    .map((e) => e.id);
  const car = [...doc.brushes.values()].find((b) => b.owner?.id === lift!.id);
  const [wire] = [...doc.wires.keys()] as [string];
  const stair = loose.filter((b) => b.group);
  const [spawn, lamp] = [...doc.entities.values()].sort(
    (x, y) => Number(y.kind === 'spawn') - Number(x.kind === 'spawn'),
  );
  const [layer, storey, view, group, mood] = [doc.layers, doc.storeys, doc.views, doc.groups, doc.moods].map(
    (m) => [...m.keys()][0]!,
  ) as [string, string, string, string, string];
  const placed = [...doc.entities.values()].find((e) => modelOf(e));
  const decal = [...doc.entities.values()].find((e) => decalOf(e));
  const onFloor = [...doc.entities.values()].find((e) => decalOf(e) && e.at[2] === 0);
  const picked = { brushes: [box.id], entities: [lamp!.id] };
  const both = { brushes: loose.map((b) => b.id) };
  const brushes = [box.id];
  const face = { brush: box.id, face: box.faces[0]!.id };
  const faces = box.faces.map((f) => ({ brush: box.id, face: f.id }));
  const [from, ...others] = faces as [typeof face, ...typeof faces];
  const text = writeMap({ ...emptyMap('Copied'), brushes: new Map([[box.id, box]]) });
  return [
    call('pick.move', { picked, by: [16, 0, 0], carry: false }),
    call('pick.transform', { picked, map: [0, -1, 0, 400, 1, 0, 0, 0, 0, 0, 1, 0] }),
    call('pick.resize', { picked: { brushes }, to: { min: [300, 64, 0], max: [400, 128, 80] } }),
    call('pick.stretch', { brushes, to: { min: [300, 64, 0], max: [400, 128, 80] } }),
    call('pick.remove', { picked }),
    call('pick.duplicate', { picked, by: [0, 96, 0] }),
    call('pick.paste', { text, by: [0, 96, 0] }),
    call('assembly.place', { text, name: 'Nook', at: [96, 96, 0], turn: 90 }),
    call('pick.replace', { picked: { brushes: [stair[0]!.id] }, text }),
    call('pick.repeat', { picked, count: 2, step: [0, 80, 0] }),
    call('pick.repeatAround', { picked, count: 3, about: [256, 192, 0], degrees: 90 }),
    call('pick.align', { picked: both, axis: 1, to: 'low' }),
    call('pick.spread', { picked: both, axis: 0, contents: true }),
    call('pick.group', { picked }),
    call('pick.ungroup', { groups: [group] }),
    call('pick.layer', { picked, layer }),
    building[2]!,
    call('brush.changeShape', { group, params: { steps: 4 } }),
    call('brush.cut', { brushes, plane: { normal: [1, 0, 0], distance: 332 }, keep: 'both' }),
    call('brush.hint', { from: [256, 40, 0], to: [256, 340, 0], along: [0, 0, -1] }),
    call('brush.subtract', { brushes, from: [crate.id], keep: true }),
    call('brush.intersect', { brushes: [box.id, crate.id] }),
    call('brush.merge', { brushes: both.brushes, how: 'hull' }),
    call('brush.wrap', { brushes: both.brushes, things: [placed!.id] }),
    call('brush.shell', { brushes, thickness: 8, where: 'inside' }),
    call('brush.pull', { face, by: [0, 0, -32] }),
    call('brush.reshape', { moves: [{ brush: box.id, corners: [{ vertex: 6, to: [370, 130, 70] }] }] }),
    call('brush.snap', { brushes, step: 10 }),
    call('brush.repair', {}),
    call('brush.role', { brushes, role: 'clip' }),
    call('brush.passable', { brushes, passable: true }),
    call('brush.shadow', { brushes, casts: false }),
    call('brush.giveBack', { brushes: [...doc.brushes.values()].filter((b) => b.room?.released).map((b) => b.id) }),
    call('brush.sheet', { material: 'fern', at: [256, 256, 0], normal: [0, 0, 1] }),
    call('brush.cross', { brushes }),
    building[0]!,
    call('room.change', { room: hall, ceiling: 288 }),
    call('room.raise', { what: 'ceiling', by: 16, rooms: [hall] }),
    call('room.release', { room: hall }),
    call('room.giveAllBack', { room: hall }),
    call('inset.add', { room: hall, footprint: rectangle(400, 200, 64, 64), height: 32 }),
    call('inset.change', { room: hall, inset, height: -48, fill: null }),
    call('inset.remove', { room: hall, inset }),
    call('opening.between', { rooms: [hall, store], width: 48, height: 208, sill: 0, at: 40 }),
    call('opening.inWall', { room: hall, side: 0, width: 112, height: 112, sill: 64, kind: 'window' }),
    call('opening.change', { opening, at: 120 }),
    call('opening.remove', { openings: [opening] }),
    call('opening.meet', { opening }),
    call('opening.bridge', { opening }),
    call('opening.gate', { opening }),
    call('opening.fit', { opening }),
    call('face.paint', { faces, material: 'slate', bothSides: false }),
    call('face.align', { faces, align: { do: 'edge', side: 'left' } }),
    call('face.frames', { frames: [{ face, frame: { u: [1, 0, 0, 0], v: [0, -1, 0, 0] } }] }),
    call('face.flow', { from, faces: others }),
    call('face.copy', { from, faces: others }),
    call('face.mirror', { from, faces: others }),
    call('face.bothSides', { faces: [face] }),
    call('face.scatter', { faces, seed: 5 }),
    call('face.show', { faces, show: 'sky' }),
    call('face.mirrorStrength', { faces, mirror: 0.5 }),
    call('face.reflection', { faces, thing: [...doc.entities.values()].find(reflects)!.id }),
    call('reflection.rooms', {}),
    call('reflection.before', { faces }),
    call('face.grain', { faces, grain: 2 }),
    call('material.replace', { from: 'slate', to: 'limewash' }),
    building[5]!,
    call('thing.change', { things: [lamp!.id], turn: 45, name: 'Lamp', params: { candela: 50 } }),
    call('thing.put', { things: [lamp!.id, spawn!.id], axis: 0, to: 150 }),
    call('light.strengths', { strengths: { [lamp!.id]: 25 } }),
    call('mood.save', { name: 'Dusk' }),
    call('mood.take', { mood }),
    call('map.sky', { sky: 'dusk' }),
    call('mood.wire', { mood, from: { thing: zone!.id, signal: 'entered' } }),
    call('mood.remove', { mood }),
    call('map.rename', { name: 'Other' }),
    call('map.settings', { settings: { grid: 8, module: null } }),
    call('map.change', {
      changes: { items: [{ in: 'brushes', id: box.id, item: null }], name: 'N' },
      label: 'Restore',
    }),
    call('finding.fix', {
      finding: { id: 'x', code: 'check.tinyBrush', severity: 'warning', text: 'Small.', brushes },
    }),
    call('group.rename', { group, name: 'Steps' }),
    call('door.inOpening', { opening, leaves: 'two', thickness: 6, material: 'oak-plank' }),
    call('door.ofBrushes', { brushes, each: true }),
    call('door.stillShows', { thing: doors[0]!, part: 1, shows: 4 }),
    call('thing.separate', { thing: doors[0]! }),
    call('thing.join', { things: doors }),
    call('thing.ofBrushes', { kind: 'mover', brushes }),
    call('thing.give', { thing: lift!.id, brushes, props: [placed!.id] }),
    call('thing.free', { brushes: [car!.id] }),
    call('prop.place', { props: [{ model: 'crate', at: [60, 60, 0] }] }),
    call('billboard.place', { material: 'reed', at: [80, 60, 0], normal: [0, 0, 1], faces: 'crossed', turn: 30 }),
    call('prop.scatter', { faces, models: ['bush'], spacing: 20, seed: 3, spread: 0.2, aligned: true }),
    call('prop.strew', {
      dabs: [{ at: [200, 200, 0], normal: [0, 0, 1] }],
      radius: 60,
      models: ['box'],
      spacing: 20,
      seed: 3,
      density: 0.5,
    }),
    call('prop.replace', { things: [spawn!.id, placed!.id], model: 'barrel' }),
    call('thing.become', { things: [zone!.id], kind: 'checkpoint' }),
    call('thing.copyParams', { from: spawn!.id, things: [lamp!.id] }),
    call('thing.ride', { things: [lamp!.id], carrier: lift!.id }),
    call('wire.add', { from: { thing: zone!.id, signal: 'left' }, to: { thing: lift!.id, action: 'goTo' }, value: 2 }),
    call('wire.change', { wire, delay: 2, times: 1 }),
    call('wire.remove', { wires: [wire] }),
    building[7]!,
    call('layer.change', { layer, visible: false }),
    call('layer.remove', { layer }),
    building[8]!,
    call('storey.change', { storey, name: 'Top' }),
    call('storey.remove', { storey }),
    building[9]!,
    call('view.remove', { view }),
    call('decal.place', { decals: [{ material: 'slate', at: [0, 100, 60], normal: [1, 0, 0], turn: 15 }] }),
    call('decal.lay', { things: [decal!.id], at: [0, 120, 60], normal: [1, 0, 0], depth: 40 }),
    call('decal.box', { things: [decal!.id], width: 40, turn: 30, flip: true }),
    call('decal.cut', {
      things: [decal!.id],
      outline: rectangle(0.1, 0.2, 0.5, 0.4),
      inks: [{ color: '#ff0000', opacity: 0.5 }],
    }),
    call('decal.toPatch', { things: [onFloor!.id] }),
    call('patch.toDecal', { brushes: [...doc.brushes.values()].filter(isPatch).map((b) => b.id) }),
    call('decal.target', { picked: { entities: [decal!.id], brushes: [crate.id] } }),
  ];
}

const doc = furnished();
const calls = everyCall(doc);
/** What that map refuses: its rooms touch already, and there is nothing to build a passage over. */
const REFUSED = ['opening.bridge'];

test('every command of the table is tried here', () => {
  expect(calls.map((c) => c.name).sort()).toEqual(Object.keys(COMMANDS).sort());
});

test.each(calls.map((c) => [c.name, c] as const))('%s does what it says to data, or says why not', (name, c) => {
  const plain = JSON.parse(JSON.stringify({ name, args: c.args })) as Call;
  expect(labelOf(plain)).toMatch(/^[A-Z]/);
  const before = writeMap(doc);
  if (REFUSED.includes(name)) {
    expect(() => doCommand(doc, plain, context)).toThrow(EditError);
    return;
  }
  const { doc: after, made } = doCommand(doc, plain, { ...context, seed: 's' });
  expect(writeMap(parseMap(writeMap(after)))).toBe(writeMap(after));
  for (const key of ['brushes', 'entities', 'rooms'] as const)
    for (const id of made?.[key] ?? []) expect(after[key].has(id)).toBe(true);
  // The same seed and arguments give the same map, and the one given stays as it was.
  expect(writeMap(doCommand(doc, plain, { ...context, seed: 's' }).doc)).toBe(writeMap(after));
  expect(writeMap(doc)).toBe(before);
});

describe('arguments', () => {
  const places = (value: unknown, way: (string | number)[] = []): (string | number)[][] =>
    typeof value === 'object' && value !== null
      ? Object.entries(value).flatMap(([key, v]) => [
          [...way, Array.isArray(value) ? Number(key) : key],
          ...places(v, [...way, Array.isArray(value) ? Number(key) : key]),
        ])
      : [];
  const odd = fc.constantFrom<unknown>(
    null,
    undefined,
    '',
    'x',
    'x'.repeat(300),
    -1,
    0,
    0.5,
    1e9,
    NaN,
    true,
    [],
    {},
    [1, 2],
    [1, 2, 3],
    [null],
    { do: 'spin' },
    '__proto__',
  );

  test('of any kind, at any place, are taken or refused in a sentence, and never crash a command', () => {
    let refused = 0;
    fc.assert(
      fc.property(fc.nat(calls.length - 1), fc.nat(), odd, (n, k, value) => {
        const { name, args } = structuredClone(calls[n]!) as { name: string; args: Record<string, unknown> };
        const ways = places(args);
        const way = ways[k % Math.max(1, ways.length)];
        if (!way) return;
        let at = args as Record<string | number, unknown>;
        for (const step of way.slice(0, -1)) at = at[step] as Record<string | number, unknown>;
        at[way.at(-1)!] = value;
        try {
          doCommand(doc, { name, args } as unknown as Call, { ...context, seed: 's' });
        } catch (error) {
          refused++;
          if (!isRefusal(error))
            throw new Error(`${name} ${JSON.stringify(args).slice(0, 300)} crashed`, { cause: error });
          expect(error.message).toMatch(/\.$/);
        }
      }),
      { numRuns: 1500 },
    );
    expect(refused).toBeGreaterThan(500);
  });

  test('that are too many, missing or of another kind are named with their place', () => {
    const bad = (args: unknown) => () => doCommand(doc, { name: 'pick.move', args } as never, context);
    expect(bad({ picked: {}, by: [0, 0, '1'] })).toThrow(/pick\.move.*by\[2\]/);
    expect(bad({ picked: {} })).toThrow(/At by/);
    expect(bad({ picked: {}, by: [0, 0, 0], far: 1 })).toThrow(/far/);
    expect(() => doCommand(doc, { name: 'toString', args: {} } as never, context)).toThrow(
      /no command called toString/,
    );
  });
});

test('fixes of every rule are done or refused, whatever a finding says it is about', () => {
  const lists = ['brushes', 'entities', 'rooms', 'openings'] as const;
  const ids = fc.constantFrom(...lists.flatMap((key) => [...doc[key].keys()]), 'gone');
  const faces = fc.constantFrom(
    { brush: 'gone', face: 0 },
    ...[...doc.brushes.values()].slice(0, 9).map((b) => ({ brush: b.id, face: b.faces[0]!.id })),
  );
  const about = fc.record(
    {
      brushes: fc.array(ids, { maxLength: 3 }),
      entities: fc.array(ids, { maxLength: 2 }),
      rooms: fc.array(ids, { maxLength: 2 }),
      openings: fc.array(ids, { maxLength: 2 }),
      faces: fc.array(faces, { minLength: 1, maxLength: 3 }),
      hole: fc.array(fc.constantFrom<Vec3>([0, 0, 0], [64, 0, 0], [64, 64, 0], [0, 0, 64]), { maxLength: 4 }),
    },
    { requiredKeys: [] },
  );
  const withFixes = RULES.filter((r) => r.fixes?.length);
  expect(withFixes.length).toBeGreaterThan(12);
  fc.assert(
    fc.property(fc.constantFrom(...withFixes), fc.nat(3), about, (rule, k, more) => {
      const fix = rule.fixes![k % rule.fixes!.length]!.label;
      const finding = { id: 'x', code: rule.code, severity: 'warning', text: 'x', ...more } as const;
      try {
        doCommand(doc, call('finding.fix', { finding, fix }), context);
      } catch (error) {
        if (!isRefusal(error)) throw new Error(`${rule.code} ${JSON.stringify(more)}`, { cause: error });
      }
    }),
    { numRuns: 1500 },
  );
});

describe('scripts', () => {
  test('are written and read again, one command a line', () => {
    const text = writeScript(building);
    expect(parseScript(text)).toEqual(building);
    expect(text.split('\n')).toHaveLength(building.length + 7);
    expect(parseScript(writeScript([]))).toEqual([]);
  });

  test('give the same map each time', () => {
    expect(writeMap(built())).toBe(writeMap(built()));
  });

  test('work again on the map they were recorded in: what they made anew is meant by later commands', () => {
    const first = building[3]!;
    const id = [...runScript(emptyMap('t'), [first], context).doc.brushes.keys()][0]!;
    const script: ScriptCall[] = [first, call('pick.move', { picked: { brushes: [id] }, by: [0, 0, 100] })];
    const once = runScript(emptyMap('t'), script, context).doc;
    const twice = runScript(once, script, context).doc;
    expect(twice.brushes.size).toBe(2);
    for (const b of twice.brushes.values()) expect(Math.min(...b.vertices.map((v) => v[2]))).toBe(100);
  });

  test('stop at the command that is refused, and say which', () => {
    const script = [
      building[0]!,
      call('brush.cut', { brushes: [], plane: { normal: [1, 0, 0], distance: 0 }, keep: 'both' }),
    ];
    expect(() => runScript(emptyMap('t'), script, context)).toThrow(
      expect.objectContaining({
        code: 'select.brushes',
        message: expect.stringMatching(/^Command 2, brush\.cut: /) as string,
      }),
    );
  });

  test.each([
    ['{"format":"yesca-commands"', 'script.notJson'],
    ['[]', 'script.notCommands'],
    ['null', 'script.notCommands'],
    ['{"format":"yesca-map","commands":[]}', 'script.notCommands'],
    ['{"format":"yesca-commands","version":9,"commands":[]}', 'script.version'],
    ['{"format":"yesca-commands","version":1,"commands":[{"name":"constructor","args":{}}]}', 'script.command'],
    ['{"format":"yesca-commands","version":1,"commands":[{"name":"pick.move"}]}', 'script.command'],
    ['{"format":"yesca-commands","version":1,"commands":[null]}', 'script.command'],
    ['{"format":"yesca-commands","version":1,"commands":[{"name":"pick.move","args":{},"seed":7}]}', 'script.command'],
  ])('that are none are refused: %s', (text, code) => {
    expect(() => parseScript(text)).toThrow(expect.objectContaining({ code }));
  });
});

test('lights are set to strengths of their own; what does not shine, is gone or would be no strength is refused and changes nothing', () => {
  const lamp = [...doc.entities.values()].find((e) => strengthOf(e) > 0)!;
  const spawn = [...doc.entities.values()].find((e) => e.kind === 'spawn')!;
  const set = (strengths: Record<string, number>) =>
    doCommand(doc, call('light.strengths', { strengths }), context).doc;
  expect(strengthOf(set({ [lamp.id]: 25 }).entities.get(lamp.id)!)).toBe(25);
  for (const [strengths, code] of [
    [{ [spawn.id]: 5 }, 'light.none'],
    [{ nobody: 5 }, 'entity.unknown'],
    [{ [lamp.id]: -1 }, 'entity.param'],
    [{ [lamp.id]: 1e12 }, 'entity.param'],
    [{ [lamp.id]: NaN }, 'command.args'],
  ] as const)
    expect(() => set(strengths)).toThrow(expect.objectContaining({ code }));
});
