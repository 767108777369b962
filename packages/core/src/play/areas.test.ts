import { block, play, scene, STILL } from '../testing/playing.ts';
import { buildLevel } from '../compile/index.ts';
import { aroundIn, newId, parseMap, writeMap, type MapDocument, type Wire } from '../map/index.ts';
import { beginWorld, isAway, newPerson, stepWorld, type WorldState } from './index.ts';
import { entityKind, type Happening, type Moment } from '../entity/index.ts';
import { PLAYER, TIME_STEP } from './constants.ts';
import { worldOfLevel, worldOfMap } from './world.ts';

const floor = block('floor', [-2000, -2000, -20], [2000, 2000, 0]);
const area = (id: string, x: number, size = 50) =>
  ({ ...block(`${id}-region`, [x - size, -100, 0], [x + size, 100, 200], { id }), role: 'zone' }) as const;
const EAST = { ...STILL, forward: 1 };
const start = (world: ReturnType<typeof worldOfMap>, x = -200) => beginWorld(world, [newPerson([x, 0, 0.1], 0)]);
const me = (s: WorldState) => s.people[0]!;
const wired = (doc: MapDocument, ...wires: Omit<Wire, 'id'>[]): MapDocument => ({
  ...doc,
  wires: new Map(wires.map((w) => ({ id: newId(), ...w })).map((w) => [w.id, w])),
});

describe('a zone', () => {
  test('tells who comes, stays and goes, once each', () => {
    const world = worldOfMap(scene([floor, area('z', 0)], [['zone', 'z', [0, 0, 0], { stay: 0.2 }]]));
    // At 360 cm/s it is crossed in 140 / 360 = 0.39 s, bodies counted.
    expect(play(world, start(world), 2, () => EAST).told.map((t) => t.signal)).toEqual(['entered', 'stayed', 'left']);
    const use = play(world, start(world, 0), 0.5, (t) => ({ ...STILL, use: t > 0.2 }));
    expect(use.told.map((t) => t.signal)).toEqual(['entered', 'stayed', 'used']);
  });

  test('has in it whose feet, middle or head alone is in it', () => {
    const entered = (low: number, high: number, crouch = false) => {
      const region = { ...block('z-region', [-50, -100, low], [50, 100, high], { id: 'z' }), role: 'zone' } as const;
      const world = worldOfMap(scene([floor, region], [['zone', 'z', [0, 0, 0], {}]]));
      return play(world, start(world), 3, () => ({ ...EAST, crouch })).told.some((t) => t.signal === 'entered');
    };
    const { standing, crouching } = PLAYER;
    for (const [low, high] of [
      [1, 20],
      [80, 90],
      [standing - 10, standing + 50],
    ] as const)
      expect(entered(low, high)).toBe(true);
    expect(entered(standing + 5, standing + 50)).toBe(false);
    expect(entered(crouching - 10, crouching + 50, true)).toBe(true);
    expect(entered(crouching + 5, standing, true)).toBe(false);
    expect(entered(-15, -5)).toBe(false);
  });

  test('works once, again after a while, for a key and for a price', () => {
    const run = (params: Record<string, unknown>, person: object = {}) => {
      const world = worldOfMap(scene([floor, area('z', 0)], [['zone', 'z', [0, 0, 0], params]]));
      const from = { ...start(world), people: [{ ...newPerson([-150, 0, 0.1], 0), ...person }] };
      // To and fro, a second each way, three times.
      return play(world, from, 6, (t) => ({ ...STILL, forward: Math.floor(t) % 2 ? -1 : 1 }));
    };
    const entered = (r: ReturnType<typeof run>) => r.told.filter((t) => t.signal === 'entered').length;
    expect(entered(run({}))).toBeGreaterThanOrEqual(3);
    expect(entered(run({ once: true }))).toBe(1);
    expect(entered(run({ again: 3 }))).toBe(2);
    expect(entered(run({ key: 'k' }))).toBe(0);
    expect(entered(run({ key: 'k' }, { keys: ['k'] }))).toBeGreaterThanOrEqual(3);
    const paid = run({ price: 2 }, { tokens: 5 });
    expect(entered(paid)).toBe(2);
    expect(me(paid.state).tokens).toBe(1);
    expect(paid.told.some((t) => t.signal === 'refused')).toBe(true);
  });

  test('asks who stays in it once, and takes nothing from whom it does not let in', () => {
    const world = worldOfMap(scene([floor, area('z', 0)], [['zone', 'z', [0, 0, 0], { price: 2, again: 0.5 }]]));
    const poor = play(world, start(world, 0), 1);
    expect(poor.told.map((t) => t.signal)).toEqual(['refused']);
    // Two come in together: for the second it rests, and when it works again they have not come anew.
    const two = [newPerson([-25, 0, 0.1], 0), newPerson([25, 0, 0.1], 0)].map((p) => ({ ...p, tokens: 9 }));
    const both = play(world, { ...beginWorld(world, []), people: two }, 2);
    expect(both.told.map((t) => [t.signal, t.by])).toEqual([['entered', 0]]);
    expect(both.state.people.map((p) => p.tokens)).toEqual([7, 9]);
  });

  test('harms by the second, less in armour; heals, slows, pushes; and who is done for begins again', () => {
    const world = (params: Record<string, unknown>) =>
      worldOfMap(scene([floor, area('z', 0, 100)], [['zone', 'z', [0, 0, 0], params]]));
    const harm = world({ effect: 'harm', rate: 30 });
    expect(me(play(harm, start(harm, 0), 2).state).health).toBeCloseTo(40, 0);
    const armoured = { ...start(harm), people: [{ ...newPerson([0, 0, 0.1], 0), armour: 20 }] };
    expect(me(play(harm, armoured, 2).state).health).toBeCloseTo(60, 0);
    const deadly = world({ effect: 'harm', rate: 500 });
    const again = {
      ...start(deadly),
      people: [{ ...newPerson([0, 0, 0.1], 0), begins: { at: [-700, 0, 0.1], yaw: 90 } as const }],
    };
    const dead = me(play(deadly, again, 1).state);
    expect([dead.health, Math.round(dead.body.at[0])]).toEqual([100, -700]);
    const slow = world({ effect: 'slow', slow: 0.5 });
    expect(me(play(slow, start(slow, 0), 0.5, () => EAST).state).body.velocity[0]).toBeCloseTo(180, 0);
    const push = world({ effect: 'push', push: [0, 0, 500] });
    expect(me(play(push, start(push, 0), 0.2).state).body.at[2]).toBeGreaterThan(80);
  });
});

