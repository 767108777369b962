import { brushPlanes, DRAWN_ROLES, faceWinding, type Brush } from '../brush/index.ts';
import {
  alignFaces,
  copyAlignment,
  materialCounts,
  paintFaces,
  setRole,
  setShow,
  type FaceRef,
} from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import {
  addScaled,
  boxOf,
  boxSize,
  distance,
  dot,
  lerp,
  normalize,
  samePlane,
  sub,
  windingCentroid,
  type Vec3,
  type Winding,
} from '../math/index.ts';
import {
  densityOf,
  NATURAL_TEXELS_PER_CM,
  texelAt,
  type Density,
  type MaterialFacts,
  type MaterialLookup,
} from '../surface/index.ts';
import { nearPairs } from './pairs.ts';
import type { CheckContext, Finding, Rule } from './types.ts';

/** Faces may be this many times as dense or as coarse as the map wants. */
const DENSITY_FACTOR = 2;
/** Texels may be this many times as long as wide. */
const STRETCH_FACTOR = 1.5;
/** Rounding of computed frames. */
const SLACK = 1.001;
/** Unseen faces narrower than this (cm) are the rims of thin brushes. */
const RIM = 4;
/** Flush faces that share less of an edge than this (cm) are not looked at for seams. */
const LEAST_EDGE = 4;
/** A seam shows when pictures are apart by more than this (texels). */
const SEAM = 0.5;

const NOTHING_KNOWN: MaterialLookup = () => undefined;

/** Every face that a build would draw, with its material's facts. What only the void or a solid sees is left out where that is known. */
function* drawnFaces(doc: MapDocument, { placeOf, materials = NOTHING_KNOWN }: CheckContext) {
  for (const brush of doc.brushes.values()) {
    if (!DRAWN_ROLES.has(brush.role)) continue;
    const planes = brushPlanes(brush);
    for (let i = 0; i < brush.faces.length; i++) {
      const face = brush.faces[i]!;
      if (face.show) continue;
      const winding = faceWinding(brush, i);
      const at = windingCentroid(winding);
      if (placeOf && placeOf(addScaled(at, planes[i]!.normal, 0.5)) !== 'open') continue;
      yield {
        brush,
        face,
        plane: planes[i]!,
        at,
        ref: { brush: brush.id, face: face.id },
        facts: materials(face.material),
      };
    }
  }
}
type Drawn = ReturnType<typeof drawnFaces> extends Generator<infer T> ? T : never;

/** One problem a material over all its faces that are found wanting. */
function byMaterial(
  rule: string,
  faces: Iterable<Drawn>,
  text: (name: string, count: number, first: Drawn) => string,
): Finding[] {
  const groups = new Map<string, Drawn[]>();
  for (const f of faces) groups.set(f.face.material, [...(groups.get(f.face.material) ?? []), f]);
  return [...groups].map(([name, list]) => ({
    id: `${rule} ${name}`,
    code: rule,
    severity: 'warning',
    text: text(name, list.length, list[0]!),
    at: list[0]!.at,
    brushes: [...new Set(list.map((f) => f.ref.brush))],
    faces: list.map((f) => f.ref),
  }));
}

/** One face is, three faces are. */
const facesAre = (n: number, one: string, many: string, between = ''): string =>
  n === 1 ? `One face ${between}${one}` : `${n} faces ${between}${many}`;

function* where(faces: Iterable<Drawn>, test: (f: Drawn) => boolean): Generator<Drawn> {
  for (const f of faces) if (test(f)) yield f;
}

const natural = (doc: MapDocument, { faces = [] }: Finding, { materials = NOTHING_KNOWN }: CheckContext): MapDocument =>
  alignFaces(doc, faces, { do: 'natural' }, { facts: materials });

const wanted = (doc: MapDocument): number => doc.settings.texelsPerCm ?? NATURAL_TEXELS_PER_CM;

const offDensity = (d: Density, want: number): boolean =>
  d.mean > want * DENSITY_FACTOR * SLACK || d.mean * DENSITY_FACTOR * SLACK < want;

/** Pictures of single things (with regions, with holes) are fitted to faces, so their density is what it comes to. */
const isLaid = ({ facts }: Drawn): boolean => !!facts && !facts.regions?.length && facts.solidity !== 'cutOut';

/** Faces smaller than this (cm) either way hardly show how dense their texture is. */
const SMALL = 32;
const isSmall = ({ brush, face }: Drawn): boolean =>
  Math.max(...boxSize(boxOf(face.loop.map((k) => brush.vertices[k]!)))) < SMALL;

