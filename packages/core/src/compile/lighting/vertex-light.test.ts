import fc from 'fast-check';
import { boxSolid, type Solid } from '../../brush/index.ts';
import { addBrushes, addRoom, changeEntity, changeSettings, placeEntity, placeProps } from '../../edit/index.ts';
import { modelOf, propPose } from '../../entity/index.ts';
import { emptyMap, type MapDocument } from '../../map/index.ts';
import {
  addScaled,
  applyAffine,
  cross,
  dot,
  growBox,
  length,
  normalize,
  sub,
  type Box,
  type Vec3,
} from '../../math/index.ts';
import type { PropMesh } from '../../prop/index.ts';
import { dressSolid, type MaterialFacts } from '../../surface/index.ts';
import { blackMaterials } from '../../testing/lit-rooms.ts';
import { boxProp } from '../../testing/props.ts';
import { DRESS, rectangle, roomSpec } from '../../testing/rooms.ts';
import { buildLevel } from '../build.ts';
import { lightOnVertices, readLevel, type Level } from '../level/index.ts';

/** The corners of boxes, and more on each of their faces, all facing out. */
function meshOf(solids: readonly Solid[]): PropMesh {
  const places: number[] = [];
  const normals: number[] = [];
  const parts = [0, 0.1, 0.35, 0.6, 0.9, 1];
  for (const { vertices, loops } of solids)
    for (const loop of loops) {
      const [a, b, , d] = loop.map((i) => vertices[i]!) as [Vec3, Vec3, Vec3, Vec3];
      const [along, up] = [sub(b, a), sub(d, a)];
      for (const u of parts)
        for (const v of parts) {
          places.push(...addScaled(addScaled(a, along, u), up, v));
          normals.push(...normalize(cross(along, up)));
        }
    }
  // Light asks for no triangles.
  return { places: Float32Array.from(places), normals: Float32Array.from(normals), index: new Uint32Array(0) };
}

const box = (min: Vec3, max: Vec3): Solid => boxSolid({ min, max });
const CRATE = box([-40, -30, 0], [40, 30, 70]);
/** A post that stands on one end of a plinth: what lies behind it is in its shadow. */
const POST = [box([-60, -20, 0], [60, 20, 10]), box([30, -20, 10], [60, 20, 90])];
const SHAPES: Record<string, readonly Solid[]> = { crate: [CRATE], post: POST, sack: [CRATE] };
/** What collides of a sack is more than what is drawn: one body within another, and a third that overlaps both. */
const HELD: Record<string, readonly Solid[]> = {
  sack: [box([-46, -36, -0.5], [46, 36, 76]), box([-40, -30, 0], [40, 30, 70]), box([-60, -36, -0.5], [20, 36, 60])],
};
const props = (name: string) =>
  SHAPES[name] && {
    ...boxProp(name, [-60, -40, 0], [60, 40, 90]),
    collision: 'hulls' as const,
    hulls: HELD[name] ?? SHAPES[name],
  };
const meshes = (name: string) => SHAPES[name] && meshOf(SHAPES[name]);

const FAR: Vec3 = [40_000, -30_000, 1000];
const off = ([x, y, z]: Vec3): Vec3 => [FAR[0] + x, FAR[1] + y, FAR[2] + z];
const at = (list: Float32Array, k: number): Vec3 => [list[k * 3]!, list[k * 3 + 1]!, list[k * 3 + 2]!];

/** A hall of 8 m, far from the origin, in which nothing bounces unless materials are given. */
const hall = (ambientLux = 0, open = false): MapDocument =>
  changeSettings(
    placeEntity(
      addRoom(
        emptyMap('hall'),
        roomSpec(rectangle(FAR[0], FAR[1], 800, 800), { floor: FAR[2], ceiling: FAR[2] + 400, open }),
        DRESS,
      ),
      'spawn',
      off([60, 60, 0]),
      0,
      's',
    ),
    { ambientLux, ambientColor: '#ffffff', skyNits: 0 },
  );
const lamp = (doc: MapDocument, p: Vec3, params: object = {}): MapDocument =>
  changeEntity(placeEntity(doc, 'pointLight', off(p), 0, 'l'), 'l', {
    params: { candela: 500, color: '#ffffff', ...params },
  });