test('a wire carries a signal to an action, after its delay and as often as it says, when things ride on each other too', () => {
  const doc = wired(
    scene(
      [floor, area('z', 0), block('leaf', [300, -60, 0], [308, 60, 200], { id: 'd' })],
      [
        ['zone', 'z', [0, 0, 0]],
        ['door', 'd', [304, 0, 0], { opens: 'wires', stays: true, seconds: 0.5 }],
      ],
    ),
    { from: { thing: 'z', signal: 'entered' }, to: { thing: 'd', action: 'toggle' }, delay: 0.5, times: 1 },
  );
  const world = worldOfMap(parseMap(writeMap(doc)));
  const told = play(world, start(world), 4, (t) => ({ ...STILL, forward: t % 2 < 1 ? 1 : -1 })).told;
  expect(told.filter((t) => t.thing === 'd').map((t) => t.signal)).toEqual(['opens', 'opened']);
  let state = start(world);
  const at: Record<string, number> = {};
  for (let k = 0; k < 480; k++) {
    const next = stepWorld(world, state, [EAST], TIME_STEP);
    for (const t of next.told) at[`${t.thing} ${t.signal}`] ??= k;
    state = next.state;
  }
  expect(at['d opens']! - at['z entered']!).toBe(60);
  expect(at['d opened']! - at['d opens']!).toBe(59);
});

test('a teleporter puts who enters at its end, looking as that does, and one that leads back does not send at once', () => {
  const world = worldOfMap(
    scene(
      [floor, area('a', 0), area('b', 1000)],
      [
        ['teleporter', 'a', [0, 0, 0], { target: 'b' }],
        ['teleporter', 'b', [1000, 0, 0], { target: 'a' }],
      ],
    ),
  );
  let state = start(world);
  const seen: string[] = [];
  for (let k = 0; k < 90; k++) {
    const next = stepWorld(world, state, [EAST], TIME_STEP);
    seen.push(...next.told.map((t) => t.thing));
    state = next.state;
  }
  expect(seen).toEqual(['a']);
  expect(me(state).body.at[0]).toBeGreaterThan(990);
  expect(Math.hypot(...me(state).body.velocity)).toBeLessThan(361);
});

test('a checkpoint is where one begins again, and an exit says so', () => {
  const world = worldOfMap(
    scene(
      [floor, area('c', 0), area('x', 600), { ...area('pit', 300), id: 'p' }],
      [
        ['checkpoint', 'c', [0, 0, 0.1]],
        ['zone', 'pit', [300, 0, 0], { effect: 'fall' }],
        ['exit', 'x', [600, 0, 0]],
      ],
    ),
  );
  const end = play(world, start(world), 1.6, () => EAST);
  expect(end.told.map((t) => `${t.thing} ${t.signal}`).slice(0, 2)).toEqual(['c reached', 'pit entered']);
  expect(me(end.state).body.at[0]).toBeLessThan(250);
  const out = play(world, start(world, 500), 1, () => EAST);
  expect(out.told).toContainEqual({ thing: 'x', signal: 'leaves', by: 0 });
});

