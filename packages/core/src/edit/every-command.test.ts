import { brushBounds, brushPlanes, SHAPE_KINDS, shapeParams, type ShapeKind } from '../brush/index.ts';
import { assertReadable, emptyMap, parseMap, writeMap, type MapDocument, type Point2 } from '../map/index.ts';
import { hashRandom, mirror, rotation, type Affine, type Vec3 } from '../math/index.ts';
import { DRESS, rectangle, roomSpec } from '../testing/rooms.ts';
import { alignPicked, distributePicked, repeatAlong, repeatAround, replaceWith } from './arranging.ts';
import {
  movePicked,
  pickedBounds,
  removePicked,
  resizePicked,
  setPassable,
  setRole,
  transformPicked,
  type Picked,
} from './brushes.ts';
import { duplicatePicked } from './copies.ts';
import { copyPicked, pasteText } from './clipboard.ts';
import { changeEntity, placeEntity } from './entities.ts';
import { EditError } from './errors.ts';
import { allFaces, paintFaces } from './faces.ts';
import { addShape, changeShape, groupPicked, ungroup } from './groups.ts';
import { addInset, removeInset } from './insets.ts';
import { changeOpening, openDoorway, openWall, removeOpenings } from './openings.ts';
import { addRoom, changeRoom, giveAllBack, releaseBrushes, releaseRoom, removeRooms } from './rooms.ts';
import {
  cutBrushes,
  intersectPicked,
  mergePicked,
  pullFace,
  reshapeBrushes,
  shellPicked,
  snapToGrid,
  stretchPicked,
  subtractBrushes,
} from './shaping.ts';

/** There is nothing in the map that a command could work on. */
class Nothing extends Error {}

/** Random numbers of one chain; the same seed gives the same chain. */
class Dice {
  private n = 0;
  constructor(private readonly seed: number) {}
  next = (): number => hashRandom(this.seed, this.n++);
  whole = (from: number, to: number): number => from + Math.floor(this.next() * (to - from + 1));
  grid = (from: number, to: number): number => this.whole(from / 8, to / 8) * 8;
  one = <T>(list: readonly T[]): T => {
    if (list.length === 0) throw new Nothing();
    return list[Math.floor(this.next() * list.length)]!;
  };
  some = (keys: Iterable<string>, most: number): Set<string> => {
    const list = [...keys];
    return new Set(Array.from({ length: Math.min(most, list.length) }, () => this.one(list)));
  };
  yes = (chance = 0.5): boolean => this.next() < chance;
}

const map = (d: Dice, at: Vec3): Affine =>
  d.yes(0.3)
    ? mirror(d.whole(0, 1) as 0 | 1, at[0])
    : rotation(2, d.one([90, -90, 180, 30, 45, 27, d.next() * 360]), at);

const around = (doc: MapDocument, picked: Picked): Vec3 => {
  const b = pickedBounds(doc, picked);
  return b ? [(b.min[0] + b.max[0]) / 2, (b.min[1] + b.max[1]) / 2, (b.min[2] + b.max[2]) / 2] : [0, 0, 0];
};

const outline = (d: Dice, at: Point2): Point2[] => {
  const n = d.whole(3, 7);
  return Array.from({ length: n }, (_, i) => {
    const r = d.grid(100, 320);
    return [at[0] + r * Math.cos((i * 2 * Math.PI) / n), at[1] + r * Math.sin((i * 2 * Math.PI) / n)];
  });
};

const anything = (doc: MapDocument, d: Dice): Picked => ({
  brushes: d.some(doc.brushes.keys(), d.whole(0, 3)),
  entities: d.some(doc.entities.keys(), d.whole(0, 1)),
  rooms: d.some(doc.rooms.keys(), d.whole(0, 2)),
});
const loose = (doc: MapDocument, d: Dice, most = 3): Set<string> =>
  d.some(
    [...doc.brushes.values()].filter((b) => !b.room || d.yes(0.1)).map((b) => b.id),
    d.whole(1, most),
  );

/** A brush and a copy of it a little aside. */
function twins(doc: MapDocument, d: Dice): [MapDocument, Set<string>] {
  const one = loose(doc, d, 1);
  const copy = duplicatePicked(doc, { brushes: one }, [d.one([0, 8]), 8, d.one([0, 4])]);
  return [copy.doc, new Set([...one, ...copy.picked.brushes])];
}

type Command = (doc: MapDocument, d: Dice) => MapDocument;

