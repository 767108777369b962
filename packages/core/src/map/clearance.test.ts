import type { Brush } from '../brush/index.ts';
import { entityKind } from '../entity/index.ts';
import { rotation, type Vec3 } from '../math/index.ts';
import { transformPicked } from '../edit/index.ts';
import { block, scene } from '../testing/playing.ts';
import { aroundIn } from './around.ts';
import { clearance, TOUCHING } from './clearance.ts';
import type { MapDocument } from './types.ts';

/** What is clear of a handle's way, and what lies at its end. */
function clear(doc: MapDocument, id: string, limit: number, thing = 'd'): [number, string, true?] | null {
  const e = doc.entities.get(thing)!;
  const { measure } = entityKind(e.kind)!
    .handles(e, aroundIn(doc))
    .find((h) => h.id === id)!;
  const met = clearance(doc, thing, measure!.carries!, limit);
  if (!met) return null;
  return met.hidden ? [met.free, met.meets.id, true] : [met.free, met.meets.id];
}
/** What stands about: no wall. */
const stand = (...brush: Parameters<typeof block>): Brush => ({ ...block(...brush), role: 'detail' });
const everything = (doc: MapDocument) => ({
  brushes: new Set(doc.brushes.keys()),
  entities: new Set(doc.entities.keys()),
});
const slides = (travel: Vec3) => ({
  leaves: [{ moves: 'slides', travel, hinge: [0, 0, 0], axis: [0, 0, 1], angle: 0 }],
});
const turns = (angle: number) => ({
  leaves: [{ moves: 'turns', travel: [0, 0, 0], hinge: [0, -60, 0], axis: [0, 0, 1], angle }],
});
const leaf = block('leaf', [-4, -60, 0], [4, 60, 200], { id: 'd' });

test('a leaf that slides is clear up to the first brush before it, wherever that stands and however all is turned', () => {
  const doc = scene(
    [
      leaf,
      stand('far', [-10, 300, 0], [10, 320, 200]),
      stand('near', [-10, 145, 0], [10, 165, 200]),
      stand('under', [-10, 70, -20], [10, 400, 0]),
      stand('beside', [4, 0, 0], [40, 500, 200]),
    ],
    [['door', 'd', [0, 0, 0], slides([0, 100, 0])]],
  );
  expect(clear(doc, 'travel 0', 400)).toEqual([85, 'near']);
  expect(clear(doc, 'travel 0', 80)).toBeNull();
  const far = transformPicked(doc, everything(doc), rotation(2, 33, [9000, -14_000, 0]));
  const met = clear(far, 'travel 0', 400)!;
  expect(met[1]).toBe('near');
  expect(met[0]).toBeCloseTo(85, 2);
});

test('along each axis, up and down too, what lies before it is met, and what it only passes is not', () => {
  const body = { min: [-4, -60, 100], max: [4, 60, 200] } as const;
  for (const axis of [0, 1, 2] as const)
    for (const sign of [1, -1] as const) {
      const at = (gap: number): Brush => {
        const near = sign > 0 ? body.max[axis] + gap : body.min[axis] - gap;
        const [min, max] = [[...body.min], [...body.max]] as [number[], number[]];
        [min[axis], max[axis]] = [Math.min(near, near + sign * 20), Math.max(near, near + sign * 20)];
        return stand(`at ${gap}`, min as unknown as Vec3, max as unknown as Vec3);
      };
      // All that lies around it, a touch away: as long as its way.
      const around = [0, 1, 2].flatMap((other) =>
        other === axis
          ? []
          : [1, -1].map((side) => {
              const [min, max] = [body.min.map((c) => c - 400), body.max.map((c) => c + 400)];
              if (side > 0) [min[other], max[other]] = [body.max[other]!, body.max[other]! + 30];
              else [min[other], max[other]] = [body.min[other]! - 30, body.min[other]!];
              return stand(`beside ${other} ${side}`, min as unknown as Vec3, max as unknown as Vec3);
            }),
      );
      const travel = [0, 1, 2].map((k) => (k === axis ? sign * 100 : 0)) as unknown as Vec3;
      const part = block('leaf', body.min, body.max, { id: 'd' });
      const of = (...brushes: Brush[]) => scene([part, ...brushes], [['door', 'd', [0, 0, 0], slides(travel)]]);
      const off = [-1, 1].map((side) => {
        const far = side * 5000;
        return stand(`off ${side}`, [far - 9, far - 9, far - 9], [far + 9, far + 9, far + 9]);
      });
      for (const before of off)
        expect(clear(of(at(150), before, at(45), ...around), 'travel 0', 300)).toEqual([45, 'at 45']);
      expect(clear(of(...around), 'travel 0', 300)).toBeNull();
      expect(clear(of(at(310), ...around), 'travel 0', 300)).toBeNull();
    }
});