interface Stand {
  readonly level: Level;
  /** In the map: places and directions of the vertices of the prop that was placed last. */
  readonly places: readonly Vec3[];
  readonly normals: readonly Vec3[];
  /** The solids of the prop, in the map. */
  readonly solids: readonly (readonly Vec3[])[];
  readonly lux: (shares?: ReadonlyMap<string, number>) => Vec3[];
}

function stand(
  doc: MapDocument,
  model: string,
  place: { at: Vec3; turn?: number; up?: Vec3; scale?: number },
  materials: (name: string) => MaterialFacts | undefined = blackMaterials,
  change: object = {},
): Stand {
  const placed = placeProps(doc, [{ model, ...place, at: off(place.at) }], props);
  const id = placed.made.entities![0]!;
  const map = changeEntity(placed.doc, id, { params: { takes: 'vertices', ...change } });
  const { bytes } = buildLevel(map, 'sketch', {}, { props, meshes, materials });
  const level = readLevel(bytes);
  const thing = map.entities.get(id)!;
  const pose = propPose(modelOf(thing)!, thing.at, thing.turn);
  const mesh = meshes(model)!;
  const count = mesh.places.length / 3;
  const origin = applyAffine(pose, [0, 0, 0]);
  return {
    level,
    places: Array.from({ length: count }, (_, k) => applyAffine(pose, at(mesh.places, k))),
    normals: Array.from({ length: count }, (_, k) => normalize(sub(applyAffine(pose, at(mesh.normals, k)), origin))),
    solids: SHAPES[model]!.map((s) => s.vertices.map((v) => applyAffine(pose, v))),
    lux: (shares = new Map()) => {
      const found = lightOnVertices(level, level.meta.props.indexOf(id), shares)!;
      return Array.from({ length: count }, (_, k) => at(found, k));
    },
  };
}

/** Lux of a lamp of 500 cd on a surface: candela by the square of metres, times the cosine. */
function inverseSquare(p: Vec3, normal: Vec3, from: Vec3): number {
  const d = sub(from, p);
  return (500 * 10_000 * Math.max(0, dot(normalize(d), normal))) / dot(d, d);
}

/** Whether a segment goes through a box, by more than a little of its way. */
function through({ min, max }: Box, from: Vec3, to: Vec3): boolean {
  let [enter, leave] = [0, 1];
  for (let k = 0; k < 3; k++) {
    const d = to[k]! - from[k]!;
    if (Math.abs(d) < 1e-12) {
      if (from[k]! <= min[k]! || from[k]! >= max[k]!) return false;
      continue;
    }
    const [a, b] = [(min[k]! - from[k]!) / d, (max[k]! - from[k]!) / d];
    enter = Math.max(enter, Math.min(a, b));
    leave = Math.min(leave, Math.max(a, b));
  }
  return leave - enter > 1e-6;
}

const turns = fc.record({
  turn: fc.double({ min: 0, max: 360, noNaN: true }),
  up: fc.tuple(...[0, 1].map(() => fc.double({ min: -1, max: 1, noNaN: true }))).map(([x, y]): Vec3 => [x!, y!, 0.6]),
  scale: fc.double({ min: 0.3, max: 1.5, noNaN: true }),
});

test('a lamp falls on the vertices of a turned crate as inverse squares and cosines say, and not on those turned away', () => {
  fc.assert(
    fc.property(turns, ({ turn, up, scale }) => {
      const { places, normals, lux } = stand(lamp(hall(), [560, 300, 260]), 'crate', {
        at: [300, 400, 150],
        turn,
        up,
        scale,
      });
      lux().forEach(([r, g, b], k) => {
        const wanted = inverseSquare(places[k]!, normals[k]!, off([560, 300, 260]));
        // They are looked at from half a centimetre before them, and told to a 500th.
        expect(Math.abs(r - wanted)).toBeLessThan(0.02 * wanted + 0.15);
        expect([g, b]).toEqual([r, r]);
      });
    }),
    { numRuns: 8 },
  );
});

