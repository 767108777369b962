import { brushBounds, brushPlanes, faceWinding, type Brush } from '../brush/index.ts';
import {
  addScaled,
  cross,
  dot,
  length,
  intersectWindings,
  type Plane,
  signedDistance,
  sub,
  type Vec3,
  type Winding,
  windingArea,
  windingCentroid,
} from '../math/index.ts';
import type { MapDocument } from '../map/index.ts';
import { inLowOpening } from './low-openings.ts';
import { nearPairs } from './pairs.ts';
import type { CheckContext, PlayerBody, Finding, Rule } from './types.ts';

/** Less wide or high than this (cm) it is a slot, not a way that anybody would try. */
const SLOT = 12;
const CRAWL = 60;
/** Opposite faces that share less than this (cm²) do not make a passage. */
const LEAST_AREA = 100;
/** How far (cm) beyond a gap room to stand is looked for. */
const THICKEST = 160;
/** Reports this near to each other (cm) are of the same passage. */
const SAME_PLACE = 96;

interface Gap {
  /** How far apart the two faces are. */
  readonly size: number;
  /** What they share, on the first face's plane. */
  readonly shared: Winding;
  /** The middle of the space between them. */
  readonly middle: Vec3;
  readonly plane: Plane;
  readonly pair: readonly [Brush, Brush];
}

/** Pairs of faces of structure brushes that look at each other across less than `reach` cm of open space. */
function* gaps(
  doc: MapDocument,
  context: CheckContext,
  reach: number,
  least: number,
  looks: (n: Vec3) => boolean,
): Generator<Gap> {
  const walls = [...doc.brushes.values()].filter((b) => b.role === 'structure');
  for (const pair of nearPairs(walls, reach))
    for (const [a, b] of [pair, [pair[1], pair[0]] as const]) {
      const planes = brushPlanes(a);
      for (let i = 0; i < planes.length; i++) {
        const plane = planes[i]!;
        if (!looks(plane.normal)) continue;
        const others = brushPlanes(b);
        for (let j = 0; j < others.length; j++) {
          if (dot(plane.normal, others[j]!.normal) > -0.9999) continue;
          const size = signedDistance(plane, b.vertices[b.faces[j]!.loop[0]!]!);
          if (size < least || size >= reach) continue;
          const onto = faceWinding(b, j)
            .map((p) => addScaled(p, plane.normal, -size))
            .reverse();
          const shared = intersectWindings(faceWinding(a, i), onto, plane.normal);
          if (!shared || windingArea(shared) < LEAST_AREA) continue;
          const middle = addScaled(windingCentroid(shared), plane.normal, size / 2);
          if ((context.placeOf?.(middle) ?? 'open') !== 'open') continue;
          yield { size, shared, middle, plane, pair: [a, b] };
        }
      }
    }
}

/** Whether a player could come to both ends of a way through a gap, on foot from its ground. */
function leadsThrough(body: PlayerBody, { shared, middle }: Gap, along: Vec3, ground: number): boolean {
  const reach = shared.map((p) => dot(p, along));
  const at = dot(middle, along);
  return [-1, 1].every((way) => {
    const edge = Math.max(...reach.map((r) => (r - at) * way));
    // A wall may be of several brushes one behind the other: what follows is looked at until there is room to stand.
    for (let by = edge + 2; by <= edge + THICKEST; by += 8) {
      const p = addScaled([middle[0], middle[1], ground + body.step + 1], along, by * way);
      const floor = body.groundUnder(p);
      if (floor === null || Math.abs(floor - ground) > body.step) return false;
      if (body.fits([p[0], p[1], floor + 0.1])) return true;
    }
    return false;
  });
}

/** One report for each place: the faces of a doorway are often several. */
function once(problems: readonly Finding[]): Finding[] {
  const kept: Finding[] = [];
  for (const p of problems) if (!kept.some((k) => length(sub(p.at!, k.at!)) < SAME_PLACE)) kept.push(p);
  return kept;
}

const cm = (size: number): string => String(Math.round(size * 10) / 10);

const problemOf = (code: string, { pair, middle }: Gap, ground: number, text: string): Finding => ({
  id: `${code} ${pair
    .map((b) => b.id)
    .sort()
    .join(' ')}`,
  code,
  severity: 'warning',
  text,
  at: [middle[0], middle[1], ground],
  brushes: pair.map((b) => b.id),
});

export const narrowPassage: Rule = {
  code: 'check.narrow',
  find: (doc, context) => {
    const { body } = context;
    if (!body) return [];
    const out: Finding[] = [];
    for (const gap of gaps(doc, context, body.width, SLOT, (n) => Math.abs(n[2]) < 0.01)) {
      // Each pair is met from both sides; one is enough.
      if (gap.pair[0].id > gap.pair[1].id) continue;
      const ground = body.groundUnder(gap.middle);
      if (ground === null || Math.max(...gap.shared.map((p) => p[2])) - ground < body.crouching) continue;
      if (!leadsThrough(body, gap, cross(gap.plane.normal, [0, 0, 1]), ground)) continue;
      out.push(
        problemOf(
          'check.narrow',
          gap,
          ground,
          `A passage is ${cm(gap.size)} cm wide; a player needs ${body.width}. Widen it, or close it.`,
        ),
      );
    }
    return once(out);
  },
};

export const lowPassage: Rule = {
  code: 'check.low',
  find: (doc, context) => {
    const { body } = context;
    if (!body) return [];
    const out: Finding[] = [];
    for (const gap of gaps(doc, context, body.standing, CRAWL, (n) => n[2] > 0.9999)) {
      if (inLowOpening(doc, gap.middle, body)) continue;
      const ground = brushBounds(gap.pair[0]).max[2];
      // Something else on the floor makes it another passage.
      const floor = body.groundUnder(gap.middle);
      if (floor === null || Math.abs(floor - ground) > 0.5) continue;
      if (
        ![
          [1, 0, 0],
          [0, 1, 0],
        ].some((along) => leadsThrough(body, gap, along as unknown as Vec3, ground))
      )
        continue;
      const crawl = gap.size >= body.crouching;
      const text = crawl
        ? `A passage is ${cm(gap.size)} cm high: a player gets through it only crouching. Upright takes ${body.standing}.`
        : `A passage is ${cm(gap.size)} cm high; even a crouching player needs ${body.crouching}. Raise it, or close it.`;
      out.push(problemOf('check.low', gap, ground, text));
    }
    return once(out);
  },
};
