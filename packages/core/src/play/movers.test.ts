import fc from 'fast-check';
import { parseMap, writeMap } from '../map/index.ts';
import { block, isFree, play, pointOf, scene, STILL } from '../testing/playing.ts';
import type { Vec3 } from '../math/index.ts';
import { TIME_STEP } from './constants.ts';
import { beginWorld, newPerson, order, placedIn, stepWorld, type WorldState } from './index.ts';
import { worldOfMap } from './world.ts';

const floor = block('floor', [-2000, -2000, -20], [2000, 2000, 0]);
const feet = (s: WorldState): Vec3 => s.people[0]!.body.at;

describe('a lift', () => {
  const car = block('car', [-60, -60, 0], [60, 60, 10], { id: 'lift' });
  const lift = (params: Record<string, unknown> = {}, more = [floor]) =>
    worldOfMap(
      scene(
        [...more, car],
        [
          [
            'lift',
            'lift',
            [0, 0, 0],
            { stops: [{ name: 'Loft', at: [0, 0, 300] }], speed: 100, ease: 'even', ...params },
          ],
        ],
      ),
    );

  test('carries who stands on it, to the last bit as far as it goes itself', () => {
    const world = lift({ delay: 0.5 });
    const on = beginWorld(world, [newPerson([0, 0, 10.1], 0)]);
    const gaps = new Set<number>();
    const ride = play(world, on, 6, undefined, (s) => {
      const top = pointOf(world, s, [0, 0, 10])[2];
      if (top > 20 && top < 300) gaps.add(Math.round((feet(s)[2] - top) * 1e9));
      expect(isFree(world, s)).toBe(true);
    });
    expect(ride.told.map((t) => t.signal)).toEqual(['leaves', 'arrives', 'arrivesLast']);
    expect(pointOf(world, ride.state, [0, 0, 0])[2]).toBe(300);
    expect(feet(ride.state)[2]).toBeCloseTo(310, 1);
    // Neither left behind nor pressed: the same distance from the car all the way.
    expect(gaps.size).toBe(1);
  });

  test('takes the time that its speed says', () => {
    const world = lift({ delay: 0, stay: 0, calls: 'wires' });
    const called = order(world, beginWorld(world, []), 'lift', 'next');
    // The step in which it leaves does not move it yet.
    expect(pointOf(world, play(world, called, 1.5).state, [0, 0, 0])[2]).toBeCloseTo(150 - 100 / 120, 6);
    expect(play(world, called, 2.97).told.map((t) => t.signal)).toEqual(['leaves']);
    expect(play(world, called, 3.05).told.map((t) => t.signal)).toEqual(['leaves', 'arrives', 'arrivesLast']);
  });

  test('answers calls from two plates one after the other, and never turns round between two stops', () => {
    const world = lift({ calls: 'wires', delay: 0.3, stay: 0.4 });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('first', 'last'), fc.integer({ min: 1, max: 300 })), { maxLength: 12 }),
        (calls) => {
          let state = beginWorld(world, []);
          let heads = 0;
          let before = 0;
          for (const [action, steps] of calls) {
            state = order(world, state, 'lift', action);
            state = play(world, state, steps / 120, undefined, (s) => {
              const z = pointOf(world, s, [0, 0, 0])[2];
              const way = Math.sign(z - before);
              if (heads !== 0 && way === -heads) expect(before === 0 || before === 300).toBe(true);
              heads = way;
              before = z;
            }).state;
          }
          const end = calls.at(-1)?.[0];
          const z = pointOf(world, play(world, state, 20).state, [0, 0, 0])[2];
          if (end) expect([0, 300]).toContain(z);
        },
      ),
      { numRuns: 30 },
    );
  });

  test('returns when nobody calls it, and waits over who is beneath when it is open there', () => {
    const world = lift({ calls: 'wires', returns: true, after: 1, stay: 0.2, skirt: false });
    const up = play(world, order(world, beginWorld(world, []), 'lift', 'last'), 4).state;
    expect(pointOf(world, up, [0, 0, 0])[2]).toBe(300);
    expect(pointOf(world, play(world, up, 6).state, [0, 0, 0])[2]).toBe(0);
    const under = { ...up, people: [newPerson([0, 0, 0.1], 0)] };
    const waits = play(world, under, 8, undefined, (s) => expect(isFree(world, s)).toBe(true));
    const bottom = pointOf(world, waits.state, [0, 0, 0])[2];
    expect(bottom).toBeGreaterThan(176);
    expect(bottom).toBeLessThan(177);
    expect(waits.told.some((t) => t.signal === 'obstructed')).toBe(true);
  });

  test('that is closed beneath lets nobody in, up or down', () => {
    const world = lift({ calls: 'wires' });
    const up = play(world, order(world, beginWorld(world, []), 'lift', 'last'), 4).state;
    const walks = play(world, { ...up, people: [newPerson([-300, 0, 0.1], 0)] }, 3, () => ({ ...STILL, forward: 1 }));
    expect(feet(walks.state)[0]).toBeCloseTo(-80, 0);
  });

  test('stops under a ceiling that would crush its rider', () => {
    const world = lift({}, [floor, block('ceiling', [-200, -200, 250], [200, 200, 270])]);
    const ride = play(world, beginWorld(world, [newPerson([0, 0, 10.1], 0)]), 6, undefined, (s) =>
      expect(isFree(world, s)).toBe(true),
    );
    expect(feet(ride.state)[2]).toBeLessThan(250 - 176 + 0.1);
    expect(feet(ride.state)[2]).toBeGreaterThan(250 - 176 - 3);
  });
});