test('what stands between hides the lamp from those vertices to which it does, others of the prop among it', () => {
  const from: Vec3 = [620, 396, 90];
  const wall: Box = { min: off([500, 398, 0]), max: off([520, 440, 200]) };
  const doc = addBrushes(lamp(hall(), from), [dressSolid(boxSolid(wall), 'wall', 'oak-plank', { role: 'detail' })]);
  // Along the axes, so that its solids are boxes in the map too.
  const { places, normals, lux } = stand(doc, 'post', { at: [300, 400, 0] });
  const solids = POST.map(({ vertices }): Box => {
    const all = vertices.map((v) => off([v[0] + 300, v[1] + 400, v[2]]));
    const least = (f: (...list: number[]) => number) =>
      [0, 1, 2].map((k) => f(...all.map((p) => p[k]!))) as unknown as Vec3;
    return { min: least(Math.min), max: least(Math.max) };
  });
  let [lit, hidden, own] = [0, 0, 0];
  lux().forEach(([r], k) => {
    const p = addScaled(places[k]!, normals[k]!, 0.5);
    const open = inverseSquare(places[k]!, normals[k]!, off(from));
    // Nobody sees what looks into the floor, or into another part of the prop.
    const inside = ({ min, max }: Box) => p.every((c, i) => c > min[i]! - 0.01 && c < max[i]! + 0.01);
    if (p[2] < FAR[2] || solids.some(inside)) return;
    if (open === 0) return expect(r).toBeLessThan(0.15);
    // A hair beside an edge of a shadow either is right.
    const meets = (by: number, q: Vec3) => [wall, ...solids].map((b) => through(growBox(b, by), q, off(from)));
    const [sure, near] = [meets(-1.5, p), meets(1.5, addScaled(p, normals[k]!, 4))];
    if (sure.some(Boolean)) {
      hidden++;
      if (!sure[0]) own++;
      expect(r).toBe(0);
    } else if (!near.some(Boolean)) {
      lit++;
      expect(Math.abs(r / open - 1)).toBeLessThan(0.02);
    }
  });
  for (const some of [lit, hidden - own, own]) expect(some).toBeGreaterThan(10);
});

test('in a room all of which glows as much, every vertex gets π times that, however it faces', () => {
  const glowing = (name: string): MaterialFacts => ({ ...blackMaterials(name), average: '#ffffff', glow: 30 });
  const nothing = (name: string): MaterialFacts => ({ ...glowing(name), average: '#808080' });
  const [white, half] = [glowing, nothing].map((materials) =>
    stand(hall(), 'crate', { at: [400, 400, 160], turn: 33, up: [0.4, 0.2, 1] }, materials).lux(),
  );
  const all = white!.map(([r]) => r);
  // As bright all around: the same on each.
  expect(Math.max(...all) / Math.min(...all)).toBeLessThan(1.1);
  expect(Math.max(...half!.map(([r]) => r))).toBeLessThan(Math.min(...all));
  const even = stand(hall(37), 'crate', { at: [400, 400, 160], turn: 33 }).lux();
  for (const [r, g, b] of even) for (const c of [r, g, b]) expect(Math.abs(c / 37 - 1)).toBeLessThan(0.01);
});

test('a small face that glows gives each vertex what all of its places give together, as far as it looks at them', () => {
  const glass = (name: string): MaterialFacts => ({ ...blackMaterials(name), ...(name === 'glass' && { glow: 8000 }) });
  const lampBox: Box = { min: off([560, 300, 200]), max: off([572, 316, 208]) };
  const doc = addBrushes(hall(), [dressSolid(boxSolid(lampBox), 'lamp', 'glass', { role: 'detail' })]);
  const { places, normals, lux } = stand(doc, 'crate', { at: [300, 400, 100], turn: 27, up: [0.5, 0.1, 1] }, glass);
  const { vertices, loops } = boxSolid(lampBox);
  /** The sum over a fine lattice on its faces: nits times both cosines by the square of the way. */
  const wanted = (p: Vec3, n: Vec3): number => {
    let sum = 0;
    const steps = 16;
    for (const loop of loops) {
      const [a, b, , d] = loop.map((i) => vertices[i]!) as [Vec3, Vec3, Vec3, Vec3];
      const [along, up] = [sub(b, a), sub(d, a)];
      const facing = cross(along, up);
      for (let i = 0; i < steps; i++)
        for (let j = 0; j < steps; j++) {
          const way = sub(addScaled(addScaled(a, along, (i + 0.5) / steps), up, (j + 0.5) / steps), p);
          const [here, there] = [dot(way, n), -dot(way, facing)];
          if (here > 0 && there > 0) sum += (8000 * here * there) / steps ** 2 / dot(way, way) ** 2;
        }
    }
    return sum;
  };
  let most = 0;
  lux().forEach(([r], k) => {
    const due = wanted(places[k]!, normals[k]!);
    most = Math.max(most, due);
    expect(Math.abs(r - due)).toBeLessThan(0.03 * due + 0.05);
  });
  expect(most).toBeGreaterThan(10);
});

