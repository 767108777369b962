import type { Solid } from '../brush/index.ts';
import { aroundIn, bodiesOf, carrierAmong, isMoving, propBrushes, type MapDocument, type Wire } from '../map/index.ts';
import type { PropLookup } from '../prop/index.ts';
import { boxSolid, solidOf, stopsPlayers } from '../brush/index.ts';
import { entityKind, farthestMove, movedBox, type Around, type Behaviour, type Entity } from '../entity/index.ts';
import {
  packColliders,
  type Level,
  regionsOf,
  propsOnPart,
  spacesOf,
  type LevelBody,
  type LevelMeta,
  type LevelRegion,
} from '../compile/index.ts';
import { boxOf, growBox, isEmptyBox, uniteBoxes, type Box } from '../math/index.ts';
import { spaceOf, type Space } from './medium.ts';
import { makeCollision, type Collision } from './collide.ts';

/** A part of a thing that moves: convex solids that move as one. */
export interface WorldBody {
  /** Index of its thing. */
  readonly thing: number;
  readonly part: number;
  /** As they were drawn. */
  readonly solids: readonly Solid[];
  readonly boxes: readonly Box[];
  readonly bounds: Box;
}

/** A thing that does something in play. */
export interface WorldThing {
  readonly entity: Entity;
  readonly behaviour: Behaviour<Entity>;
  /** Index of the thing it rides on, −1 for none. */
  readonly carrier: number;
  /** On which part of that, counted from 0. */
  readonly on: number;
  /** Its bodies. */
  readonly bodies: readonly number[];
  /** What rides on it, directly or by something else, carriers before what they carry. */
  readonly riders: readonly number[];
  /** Everywhere its bodies can ever be, of what rides on nothing and carries nothing; null when that is not known. */
  readonly reach: Box | null;
  /** All bodies that move when it does: its own and those of what rides on it. */
  readonly moves: readonly number[];
}

/** A map ready to be played: what never changes while it is. */
export interface World {
  readonly still: Collision;
  /** Those that do something, carriers before what rides on them, else by id. */
  readonly things: readonly WorldThing[];
  readonly bodies: readonly WorldBody[];
  /** Where things notice who is inside: convex solids of each thing. */
  readonly regions: readonly { readonly thing: number; readonly solids: readonly Solid[]; readonly bounds: Box }[];
  readonly liquids: readonly Space[];
  readonly ladders: readonly Space[];
  readonly around: Around;
  /** By thing and signal. */
  readonly wires: ReadonlyMap<string, readonly { readonly wire: Wire; readonly to: number }[]>;
  /** Things that want to be told of players who come near: how near (cm), and to what; to its place, when it fills nothing. */
  readonly noticing: readonly { readonly thing: number; readonly reach: number; readonly boxes: readonly Box[] }[];
}

/** What a world is made of, from a map or from a level. */
interface WorldParts {
  readonly still: Collision;
  readonly entities: readonly Entity[];
  readonly bodies: readonly Pick<LevelBody, 'thing' | 'part' | 'solids' | 'bounds'>[];
  readonly regions: readonly LevelRegion[];
  readonly spaces: LevelMeta['spaces'];
  readonly wires: Iterable<Wire>;
  readonly around: Around;
}

/** A map as it stands, without a build. */
export function worldOfMap(doc: MapDocument, lookup: PropLookup = () => undefined): World {
  const props = propBrushes(doc, lookup);
  return makeWorld({
    still: makeCollision(
      packColliders([...doc.brushes.values(), ...props].filter((b) => stopsPlayers(b) && !isMoving(doc, b))),
    ),
    entities: [...doc.entities.values()],
    bodies: bodiesOf(doc).map(({ thing, part, brushes, bounds }) => ({
      thing,
      part,
      solids: [...brushes, ...propsOnPart(props, thing, part)].filter(stopsPlayers).map(solidOf),
      bounds,
    })),
    regions: regionsOf(doc),
    spaces: spacesOf(doc),
    wires: doc.wires.values(),
    around: aroundIn(doc),
  });
}

/** A level that was built. */
export function worldOfLevel(level: Level): World {
  const { entities, bodies, regions, spaces, wires } = level.meta;
  const things = new Map(entities.map((e) => [e.id, e]));
  return makeWorld({
    still: makeCollision(level),
    entities,
    bodies,
    regions,
    spaces,
    wires,
    around: {
      thing: (id) => things.get(id),
      parts: (id) => {
        const out: Box[] = [];
        for (const b of bodies) if (b.thing === id) out[b.part] = b.bounds;
        for (const r of regions) if (r.thing === id) out[0] = uniteBoxes(r.solids.map((s) => boxOf(s.vertices)));
        return Array.from(out);
      },
    },
  });
}

