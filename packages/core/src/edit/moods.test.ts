import { emptyMap, parseMap, writeMap, type MapDocument } from '../map/index.ts';
import { strengthOf } from '../entity/index.ts';
import { changeEntity, duplicatePicked, placeEntity, removePicked } from './index.ts';
import { removeMood, saveMood, setStrengths, takeMood, wireMood } from './moods.ts';

const lamps = (): MapDocument => {
  let doc = placeEntity(emptyMap('t'), 'pointLight', [0, 0, 100], 0, 'a');
  doc = placeEntity(doc, 'sun', [0, 0, 200], 0, 'sun');
  doc = placeEntity(doc, 'spawn', [0, 0, 0], 0, 's');
  return setStrengths(doc, { a: 40, sun: 900 });
};
const strengths = (doc: MapDocument, ...ids: string[]) => ids.map((id) => strengthOf(doc.entities.get(id)!));

test('a mood brings back how strong all lights were, and leaves lights that came later', () => {
  let doc = saveMood(lamps(), ' Dusk ', 'dusk');
  expect(doc.moods.get('dusk')).toEqual({
    id: 'dusk',
    name: 'Dusk',
    lights: [
      { thing: 'a', strength: 40 },
      { thing: 'sun', strength: 900 },
    ],
  });
  doc = placeEntity(setStrengths(doc, { a: 1, sun: 2 }), 'spotLight', [9, 0, 90], 0, 'b');
  doc = changeEntity(doc, 'b', { params: { candela: 7 } });
  expect(strengths(takeMood(doc, 'dusk'), 'a', 'sun', 'b')).toEqual([40, 900, 7]);
  // One of the same name is replaced, another is beside it.
  const again = saveMood(saveMood(doc, 'Dusk'), 'Noon', 'noon');
  expect([...again.moods.keys()]).toEqual(['dusk', 'noon']);
  expect(again.moods.get('dusk')!.lights).toHaveLength(3);
  expect(strengths(takeMood(again, 'dusk'), 'a', 'sun', 'b')).toEqual([1, 2, 7]);
  expect(parseMap(writeMap(again)).moods).toEqual(again.moods);
  expect([...removeMood(again, 'dusk').moods.keys()]).toEqual(['noon']);
});

test('a mood lets go of lights that are removed, and is gone with the last', () => {
  const doc = saveMood(lamps(), 'Dusk', 'dusk');
  const one = removePicked(doc, { entities: new Set(['a']) });
  expect(one.moods.get('dusk')!.lights).toEqual([{ thing: 'sun', strength: 900 }]);
  expect(strengths(takeMood(one, 'dusk'), 'sun')).toEqual([900]);
  expect(removePicked(one, { entities: new Set(['sun']) }).moods.size).toBe(0);
  // A copy of a lamp is another lamp: the mood is of the first.
  const copied = duplicatePicked(doc, { entities: new Set(['a']) }, [50, 0, 0]).doc;
  expect(copied.moods.get('dusk')).toEqual(doc.moods.get('dusk'));
});

test('what cannot be kept or taken is refused, and moods in files are looked at', () => {
  const doc = saveMood(lamps(), 'Dusk', 'dusk');
  expect(() => saveMood(emptyMap('t'), 'x')).toThrow(expect.objectContaining({ code: 'mood.noLights' }));
  expect(() => saveMood(doc, '  ')).toThrow(expect.objectContaining({ code: 'name.length' }));
  expect(() => takeMood(doc, 'nobody')).toThrow(expect.objectContaining({ code: 'mood.unknown' }));
  expect(() => removeMood(doc, 'nobody')).toThrow(expect.objectContaining({ code: 'mood.unknown' }));
  const file = JSON.parse(writeMap(doc)) as { moods: { lights: { thing: string; strength: number }[] }[] };
  for (const spoil of [
    (f: typeof file) => (f.moods[0]!.lights[0]!.strength = -1),
    (f: typeof file) => (f.moods[0]!.lights[0]!.thing = 'nobody'),
    (f: typeof file) => (f.moods[0]!.lights = []),
  ]) {
    const copy = structuredClone(file);
    spoil(copy);
    expect(() => parseMap(JSON.stringify(copy))).toThrow(expect.objectContaining({ name: 'MapFileError' }));
  }
});

test('a signal takes up a mood by wires that fade each light to so many times its strength', () => {
  const doc = setStrengths(saveMood(placeEntity(lamps(), 'zone', [0, 0, 0], 0, 'z'), 'Dusk', 'dusk'), {
    a: 20,
    sun: 3600,
  });
  const from = { thing: 'z', signal: 'entered' };
  const wired = wireMood(doc, 'dusk', from);
  expect([...wired.wires.values()].map(({ to, value }) => [to.thing, to.action, value])).toEqual([
    ['a', 'fade', 2],
    ['sun', 'fade', 0.25],
  ]);
  expect(parseMap(writeMap(wired)).wires).toEqual(wired.wires);
  // Wired again after a change, the same wires say so; another signal has wires of its own.
  const again = wireMood(setStrengths(wired, { a: 10 }), 'dusk', from);
  expect([...again.wires.values()].map((w) => w.value)).toEqual([4, 0.25]);
  expect(wireMood(again, 'dusk', { thing: 'z', signal: 'left' }).wires.size).toBe(4);
  expect(() => wireMood(setStrengths(doc, { a: 0 }), 'dusk', from)).toThrow(
    expect.objectContaining({ code: 'mood.dark' }),
  );
  // Regions of even light cannot be switched: they are left out.
  const even = (d: MapDocument) => saveMood(placeEntity(d, 'evenLight', [0, 0, 0], 0, 'e'), 'All', 'all');
  expect(wireMood(even(doc), 'all', from).wires.size).toBe(2);
  const alone = even(placeEntity(emptyMap('t'), 'zone', [0, 0, 0], 0, 'z'));
  expect(() => wireMood(alone, 'all', from)).toThrow(expect.objectContaining({ code: 'mood.noLamps' }));
  expect(() => wireMood(doc, 'dusk', { thing: 'z', signal: 'sings' })).toThrow(
    expect.objectContaining({ code: 'wire.signal' }),
  );
});