test('what a leaf stands in, and what holds no player back, does not count', () => {
  const zone = { ...block('zone', [-50, 70, 0], [50, 120, 200]), role: 'zone' as const };
  const wall = block('wall', [-20, 0, 0], [20, 300, 200]);
  const doc = scene([leaf, zone, wall], [['door', 'd', [0, 0, 0], slides([0, 100, 0])]]);
  expect(clear(doc, 'travel 0', 400)).toBeNull();
});

test('a wall that hides what slides into it is told apart from what stands in the way before or behind it', () => {
  const wall: Brush = { ...block('wall', [-20, 80, 0], [20, 300, 200]), role: 'structure' };
  const crate = stand('crate', [-40, 120, 0], [40, 160, 60]);
  const of = (...brushes: Brush[]) => scene([leaf, ...brushes], [['door', 'd', [0, 0, 0], slides([0, 100, 0])]]);
  expect(clear(of(wall), 'travel 0', 400)).toEqual([20, 'wall', true]);
  expect(clear(of(wall, crate), 'travel 0', 400)).toEqual([60, 'crate']);
  // What turns into a wall is stuck.
  const turning = scene(
    [leaf, { ...wall, ...block('wall', [-70, -20, 0], [-50, 20, 200]), role: 'structure' }],
    [['door', 'd', [0, 0, 0], turns(90)]],
  );
  expect(clear(turning, 'angle 0', 90)).toHaveLength(2);
});

test('a leaf that turns is clear to the angle at which its face comes to a corner', () => {
  const doc = (angle: number) =>
    scene([leaf, block('pillar', [-70, -20, 0], [-50, 20, 200])], [['door', 'd', [0, 0, 0], turns(angle)]]);
  // The pillar's nearest corner, let in by a touch, from the hinge; the face runs 4 cm before the hinge.
  const corner = [-50 - TOUCHING, 80 - TOUCHING] as const;
  const degrees = (radians: number) => (radians * 180) / Math.PI;
  const closed = degrees(Math.atan2(corner[1], corner[0]) - Math.asin(4 / Math.hypot(...corner))) - 90;
  const [free, id] = clear(doc(90), 'angle 0', 90)!;
  expect(id).toBe('pillar');
  expect(free).toBeCloseTo(closed, 1);
  expect(clear(doc(-90), 'angle 0', -90)).toBeNull();
  // All the way round it comes from the other side, to the pillar's far corner.
  expect(clear(doc(-90), 'angle 0', -180)).toBeNull();
});

test('a lift is clear from stop to stop, a track from keyframe to keyframe', () => {
  const car = block('car', [-50, -50, 0], [50, 50, 20], { id: 'd' });
  const beam = block('beam', [100, -10, 380], [300, 10, 400]);
  const doc = scene(
    [car, beam],
    [
      [
        'lift',
        'd',
        [0, 0, 0],
        {
          stops: [
            { at: [0, 0, 300], name: 'a' },
            { at: [120, 0, 300], name: 'b' },
          ],
        },
      ],
    ],
  );
  expect(clear(doc, 'stop 0', 1000)).toBeNull();
  const risen = scene(
    [car, { ...beam, ...block('beam', [100, -10, 310], [300, 10, 330]) }],
    [['lift', 'd', [0, 0, 0], { stops: [{ at: [0, 0, 300] }, { at: [120, 0, 300] }] }]],
  );
  expect(clear(risen, 'stop 1', 1000)).toEqual([50, 'beam']);
});
