import { boxSolid, brushBounds, stopsPlayers, type Brush } from '../brush/index.ts';
import { entityKind, entityName, isSpawn, movedBox, moves, type Entity, type Pose } from '../entity/index.ts';
import { aroundIn, isMoving, meet, partsOf, stillBrushes, TOUCHING, type MapDocument } from '../map/index.ts';
import { boxesOverlap, uniteBoxes, type Box, type Vec3 } from '../math/index.ts';
import { inOpening, openingFits, openingHole, refitDoor, sideOf } from '../edit/index.ts';
import { dressSolid, transformBrush } from '../surface/index.ts';
import type { Finding, PlayerBody, Rule } from './types.ts';

/** What moves, with its brushes by part and the way of each. */
interface Moving {
  readonly e: Entity;
  readonly parts: readonly (readonly Brush[])[];
  readonly ways: readonly (readonly Pose[])[];
}

function movingOf(doc: MapDocument): Moving[] {
  const around = aroundIn(doc);
  return [...doc.entities.values()].filter(moves).flatMap((e) => {
    const parts = partsOf(doc, e.id);
    return parts.length ? [{ e, parts, ways: entityKind(e.kind)?.behaviour?.way?.(e, around) ?? [] }] : [];
  });
}

/** Poses that are tried of a way: enough to find a brush in it, few enough to be asked after every edit. */
const TRIED = 24;

/**
 * Parts that run into something that stands still. What a part is in where it was drawn does not count, nor do walls that it
 * slides into and that hide it; what turns, or is detail in the way, does.
 */
export const runsInto: Rule = {
  code: 'check.runsInto',
  about: 'entities',
  find: (doc) => {
    const moving = movingOf(doc);
    if (moving.length === 0) return [];
    const still = stillBrushes(doc).filter(stopsPlayers);
    return moving.flatMap(({ e, parts, ways }): Finding[] => {
      const met = new Set<string>();
      parts.forEach((brushes, k) => {
        const way = ways[k] ?? [];
        if (way.length < 2 || brushes.length === 0) return;
        const bounds = uniteBoxes(brushes.map(brushBounds));
        const reach = uniteBoxes(way.map((pose) => movedBox(pose, bounds)));
        const near = still.filter((b) => boxesOverlap(brushBounds(b), reach, TOUCHING));
        const others = near.filter((b) => !brushes.some((own) => meet(own, b)));
        if (others.length === 0) return;
        const turns = way.some((pose) => Math.abs(pose[0] - 1) + Math.abs(pose[5] - 1) + Math.abs(pose[10] - 1) > 1e-9);
        const counted = turns ? others : others.filter((b) => b.role !== 'structure');
        const step = Math.max(1, Math.floor(way.length / TRIED));
        for (let i = 0; i < way.length; i += step) {
          const here = movedBox(way[i]!, bounds);
          for (const b of counted)
            if (!met.has(b.id) && boxesOverlap(here, brushBounds(b), TOUCHING))
              if (brushes.some((own) => meet(transformBrush(own, way[i]!, true), b))) met.add(b.id);
        }
      });
      if (met.size === 0) return [];
      const what = met.size === 1 ? 'a brush that stands' : `${met.size} brushes that stand`;
      return [
        {
          id: `check.runsInto ${e.id}`,
          code: 'check.runsInto',
          severity: 'warning',
          text: `${entityName(e)} runs into ${what} in its way. Drag its handles so that it passes, or move what is there.`,
          at: e.at,
          entities: [e.id],
          brushes: [...met],
        },
      ];
    });
  },
};

/** Brushes of what moves that have the role of what seals: they cannot. */
export const cannotSeal: Rule = {
  code: 'check.cannotSeal',
  about: 'brushes',
  find: (doc, { leak }) => {
    const brushes = [...doc.brushes.values()].filter((b) => b.role === 'structure' && isMoving(doc, b));
    if (brushes.length === 0) return [];
    const hole: Box | null = leak?.hole.length ? boxOfHole(leak.hole) : null;
    const by = new Map<string, Brush[]>();
    for (const b of brushes) by.set(b.owner!.id, [...(by.get(b.owner!.id) ?? []), b]);
    return [...by].map(([id, own]): Finding => {
      const name = entityName(doc.entities.get(id));
      const open = hole && own.some((b) => boxesOverlap(brushBounds(b), hole, -8));
      return {
        id: `check.cannotSeal ${id}`,
        code: 'check.cannotSeal',
        severity: open ? 'warning' : 'info',
        text: open
          ? `${name} stands where the map leaks, and what moves seals nothing. Close the map behind it: a room, or a frame of Structure.`
          : `${name} has brushes of the role Structure, and what moves seals nothing. Make them Detail.`,
        brushes: own.map((b) => b.id),
      };
    });
  },
  fixes: [
    {
      label: 'Make them Detail',
      apply: (doc, problem) => {
        const brushes = new Map(doc.brushes);
        for (const id of problem.brushes ?? []) {
          const b = brushes.get(id);
          if (b) brushes.set(id, { ...b, role: 'detail' });
        }
        return { ...doc, brushes };
      },
    },
  ],
};

const boxOfHole = (hole: readonly Vec3[]): Box => uniteBoxes(hole.map((p) => ({ min: p, max: p })));

/** What an opening may show beside or over a leaf, cm. */
const GAP = 2;

