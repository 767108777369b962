import fc from 'fast-check';
import { boxSolid, type Brush, type Solid } from '../../brush/index.ts';
import {
  addBrushes,
  addLayer,
  changeLayer,
  changeRoom,
  moveToLayer,
  movePicked,
  placeEntity,
} from '../../edit/index.ts';
import { ENTITY_KINDS } from '../../entity/index.ts';
import { aroundIn, emptyMap, type MapDocument } from '../../map/index.ts';
import { applyAffine, normalize, rotationAbout, type Vec3 } from '../../math/index.ts';
import { initialValues } from '../../params/index.ts';
import { dressSolid } from '../../surface/index.ts';
import { oracleSolid } from '../../testing/oracle.ts';
import { oneRoom, twoRooms } from '../../testing/rooms.ts';
import { svgElements } from '../symbol-svg.ts';
import { element } from '../svg.ts';
import { DRAWING_OPTIONS, drawingSvg, type DrawingOptions } from './drawing-svg.ts';
import type { DrawingOf } from './svg-frame.ts';
import { symbolOf } from './things.ts';
import { acrossOf, sectionView, upOf } from './view.ts';

const PLAN: DrawingOf = { kind: 'plan', height: 110 };
const known = () => undefined;
const draw = (doc: MapDocument, of: DrawingOf = PLAN, options: Partial<DrawingOptions> = {}) =>
  drawingSvg(doc, of, { ...initialValues(DRAWING_OPTIONS), ...options }, known, known);
const mapOf = (...brushes: Brush[]) => addBrushes(emptyMap('Try'), brushes);
const box = (id: string, min: Vec3, max: Vec3) => dressSolid(boxSolid({ min, max }), id, 'm', { role: 'structure' });

/** What stands in one group of a drawing. */
const groupIn = (svg: string, id: string): string => {
  const from = svg.indexOf(`<g id="${id}"`);
  if (from < 0) return '';
  let depth = 0;
  for (const tag of svg.slice(from).matchAll(/<(\/?)g\b[^>]*?(\/?)>/g)) {
    depth += tag[1] ? -1 : tag[2] ? 0 : 1;
    if (depth === 0) return svg.slice(from, from + tag.index + tag[0].length);
  }
  return '';
};
type Loop = readonly (readonly [number, number])[];
/** The closed outlines of a path, mm of paper: four units of a drawing are one. */
const loops = (d: string): Loop[] =>
  d
    .split('M')
    .slice(1)
    .map((part) =>
      part
        .replace('Z', '')
        .split('L')
        .map((p) => p.split(' ').map((n) => Number(n) / 4) as [number, number]),
    );
const outlinesIn = (group: string): Loop[] =>
  [...new Set([...group.matchAll(/ d="([^"]*)"/g)].map((m) => m[1]!))].flatMap(loops);
const area = (loop: Loop): number =>
  Math.abs(
    loop.reduce((sum, [x, y], i) => {
      const [x1, y1] = loop[(i + 1) % loop.length]!;
      return sum + (x * y1 - x1 * y) / 2;
    }, 0),
  );

const turned = fc.record({
  axis: fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true }))),
  degrees: fc.double({ min: 0, max: 360, noNaN: true }),
  size: fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 60, max: 900, noNaN: true }))),
  scale: fc.constantFrom(10, 50, 100, 237),
});

test('what is cut has the area on paper that an exact cut of the solid has, at any turn and scale', async () => {
  await fc.assert(
    fc.asyncProperty(turned, async ({ axis, degrees, size, scale }) => {
      const [x, y, z] = axis as [number, number, number];
      fc.pre(Math.hypot(x, y, z) > 0.1);
      const m = rotationAbout(normalize([x, y, z]), degrees, [0, 0, 0]);
      const [w, d, h] = size as [number, number, number];
      const solid = boxSolid({ min: [-w / 2, -d / 2, -h / 2], max: [w / 2, d / 2, h / 2] });
      const stands: Solid = { ...solid, vertices: solid.vertices.map((v) => applyAffine(m, v)) };
      const brush = dressSolid(stands, 'b', 'm', { role: 'structure' });
      const height = 7.25;
      const cut = outlinesIn(groupIn(draw(mapOf(brush), { kind: 'plan', height }, { scale }).svg, 'cut'));
      const exact = (await oracleSolid(stands)).slice(height + 0.5).area();
      expect(cut).toHaveLength(1);
      // Corners are written to 2.5 µm of paper.
      const perimeter = 4 * (w + d + h);
      expect(Math.abs(area(cut[0]!) * (scale / 10) ** 2 - exact)).toBeLessThan(((perimeter * scale) / 10) * 0.003);
    }),
  );
});