export const density: Rule = {
  code: 'check.density',
  about: 'faces',
  find: (doc, context) =>
    byMaterial(
      'check.density',
      where(
        drawnFaces(doc, context),
        (f) => isLaid(f) && !isSmall(f) && offDensity(densityOf(f.face.frame, f.plane), wanted(doc)),
      ),
      (name, count, { face, plane }) =>
        `${facesAre(count, 'is', 'are', `of ${name} `)} laid at about ${Math.round(densityOf(face.frame, plane).mean * 100)} texels a metre where the map wants ${Math.round(wanted(doc) * 100)}. Lay it at natural size, or change what the map wants.`,
    ),
  fixes: [{ label: 'Lay at natural size', apply: natural }],
};

export const stretched: Rule = {
  code: 'check.stretched',
  about: 'faces',
  find: (doc, context) =>
    byMaterial(
      'check.stretched',
      where(drawnFaces(doc, context), (f) => {
        const { most, least } = densityOf(f.face.frame, f.plane);
        return isLaid(f) && !isSmall(f) && most > least * STRETCH_FACTOR * SLACK;
      }),
      (name, count) =>
        `${facesAre(count, 'shows', 'show', `of ${name} `)} the picture stretched more one way than the other. Lay it at natural size.`,
    ),
  fixes: [{ label: 'Lay at natural size', apply: natural }],
};

/** The material that a map shows most of those that are known and no placeholder; null when there is none. */
function mostUsed(doc: MapDocument, known: (name: string) => MaterialFacts | undefined): string | null {
  const counts = [...materialCounts(doc)].filter(([name]) => known(name) && !known(name)!.tool);
  return counts.length ? counts.reduce((a, b) => (b[1] > a[1] ? b : a))[0] : null;
}

/** Gives each face what its own brush shows most, else what the map does. */
function likeAround(
  doc: MapDocument,
  { faces = [] }: Finding,
  { materials = NOTHING_KNOWN }: CheckContext,
): MapDocument {
  return faces.reduce((d, ref) => {
    const brush = doc.brushes.get(ref.brush);
    const here = brush && mostUsed({ ...doc, brushes: new Map([[brush.id, brush]]) }, materials);
    const name = here ?? mostUsed(doc, materials);
    return name ? paintFaces(d, [ref], name, materials) : d;
  }, doc);
}

export const placeholderLeft: Rule = {
  code: 'check.placeholder',
  about: 'faces',
  find: (doc, context) =>
    byMaterial(
      'check.placeholder',
      where(drawnFaces(doc, context), ({ facts }) => facts?.tool === 'placeholder'),
      (_, count) =>
        `${facesAre(count, 'has', 'have', 'still ')} the placeholder. Paint over it with what the place is made of.`,
    ),
  fixes: [{ label: 'Give each what is used round it', apply: likeAround }],
};

export const missingMaterial: Rule = {
  code: 'check.missingMaterial',
  about: 'faces',
  find: (doc, context) =>
    context.materials
      ? byMaterial(
          'check.missingMaterial',
          where(drawnFaces(doc, context), ({ facts }) => !facts),
          (name, count) =>
            `${facesAre(count, 'has', 'have')} the material ${name}, which is not in Stock. Import its pack, or replace it.`,
        )
      : [],
  fixes: [{ label: 'Give each what is used round it', apply: likeAround }],
};

export const leakyLook: Rule = {
  code: 'check.cutOutSeals',
  about: 'brushes',
  find: (doc, context) =>
    byMaterial(
      'check.cutOutSeals',
      where(
        drawnFaces(doc, context),
        ({ brush, facts }) => brush.role === 'structure' && !!facts && facts.solidity !== 'solid',
      ),
      (name, count) =>
        `${facesAre(count, 'belongs', 'belong', `of ${name}, which one can see through, `)} to structure that seals: what lies behind is not drawn. Make those brushes detail.`,
    ),
  fixes: [
    {
      label: 'Make those brushes detail',
      apply: (doc, problem) => setRole(doc, new Set(problem.brushes), 'detail'),
    },
  ],
};

