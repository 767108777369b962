import {
  buildLevel,
  changeEntity,
  changeSettings,
  movePicked,
  placeEntity,
  writeLedger,
  writeLevel,
  type MapDocument,
} from '@yesca/core';
import { TEMPLATES } from '@yesca/stock';
import { isOf, readLit, sameButStrengths, sharesNow } from './lit.ts';
import { luxThere } from './meter.ts';

const none = () => undefined;
const doc = ((): MapDocument => {
  const made = TEMPLATES.find((t) => t.key === 'one-room')!.make('One');
  const lamp = [...made.entities.values()].find((e) => e.kind === 'pointLight')!;
  return placeEntity(made, 'spotLight', [lamp.at[0] + 60, lamp.at[1], lamp.at[2]], 0, 'spot');
})();
const lamp = [...doc.entities.values()].find((e) => e.kind === 'pointLight')!;
const { level, ledger } = buildLevel(doc, 'sketch', {}, { ledger: true });
const files = { level: writeLevel(level), ledger: writeLedger(ledger!) };
const built = readLit(files, { mapId: 'm', from: 'build', preset: 'sketch' });
const live = readLit(files, { mapId: 'm', from: 'live', preset: 'sketch', doc });
const [brush] = doc.brushes.keys();
const shifted = movePicked(doc, { brushes: new Set([brush!]) }, [8, 0, 0]);

test('a brush that was changed since is not taken for the one that was lit, in a build as in live light', () => {
  for (const lit of [built, live]) {
    expect([...doc.brushes.values()].every(lit.covers)).toBe(true);
    expect(lit.covers(shifted.brushes.get(brush!)!)).toBe(false);
    expect(isOf(lit, doc)).toBe(true);
    expect(isOf(lit, shifted)).toBe(false);
    expect(isOf(lit, movePicked(doc, { entities: new Set([lamp.id]) }, [8, 0, 0]))).toBe(false);
    expect(isOf(lit, placeEntity(doc, 'pointLight', [0, 0, 90], 0, 'new'))).toBe(false);
    expect(isOf(lit, changeEntity(doc, lamp.id, { params: { candela: 12 } }))).toBe(true);
  }
});

test('only what moves light, or lets it begin, asks for light to be found anew', () => {
  const same = (other: MapDocument) => sameButStrengths(doc, other);
  expect(same(changeEntity(doc, lamp.id, { params: { candela: 5, color: '#00ff00' } }))).toBe(true);
  expect(same(changeSettings(doc, { ambientLux: 50 }))).toBe(true);
  expect(same(changeEntity(doc, 'spot', { params: { cone: 20 } }))).toBe(false);
  expect(same(shifted)).toBe(false);
  expect(same(changeSettings(doc, { skyNits: 30 }))).toBe(false);
  expect(same(changeSettings(doc, { bounced: 2 }))).toBe(false);
  expect(same(changeSettings(doc, { skyClouds: 0.5, fogReach: 900 }))).toBe(true);
  const dark = changeEntity(doc, lamp.id, { params: { candela: 0 } });
  expect(sameButStrengths(dark, doc)).toBe(false);
});

test('lights that are put out or alone for now change what is shown, and nothing else', () => {
  const floor = [...doc.brushes.values()].find((b) => b.room && JSON.stringify(b.room.part).includes('floor'))!;
  const at = { brush: floor.id, at: [lamp.at[0], lamp.at[1], 0] } as const;
  const read = (out: string[], alone: string[]) => {
    built.mix.shine(sharesNow(built, doc, none, { out: new Set(out), alone: new Set(alone) }));
    return luxThere(built, at)!;
  };
  const all = read([], []);
  expect(all).toBeGreaterThan(20);
  expect(read([lamp.id], []) + read([], [lamp.id])).toBeCloseTo(all, 0);
  expect(read(['spot'], [])).toBeLessThan(all);
  expect(read([], [])).toBe(all);
  expect(luxThere(built, { brush: floor.id, at: [9999, 0, 0] })).toBeNull();
  expect(luxThere(built, { brush: 'nobody', at: at.at })).toBeNull();
});