test('a section at any angle is as wide as the map is across it, and goes as far as its depth', () => {
  fc.assert(
    fc.property(fc.double({ min: 0, max: 360, noNaN: true }), fc.constantFrom(20, 100), (looks, scale) => {
      const line = { at: [0, 0] as const, looks };
      const doc = mapOf(box('a', [-3000, -1000, 0], [3000, 1000, 400]));
      const { svg, width, height } = draw(doc, { kind: 'section', line }, { scale });
      const r = (looks * Math.PI) / 180;
      const across = 6000 * Math.abs(Math.sin(r)) + 2000 * Math.abs(Math.cos(r));
      expect(width).toBeCloseTo((across / scale) * 10 + 20, 6);
      expect(height).toBeCloseTo((400 / scale) * 10 + 20 + 14, 6);
      expect(svg).toContain(`width="${Math.round(width * 100) / 100}mm"`);
      const far = box('far', [-10, 1400, 0], [10, 1500, 100]);
      const both = addBrushes(doc, [far]);
      const shown = (depth: number) =>
        outlinesIn(groupIn(draw(both, { kind: 'section', line: { ...line, looks: 90, depth } }).svg, 'beyond')).length;
      // What begins within its reach is drawn as far as that goes.
      expect(shown(1450) - shown(1300)).toBeGreaterThan(0);
    }),
    { numRuns: 20 },
  );
});

test('a place of the map lies where its corner is drawn, and the bar is as long as it says', () => {
  const view = sectionView({ at: [-900, -700], looks: 30 });
  const doc = mapOf(box('a', [-300, -100, 0], [300, 100, 240]));
  const { svg } = draw(doc, { kind: 'section', line: { at: [-900, -700], looks: 30 } }, { scale: 50 });
  const on = outlinesIn(groupIn(svg, 'beyond') + groupIn(svg, 'cut')).flat();
  const xs = on.map(([x]) => x);
  const left = Math.min(...[-300, 300].flatMap((x) => [-100, 100].map((y) => acrossOf(view, [x, y, 0]))));
  expect(Math.min(...xs) - 10).toBeCloseTo(0, 2);
  const corner = acrossOf(view, [300, -100, 0]);
  expect(
    on.some(([x, y]) => Math.hypot(x - 10 - (corner - left) / 5, y - 10 - (240 - upOf(view, [0, 0, 240])) / 5) < 0.01),
  ).toBe(true);
  for (const scale of [5, 20, 100, 333, 5000]) {
    const about = groupIn(draw(doc, PLAN, { scale }).svg, 'about');
    const mm = Number(/id="scale-bar"[^>]* width="([\d.]+)"/.exec(about)![1]) / 4;
    const said = Number(/>([\d.]+) m</.exec(about)![1]);
    expect(mm * scale).toBeCloseTo(said * 1000, -1);
    expect(mm).toBeGreaterThanOrEqual(20 - 0.01);
    expect(mm).toBeLessThanOrEqual(50 + 0.01);
  }
});

test('every kind of thing is drawn as its own file says, with its name, and can be left out', () => {
  let doc = oneRoom();
  for (const [i, { kind }] of ENTITY_KINDS.entries())
    doc = placeEntity(doc, kind, [60 + (i % 8) * 60, 60 + 8 * i, 40], 25, `k${i}`);
  const { svg } = draw(doc);
  const things = groupIn(svg, 'things');
  for (const e of doc.entities.values()) {
    const label = ENTITY_KINDS.find((k) => k.kind === e.kind)!.label;
    const strokes = svgElements(symbolOf(e, { right: [1, 0, 0], up: [0, 1, 0], number: 1 }, aroundIn(doc)), '#fffdf7');
    const drawn = strokes.map(({ name, attributes, text }) => element(name, attributes, text).text).join('');
    expect(things).toContain(`<title>${label}</title>${drawn}</g>`);
  }
  expect(things.match(/<g transform/g)).toHaveLength(doc.entities.size);
  expect(groupIn(draw(doc, PLAN, { things: false }).svg, 'things')).not.toContain('<title>');
  // A kind of a newer version has a place too.
  const later = {
    ...doc,
    entities: new Map([['n', { id: 'n', kind: 'zeppelin', at: [100, 100, 0] as const, turn: 0, params: {} }]]),
  };
  expect(groupIn(draw(later).svg, 'things')).toContain('<title>zeppelin</title><path d="M-5 5L5 5L5 -5L-5 -5Z"');
});