export const unseenInView: Rule = {
  code: 'check.unseenInView',
  about: 'faces',
  find: (doc, { placeOf }) => {
    if (!placeOf) return [];
    const faces: { ref: FaceRef; at: Vec3 }[] = [];
    for (const brush of doc.brushes.values()) {
      if (!DRAWN_ROLES.has(brush.role)) continue;
      brush.faces.forEach((face, i) => {
        if (face.show !== 'unseen') return;
        const winding = faceWinding(brush, i);
        const at = windingCentroid(winding);
        if (narrow(winding) || placeOf(addScaled(at, brushPlanes(brush)[i]!.normal, 0.5)) !== 'open') return;
        faces.push({ ref: { brush: brush.id, face: face.id }, at });
      });
    }
    return faces.length === 0
      ? []
      : [
          {
            id: 'check.unseenInView',
            code: 'check.unseenInView',
            severity: 'warning',
            at: faces[0]!.at,
            brushes: [...new Set(faces.map((f) => f.ref.brush))],
            faces: faces.map((f) => f.ref),
            text: `${facesAre(faces.length, 'is', 'are')} Unseen but can be seen from inside: there will be a hole. Show the material there, or turn the face away.`,
          },
        ];
  },
  fixes: [{ label: 'Show their materials', apply: (doc, { faces = [] }) => setShow(doc, faces, null) }],
};

/** Whether a polygon is narrower than a rim in some direction along its edges. */
const narrow = (w: Winding): boolean =>
  Math.max(...boxSize(boxOf(w))) < RIM || w.some((p, i) => distance(p, w[(i + 1) % w.length]!) < RIM);

/** The edge that two flush faces share, where it is long enough to show. */
function flushEdge(a: Winding, b: Winding): [Vec3, Vec3] | null {
  for (let i = 0; i < a.length; i++) {
    const [p, q] = [a[i]!, a[(i + 1) % a.length]!];
    const d = normalize(sub(q, p));
    for (let k = 0; k < b.length; k++) {
      const [r, s] = [b[k]!, b[(k + 1) % b.length]!];
      if (dot(normalize(sub(s, r)), d) > -1 + 1e-6 || distance(r, addScaled(p, d, dot(sub(r, p), d))) > 0.02) continue;
      const from = Math.max(0, dot(sub(s, p), d));
      const to = Math.min(distance(p, q), dot(sub(r, p), d));
      if (to - from > LEAST_EDGE) return [addScaled(p, d, from), addScaled(p, d, to)];
    }
  }
  return null;
}

/** By how many texels two pictures are apart along a line, whole repeats not counted. */
function seamGap(a: Drawn, b: Drawn, [p, q]: [Vec3, Vec3], { width, height }: MaterialFacts): number {
  const off = (x: number, size: number) => Math.abs(x - Math.round(x / size) * size);
  return Math.max(
    ...[0, 0.37, 1].map((t) => {
      const at = lerp(p, q, t);
      const [u, v] = texelAt(a.face.frame, at);
      const [s, r] = texelAt(b.face.frame, at);
      return Math.max(off(u - s, width), off(v - r, height));
    }),
  );
}

export const flushSeam: Rule = {
  code: 'check.seam',
  about: 'faces',
  least: 2,
  find: (doc, context) => {
    const byBrush = new Map<string, Drawn[]>();
    for (const f of drawnFaces(doc, context))
      if (isLaid(f)) byBrush.set(f.brush.id, [...(byBrush.get(f.brush.id) ?? []), f]);
    const brushes = [...byBrush.keys()].map((id): Brush => doc.brushes.get(id)!);
    const problems: Finding[] = [];
    for (const [x, y] of nearPairs(brushes, 0.01))
      for (const a of byBrush.get(x.id)!)
        for (const b of byBrush.get(y.id)!) {
          if (a.face.material !== b.face.material || a.face.frame === b.face.frame || !samePlane(a.plane, b.plane))
            continue;
          const edge = flushEdge(windingOf(a), windingOf(b));
          if (!edge || seamGap(a, b, edge, a.facts!) <= SEAM) continue;
          problems.push({
            id: `check.seam ${x.id} ${a.face.id} ${y.id} ${b.face.id}`,
            code: 'check.seam',
            severity: 'warning',
            at: lerp(edge[0], edge[1], 0.5),
            brushes: [x.id, y.id],
            faces: [a.ref, b.ref],
            text: `Two flush faces of ${a.face.material} do not go on into one another: a seam shows between them. Flow the texture from one to the other.`,
          });
        }
    return problems;
  },
  fixes: [
    {
      label: 'Flow from the first to the second',
      apply: (doc, { faces }) => (faces ? copyAlignment(doc, faces[0]!, [faces[1]!]) : doc),
    },
  ],
};

const windingOf = ({ brush, face }: Drawn): Winding => face.loop.map((k) => brush.vertices[k]!);
