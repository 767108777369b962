import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import {
  drawnOnAverage,
  findingsOf,
  buildStructure,
  parseMap,
  seedsOf,
  writeMap,
  type MapDocument,
  collisionOf,
  startPlayer,
  stepPlayer,
  TIME_STEP,
  beginWorld,
  lampShares,
  newPerson,
  order,
  poseOfThing,
  SOUNDS,
  stepWorld,
  type SoundName,
  worldOfMap,
  type PlayerInput,
  type Told,
  type WorldState,
} from '@yesca/core';
import {
  firstRoom,
  MATERIALS,
  propFacts,
  ropewalk,
  soundOf,
  TEMPLATES,
  tidemill,
  wavFile,
  type Picture,
} from './index.ts';
import { RECIPES } from './materials/recipes/index.ts';
import { renderMaterial } from './materials/render.ts';

const asset = (path: string) => readFileSync(fileURLToPath(new URL(`../assets/${path}`, import.meta.url)));
const MAPS: [string, () => MapDocument][] = [
  ['first-room', firstRoom],
  ['halyard-tidemill', tidemill],
  ['ropewalk', () => ropewalk(false)],
  ['ropewalk-finished', () => ropewalk(true)],
];

interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly at: (x: number, y: number, c: number) => number;
}
async function pixels(name: string, picture: Picture): Promise<Pixels> {
  const { data, info } = await sharp(asset(`materials/${name}.${picture}.webp`))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, at: (x, y, c) => data[(y * info.width + x) * 4 + c]! };
}
const rgb = (hex: string) => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16));

describe('materials', () => {
  test('are at least forty, each of another name, of all the kinds that a mill needs', () => {
    expect(MATERIALS.length).toBeGreaterThanOrEqual(40);
    expect(new Set(MATERIALS.map((m) => m.name)).size).toBe(MATERIALS.length);
    const tags = new Set(MATERIALS.flatMap((m) => m.tags));
    for (const t of [
      'stone',
      'plaster',
      'wood',
      'metal',
      'roof',
      'ground',
      'water',
      'cloth',
      'trim',
      'sign',
      'lamp',
      'glass',
      'ice',
      'tool',
    ])
      expect(tags).toContain(t);
    expect(
      MATERIALS.filter((m) => m.solidity === 'cutOut')
        .map((m) => m.name)
        .sort(),
    ).toEqual(['chain', 'fern', 'iron-bars', 'iron-grille', 'ivy', 'leaf-canopy', 'reed', 'rope-net']);
    expect(MATERIALS.flatMap((m) => m.tool ?? []).sort()).toEqual(['placeholder', 'sky', 'unseen']);
    expect(MATERIALS.filter((m) => m.glow).length).toBeGreaterThanOrEqual(2);
  });

  test.each(MATERIALS.map((m) => [m.name, m] as const))('%s has the pictures it says it has', async (name, m) => {
    const albedo = await pixels(name, 'albedo');
    const { width, height, at } = albedo;
    expect([width, height]).toEqual([m.width, m.height]);
    const mean = [0, 0, 0];
    let there = 0;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const a = at(x, y, 3);
        there += a;
        for (let c = 0; c < 3; c++) mean[c]! += at(x, y, c) * a;
      }
    // The pictures are packed with a little loss: three levels.
    rgb(m.average).forEach((c, i) => expect(Math.abs(mean[i]! / there - c)).toBeLessThan(3));
    const share = there / 255 / width / height;
    if (m.solidity === 'solid') expect(share).toBe(1);
    else if (m.solidity === 'cutOut') {
      expect(share).toBeGreaterThan(0.1);
      expect(share).toBeLessThan(0.85);
    } else expect(share).toBeLessThan(0.98);
    for (const r of m.regions ?? []) {
      expect(r.x >= 0 && r.y >= 0 && r.x + r.width <= width && r.y + r.height <= height).toBe(true);
    }
    // Directions of the relief are of length one and look outward.
    const normal = await pixels(name, 'normal');
    let off = 0;
    for (let k = 0; k < 200; k++) {
      const [x, y] = [(k * 37) % normal.width, (k * 53) % normal.height];
      const v = [0, 1, 2].map((c) => (normal.at(x, y, c) / 255) * 2 - 1);
      off += Math.abs(Math.hypot(...v) - 1) / 200;
      expect(v[2]).toBeGreaterThan(0);
    }
    expect(off).toBeLessThan(0.08);
    const rough = await pixels(name, 'roughness');
    let sum = 0;
    for (let y = 0; y < rough.height; y++) for (let x = 0; x < rough.width; x++) sum += rough.at(x, y, 0) / 255;
    expect(Math.abs(sum / rough.width / rough.height - m.roughness)).toBeLessThan(0.03);
    expect(await pixels(name, 'thumb')).toMatchObject({ width: 128, height: 128 });
  });

  test.each(MATERIALS.filter((m) => m.solidity === 'solid' && !m.regions && !m.tool && !m.glow).map((m) => m.name))(
    '%s repeats without a seam',
    async (name) => {
      const { width: w, height: h, at } = await pixels(name, 'albedo');
      let seam = 0;
      let inner = 0;
      for (let k = 0; k < Math.min(w, h); k++)
        for (let c = 0; c < 3; c++) {
          seam += Math.abs(at(w - 1, k, c) - at(0, k, c)) + Math.abs(at(k, h - 1, c) - at(k, 0, c));
          for (const j of [64, 200, 333])
            inner += (Math.abs(at(j, k, c) - at(j + 1, k, c)) + Math.abs(at(k, j, c) - at(k, j + 1, c))) / 3;
        }
      // Joints and boards may lie right on the border, where neighbours differ as at any joint; 27 grey levels are far below a cut.
      expect(seam / (w * 6)).toBeLessThan(Math.max(27, (inner / (w * 6)) * 3));
    },
  );

  test('the placeholder’s heavy lines are a metre apart', async () => {
    const { width, at } = await pixels('placeholder', 'albedo');
    const dark = Array.from({ length: width }, (_, x) => x).filter((x) => at(x, 30, 0) < 130);
    const starts = dark.filter((x, i) => x !== (dark[i - 1] ?? -9) + 1);
    const { texelsPerCm } = MATERIALS.find((m) => m.name === 'placeholder')!;
    for (const x of starts.slice(1)) expect(Math.abs(((x / texelsPerCm + 1) % 100) - 1)).toBeLessThan(2.1);
    expect(starts.length).toBeGreaterThanOrEqual(4);
  });

  test('a recipe drawn twice gives the same', async () => {
    const recipe = RECIPES.find((r) => r.name === 'lamp-panel')!;
    const [a, b] = [await renderMaterial(recipe, 3), await renderMaterial(recipe, 3)];
    expect(a.files.albedo.equals(b.files.albedo)).toBe(true);
    expect(a.material).toEqual(b.material);
  });
});

