import {
  addBrushes,
  boxSolid,
  buildLevel,
  changeEntity,
  dressSolid,
  EVEN,
  movePicked,
  placeEntity,
  removePicked,
  type MapDocument,
} from '@yesca/core';
import { TEMPLATES } from '@yesca/stock';
import { lightRows } from './rows.ts';

const names = { thing: (id: string) => `Lamp ${id}`, material: (m: string) => m };
const none = () => undefined;

function room(): MapDocument {
  const made = TEMPLATES.find((t) => t.key === 'one-room')!.make('One');
  const lamps = [...made.entities.values()].filter((e) => e.kind === 'pointLight').map((e) => e.id);
  const [x, y, z] = made.entities.get(lamps[0]!)!.at;
  let doc = removePicked(made, { entities: new Set(lamps) });
  doc = placeEntity(doc, 'pointLight', [x, y, z], 0, 'a');
  doc = placeEntity(doc, 'pointLight', [x + 50, y, z], 0, 'b');
  return changeEntity(doc, 'b', { params: { candela: 30 } });
}

test('before anything is lit lights are listed by name, without shares', () => {
  const rows = lightRows(room(), null, none, names);
  expect(rows.map((r) => [r.label, r.share, r.changed])).toEqual([
    ['Lamp a', null, false],
    ['Lamp b', null, false],
  ]);
});

test('lights are listed by their share, which follows their strength without light being found anew; moved ones say so', () => {
  const doc = room();
  const { layers } = buildLevel(doc, 'sketch', {}, { ledger: true }).ledger!;
  const shares = (of: MapDocument) => new Map(lightRows(of, layers, none, names).map((r) => [r.name, r.share!]));
  const before = shares(doc);
  expect([...before.keys()]).toEqual(['a', 'b', EVEN].sort((p, q) => before.get(q)! - before.get(p)!));
  expect([...before.values()].reduce((n, s) => n + s, 0)).toBeCloseTo(1, 6);
  expect(before.get('a')! / before.get('b')!).toBeGreaterThan(5);
  const turned = shares(changeEntity(doc, 'b', { params: { candela: 3000 } }));
  expect(turned.get('b')! / turned.get('a')!).toBeCloseTo((100 * before.get('b')!) / before.get('a')!, 3);
  const moved = lightRows(movePicked(doc, { entities: new Set(['a']) }, [16, 0, 0]), layers, none, names);
  expect(moved.filter((r) => r.changed).map((r) => r.name)).toEqual(['a']);
  // What is gone is not listed; what is new is, at the end.
  const other = placeEntity(removePicked(doc, { entities: new Set(['a']) }), 'pointLight', [0, 0, 100], 0, 'c');
  expect(lightRows(other, layers, none, names).map((r) => r.name)).toEqual(
    ['b', EVEN, 'c'].sort((p, q) => (p === 'c' ? 1 : q === 'c' ? -1 : shares(other).get(q)! - shares(other).get(p)!)),
  );
});

test('a lamp among columns is most of the work, though it gives the least; dimming changes nothing of that', () => {
  const moved = movePicked(room(), { entities: new Set(['b']) }, [90, 0, 0]);
  const [x, y, z] = moved.entities.get('b')!.at;
  const round = Array.from({ length: 12 }, (_, k) => {
    const [cx, cy] = [x + 30 * Math.cos(k * 0.52), y + 30 * Math.sin(k * 0.52)];
    const box = boxSolid({ min: [cx - 2, cy - 2, z - 60], max: [cx + 2, cy + 2, z + 60] });
    return dressSolid(box, `k${k}`, 'm', { role: 'detail' });
  });
  const among = addBrushes(moved, round);
  const { layers } = buildLevel(among, 'sketch', {}, { ledger: true }).ledger!;
  const rows = (of: MapDocument) => new Map(lightRows(of, layers, none, names).map((r) => [r.name, r.work!]));
  const work = rows(among);
  expect([...work.values()].reduce((n, s) => n + s, 0)).toBeCloseTo(1, 6);
  expect(work.get(EVEN)).toBe(0);
  expect(work.get('b')!).toBeGreaterThan(work.get('a')!);
  expect(rows(changeEntity(among, 'a', { params: { candela: 1 } }))).toEqual(work);
});