describe('a mover', () => {
  const slab = block('slab', [-100, -100, 0], [100, 100, 20], { id: 'm' });

  test('follows its track by closed forms: an even leg, a gentle one, and a rest between', () => {
    const track = [
      { at: 2, move: [200, 0, 0], turn: [0, 0, 0], ease: 'even', hold: 1 },
      { at: 4, move: [200, 0, 100], turn: [0, 0, 90] },
    ];
    const world = worldOfMap(scene([slab], [['mover', 'm', [0, 0, 0], { track, plays: 'once' }]]));
    const at = (t: number) => pointOf(world, play(world, beginWorld(world, []), t).state, [0, 0, 0]);
    expect(at(1)[0]).toBeCloseTo(100, 6);
    expect(at(2.5)).toEqual([200, 0, 0]);
    // The second leg takes from 3 to 5 s; a quarter of it gently is 3/16 − 2/64 of the way.
    expect(at(3.5)[2]).toBeCloseTo(100 * (3 / 16 - 2 / 64), 5);
    expect(at(9)).toEqual([200, 0, 100]);
    const corner = pointOf(world, play(world, beginWorld(world, []), 9).state, [100, 0, 0]);
    corner.forEach((c, i) => expect(c).toBeCloseTo([200, 100, 100][i]!, 9));
  });

  test('goes to and fro, over and over, and to the keyframe that it is told', () => {
    const track = [
      { at: 1, move: [100, 0, 0], turn: [0, 0, 0], ease: 'even' },
      { at: 2, move: [100, 100, 0], turn: [0, 0, 0], ease: 'even' },
    ];
    const of = (plays: string) => worldOfMap(scene([slab], [['mover', 'm', [0, 0, 0], { track, plays }]]));
    const toAndFro = of('toAndFro');
    const back = play(toAndFro, beginWorld(toAndFro, []), 3.5);
    expect(pointOf(toAndFro, back.state, [0, 0, 0])[0]).toBeCloseTo(50, 0);
    expect(back.told.map((t) => t.signal)).toEqual(['ends']);
    const round = of('round');
    expect(pointOf(round, play(round, beginWorld(round, []), 2.5).state, [0, 0, 0])[0]).toBeCloseTo(50, 0);
    const keys = of('keys');
    expect(pointOf(keys, play(keys, beginWorld(keys, []), 2).state, [0, 0, 0])).toEqual([0, 0, 0]);
    const one = play(keys, order(keys, beginWorld(keys, []), 'm', 'goToKey', 1), 3);
    expect(pointOf(keys, one.state, [0, 0, 0])).toEqual([100, 0, 0]);
    expect(one.told).toEqual([{ thing: 'm', signal: 'arrives' }]);
    expect(pointOf(keys, play(keys, order(keys, one.state, 'm', 'goToKey', 0), 3).state, [0, 0, 0])).toEqual([0, 0, 0]);
  });

  test('turns who stands on it round, and where they look', () => {
    const world = worldOfMap(scene([floor, slab], [['mover', 'm', [0, 0, 0], { spin: 45 }]]));
    const begun = play(world, beginWorld(world, [newPerson([60, 0, 20.1], 0)]), 0.1).state;
    const [x0, y0] = feet(begun);
    const after = play(world, begun, 2, undefined, (s) => expect(isFree(world, s)).toBe(true)).state;
    const [x, y] = feet(after);
    // A quarter turn about the mover's place, at the same distance from it.
    expect(Math.hypot(x, y)).toBeCloseTo(Math.hypot(x0, y0), 3);
    expect(Math.atan2(x0 * y - y0 * x, x0 * x + y0 * y)).toBeCloseTo(Math.PI / 2, 3);
  });

  test('carries what rides on it, movers too', () => {
    const track = [{ at: 1, move: [0, 0, 100], turn: [0, 0, 0], ease: 'even' }];
    const doc = scene(
      [
        block('base', [-100, -100, 0], [100, 100, 20], { id: 'm' }),
        block('arm', [-10, -10, 20], [10, 10, 60], { id: 'n' }),
      ],
      [
        ['mover', 'm', [0, 0, 0], { track, plays: 'once' }],
        ['mover', 'n', [0, 0, 20], { spin: 90 }],
      ],
    );
    const n = { ...doc.entities.get('n')!, carrier: { id: 'm' } };
    const world = worldOfMap(parseMap(writeMap({ ...doc, entities: new Map(doc.entities).set('n', n) })));
    const { state } = play(world, beginWorld(world, []), 2);
    const arm = world.bodies.findIndex((b) => world.things[b.thing]!.entity.id === 'n');
    const p = pointOf(world, state, [10, 0, 40], arm);
    [-10, 0, 140].forEach((c, i) => expect(p[i]).toBeCloseTo(c, 6));
  });

  test('never leaves a walker in a solid, nor lets them through, whatever it does', () => {
    const pens = [
      [-400, -380, -400, 400],
      [380, 400, -400, 400],
      [-400, 400, -400, -380],
      [-400, 400, 380, 400],
    ].map(([a, b, c, d], k) => block(`pen${k}`, [a!, c!, 0], [b!, d!, 400]));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2 ** 31 }), (seed) => {
        let x = seed;
        const random = () => (x = (Math.imul(x, 1664525) + 1013904223) >>> 0) / 2 ** 32;
        const any = (r: number): Vec3 => [(random() - 0.5) * r, (random() - 0.5) * r, (random() - 0.5) * r];
        const track = Array.from({ length: 3 }, (_, k) => ({
          at: 0.3 + k * (0.2 + random()),
          move: any(500),
          turn: any(200),
        })).map((k, i) => ({ ...k, at: k.at + i * 0.3 }));
        const kind = Math.floor(random() * 3);
        const doc = scene(
          [floor, ...pens, block('body', [-80, -30, 10], [80, 30, 60 + random() * 150], { id: 'm' })],
          [
            kind === 0
              ? ['mover', 'm', [0, 0, 40], { spin: (random() - 0.5) * 600, axis: any(1) }]
              : kind === 1
                ? ['mover', 'm', [0, 0, 40], { track, plays: 'toAndFro', obstructed: random() < 0.5 ? 'back' : 'stop' }]
                : [
                    'lift',
                    'm',
                    [0, 0, 0],
                    { stops: [{ name: '', at: any(600) }], speed: 1200 * random() + 1, returns: true, after: 0 },
                  ],
          ],
        );
        const world = worldOfMap(doc);
        let yaw = 0;
        const state = beginWorld(world, [newPerson([-250, -250, 0.1], 0)]);
        if (!isFree(world, state)) return;
        play(
          world,
          state,
          3,
          (t) => {
            if (Math.round(t * 120) % 30 === 0) yaw = random() * 360;
            return { ...STILL, forward: 1, yaw, jump: random() < 0.1 };
          },
          (s) => {
            expect(isFree(world, s)).toBe(true);
            const [px, py, pz] = feet(s);
            expect(Math.max(Math.abs(px), Math.abs(py))).toBeLessThan(381 + (pz > 390 ? 1e9 : 0));
            expect(pz).toBeGreaterThan(-0.1);
          },
        );
      }),
      { numRuns: Number(process.env.RUNS ?? 25) },
    );
  });
});