test('a pickup gives what lies on it to who can use it, is gone, and comes back', () => {
  const world = worldOfMap(
    scene(
      [floor],
      [
        ['pickup', 'p', [0, 0, 0], { what: 'bandage', amount: 30, again: 1 }],
        ['pickup', 'k', [200, 0, 0], { what: 'key', named: 'tide key', again: 0 }],
      ],
    ),
  );
  const hale = play(world, start(world, 0), 0.5);
  expect(hale.told).toEqual([]);
  const hurt = { ...start(world, 0), people: [{ ...newPerson([0, 0, 0.1], 0), health: 50 }] };
  const once = play(world, hurt, 0.5);
  expect(me(once.state).health).toBe(80);
  const pickup = world.things.findIndex((t) => t.entity.id === 'p');
  expect(isAway(world, once.state, pickup)).toBe(true);
  const twice = play(world, once.state, 1);
  expect(twice.told.map((t) => t.signal)).toEqual(['back', 'taken']);
  expect(me(twice.state).health).toBe(100);
  const key = play(world, start(world, 0), 1.2, () => EAST);
  expect(me(key.state).keys).toEqual(['tide key']);
});

test('a pickup that is not there at first comes by a wire alone, and then comes back by itself', () => {
  const made = (again: number) =>
    worldOfMap(scene([floor], [['pickup', 'p', [0, 0, 0], { what: 'bandage', amount: 1, begins: false, again }]]));
  const away = (world: ReturnType<typeof made>, state: ReturnType<typeof start>) => isAway(world, state, 0);
  const world = made(1);
  const hurt = { ...start(world, 0), people: [{ ...newPerson([0, 0, 0.1], 0), health: 50 }] };
  const waits = play(world, hurt, 4);
  expect([waits.told, away(world, waits.state)]).toEqual([[], true]);
  // Once it was there it comes back a second after it was taken.
  const put = { ...hurt, memories: [{ there: true, gone: 0 }] };
  const taken = play(world, put, 0.5);
  expect(taken.told.map((t) => t.signal)).toEqual(['taken']);
  expect(play(world, taken.state, 0.8).told.map((t) => t.signal)).toEqual(['back', 'taken']);
  const never = made(0);
  expect(play(never, { ...put }, 5).told.map((t) => t.signal)).toEqual(['taken']);
});

test('a breakable is struck by what breaks it and by nothing else, and only wires break and mend it at once', () => {
  const { behaviour } = entityKind('breakable')!;
  const doc = scene([block('grille', [0, 0, 0], [10, 10, 10], { id: 'g' })], [['breakable', 'g', [0, 0, 0], {}]]);
  const strength = 60;
  const struck = (breaks: string, happening: Happening): string[] => {
    const thing = { ...doc.entities.get('g')!, params: { strength, breaks } };
    const told: string[] = [];
    const moment = { dt: 0.01, signal: (name: string) => void told.push(name) } as unknown as Moment;
    behaviour!.step(thing, behaviour!.begin(thing, aroundIn(doc)), [happening], moment);
    return told;
  };
  for (const breaks of ['use', 'touch', 'wires']) {
    expect(struck(breaks, { what: 'used', by: 0 })).toEqual(breaks === 'use' ? ['struck'] : []);
    expect(struck(breaks, { what: 'touched', by: 0 })).toEqual(breaks === 'touch' ? ['struck'] : []);
    expect(struck(breaks, { what: 'action', action: 'break' })).toEqual(['broken']);
    expect(struck(breaks, { what: 'action', action: 'mend' })).toEqual([]);
  }
});

test('a breakable is struck, broken and then no longer in the way, in a level as in the map', () => {
  const doc = scene(
    [floor, block('grille', [0, -100, 0], [10, 100, 250], { id: 'g' })],
    [
      ['breakable', 'g', [0, 0, 0], { strength: 60 }],
      ['spawn', 's', [-200, 0, 1]],
    ],
  );
  const strike = (world: ReturnType<typeof worldOfMap>) =>
    play(world, start(world, -120), 3, (t) => ({ ...EAST, use: t % 0.4 < 0.2 }));
  const run = strike(worldOfMap(doc));
  expect(run.told.map((t) => t.signal)).toEqual(['struck', 'struck', 'broken']);
  expect(me(run.state).body.at[0]).toBeGreaterThan(200);
  const { level } = buildLevel(doc, 'sketch');
  expect(JSON.stringify(strike(worldOfLevel(level)).state)).toBe(JSON.stringify(run.state));
});