/** Every command that changes a map's shape, with random arguments. Refusals are fine; what comes through must be whole. */
const COMMANDS: Readonly<Record<string, Command>> = {
  addRoom: (doc, d) =>
    addRoom(
      doc,
      roomSpec(
        d.yes(0.7)
          ? rectangle(d.grid(-1200, 1200), d.grid(-1200, 1200), d.grid(200, 600), d.grid(200, 600))
          : outline(d, [d.grid(-1000, 1000), d.grid(-1000, 1000)]),
        { wall: d.one([8, 16, 32]), ceiling: d.grid(200, 400), open: d.yes(0.2) },
      ),
      DRESS,
    ),
  besideRoom: (doc, d) => {
    const box = pickedBounds(doc, { rooms: new Set([d.one([...doc.rooms.keys()])]) })!;
    const gap = d.one([4, 8, 16, 24]);
    const at: Point2 = d.yes()
      ? [box.max[0] + gap, box.min[1] + d.grid(-96, 96)]
      : [box.min[0] + d.grid(-96, 96), box.max[1] + gap];
    return addRoom(
      doc,
      roomSpec(rectangle(at[0], at[1], d.grid(160, 400), d.grid(160, 400)), { floor: d.one([0, 0, 24, -40]) }),
      DRESS,
    );
  },
  changeRoom: (doc, d) => {
    const room = doc.rooms.get(d.one([...doc.rooms.keys()]))!;
    return changeRoom(doc, room.id, {
      ...(d.yes()
        ? {
            footprint: room.footprint.map(([x, y], i) =>
              i === 0 || d.yes(0.2) ? [x + d.grid(-80, 80), y + d.grid(-80, 80)] : [x, y],
            ),
          }
        : {}),
      ...(d.yes(0.3) ? { ceiling: room.ceiling + d.grid(-48, 96) } : {}),
      ...(d.yes(0.3) ? { floor: room.floor + d.grid(-48, 48) } : {}),
      ...(d.yes(0.2) ? { wall: d.one([8, 16, 32]) } : {}),
    });
  },
  moveRooms: (doc, d) =>
    movePicked(
      doc,
      { rooms: d.some(doc.rooms.keys(), 2) },
      [d.grid(-160, 160), d.grid(-160, 160), d.one([0, 0, 16])],
      d.yes(0.7),
    ),
  turnRooms: (doc, d) => {
    const picked = { rooms: d.some(doc.rooms.keys(), 2) };
    return transformPicked(doc, picked, map(d, around(doc, picked)), d.yes(0.7));
  },
  removeRooms: (doc, d) => (doc.rooms.size > 3 ? removeRooms(doc, d.some(doc.rooms.keys(), 1)) : doc),
  releaseRoom: (doc, d) => (d.yes(0.2) ? releaseRoom(doc, d.one([...doc.rooms.keys()])) : doc),
  releaseBrushes: (doc, d) => releaseBrushes(doc, d.some(doc.brushes.keys(), 2)),
  giveAllBack: (doc, d) => giveAllBack(doc, d.one([...doc.rooms.keys()])),
  doorway: (doc, d) =>
    openDoorway(doc, d.one([...doc.rooms.keys()]), d.one([...doc.rooms.keys()]), {
      width: d.grid(48, 160),
      height: d.grid(96, 208),
      sill: d.one([0, 0, 40]),
    }),
  window: (doc, d) =>
    openWall(doc, d.one([...doc.rooms.keys()]), d.whole(0, 3), {
      width: d.grid(48, 160),
      height: d.grid(48, 120),
      sill: 64,
      kind: d.one(['window', 'arch'] as const),
    }),
  changeOpening: (doc, d) =>
    changeOpening(doc, d.one([...doc.openings.keys()]), { at: d.grid(40, 400), width: d.grid(40, 120) }),
  removeOpening: (doc, d) => removeOpenings(doc, d.some(doc.openings.keys(), 1)),
  addInset: (doc, d) => {
    const room = doc.rooms.get(d.one([...doc.rooms.keys()]))!;
    const [x, y] = room.footprint[0]!;
    return addInset(doc, room.id, {
      footprint: rectangle(x + d.grid(16, 96), y + d.grid(16, 96), 64, 64),
      height: d.one([32, -48]),
    });
  },
  removeInset: (doc, d) => {
    const room = doc.rooms.get(d.one([...doc.rooms.keys()]))!;
    return room.insets?.[0] ? removeInset(doc, room.id, room.insets[0].id) : doc;
  },
  addShape: (doc, d) => {
    const kind = d.one(SHAPE_KINDS.filter((k) => k !== 'polygon')) as ShapeKind;
    const at: Vec3 = [d.grid(-800, 800), d.grid(-800, 800), d.grid(0, 200)];
    const box = { min: at, max: [at[0] + d.grid(64, 320), at[1] + d.grid(64, 320), at[2] + d.grid(64, 256)] as Vec3 };
    const n = `${doc.groups.size} ${d.next()}`;
    return addShape(
      doc,
      { kind, box, params: shapeParams(kind, {}) },
      { material: 'oak' },
      { group: `g${n}`, brush: (i) => `b${n} ${i}` },
    );
  },
  changeShape: (doc, d) => {
    const group = d.one([...doc.groups.values()].filter((g) => g.shape));
    const grow = d.grid(8, 64);
    const { box } = group.shape!;
    return changeShape(doc, group.id, {
      box: { min: box.min, max: [box.max[0] + grow, box.max[1] + grow, box.max[2] + grow] },
    });
  },
  group: (doc, d) => groupPicked(doc, { brushes: loose(doc, d, 4), entities: d.some(doc.entities.keys(), 1) }),
  ungroup: (doc, d) => ungroup(doc, d.some(doc.groups.keys(), 1)),
  move: (doc, d) => movePicked(doc, anything(doc, d), [d.grid(-64, 64), d.grid(-64, 64), d.grid(-16, 16)], d.yes(0.7)),
  farAway: (doc, d) =>
    d.yes(0.1) ? movePicked(doc, { brushes: loose(doc, d, 1) }, [30_000, -20_000, 0], d.yes()) : doc,
  turn: (doc, d) => {
    const picked = { brushes: loose(doc, d), entities: d.some(doc.entities.keys(), 1) };
    const axis = d.whole(0, 2) as 0 | 1 | 2;
    return transformPicked(
      doc,
      picked,
      d.yes(0.3) ? mirror(axis, 40) : rotation(axis, d.one([90, 30, 27, 180]), around(doc, picked)),
      d.yes(0.6),
    );
  },
  resize: (doc, d) => {
    const picked = anything(doc, d);
    const b = pickedBounds(doc, picked);
    if (!b) return doc;
    const s = (): number => d.one([0.25, 0.5, 1, 2, 3]);
    return resizePicked(
      doc,
      picked,
      { min: b.min, max: b.max.map((c, i) => b.min[i]! + Math.max(8, (c - b.min[i]!) * s())) as unknown as Vec3 },
      d.yes(),
    );
  },
  stretch: (doc, d) => {
    const ids = loose(doc, d, 2);
    const b = pickedBounds(doc, { brushes: ids });
    return b
      ? stretchPicked(doc, ids, { min: b.min, max: b.max.map((c) => c + d.grid(8, 64)) as unknown as Vec3 }, d.yes())
          .doc
      : doc;
  },
  duplicate: (doc, d) => duplicatePicked(doc, anything(doc, d), [d.grid(-64, 64), 64, 0]).doc,
  paste: (doc, d) => pasteText(doc, copyPicked(doc, anything(doc, d)), [64, 0, 0]).doc,
  repeatAlong: (doc, d) => repeatAlong(doc, { brushes: loose(doc, d, 1) }, 2, [d.grid(8, 128), 0, 0], d.yes()).doc,
  repeatAround: (doc, d) =>
    repeatAround(doc, { brushes: loose(doc, d, 1) }, 2, d.whole(0, 2) as 0 | 1 | 2, [0, 0, 0], 40, d.yes()).doc,
  replaceWith: (doc, d) => replaceWith(doc, { brushes: loose(doc, d, 1) }, loose(doc, d, 1), d.yes()).doc,
  align: (doc, d) =>
    alignPicked(
      doc,
      { brushes: loose(doc, d, 3), rooms: d.some(doc.rooms.keys(), 1) },
      d.whole(0, 2) as 0 | 1 | 2,
      d.one(['low', 'middle', 'high']),
      d.yes(),
    ),
  distribute: (doc, d) => distributePicked(doc, { brushes: loose(doc, d, 4) }, d.whole(0, 2) as 0 | 1 | 2, d.yes()),
  cut: (doc, d) => {
    const ids = loose(doc, d, 2);
    const at = around(doc, { brushes: ids });
    const a = d.next() * Math.PI;
    const normal: Vec3 = d.yes() ? [1, 0, 0] : [Math.cos(a), Math.sin(a), 0];
    return cutBrushes(
      doc,
      ids,
      { normal, distance: normal[0] * at[0] + normal[1] * at[1] },
      d.one(['both', 'front', 'back']),
    ).doc;
  },
  subtract: (doc, d) => subtractBrushes(doc, loose(doc, d, 2)).doc,
  intersect: (doc, d) => {
    const [twin, ids] = twins(doc, d);
    return intersectPicked(twin, ids).doc;
  },
  shell: (doc, d) => shellPicked(doc, loose(doc, d, 1), d.one([4, 8]), d.one(['inside', 'outside'])).doc,
  merge: (doc, d) => {
    const [twin, ids] = twins(doc, d);
    return mergePicked(twin, ids, d.one(['hull', 'union'])).doc;
  },
  pull: (doc, d) => {
    const id = d.one([...doc.brushes.keys()]);
    return pullFace(doc, id, d.whole(0, doc.brushes.get(id)!.faces.length - 1), d.grid(8, 64), d.one([1, 0.5])).doc;
  },
  reshape: (doc, d) => {
    const id = d.one([...loose(doc, d, 1)]);
    const b = doc.brushes.get(id)!;
    const k = d.whole(0, b.vertices.length - 1);
    const v = b.vertices[k]!;
    return reshapeBrushes(
      doc,
      new Map([[id, new Map([[k, [v[0] + d.grid(-48, 48), v[1] + d.grid(-48, 48), v[2] + d.grid(-48, 48)] as Vec3]])]]),
      d.yes(),
      d.yes(),
    ).doc;
  },
  snap: (doc, d) => snapToGrid(doc, loose(doc, d, 2), d.one([1, 8, 16])).doc,
  role: (doc, d) => setRole(doc, loose(doc, d, 1), d.one(['structure', 'detail', 'clip'])),
  passable: (doc, d) => setPassable(doc, loose(doc, d, 1), d.yes()),
  paint: (doc, d) => paintFaces(doc, allFaces(doc, d.some(doc.brushes.keys(), 2)), d.one(['slate', 'sand'])),
  place: (doc, d) =>
    placeEntity(doc, d.one(['spawn', 'pointLight', 'sun']), [d.grid(-400, 400), d.grid(-400, 400), 40]),
  turnEntity: (doc, d) =>
    doc.entities.size ? changeEntity(doc, d.one([...doc.entities.keys()]), { turn: d.next() * 360 }) : doc,
  remove: (doc, d) => (d.yes(0.3) ? removePicked(doc, { brushes: d.some(doc.brushes.keys(), 1) }) : doc),
};

