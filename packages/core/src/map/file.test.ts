import { placeEntity } from '../edit/index.ts';
import { twoRooms } from '../testing/rooms.ts';
import { emptyMap, MAP_LIMIT, mapFromData, MapFileError, parseMap, writeMap, type MapDocument } from './index.ts';

const full = (): MapDocument => placeEntity(twoRooms(), 'spawn', [100, 100, 0], 90, 'start');
const data = () =>
  JSON.parse(writeMap(full())) as {
    [key: string]: unknown;
    brushes: { id: string; vertices: number[][]; faces: { frame: { u: number[] } }[] }[];
    entities?: { params: Record<string, unknown>; kind: string }[];
  };

/** The error that reading something gives. */
function refused(read: () => unknown): MapFileError {
  try {
    read();
  } catch (error) {
    if (error instanceof MapFileError) return error;
    throw error;
  }
  throw new Error('it was accepted');
}

describe('writing', () => {
  test('reading what was written gives the same map, and writing that the same text', () => {
    const text = writeMap(full());
    const again = parseMap(text);
    expect(writeMap(again)).toBe(text);
    expect(again.brushes.size).toBe(full().brushes.size);
    expect(again.entities.get('start')).toEqual(full().entities.get('start'));
  });

  test('one brush or entity a line, in the order of their ids whatever order they were made in', () => {
    const doc = full();
    const turned = { ...doc, brushes: new Map([...doc.brushes].reverse()) };
    expect(writeMap(turned)).toBe(writeMap(doc));
    const lines = writeMap(doc)
      .split('\n')
      .filter((l) => l.includes('"vertices"'));
    expect(lines).toHaveLength(doc.brushes.size);
    for (const line of lines) expect(() => JSON.parse(line.replace(/,$/, '')) as unknown).not.toThrow();
  });

  test('an empty map is a valid file', () => {
    expect(parseMap(writeMap(emptyMap('Nothing'))).name).toBe('Nothing');
  });

  test('fields and kinds from newer files are kept', () => {
    const d = data();
    d.weather = { wind: 3 };
    d.entities![0]!.kind = 'teapot';
    (d.entities![0] as Record<string, unknown>).glaze = 'blue';
    const text = writeMap(mapFromData(d));
    expect(text).toContain('"weather": {"wind":3}');
    expect(text).toContain('"glaze":"blue"');
    expect(text).toContain('teapot');
  });
});

describe('bad files are refused with a code and a place', () => {
  test('cut off in the middle', () => {
    const text = writeMap(full());
    const error = refused(() => parseMap(text.slice(0, text.length / 2)));
    expect(error.code).toBe('map.notJson');
    expect(error.place).toMatch(/line \d+/);
  });
  test.each<[string, string, RegExp, (d: ReturnType<typeof data>) => void]>([
    ['something else', 'map.notAMap', /format/, (d) => (d.format = 'spreadsheet')],
    ['a newer version', 'map.newer', /version/, (d) => (d.version = 99)],
    ['a missing list', 'map.badField', /file/, (d) => delete d.entities],
    [
      'a number that is text',
      'map.badField',
      /brushes\/0\/vertices\/0/,
      (d) => ((d.brushes[0]!.vertices[0] as unknown[])[1] = 'far'),
    ],
    ['a brush that is not closed', 'brush.notClosed', /brushes\/0/, (d) => d.brushes[0]!.faces.pop()],
    ['a brush too far out', 'brush.outOfWorld', /brushes\/0/, (d) => (d.brushes[0]!.vertices[0]![0] = 1e9)],
    ['two brushes of one id', 'map.sameId', /brushes/, (d) => (d.brushes[1]!.id = d.brushes[0]!.id)],
    [
      'a squashed texture',
      'map.badFrame',
      /brushes\/0\/faces\/0\/frame/,
      (d) => (d.brushes[0]!.faces[0]!.frame.u = [0, 0, 0, 0]),
    ],
    [
      'a texture without end',
      'map.badFrame',
      /brushes\/0\/faces\/0\/frame/,
      (d) => (d.brushes[0]!.faces[0]!.frame.u = [0, 0, Number.POSITIVE_INFINITY, 0]),
    ],
    [
      'a texture that is no number',
      'map.badFrame',
      /brushes\/0\/faces\/0\/frame/,
      (d) => ((d.brushes[0]!.faces[0]!.frame as { u: unknown }).u = [Number.NaN, 0, 1, 0]),
    ],
    [
      'a mirror brighter than its light',
      'map.badField',
      /brushes\/0\/faces\/0\/mirror/,
      (d) => ((d.brushes[0]!.faces[0] as { mirror?: number }).mirror = 3),
    ],
    [
      'an opening to nowhere',
      'map.dangling',
      /openings\/0/,
      (d) => ((d.openings as { rooms: string[] }[])[0]!.rooms[1] = 'gone'),
    ],
  ])('%s', (_, code, place, spoil) => {
    const d = data();
    spoil(d);
    const error = refused(() => mapFromData(d));
    expect(error.code).toBe(code);
    expect(error.place).toMatch(place);
    expect(error.message.length).toBeGreaterThan(20);
  });
  test('more than a map can be, before any of it is read', () => {
    expect(refused(() => parseMap(' '.repeat(MAP_LIMIT + 1)))).toMatchObject({ code: 'map.tooLarge', place: 'file' });
  });
  test.each([[null], [[]], [3], ['map']])('%p instead of a map', (value) => {
    expect(refused(() => mapFromData(value)).code).toBe('map.notAMap');
  });
  test('numbers out of an entity parameter’s range', () => {
    const d = data();
    d.entities!.push({ id: 'l', kind: 'pointLight', at: [0, 0, 0], turn: 0, params: { candela: -5 } } as never);
    expect(refused(() => mapFromData(d))).toMatchObject({ code: 'map.badField', place: 'entities/1/params/candela' });
  });
});