test('what is on a hidden layer is left out, and nothing at all is refused in a sentence', () => {
  const a = box('a', [0, 0, 0], [100, 100, 200]);
  const b = box('b', [500, 0, 0], [700, 100, 200]);
  const layered = moveToLayer(addLayer(mapOf(a, b), 'Later', 'l'), { brushes: new Set(['b']) }, 'l');
  const cut = (doc: MapDocument) => outlinesIn(groupIn(draw(doc).svg, 'cut')).length;
  expect(cut(layered)).toBe(2);
  const hidden = changeLayer(layered, 'l', { visible: false });
  expect(cut(hidden)).toBe(1);
  expect(draw(hidden).width).toBeLessThan(draw(layered).width + 1e-9);
  const all = changeLayer(moveToLayer(hidden, { brushes: new Set(['a']) }, 'l'), 'l', { visible: false });
  for (const doc of [emptyMap('Nothing'), all])
    expect(() => draw(doc)).toThrow(
      expect.objectContaining({ code: 'drawing.empty', message: expect.stringContaining('Draw a room') }),
    );
});

test('rooms that the plan cuts are named where there is room, openings that wait are drawn broken', () => {
  const doc = changeRoom(twoRooms(), 'a', { name: 'Net loft & store' });
  const rooms = (of: DrawingOf, options = {}) =>
    groupIn(draw(doc, of, options).svg, 'rooms').match(/<text/g)?.length ?? 0;
  expect(groupIn(draw(doc).svg, 'rooms')).toContain('>Net loft &amp; store</text>');
  expect([
    rooms(PLAN),
    rooms({ kind: 'plan', height: 600 }),
    rooms(PLAN, { names: false }),
    rooms(PLAN, { scale: 5000 }),
  ]).toEqual([2, 0, 0, 0]);
  expect(rooms({ kind: 'section', line: { at: [0, 100], looks: 90 } })).toBe(0);
  const apart = movePicked(doc, { rooms: new Set(['b']) }, [320, 0, 0]);
  for (const drawn of [PLAN, { kind: 'section', line: { at: [0, 100], looks: 90 } } as const]) {
    expect(outlinesIn(groupIn(draw(doc, drawn).svg, 'waiting-openings'))).toEqual([]);
    const waiting = groupIn(draw(apart, drawn).svg, 'waiting-openings');
    expect(waiting).toContain('<title>A doorway that waits for its wall</title>');
    const [[...outline]] = outlinesIn(waiting) as [Loop];
    const size = (k: 0 | 1) => Math.max(...outline.map((p) => p[k])) - Math.min(...outline.map((p) => p[k]));
    // 112 wide and a wall of 16 on the plan; 16 wide and 208 high from the south.
    expect([size(0), size(1)].map((n) => Math.round(n * 100) / 10)).toEqual(drawn === PLAN ? [16, 112] : [16, 208]);
  }
});

test('the grid lies on the map’s lines, as far apart as can be told', () => {
  const doc = mapOf(box('a', [-64, -64, 0], [64, 64, 200]));
  const uprights = (scale: number) =>
    [
      ...groupIn(
        draw({ ...doc, settings: { ...doc.settings, grid: 16 } }, PLAN, { scale, grid: true }).svg,
        'grid',
      ).matchAll(/M([\d.]+) 0V/g),
    ]
      .map((m) => Number(m[1]) / 4)
      .sort((a, b) => a - b);
  for (const scale of [20, 50, 400]) {
    const xs = uprights(scale);
    const gaps = xs.slice(1).map((x, i) => x - xs[i]!);
    const gap = (16 / scale) * 10;
    const step = gap * 2 ** Math.max(0, Math.ceil(Math.log2(7 / 4 / gap)));
    for (const g of gaps) expect(g).toBeCloseTo(step, 1);
    const middle = draw(doc, PLAN, { scale }).width / 2;
    expect(xs.some((x) => Math.abs(x - middle) < 0.01)).toBe(true);
  }
  expect(groupIn(draw(doc).svg, 'grid')).toBe('');
});