describe('demo maps', () => {
  test.each(MAPS)('%s is what its generator draws', (file, draw) => {
    expect(writeMap(draw())).toBe(asset(`maps/${file}.yesca.json`).toString('utf8'));
  });

  test.each(MAPS)('%s is sealed, and the checks find nothing wrong', (_, draw) => {
    const { structure, sealing, findings } = findingsOf(draw(), (name) => MATERIALS.find((m) => m.name === name));
    expect([structure.leak, structure.misplaced, sealing, findings]).toEqual([null, [], 'sealed', []]);
  });

  test('the Ropewalk with hints and gates draws less than half of what it draws without', () => {
    const lookups = { materials: (name: string) => MATERIALS.find((m) => m.name === name), props: propFacts };
    const [bare, finished] = [ropewalk(false), ropewalk(true)].map((doc) => drawnOnAverage(doc, lookups)!);
    expect(finished).toBeLessThan(bare! / 2);
  });

  test('the Tidemill has its quay, hall, stair and loft, lamps, sun and sky', () => {
    const doc = tidemill();
    expect([...doc.rooms.values()].map((r) => r.name).sort()).toEqual([
      'Grain loft',
      'Quay',
      'Reed bank',
      'Sluice gallery',
      'Stair',
      'Stair tower',
      'Wheel hall',
    ]);
    expect(doc.brushes.size).toBeGreaterThanOrEqual(250);
    expect([...doc.brushes.values()].filter((b) => !b.room).length).toBeGreaterThanOrEqual(60);
    const kinds = [...doc.entities.values()].map((e) => e.kind);
    expect(kinds.filter((k) => k === 'pointLight').length).toBeGreaterThanOrEqual(8);
    expect(kinds).toContain('sun');
    for (const room of doc.rooms.values()) {
      const used = new Set(
        [...doc.brushes.values()].filter((b) => b.room?.id === room.id).flatMap((b) => b.faces.map((f) => f.material)),
      );
      expect(used.size).toBeGreaterThanOrEqual(3);
      for (const m of used) expect(MATERIALS.some((known) => known.name === m)).toBe(true);
    }
  });
});

test('the Tidemill’s tower is walked up from the quay to the lookout', () => {
  const doc = tidemill();
  const world = collisionOf(doc);
  const round = Array.from({ length: 26 }, (_, i) => ((-120 + i * 10) * Math.PI) / 180).map(
    (a) => [1792 + 98 * Math.cos(a), -368 + 98 * Math.sin(a)] as const,
  );
  const way = [[1660, -380], [1742, -470], ...round.slice(1), [1690, -368]] as const;
  let s = startPlayer([1560, -380, 1], 0);
  for (const [x, y] of way)
    for (let i = 0; i < 600 && Math.hypot(x - s.at[0], y - s.at[1]) > 12; i++) {
      const yaw = (Math.atan2(y - s.at[1], x - s.at[0]) * 180) / Math.PI;
      s = stepPlayer(world, s, { forward: 0.5, right: 0, jump: false, crouch: false, yaw, pitch: 0 }, TIME_STEP);
    }
  expect(s.at[2]).toBeCloseTo(384, 1);
});