/** Doors in openings that they do not close: the opening was moved or made larger since, or a leaf was shaped. */
export const leavesGap: Rule = {
  code: 'check.leavesGap',
  about: 'entities',
  find: (doc) =>
    [...doc.entities.values()].flatMap((e): Finding[] => {
      if (!entityKind(e.kind)?.closes) return [];
      const brushes = partsOf(doc, e.id).flat();
      const o = [...doc.openings.values()].find((x) => openingFits(doc, x) && inOpening(x, doc.rooms, e.at));
      if (!o || brushes.length === 0) return [];
      const side = sideOf(doc.rooms.get(o.rooms[0])!, o.side);
      const { bottom, top } = openingHole(o, doc.rooms);
      const corners = brushes.flatMap((b) => b.vertices);
      const along = corners.map(([x, y]) => (x - side.start[0]) * side.along[0] + (y - side.start[1]) * side.along[1]);
      const up = corners.map((v) => v[2]);
      const gaps = [
        Math.min(...along) - (o.at - o.width / 2),
        o.at + o.width / 2 - Math.max(...along),
        Math.min(...up) - bottom,
        top - Math.max(...up),
      ];
      const most = Math.max(...gaps);
      return most <= GAP
        ? []
        : [
            {
              id: `check.leavesGap ${e.id}`,
              code: 'check.leavesGap',
              severity: 'warning',
              text: `${entityName(e)} leaves ${Math.round(most)} cm of its opening open. Cut its leaves to the opening anew, or stretch them.`,
              at: e.at,
              entities: [e.id],
              openings: [o.id],
            },
          ];
    }),
  fixes: [
    {
      label: 'Cut the leaves to the opening anew',
      offered: (doc, { entities, openings }) =>
        doc.entities.has(entities?.[0] ?? '') && doc.openings.has(openings?.[0] ?? ''),
      apply: (doc, { entities, openings }) => refitDoor(doc, entities![0]!, openings![0]!),
    },
  ],
};

/** The room that a standing player takes over a point. */
const standing = ([x, y, z]: Vec3, { width, standing: height }: PlayerBody): Box => ({
  min: [x - width / 2, y - width / 2, z],
  max: [x + width / 2, y + width / 2, z + height],
});

/** Spawns in the way of something that moves. */
export const spawnInTheWay: Rule = {
  code: 'check.spawnInTheWay',
  about: 'entities',
  find: (doc, { body }) => {
    const spawns = [...doc.entities.values()].filter(isSpawn);
    if (!body || spawns.length === 0) return [];
    const moving = movingOf(doc);
    return spawns.flatMap((s): Finding[] => {
      const here = standing([s.at[0], s.at[1], s.at[2] + 1], body);
      const by = moving.find(({ parts, ways }) =>
        parts.some((brushes, k) => {
          if (brushes.length === 0) return false;
          const bounds = uniteBoxes(brushes.map(brushBounds));
          return (ways[k] ?? []).some((pose) => boxesOverlap(movedBox(pose, bounds), here, TOUCHING));
        }),
      );
      return by
        ? [
            {
              id: `check.spawnInTheWay ${s.id}`,
              code: 'check.spawnInTheWay',
              severity: 'warning',
              text: `${entityName(s)} stands in the way of ${entityName(by.e).replace(/^A /, 'a ')}. Move one of them.`,
              at: s.at,
              entities: [s.id],
            },
          ]
        : [];
    });
  },
};

/** Lifts, and other carriers, under a ceiling too low for who stands on them. */
export const lowCarrier: Rule = {
  code: 'check.lowCarrier',
  about: 'entities',
  find: (doc, { body }) => {
    if (!body) return [];
    const around = aroundIn(doc);
    const still = stillBrushes(doc).filter(stopsPlayers);
    return [...doc.entities.values()].flatMap((e): Finding[] => {
      const kind = entityKind(e.kind);
      const [part] = partsOf(doc, e.id);
      if (!kind?.carries || !part?.length) return [];
      const { min, max } = uniteBoxes(part.map(brushBounds));
      const top: Vec3 = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, max[2] + TOUCHING];
      const ends = kind.behaviour?.ends?.(e, around) ?? [];
      const low = ends.some(([pose]) => {
        if (!pose) return false;
        const here = movedBox(pose, standing(top, body));
        const player = dressSolid(boxSolid(here), 'player', 'clear');
        return still.some((b) => meet(player, b));
      });
      return low
        ? [
            {
              id: `check.lowCarrier ${e.id}`,
              code: 'check.lowCarrier',
              severity: 'warning',
              text: `${entityName(e)} comes to a stop where nobody can stand on it: a player needs ${body.standing} cm above it. Raise the ceiling, or lower the stop.`,
              at: e.at,
              entities: [e.id],
            },
          ]
        : [];
    });
  },
};

/** Regions in which nobody can ever be: in solids, or out in the void. */
export const unreachable: Rule = {
  code: 'check.unreachable',
  about: 'entities',
  find: (doc, { placeOf }) => {
    if (!placeOf) return [];
    return [...doc.entities.values()].flatMap((e): Finding[] => {
      if (entityKind(e.kind)?.body !== 'zone') return [];
      const regions = partsOf(doc, e.id).flat();
      if (regions.length === 0) return [];
      const open = regions.some((b) => {
        const { min, max } = brushBounds(b);
        return SHARES.some((x) =>
          SHARES.some((y) =>
            SHARES.some(
              (z) =>
                placeOf([
                  min[0] + (max[0] - min[0]) * x,
                  min[1] + (max[1] - min[1]) * y,
                  min[2] + (max[2] - min[2]) * z,
                ]) === 'open',
            ),
          ),
        );
      });
      return open
        ? []
        : [
            {
              id: `check.unreachable ${e.id}`,
              code: 'check.unreachable',
              severity: 'warning',
              text: `${entityName(e)} lies where nobody can be: in solids, or outside. Move its brushes to where people come.`,
              at: e.at,
              entities: [e.id],
            },
          ];
    });
  },
};

const SHARES = [0.05, 0.35, 0.65, 0.95];