const begin = (): MapDocument =>
  addRoom(
    addRoom(emptyMap('t'), roomSpec(rectangle(0, 0, 384, 320)), DRESS),
    roomSpec(rectangle(400, 0, 320, 320)),
    DRESS,
  );

function readAgain(doc: MapDocument): void {
  const text = writeMap(doc);
  if (writeMap(parseMap(text)) !== text) throw new Error('reads as something else');
}

const CHAINS = Number(process.env.CHAINS ?? 30);
const FIRST = Number(process.env.FIRST ?? 0);
const LENGTH = 31;

test('whatever a command gives can be read again', () => {
  const used = new Map<string, number>();
  const names = Object.keys(COMMANDS);
  for (let seed = FIRST; seed < FIRST + CHAINS; seed++) {
    const d = new Dice(seed);
    let doc = begin();
    const done: string[] = [];
    for (let step = 0; step < LENGTH; step++) {
      const name = d.one(names);
      let next: MapDocument;
      try {
        next = COMMANDS[name]!(doc, d);
      } catch (error) {
        if (error instanceof EditError || error instanceof Nothing) continue;
        throw error;
      }
      done.push(name);
      used.set(name, (used.get(name) ?? 0) + 1);
      try {
        assertReadable(doc, next);
        // The whole file through the reader costs most of the time: now and then, and at the end of every chain.
        if (step % 6 === 0 || step === LENGTH - 1) readAgain(next);
      } catch (error) {
        throw new Error(`chain ${seed} after ${done.join(', ')}: ${String(error)}`, { cause: error });
      }
      doc = next;
    }
    for (const b of doc.brushes.values())
      expect(brushBounds(b).min.every(Number.isFinite) && brushPlanes(b).length > 3).toBe(true);
  }
  // No command may be left out because its arguments never make sense.
  if (CHAINS >= 30) expect(names.filter((n) => !used.has(n))).toEqual([]);
});
