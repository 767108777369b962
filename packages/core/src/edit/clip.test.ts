import fc from 'fast-check';
import { brushPlanes, brushVolume, stopsPlayers } from '../brush/index.ts';
import { emptyMap, propBrushesOf } from '../map/index.ts';
import { signedDistance } from '../math/index.ts';
import { boxProp } from '../testing/props.ts';
import { placeProps } from './props.ts';
import { wrapInClip } from './clip.ts';

const POST = boxProp('post', [-8, -8, 0], [8, 8, 100]);
const NET = boxProp('net', [-40, -1, 0], [40, 1, 80], { collision: 'none' });
const known = (name: string) => ({ post: POST, net: NET })[name];

test('a row of posts becomes one wall that one runs past; what stood there stands there still', () => {
  const row = [0, 1, 2, 3].map((k) => ({ model: 'post', at: [k * 60, 20, 0] as const, turn: 0 }));
  const { doc, made } = placeProps(emptyMap('m'), row, known);
  const { doc: wrapped, made: wall } = wrapInClip(doc, { things: made.entities }, known);
  const brush = wrapped.brushes.get(wall.brushes[0]!)!;
  expect([brush.role, stopsPlayers(brush), wrapped.entities.size]).toEqual(['clip', true, 4]);
  // From 8 before the first to 8 behind the last, as deep and high as they are.
  expect(brushVolume(brush)).toBeCloseTo(196 * 16 * 100, 3);
  expect(brush.faces).toHaveLength(6);
});

test('holds every corner of what it wraps, however that is turned, leant and strewn, also what stops nobody', () => {
  const c = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  const wish = fc.record({
    model: fc.constantFrom('post', 'net'),
    at: fc.tuple(c(-20_000, 20_000), c(-300, 300), c(0, 100)),
    turn: c(0, 360),
    up: fc.tuple(c(-1, 1), c(-1, 1), c(0.1, 1)),
    scale: c(0.2, 4),
  });
  fc.assert(
    fc.property(fc.array(wish, { minLength: 1, maxLength: 12 }), (wishes) => {
      const { doc, made } = placeProps(emptyMap('m'), wishes, known);
      const { doc: wrapped, made: wall } = wrapInClip(doc, { things: made.entities }, known);
      const brush = wrapped.brushes.get(wall.brushes[0]!)!;
      const planes = brushPlanes(brush);
      for (const id of made.entities)
        for (const { vertices } of propBrushesOf(doc.entities.get(id)!, (n) => ({ ...known(n)!, collision: 'hulls' })))
          for (const v of vertices) for (const p of planes) expect(signedDistance(p, v)).toBeLessThan(0.02);
    }),
  );
});

test('nothing solid is said, and nothing is made', () => {
  expect(() => wrapInClip(emptyMap('m'), { things: ['nobody'] }, known)).toThrow(
    expect.objectContaining({ code: 'clip.nothing' }),
  );
});