describe.each(Object.keys(SOUNDS) as SoundName[])('the sound %s', (name) => {
  const made = soundOf(name);

  test('is what its recipe draws, is heard, and neither clips nor clicks at its ends', () => {
    const file = new Uint8Array(readFileSync(new URL(`../assets/sounds/${name}.wav`, import.meta.url)));
    expect(Buffer.compare(file, wavFile(made))).toBe(0);
    expect(made.length / 16_000).toBeGreaterThan(0.15);
    expect(made.length / 16_000).toBeLessThan(5);
    const loud = (from: number, to: number) =>
      Math.sqrt(made.slice(from, to).reduce((t, x) => t + x * x, 0) / (to - from));
    expect(made.reduce((m, x) => Math.max(m, Math.abs(x)), 0)).toBeCloseTo(0.85, 3);
    expect(loud(0, made.length)).toBeGreaterThan(0.01);
    // A one-shot has died away at its end; what goes on joins its own beginning as smoothly as it runs within.
    const steps = Array.from(made.slice(1), (x, i) => Math.abs(x - made[i]!));
    const most = steps.reduce((m, x) => Math.max(m, x), 0);
    const seam = ['water', 'wheel', 'wind'].includes(name) ? Math.abs(made[0]! - made.at(-1)!) : Math.abs(made.at(-1)!);
    expect(seam).toBeLessThanOrEqual(Math.max(most, 0.02));
  });
});

describe('what moves in the Tidemill', () => {
  const doc = tidemill();
  const world = worldOfMap(doc);
  const named = (name: string) => [...doc.entities.values()].find((e) => e.name === name)!.id;
  const still = { forward: 0, right: 0, jump: false, crouch: false, yaw: 0, pitch: 0 };
  /** Plays on until something holds, or for so many seconds. */
  const play = (from: WorldState, seconds: number, input: PlayerInput = still): { state: WorldState; told: Told[] } => {
    let state = from;
    const told: Told[] = [];
    for (let k = 0; k < seconds * 120; k++) {
      const next = stepWorld(world, state, state.people.length ? [input] : [], TIME_STEP);
      state = next.state;
      told.push(...next.told);
    }
    return { state, told };
  };

  test('the sack lift carries who steps on it up into the loft, where they step off', () => {
    const up = play(beginWorld(world, [newPerson([840, 490, 0.1], 0)]), 0.35, { ...still, forward: 1 }).state;
    const ride = play(up, 9).state;
    expect(ride.people[0]!.body.at[2]).toBeCloseTo(576, 0);
    const off = play(ride, 1, { ...still, forward: -1 }).state;
    expect(off.people[0]!.body.at[0]).toBeLessThan(800);
    expect(off.people[0]!.body.at[2]).toBeCloseTo(576, 0);
  });

  test('the windlass lowers the sluice door, the wheel turns, the loft hatch wants its tokens and lights the loft', () => {
    const at = newPerson([-170, 400, 0.1], 180);
    const used = play(beginWorld(world, [at]), 6, { ...still, yaw: 180, use: true });
    expect(used.told.filter((t) => t.thing === named('Sluice door')).map((t) => t.signal)).toEqual(['opens', 'opened']);
    const wheel = world.things.findIndex((t) => t.entity.id === named('Mill wheel'));
    expect(poseOfThing(world, used.state, wheel)[5]).toBeCloseTo(Math.cos((6 * 14 * Math.PI) / 180), 3);
    const hatch = named('Loft hatch');
    const refused = order(world, beginWorld(world, []), hatch, 'open');
    const opened = play(refused, 2);
    expect(opened.told.some((t) => t.thing === hatch && t.signal === 'opened')).toBe(true);
    const lamp = named('Sack lamp');
    expect([refused, opened.state].map((s) => lampShares(world, s).get(lamp))).toEqual([0, 1]);
  });
});

test.each(TEMPLATES.map((t) => [t.key, t] as const))(
  'template %s is a map that can be written and read',
  (key, template) => {
    const doc = template.make('New');
    expect(writeMap(parseMap(writeMap(doc)))).toBe(writeMap(doc));
    if (key === 'empty') return;
    const s = buildStructure(doc.brushes.values(), seedsOf(doc));
    expect([s.leak, s.misplaced]).toEqual([null, []]);
  },
);
