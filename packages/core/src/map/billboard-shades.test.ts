import fc from 'fast-check';
import { solidVolume, solidOf } from '../brush/index.ts';
import { buildLevel, brightness, lightPlace, luxAt } from '../compile/index.ts';
import { addRoom, changeEntity, changeSettings, placeEntity } from '../edit/index.ts';
import { modelOf, propPose } from '../entity/index.ts';
import { applyAffine, type Vec3 } from '../math/index.ts';
import { texelAt, type MaterialFacts } from '../surface/index.ts';
import { DRESS, rectangle, roomSpec } from '../testing/rooms.ts';
import { billboardShades, emptyMap, propBrushes, type MapDocument } from './index.ts';

/** The upper half of the picture hides everything; of its left quarter there is a region. */
const upper = 'f'.repeat(512) + '0'.repeat(512);
const facts = { width: 128, height: 64, texelsPerCm: 1, average: '#000000' };
const materials = (name: string): MaterialFacts | undefined =>
  ({
    leaves: {
      ...facts,
      name,
      solidity: 'cutOut' as const,
      mask: upper,
      regions: [{ name: 'quarter', x: 0, y: 0, width: 32, height: 64 }],
    },
    board: { ...facts, name, solidity: 'solid' as const },
    m: { ...facts, name, solidity: 'solid' as const },
  })[name];

const hall = (): MapDocument => {
  let doc = addRoom(emptyMap('hall'), roomSpec(rectangle(0, 0, 800, 800), { ceiling: 400 }), {
    ...DRESS,
    floor: 'm',
    wall: 'm',
    ceiling: 'm',
  });
  doc = changeSettings(placeEntity(doc, 'spawn', [60, 60, 0], 0, 's'), { ambientLux: 0, skyNits: 0 });
  return changeEntity(placeEntity(doc, 'pointLight', [200, 400, 100], 0, 'l'), 'l', { params: { candela: 500 } });
};
const board = (
  doc: MapDocument,
  params: Record<string, string | number | boolean | number[]>,
  at: Vec3 = [400, 400, 0],
  turn = 0,
) =>
  changeEntity(placeEntity(doc, 'billboard', at, turn, 'b'), 'b', {
    params: { material: 'leaves', width: 100, height: 200, faces: 'crossed', shades: true, ...params },
  });
/** Lux on the east wall. */
function behind(doc: MapDocument, y: number, z: number): number {
  const { level } = buildLevel(doc, 'review', {}, { direct: true, probes: false, materials });
  return brightness(
    luxAt(level.meta.pages, level.lightTexels, lightPlace(level, level.surfaceMaterial.keys(), [800, y, z])!),
  );
}

test('light comes through the holes of a picture that stands in its way, and not through the rest of it', () => {
  const open = hall();
  const stands = board(open, {});
  // From 100 up at 200 away, past 400 (200 off): what is at z behind came past the sheet at 100 + (z − 100) / 3.
  const at = (z: number) => behind(stands, 400, z) / behind(open, 400, z);
  expect(at(250)).toBeLessThan(0.02);
  expect(at(40)).toBeGreaterThan(0.95);
  // Beside it, and above it, nothing is in the way: it is 50 wide on either side, 150 as seen on the wall.
  expect(behind(stands, 400 + 170, 250) / behind(open, 400 + 170, 250)).toBeGreaterThan(0.95);
  expect(behind(stands, 400 + 120, 250) / behind(open, 400 + 120, 250)).toBeLessThan(0.05);
});

test('only what is told to casts one, and of what always faces the eye there is none', () => {
  const doc = hall();
  const lit = (params: Record<string, string | boolean>) =>
    behind(board(doc, params), 400, 250) / behind(doc, 400, 250);
  expect(lit({ shades: false })).toBeGreaterThan(0.95);
  expect(lit({ faces: 'always' })).toBeGreaterThan(0.95);
  expect(lit({ material: 'nobody' })).toBeGreaterThan(0.95);
  expect(lit({ faces: 'upright' })).toBeLessThan(0.02);
  expect(lit({ material: 'board' })).toBeLessThan(0.02);
  // What rides on something belongs to that: whether it shades is for that to say.
  const standing = board(doc, {});
  const b = standing.entities.get('b')!;
  const rides = { ...standing, entities: new Map(standing.entities).set('b', { ...b, carrier: { id: 'm' } }) };
  expect([standing, rides].map((d) => billboardShades(d, materials)[0]!.owner?.id)).toEqual([undefined, 'm']);
  // It holds nobody back, and stands for nothing else.
  expect(propBrushes(board(doc, {}), () => undefined)).toEqual([]);
});

test('its sheets lie where its picture is drawn, however it is turned and leant, each texel where it belongs', () => {
  const c = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  fc.assert(
    fc.property(
      c(0, 360),
      c(-1, 1),
      c(-1, 1),
      c(5, 300),
      c(5, 300),
      c(0, 1),
      c(0, 1),
      fc.boolean(),
      (turn, ux, uy, width, height, s, t, all) => {
        const at: Vec3 = [30_000, -20_000, 40];
        const doc = board(
          emptyMap('far'),
          { width, height, up: [ux, uy, 0.6], region: all ? '' : 'quarter' },
          at,
          turn,
        );
        const sheets = billboardShades(doc, materials);
        expect(sheets).toHaveLength(2);
        const pose = propPose(modelOf(doc.entities.get('b')!)!, at, turn);
        const wide = all ? 128 : 32;
        sheets.forEach((sheet, k) => {
          expect(solidVolume(solidOf(sheet))).toBeCloseTo(width * height, 1);
          // From the left and the top of the picture, as somebody sees it who looks along the other axis.
          const along = (s - 0.5) * width;
          const p = applyAffine(pose, k === 0 ? [along, 0, (1 - t) * height] : [0, along, (1 - t) * height]);
          const [u, v] = texelAt(sheet.faces[0]!.frame, p);
          expect(u).toBeCloseTo(s * wide, 2);
          expect(v).toBeCloseTo(t * 64, 2);
          expect(sheet.faces.filter((f) => f.show !== 'unseen')).toHaveLength(2);
        });
      },
    ),
    { numRuns: 60 },
  );
});
