import { boxSolid, prismSolid, stopsPlayers, wedgeSolid, type Brush, type Solid } from '../brush/index.ts';
import { packColliders } from '../compile/index.ts';
import {
  applyAffine,
  composeAffine,
  hashRandom,
  rotation,
  translation,
  type Affine,
  type Box,
  type Vec3,
} from '../math/index.ts';
import { dressSolid, transformBrush } from '../surface/index.ts';
import { makeCollision, type Collision } from './collide.ts';
import { PLAYER, TIME_STEP } from './constants.ts';
import { fits, startPlayer, stepPlayer, type PlayerInput, type PlayerState } from './player.ts';

const STILL: PlayerInput = { forward: 0, right: 0, jump: false, crouch: false, yaw: 0, pitch: 0 };
let count = 0;
const brush = (solid: Solid): Brush => dressSolid(solid, `b${count++}`, 'm');
const box = (b: Box): Brush => brush(boxSolid(b));
const world = (brushes: readonly Brush[]): Collision => makeCollision(packColliders(brushes.filter(stopsPlayers)));
const turned = (brushes: readonly Brush[], m: Affine): Brush[] => brushes.map((b) => transformBrush(b, m, true));

function run(
  c: Collision,
  s: PlayerState,
  input: PlayerInput,
  steps: number,
  each?: (s: PlayerState) => void,
): PlayerState {
  let now = s;
  for (let i = 0; i < steps; i++) {
    now = stepPlayer(c, now, input, TIME_STEP);
    each?.(now);
  }
  return now;
}
const GROUND = box({ min: [-4000, -4000, -32], max: [4000, 4000, 0] });
/** Places and turns in which nothing may go differently, but for the last digits: the player's box does not turn. */
const PLACES: readonly Affine[] = [
  translation([0, 0, 0]),
  translation([30_000, -20_000, 400]),
  translation([0.37, 0.011, -7.3]),
];

describe('on ramps', () => {
  const rampOf = (degrees: number): Brush[] => {
    const rise = 1200 * Math.tan((degrees * Math.PI) / 180);
    return [
      GROUND,
      brush(wedgeSolid({ min: [0, -400, 0], max: [1200, 400, rise] }, 'east')),
      box({ min: [1200, -400, 0], max: [3000, 400, rise] }),
    ];
  };
  for (const degrees of [5, 10, 20, 30, 40, 44])
    test(`of ${degrees}° one walks up, down and across at walking speed, on the ground all the time`, () => {
      for (const place of PLACES) {
        const c = world(turned(rampOf(degrees), place));
        let s = startPlayer(applyAffine(place, [-300, 0, 0.1]), 0);
        s = run(c, s, STILL, 60);
        s = run(c, s, { ...STILL, forward: 1 }, 160);
        const from = s.at;
        s = run(c, s, { ...STILL, forward: 1 }, 60, (n) => expect(n.onGround).toBe(true));
        const moved = Math.hypot(s.at[0] - from[0], s.at[1] - from[1], s.at[2] - from[2]);
        expect(moved / (60 * TIME_STEP)).toBeGreaterThan(PLAYER.walkSpeed * 0.995);
        expect(moved / (60 * TIME_STEP)).toBeLessThan(PLAYER.walkSpeed * 1.005);
        expect((s.at[2] - from[2]) / (s.at[0] - from[0])).toBeCloseTo(Math.tan((degrees * Math.PI) / 180), 3);
        const across = run(c, s, { ...STILL, right: 1 }, 60, (n) => expect(n.onGround).toBe(true));
        expect(Math.abs(across.at[2] - s.at[2])).toBeLessThan(40);
        // Down again, from the flat top over the edge.
        s = run(c, s, { ...STILL, forward: 1 }, 600);
        s = run(c, s, { ...STILL, forward: -1 }, 1300, (n) => expect(n.onGround).toBe(true));
        expect(s.at[2] - applyAffine(place, [0, 0, 0])[2]).toBeLessThan(0.1);
      }
    });

  test('every press of jump jumps, at any place of the ramp', () => {
    for (const degrees of [5, 12, 20, 33, 44]) {
      const c = world(rampOf(degrees));
      let jumps = 0;
      for (let i = 0; i < 12; i++) {
        const x = 60 + i * 70;
        let s = run(
          c,
          startPlayer([x, 0, (x + 20) * Math.tan((degrees * Math.PI) / 180) + 1], 0),
          { ...STILL, forward: 1 },
          30,
        );
        const z = s.at[2];
        s = run(c, s, { ...STILL, forward: 1, jump: true }, 8);
        if (!s.onGround && s.at[2] > z + 15) jumps++;
      }
      expect(jumps).toBe(12);
    }
  });
});