test('a state that is written and read in every step goes on as if it had not been: nothing but it matters', () => {
  const track = [{ at: 1.2, move: [0, 0, 150], turn: [0, 0, 40] }];
  const rows = Array.from({ length: 12 }, (_, k) => k);
  const world = worldOfMap(
    scene(
      [
        floor,
        ...rows.map((k) => block(`b${k}`, [k * 260 - 50, -50, 10], [k * 260 + 50, 50, 30], { id: `m${k}` })),
        block('car', [-60, 140, 0], [60, 260, 10], { id: 'lift' }),
      ],
      [
        ...rows.map((k) => ['mover', `m${k}`, [k * 260, 0, 10], { track }] as const),
        ['lift', 'lift', [0, 200, 0], { stops: [{ name: '', at: [0, 0, 220] }], returns: true, after: 1 }],
      ],
    ),
  );
  let kept = beginWorld(world, [newPerson([-120, 0, 0.1], 0), newPerson([0, 200, 10.1], 90)]);
  let read = kept;
  const inputs = (k: number) => [{ ...STILL, forward: 1, jump: k % 90 < 5 }, STILL];
  for (let k = 0; k < 900; k++) {
    kept = stepWorld(world, kept, inputs(k), TIME_STEP).state;
    read = stepWorld(world, JSON.parse(JSON.stringify(read)) as WorldState, inputs(k), TIME_STEP).state;
    if (k % 50 === 0) expect(JSON.stringify(read)).toBe(JSON.stringify(kept));
  }
  expect(JSON.stringify(read)).toBe(JSON.stringify(kept));
  // Whoever asks for what nobody was near gets where it is.
  const fresh = JSON.parse(JSON.stringify(kept)) as WorldState;
  expect(placedIn(world, kept)).toEqual(placedIn(world, fresh));
  expect(feet(kept)[0]).toBeGreaterThan(1000);
});