test('names of whatever letters do not break the file', () => {
  const doc = { ...oneRoom(), name: '<&"\u0001\ud800 “Mühle”' };
  expect(draw(doc).svg).toContain('>&lt;&amp;&quot;\ufffd\ufffd “Mühle”</text>');
  expect(draw({ ...doc, name: 'x'.repeat(200) }).width).toBeGreaterThan(200);
});

test('each role has its hand, paler and thinner with depth', () => {
  const roles = ['structure', 'detail', 'clip', 'hint', 'gate', 'liquid', 'ladder', 'zone'] as const;
  const cutOf = (role: (typeof roles)[number]) => {
    const brush = { ...box('b', [0, 0, 0], [100, 100, 200]), role };
    return [...groupIn(draw(mapOf(brush)).svg, 'cut').matchAll(/<path [^>]*>/g)].map(([tag]) => {
      const value = (name: string) => new RegExp(` ${name}="([^"]*)"`).exec(tag)?.[1];
      return [value('fill'), value('stroke'), value('stroke-width'), value('stroke-dasharray')];
    });
  };
  const [ink, soft, paper, none] = ['#23211d', '#6b675e', '#fffdf7', undefined];
  const line = [none, ink, '1.4', none];
  expect(Object.fromEntries(roles.map((role) => [role, cutOf(role)]))).toEqual({
    structure: [[ink, none, none, none], line],
    detail: [['url(#stipple)', none, none, none], line],
    clip: [['url(#hatch)', none, none, none], line],
    liquid: [['url(#waves)', none, none, none], line],
    ladder: [['url(#rungs)', none, none, none], line],
    hint: [
      [none, soft, '4.4', '6 3'],
      [none, paper, '2.4', '6 3'],
    ],
    gate: [
      [none, ink, '4.4', none],
      [none, paper, '2.4', none],
    ],
    zone: [[none, soft, '1.4', '1 4']],
  });
  const seen = (depth: number) => {
    const floor = box('b', [0, 0, 110.5 - depth - 10], [100, 100, 110.5 - depth]);
    const group = groupIn(draw(mapOf(floor)).svg, 'beyond');
    return ['fill-opacity', 'stroke-opacity', 'stroke-width'].map((name) =>
      Number(new RegExp(` ${name}="([^"]*)"`).exec(group)![1]),
    );
  };
  expect([0, 160, 240, 700, 5000].map(seen)).toEqual([
    [0, 0.75, 1],
    [0.1, 0.64, 1],
    [0.15, 0.58, 0.7],
    [0.44, 0.25, 0.7],
    [0.55, 0.25, 0.7],
  ]);
});

test('things of other storeys are pale; names stand clear of symbols and of each other', () => {
  const doc = placeEntity(oneRoom(), 'spawn', [100, 100, 0], 0, 's');
  const pale = (height: number) =>
    groupIn(draw(doc, { kind: 'plan', height }).svg, 'things').includes('opacity="0.35"');
  // From a spawn that is 4 m below the cut to one that is 3 m above.
  expect([405, 395, 0, -295, -305].map(pale)).toEqual([true, false, false, false, true]);
  // A lamp in the very middle, where the name would be.
  const place = (x: number, y: number) => {
    const { svg } = draw(placeEntity(oneRoom(), 'pointLight', [x, y, 100], 0, 'l'));
    const [lampX, lampY] = /translate\(([\d.]+) ([\d.]+)\)/.exec(svg)!.slice(1).map(Number) as [number, number];
    const word = /<text x="([\d.]+)" y="([\d.]+)"[^>]*>Room/.exec(groupIn(svg, 'rooms'))!;
    return [Number(word[1]) - lampX, Number(word[2]) - 4 - lampY] as const;
  };
  fc.assert(
    fc.property(
      fc.double({ min: 60, max: 500, noNaN: true }),
      fc.double({ min: 60, max: 400, noNaN: true }),
      (x, y) => {
        const [dx, dy] = place(x, y);
        // The symbol reaches 9 to 11 units, the word is 14 high and four letters wide.
        expect(Math.abs(dx) > 9 + 4 + 12 || Math.abs(dy) > 9 + 4 + 7).toBe(true);
      },
    ),
    { numRuns: 60 },
  );
});