test('stairs of exactly the step height are walked up and down without ever leaving the ground', () => {
  for (const place of PLACES) {
    const stairs = Array.from({ length: 6 }, (_, i) =>
      box({ min: [i * 60, -300, 0], max: [700, 300, (i + 1) * PLAYER.step] }),
    );
    const c = world(turned([GROUND, ...stairs], place));
    let s = run(c, startPlayer(applyAffine(place, [-200, 0, 0.1]), 0), STILL, 60);
    s = run(c, s, { ...STILL, forward: 1 }, 300, (n) => expect(n.onGround).toBe(true));
    expect(s.at[2] - applyAffine(place, [0, 0, 0])[2]).toBeCloseTo(240, 1);
    s = run(c, s, { ...STILL, forward: -1 }, 360, (n) => expect(n.onGround).toBe(true));
    expect(s.at[2] - applyAffine(place, [0, 0, 0])[2]).toBeLessThan(0.1);
  }
});

describe('along walls', () => {
  /** A row of flush pieces, as one wall of 8 m, 50 cm each, on the left of somebody who walks along it. */
  const row = (pieces: number, degrees: number): Brush[] => {
    const length = 4000 / pieces;
    const wall = Array.from({ length: pieces }, (_, i) =>
      box({ min: [i * length, 30, 0], max: [(i + 1) * length, 62, 300] }),
    );
    return [GROUND, ...turned(wall, rotation(2, degrees, [0, 0, 0]))];
  };
  /** Walking for a while, wishing `into` degrees into the wall: how far along it, and the fastest that was seen. */
  function along(brushes: readonly Brush[], degrees: number, into: number): { way: number; fastest: number } {
    const c = world(brushes);
    const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    const start: Vec3 = [200 * cos + 5 * sin, 200 * sin - 5 * cos, 0.1];
    let fastest = 0;
    const s = run(
      c,
      startPlayer(start, 0),
      { ...STILL, forward: 1, yaw: degrees + into },
      420,
      (n) => (fastest = Math.max(fastest, Math.hypot(n.velocity[0], n.velocity[1]))),
    );
    return { way: (s.at[0] - start[0]) * cos + (s.at[1] - start[1]) * sin, fastest };
  }

  test('nobody is faster than walking, at any angle', () => {
    for (const degrees of [0, 27, 61])
      for (let into = 0; into <= 80; into += 16)
        expect(along(row(1, degrees), degrees, into).fastest).toBeLessThan(PLAYER.walkSpeed * 1.0005);
  });

  test('a row of flush pieces is passed as fast as one piece, within 0.1 %', () => {
    for (const degrees of [0, 27, 63.4])
      for (const into of [0, 20, 45]) {
        const one = along(row(1, degrees), degrees, into);
        for (const pieces of [16, 80]) {
          const many = along(row(pieces, degrees), degrees, into);
          expect(Math.abs(many.way / one.way - 1)).toBeLessThan(0.001);
        }
      }
    expect(along(row(1, 27), 27, 0).way / 3.5).toBeGreaterThan(PLAYER.walkSpeed * 0.95);
  });

  test('flush floors of many pieces are as good as one', () => {
    const floors = (n: number) =>
      Array.from({ length: n }, (_, i) =>
        box({ min: [(i * 4000) / n, -300, -32], max: [((i + 1) * 4000) / n, 300, 0] }),
      );
    for (const degrees of [0, 27]) {
      const way = (n: number): number => {
        const c = world(turned(floors(n), rotation(2, degrees, [0, 0, 0])));
        const s = run(
          c,
          startPlayer(applyAffine(rotation(2, degrees, [0, 0, 0]), [100, 0, 0.1]), 0),
          { ...STILL, forward: 1, yaw: degrees },
          900,
        );
        return Math.hypot(s.at[0], s.at[1]);
      };
      expect(Math.abs(way(60) / way(1) - 1)).toBeLessThan(0.001);
    }
  });
});