test('a small spot that a lamp makes very bright does not count as if it were large', () => {
  // Of the black room a palm's breadth beside the lamp reflects: its light on the crate is what its area and the way to it tell.
  const pale = (name: string): MaterialFacts => ({
    ...blackMaterials(name),
    ...(name === 'glass' && { average: '#bcbcbc' }),
  });
  const plate = dressSolid(boxSolid({ min: off([588, 388, 246]), max: off([612, 412, 250]) }), 'plate', 'glass', {
    role: 'detail',
  });
  const doc = addBrushes(lamp(hall(), [600, 400, 240]), [plate]);
  const { places, normals, lux } = stand(doc, 'crate', { at: [460, 400, 40], turn: 20, up: [0.3, 0.4, 1] }, pale);
  // No more light falls on it than leaves the lamp towards it, and it gives back half of that.
  const flux = 500 * 2 * Math.PI * 0.5;
  lux().forEach(([r], k) => {
    const straight = inverseSquare(places[k]!, normals[k]!, off([600, 400, 240]));
    const d = length(sub(off([600, 400, 246]), places[k]!));
    expect(r).toBeLessThan(1.02 * straight + ((flux / Math.PI) * 10_000) / d ** 2 + 0.15);
  });
});

test('lamps that play can switch add to vertices what they give, as they shine', () => {
  const doc = lamp(hall(), [560, 300, 260], { lit: false });
  const { level, lux } = stand(doc, 'crate', { at: [300, 400, 0] });
  expect(level.meta.propLamps).toEqual(['l']);
  const still = stand(lamp(hall(), [560, 300, 260]), 'crate', { at: [300, 400, 0] }).lux();
  expect(Math.max(...lux().map(([r]) => r))).toBe(0);
  expect(Math.max(...still.map(([r]) => r))).toBeGreaterThan(20);
  for (const share of [0.5, 1])
    lux(new Map([['l', share]])).forEach(([r], k) =>
      expect(Math.abs(r - share * still[k]![0])).toBeLessThan(0.01 * still[k]![0] + 0.02),
    );
});

test('what stands flush in a corner of a room is lit up to its edges along floor and walls', () => {
  for (const x of [40, 760])
    for (const y of [30, 770]) {
      // So near that a few centimetres along an edge make more than a twentieth.
      const from: Vec3 = [x < 400 ? 110 : 690, y < 400 ? 100 : 700, 110];
      const { places, normals, lux } = stand(lamp(hall(), from), 'crate', { at: [x, y, 0] });
      lux().forEach(([r], k) => {
        const wanted = inverseSquare(places[k]!, normals[k]!, off(from));
        // In the walls themselves it is that of the nearest that looks out of them.
        if (wanted > 0) expect(Math.abs(r - wanted)).toBeLessThan(0.02 * wanted + 0.15);
      });
    }
});

test('vertices that stick in a wall or in the floor are lit as the nearest that does not', () => {
  // A third of it below the floor and part of it in the west wall.
  const { places, normals, lux } = stand(lamp(hall(), [400, 300, 260]), 'crate', { at: [20, 400, -25] });
  const found = lux();
  const sunk = places.flatMap((p, k) => (p[2] < FAR[2] - 1 || p[0] < FAR[0] - 1 ? [k] : []));
  expect(sunk.length).toBeGreaterThan(4);
  const open = found.filter((_, k) => !sunk.includes(k)).map(([r]) => r);
  for (const k of sunk) expect(open).toContain(found[k]![0]);
  expect(Math.max(...sunk.map((k) => found[k]![0]))).toBeGreaterThan(1);
  // On the sides that look into the room it is that of the nearest on the same side.
  for (const k of sunk.filter((i) => normals[i]![0] > 0.9)) {
    const side = places.flatMap((_, i) => (normals[i]![0] > 0.9 && !sunk.includes(i) ? [i] : []));
    const far = (i: number) => length(sub(places[i]!, places[k]!));
    const nearest = side.filter((i) => far(i) < Math.min(...side.map(far)) + 1e-6);
    expect(nearest.map((i) => found[i]![0])).toContain(found[k]![0]);
  }
});