function makeWorld({ still, entities, bodies, regions, spaces, wires, around }: WorldParts): World {
  const acting = entities.filter((e) => entityKind(e.kind)?.behaviour);
  const byId = new Map(acting.map((e) => [e.id, e]));
  /** The nearest that acts of what it rides on, directly or by something else. */
  const carrierOf = (e: Entity) => carrierAmong(e, around.thing, (up) => byId.has(up.id));
  const depth = (e: Entity): number => {
    const up = carrierOf(e);
    return up ? depth(byId.get(up.id)!) + 1 : 0;
  };
  const ordered = acting
    .map((e) => ({ e, depth: depth(e) }))
    .sort((a, b) => a.depth - b.depth || (a.e.id < b.e.id ? -1 : 1))
    .map(({ e }) => e);
  const index = new Map(ordered.map((e, i) => [e.id, i]));
  const all = bodies
    .filter((b) => index.has(b.thing))
    .map(({ thing, part, solids: own, bounds }): WorldBody => {
      const e = byId.get(thing)!;
      const beneath = part === 0 ? (entityKind(e.kind)!.behaviour!.beneath?.(e, around) ?? []) : [];
      const solids = [...own, ...beneath.map(boxSolid)];
      const boxes = solids.map((s) => boxOf(s.vertices));
      return { thing: index.get(thing)!, part, solids, boxes, bounds: uniteBoxes([bounds, ...boxes]) };
    });
  const carriers = ordered.map((e) => index.get(carrierOf(e)?.id ?? '') ?? -1);
  const rides = (thing: number, on: number): boolean => {
    for (let up = thing; up >= 0; up = carriers[up]!) if (up === on) return true;
    return false;
  };
  const ofThing = ordered.map(() => [] as number[]);
  all.forEach((b, k) => ofThing[b.thing]!.push(k));
  const carried = new Set(carriers);
  const from = new Map<string, { wire: Wire; to: number }[]>();
  for (const wire of [...wires].sort((a, b) => (a.id < b.id ? -1 : 1))) {
    const to = index.get(wire.to.thing);
    if (to === undefined) continue;
    const key = signalKey(wire.from.thing, wire.from.signal);
    from.set(key, [...(from.get(key) ?? []), { wire, to }]);
  }
  return {
    still,
    around,
    bodies: all,
    liquids: spaces.liquid.map(spaceOf),
    ladders: spaces.ladder.map(spaceOf),
    regions: regions.flatMap(({ thing, solids }) => {
      const k = index.get(thing);
      return k === undefined ? [] : [{ thing: k, solids, bounds: uniteBoxes(solids.map((s) => boxOf(s.vertices))) }];
    }),
    wires: from,
    noticing: ordered.flatMap((e, thing) => {
      const reach = entityKind(e.kind)!.behaviour!.notices?.(e) ?? null;
      if (reach === null) return [];
      const boxes = around.parts(e.id).filter((b) => b && !isEmptyBox(b));
      return [{ thing, reach, boxes: boxes.length ? boxes : [{ min: e.at, max: e.at }] }];
    }),
    things: ordered.map((entity, i) => ({
      entity,
      behaviour: entityKind(entity.kind)!.behaviour!,
      carrier: carriers[i]!,
      on: carrierOf(entity)?.part ?? 0,
      riders: carried.has(i) ? ordered.flatMap((_, k) => (k !== i && rides(k, i) ? [k] : [])) : [],
      reach:
        carriers[i]! < 0 && !carried.has(i)
          ? reachOf(
              entity,
              ofThing[i]!.map((k) => all[k]!),
              around,
            )
          : null,
      bodies: ofThing[i]!,
      moves: carried.has(i) ? all.flatMap((b, k) => (rides(b.thing, i) ? [k] : [])) : ofThing[i]!,
    })),
  };
}

/** Everywhere some bodies of a thing can be: along its ways, and what lies between two places of them. */
function reachOf(entity: Entity, bodies: readonly WorldBody[], around: Around): Box | null {
  const { way, gone } = entityKind(entity.kind)!.behaviour!;
  if (!way || gone || bodies.length === 0) return null;
  const ways = way(entity, around);
  const boxes = bodies.flatMap(({ part, bounds }) => {
    const poses = ways[part] ?? [];
    return poses.map((pose, i) => {
      const far = i > 0 ? farthestMove(bounds, poses[i - 1]!, pose) : 0;
      return growBox(movedBox(pose, bounds), far / 2 + 1);
    });
  });
  return boxes.length ? uniteBoxes(boxes) : null;
}

export const signalKey = (thing: string, signal: string): string => `${thing} ${signal}`;