/** Turned and overlapping solids on a floor within walls: some meet exactly, some overlap by a hair, some leave slits. */
function heap(seed: number): Brush[] {
  const r = (k: number, n: number): number => hashRandom(seed, k * 16 + n);
  const out: Brush[] = [
    box({ min: [-700, -700, -32], max: [700, 700, 0] }),
    ...[0, 90, 180, 270].map((a) =>
      transformBrush(box({ min: [600, -700, 0], max: [640, 700, 500] }), rotation(2, a, [0, 0, 0]), true),
    ),
  ];
  for (let k = 0; k < 26; k++) {
    const size: Vec3 = [40 + r(k, 0) * 200, 40 + r(k, 1) * 200, 10 + r(k, 2) * 160];
    const base = { min: [0, 0, 0] as Vec3, max: size };
    const solid =
      r(k, 3) < 0.3
        ? wedgeSolid(base, 'north')
        : r(k, 3) < 0.5
          ? prismSolid(base, 5 + Math.floor(r(k, 4) * 4))
          : boxSolid(base);
    const tilt = r(k, 5) < 0.4 ? rotation(0, (r(k, 6) - 0.5) * 120, [0, 0, 0]) : translation([0, 0, 0]);
    const place = composeAffine(
      translation([(r(k, 7) - 0.5) * 1000, (r(k, 8) - 0.5) * 1000, r(k, 9) < 0.7 ? 0 : r(k, 9) * 60]),
      composeAffine(rotation(2, r(k, 10) * 360, [0, 0, 0]), tilt),
    );
    const b = transformBrush(brush(solid), place, true);
    out.push(b);
    // A twin that overlaps it, or leaves a slit, by a few thousandths of a cm.
    if (r(k, 11) < 0.6) {
      const along = applyAffine(place, [size[0] + (r(k, 12) - 0.5) * 0.05, (r(k, 13) - 0.5) * 0.05, 0]);
      const from = applyAffine(place, [0, 0, 0]);
      out.push(transformBrush(b, translation([along[0] - from[0], along[1] - from[1], along[2] - from[2]]), true));
    }
  }
  return out;
}

const WALKS = Number(process.env.WALKS ?? 16);
const LEGS = 60;

test('no walk among turned, leaning and overlapping solids ends frozen, sunk or outside', () => {
  for (let seed = 0; seed < WALKS; seed++) {
    const c = world(heap(seed));
    let s = startPlayer([-560 + hashRandom(seed, 9000) * 60, -560, 320], 0);
    /** Steps since the player last got anywhere, while trying. */
    let stood = 0;
    let last = s.at;
    for (let leg = 0; leg < LEGS; leg++) {
      const r = (n: number): number => hashRandom(seed, 10_000 + leg * 8 + n);
      const input = (i: number): PlayerInput => ({
        forward: 1,
        right: r(1) * 2 - 1,
        jump: r(2) > 0.5 && i % 40 === 0,
        crouch: r(3) > 0.75,
        yaw: r(4) * 360,
        pitch: 0,
      });
      for (let i = 0; i < 40; i++) {
        s = stepPlayer(c, s, input(i), TIME_STEP);
        if (!fits(c, s.at, s.crouching))
          throw new Error(`walk ${seed}, leg ${leg}: inside a solid at ${s.at.join(' ')}`);
        if (s.at[2] < -0.1 || Math.abs(s.at[0]) > 640 || Math.abs(s.at[1]) > 640)
          throw new Error(`walk ${seed}: got out`);
      }
      stood = Math.hypot(s.at[0] - last[0], s.at[1] - last[1], s.at[2] - last[2]) < 0.01 ? stood + 1 : 0;
      last = s.at;
      if (stood < 6) continue;
      // Somebody in a corner may have pushed into it for a while: can they still get away, in any direction at all?
      const free =
        Array.from({ length: 16 }, (_, k) => run(c, s, { ...STILL, forward: 1, yaw: k * 22.5 }, 60)).some(
          (n) => Math.hypot(n.at[0] - s.at[0], n.at[1] - s.at[1]) > 5,
        ) ||
        run(c, run(c, s, { ...STILL, jump: true }, 30), { ...STILL }, 60).at[2] !== s.at[2] ||
        Array.from({ length: 16 }, (_, k) => run(c, s, { ...STILL, forward: 1, jump: true, yaw: k * 22.5 }, 60)).some(
          (n) => Math.hypot(n.at[0] - s.at[0], n.at[1] - s.at[1]) > 5,
        );
      if (!free) throw new Error(`walk ${seed}, leg ${leg}: frozen at ${s.at.join(' ')}`);
      stood = 0;
    }
  }
});

test('a player who starts a little or deep inside something comes out, the shortest way', () => {
  const wall = box({ min: [0, -300, 0], max: [32, 300, 300] });
  const c = world([GROUND, wall]);
  for (const depth of [0.006, 0.025, 1, 6]) {
    const s = run(c, startPlayer([-20 + depth, 0, 0.1], 0), STILL, 30);
    expect(s.at[0]).toBeCloseTo(-20, 0);
    expect(fits(c, s.at, false)).toBe(true);
    const away = run(c, s, { ...STILL, forward: -1 }, 60);
    expect(away.at[0]).toBeLessThan(-60);
  }
});