test('only props that ask for it, stand still and have vertices that are known are lit at them', () => {
  const doc = lamp(hall(), [400, 300, 260]);
  const lit = (change: Record<string, string>, known: typeof meshes = meshes) => {
    const placed = placeProps(doc, [{ model: 'crate', at: off([300, 300, 0]) }], props);
    const map = changeEntity(placed.doc, placed.made.entities![0]!, { params: change });
    const { level, report } = buildLevel(map, 'sketch', {}, { props, meshes: known, materials: blackMaterials });
    return [lightOnVertices(level, 0, new Map())?.length ?? 0, report.props!.lit];
  };
  const count = meshOf([CRATE]).places.length / 3;
  expect(lit({ takes: 'vertices' })).toEqual([count * 3, count]);
  expect(lit({ takes: 'corners' })).toEqual([0, 8]);
  expect(lit({ takes: 'vertices' }, () => undefined)).toEqual([0, 8]);
  expect(length(FAR)).toBeGreaterThan(40_000);
});

test('of several props each has its own light, also what lamps add that play can switch, whatever stands between them in the list', () => {
  let doc = lamp(hall(), [400, 400, 300], { lit: false });
  doc = changeEntity(placeEntity(doc, 'pointLight', off([100, 700, 200]), 0, 'm'), 'm', {
    params: { candela: 300, color: '#ffffff' },
  });
  const at = (x: number, y: number) => off([x, y, 0]);
  const wishes = [
    { model: 'crate', at: at(150, 150) },
    { model: 'post', at: at(650, 150), turn: 40 },
    // Upside down, so that its first vertices are lit as well.
    { model: 'crate', at: off([650, 650, 90]), turn: 10, up: [0, 0, -1] as const },
    { model: 'post', at: at(150, 500) },
  ];
  const shares = new Map([['l', 1]]);
  const build = (list: readonly (typeof wishes)[number][], plain: number, on = doc) => {
    const { doc: placed, made } = placeProps(on, list, props);
    const ids = made.entities as readonly string[];
    const map = ids.reduce(
      (d, id, k) => (k === plain ? d : changeEntity(d, id, { params: { takes: 'vertices' } })),
      placed,
    );
    const { level } = buildLevel(map, 'sketch', {}, { props, meshes, materials: blackMaterials, direct: true });
    return ids.map((id) => lightOnVertices(level, level.meta.props.indexOf(id), shares));
  };
  const together = build(wishes, 1);
  expect(together.map((l) => l?.length ?? 0)).toEqual([216, 0, 216, 432].map((n) => n * 3));
  wishes.forEach((wish, k) => {
    if (k === 1) return;
    // They stand too far apart, and too low, to shade one another.
    const [alone] = build([wish], -1, changeEntity(doc, 'l', { params: { lit: true } }));
    expect(Math.max(...alone!)).toBeGreaterThan(20);
    together[k]!.forEach((lux, i) => expect(Math.abs(lux - alone![i]!)).toBeLessThan(0.01 * alone![i]! + 0.02));
  });
});

test('what collides of a prop beyond what is drawn of it, one body in another, does not keep light from its vertices', () => {
  const from: Vec3 = [560, 300, 260];
  const wish = { at: [300, 400, 90] as Vec3, turn: 31, up: [0.3, -0.2, 1] as Vec3 };
  const { places, normals, lux } = stand(lamp(hall(), from), 'sack', wish);
  lux().forEach(([r], k) => {
    const wanted = inverseSquare(places[k]!, normals[k]!, off(from));
    expect(Math.abs(r - wanted)).toBeLessThan(0.02 * wanted + 0.15);
  });
});

