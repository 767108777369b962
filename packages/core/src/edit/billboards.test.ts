import { runChecks } from '../checks/index.ts';
import { buildLevel } from '../compile/index.ts';
import { entityKind, modelOf, propPose } from '../entity/index.ts';
import { factsOfProp, propBounds, propBrushes, propTakesDecal } from '../map/index.ts';
import { applyAffine, boxCorners, distance, type Vec3 } from '../math/index.ts';
import { worldOfMap } from '../play/index.ts';
import type { MaterialFacts } from '../surface/index.ts';
import { oneRoom } from '../testing/rooms.ts';
import { placeBillboard, type BillboardWish } from './billboards.ts';
import { placeDecals } from './decals.ts';
import { changeEntity, placeEntity } from './entities.ts';
import { giveParts } from './owning.ts';
import { replaceProps } from './props.ts';

const reed: MaterialFacts = {
  name: 'reed',
  width: 512,
  height: 1024,
  texelsPerCm: 4,
  solidity: 'cutOut',
  regions: [{ name: 'blade', x: 0, y: 0, width: 64, height: 256 }],
};
const materials = (name: string) => (name === 'reed' ? reed : undefined);
const FLOOR = { at: [200, 150, 0] as Vec3, normal: [0, 0, 1] as Vec3 };
const placed = (wish: Partial<BillboardWish> = {}) => {
  const { doc, made } = placeBillboard(oneRoom(), { material: 'reed', ...FLOOR, ...wish }, materials);
  return { doc, id: made.entities[0]!, thing: doc.entities.get(made.entities[0]!)! };
};

describe('a billboard', () => {
  test('is as large as its picture, or keeps its shape where one side is given', () => {
    expect(placed().thing.params).toMatchObject({ width: 128, height: 256 });
    expect(placed({ width: 32 }).thing.params).toMatchObject({ width: 32, height: 64 });
    expect(placed({ height: 64, region: 'blade' }).thing.params).toMatchObject({ width: 16, height: 64 });
    expect(placed({ height: 10, width: 30 }).thing.params).toMatchObject({ width: 30, height: 10 });
    expect(() => placed({ region: 'root' })).toThrow('no region called root');
    expect(() => placed({ material: 'weed' })).toThrow('Choose one from Stock');
    expect(() => placed({ width: 0 })).toThrow();
    expect(() => placed({ normal: [0, 0, 0] })).toThrow('not 0 0 0');
  });

  test('stands on floors, hangs clear of walls and ceilings', () => {
    expect(placed().thing.at).toEqual([200, 150, 0]);
    expect(placed({ faces: 'always' }).thing.at).toEqual([200, 150, 128]);
    expect(placed({ normal: [1, 0, 0], at: [0, 150, 90] }).thing.at).toEqual([64, 150, 90]);
    expect(placed({ normal: [0, 0, -1], at: [0, 150, 300] }).thing.at).toEqual([0, 150, 44]);
  });

  test('stays within its bounds however it is looked at', () => {
    for (const faces of ['always', 'upright', 'crossed'] as const) {
      const { thing } = placed({ faces });
      const model = modelOf(thing)!;
      const { min, max } = model.own!.bounds;
      const low = faces === 'always' ? -128 : 0;
      // The picture's corners, turned every way that it turns.
      for (let k = 0; k < 360; k += 7)
        for (const s of [-64, 64])
          for (const z of [low, low + 256])
            for (const tip of faces === 'always' ? [0, 30, 90] : [0]) {
              const [a, t] = [(k * Math.PI) / 180, (tip * Math.PI) / 180];
              const p = [
                Math.cos(a) * s,
                Math.sin(a) * s * Math.cos(t) - z * Math.sin(t),
                Math.sin(a) * s * Math.sin(t) + z * Math.cos(t),
              ];
              p.forEach((c, i) => {
                expect(c).toBeGreaterThanOrEqual(min[i]! - 1e-9);
                expect(c).toBeLessThanOrEqual(max[i]! + 1e-9);
              });
            }
      const pose = propPose(model, thing.at, thing.turn);
      for (const corner of boxCorners(model.own!.bounds))
        expect(distance(applyAffine(pose, corner), thing.at)).toBeLessThan(1000);
    }
  });

  test('holds nobody back, casts no shadow, and is drawn where its box is seen', () => {
    const { doc, id, thing } = placed({ faces: 'crossed' });
    expect(propBrushes(doc, () => undefined)).toEqual([]);
    expect(factsOfProp(modelOf(thing)!, () => undefined)!.triangles).toBe(4);
    const { level } = buildLevel(placeEntity(doc, 'spawn', [60, 60, 0], 0, 's'), 'sketch', {}, { direct: true });
    expect(level.meta.props).toEqual([id]);
    expect(level.propCell!.length).toBeGreaterThan(0);
    expect(level.meta.colliders.some((c) => c.startsWith('prop '))).toBe(false);
  });

  test('takes no decals, stays what it is among replaced props, and rides on what moves', () => {
    const { doc, id, thing } = placed();
    const { doc: stained, made } = placeDecals(doc, [{ material: 'reed', ...FLOOR }], materials);
    expect(propTakesDecal(stained.entities.get(made.entities[0]!)!, thing)).toBe(false);
    const crate = { ...modelOf(thing)!.own!, name: 'crate', label: 'Crate' };
    expect(replaceProps(doc, [id], 'crate', () => crate)).toBe(doc);
    const cart = giveParts(placeEntity(doc, 'mover', [200, 150, 0], 0, 'm'), 'm', 0, { props: [id] });
    expect(worldOfMap(cart).bodies.map((b) => b.bounds)).toEqual([propBounds(cart.entities.get(id)!)]);
  });

  test('without a picture, or with one that nobody has, is told', () => {
    const { doc, id } = placed();
    const codes = (d: typeof doc) => runChecks(d, { materials, props: () => undefined }).map((f) => f.code);
    expect(codes(doc)).not.toContain('check.missingProp');
    expect(codes(doc)).not.toContain('check.missingDecal');
    expect(codes(changeEntity(doc, id, { params: { material: 'weed' } }))).toContain('check.missingDecal');
    const bare = changeEntity(doc, id, { params: { material: '' } });
    const kind = entityKind('billboard')!;
    expect(kind.flaws(bare.entities.get(id)!).map((f) => f.code)).toEqual(['noPicture']);
  });
});