test('the sun falls on vertices by its cosine, but not where a wall stands before it', () => {
  const wall: Box = { min: off([420, 300, 0]), max: off([436, 500, 110]) };
  let doc = addBrushes(hall(0, true), [dressSolid(boxSolid(wall), 'wall', 'oak-plank', { role: 'detail' })]);
  doc = changeEntity(placeEntity(doc, 'sun', off([100, 100, 300]), 0, 'sun'), 'sun', {
    params: { lux: 1000, height: 60, color: '#ffffff', kelvin: 6500, spread: 0 },
  });
  const { level, places, normals, lux } = stand(doc, 'crate', { at: [340, 400, 0], turn: 15 });
  const flat = stand(doc, 'crate', { at: [100, 650, 0] });
  // What lies flat in the open tells how strong it is and from where: by three faces that look different ways.
  const all = [...flat.lux().keys()].map((k) => ({ n: flat.normals[k]!, r: flat.lux()[k]![0] }));
  const on = (n: Vec3) => Math.max(...all.filter((v) => dot(v.n, n) > 0.99).map((v) => v.r));
  const sun: Vec3 = [on([1, 0, 0]) - on([-1, 0, 0]), on([0, 1, 0]) - on([0, -1, 0]), on([0, 0, 1])];
  expect(length(sun)).toBeGreaterThan(100);
  expect(Math.abs(sun[2] / length(sun) - Math.sin((60 * Math.PI) / 180))).toBeLessThan(0.01);
  expect(level.meta.sealed).toBe(true);
  const way = normalize(sun);
  let [lit, hidden] = [0, 0];
  lux().forEach(([r], k) => {
    const open = Math.max(0, dot(normals[k]!, sun));
    const p = addScaled(places[k]!, normals[k]!, 0.5);
    if (p[2] < FAR[2] || open === 0) return;
    const to = addScaled(p, way, 5000);
    if (through(growBox(wall, -1.5), p, to)) {
      hidden++;
      expect(r).toBe(0);
    } else if (!through(growBox(wall, 1.5), p, to)) {
      lit++;
      expect(Math.abs(r - open)).toBeLessThan(0.02 * open + 0.2);
    }
  });
  for (const some of [lit, hidden]) expect(some).toBeGreaterThan(5);
});

test('a face that glows is hidden by what stands before it, dimmed by gauze, and gives nothing behind itself', () => {
  const looks = (name: string): MaterialFacts => ({
    ...blackMaterials(name),
    ...(name === 'glass' && { glow: 8000 }),
    ...(name === 'gauze' && { solidity: 'cutOut', mask: '8'.repeat(1024) }),
  });
  const slab = dressSolid(boxSolid({ min: off([560, 380, 60]), max: off([564, 420, 100]) }), 'slab', 'black', {
    role: 'detail',
  });
  /** The one face of the slab that glows looks along x. */
  const glowing = (side: 1 | -1) => ({
    ...slab,
    faces: slab.faces.map((f) => {
      const [a, b, c] = f.loop.map((i) => slab.vertices[i]!) as [Vec3, Vec3, Vec3];
      return normalize(cross(sub(b, a), sub(c, a)))[0] * side > 0.9 ? { ...f, material: 'glass' } : f;
    }),
  });
  const sheet = (id: string, material: string, thick: number) =>
    dressSolid(boxSolid({ min: off([450, 300, 0]), max: off([450 + thick, 500, 200]) }), id, material, {
      role: 'detail',
    });
  const most = (side: 1 | -1, ...more: ReturnType<typeof sheet>[]) =>
    Math.max(
      ...stand(addBrushes(hall(), [glowing(side), ...more]), 'crate', { at: [300, 400, 0] }, looks)
        .lux()
        .map(([r]) => r),
    );
  const open = most(-1);
  expect(open).toBeGreaterThan(20);
  expect(most(1)).toBeLessThan(0.02);
  expect(most(-1, sheet('w', 'black', 16))).toBeLessThan(0.02);
  // A large one of which a wall hides a half gives about half.
  const panel = dressSolid(boxSolid({ min: off([560, 200, 20]), max: off([564, 600, 240]) }), 'panel', 'glass', {
    role: 'detail',
  });
  const wall = dressSolid(boxSolid({ min: off([540, 400, 0]), max: off([548, 640, 300]) }), 'w', 'black', {
    role: 'detail',
  });
  const [whole, part] = [[panel], [panel, wall]].map((more) =>
    Math.max(
      ...stand(addBrushes(hall(), more), 'crate', { at: [300, 400, 0] }, looks)
        .lux()
        .map(([r]) => r),
    ),
  );
  expect(part! / whole!).toBeGreaterThan(0.25);
  expect(part! / whole!).toBeLessThan(0.75);
  // Eight of fifteen parts of it are threads.
  expect(most(-1, sheet('g', 'gauze', 1)) / open).toBeCloseTo(7 / 15, 1);
});

test('a weak lamp that play can switch counts as well', () => {
  const dim = { candela: 6, lit: false };
  const { lux } = stand(lamp(hall(), [560, 300, 260], dim), 'crate', { at: [300, 400, 0] });
  const still = stand(lamp(hall(), [560, 300, 260], { candela: 6 }), 'crate', { at: [300, 400, 0] }).lux();
  expect(Math.max(...still.map(([r]) => r))).toBeLessThan(1);
  lux(new Map([['l', 1]])).forEach(([r], k) => expect(Math.abs(r - still[k]![0])).toBeLessThan(0.02));
});
