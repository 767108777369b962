import type { Brush, TextureFrame } from '../brush/index.ts';
import type { MapDocument } from '../map/index.ts';
import { cross, dot, mirror, samePlane, windingCentroid, type Affine, type Plane, type Vec3 } from '../math/index.ts';
import {
  changeTexels,
  closingStretch,
  copyFrame,
  edgeChange,
  faceFrame,
  fitChange,
  flipChange,
  layPiece,
  readFrame,
  mirrorFrame,
  naturalFrame,
  naturalSize,
  rankRegions,
  scattered,
  shiftFrame,
  texelBox,
  throughFrame,
  turnFrame,
  unfold,
  wholePicture,
  worldFrame,
  type EdgeSide,
  type MaterialFacts,
  type MaterialLookup,
  type Piece,
  type Region,
  type TexelBox,
  type UnfoldOptions,
} from '../surface/index.ts';
import { EditError } from './errors.ts';
import { groupChain } from './groups.ts';
import { findFaces, paintFaces, setFrames, type FaceRef, type FoundFace } from './faces.ts';

/** What can be done to the texture of faces, each by itself or of a piece that hangs together. */
export type Alignment =
  | { readonly do: 'fit'; readonly repeats: readonly [number, number] }
  /** The named region of the face's material, or the one that suits the face best; turned on its side where it fits better so. */
  | { readonly do: 'region'; readonly name?: string; readonly mirrored?: boolean }
  | { readonly do: 'edge'; readonly side: EdgeSide; readonly region?: string }
  | { readonly do: 'turn'; readonly degrees: number }
  | { readonly do: 'flip'; readonly way: 'across' | 'down' }
  /** Moves the picture to the right and down, by texels or by centimetres on the face. */
  | { readonly do: 'nudge'; readonly across: number; readonly down: number; readonly unit?: 'texels' | 'cm' }
  | { readonly do: 'natural' }
  | { readonly do: 'world' }
  | { readonly do: 'face' };

export interface AlignOptions {
  readonly facts: MaterialLookup;
  /** Faces that hang together are one sheet; otherwise each face is laid by itself. */
  readonly asPiece?: boolean;
}

/** What is taken for granted of a material that nobody knows. */
const UNKNOWN: MaterialFacts = { name: '', width: 512, height: 512, texelsPerCm: 2, solidity: 'solid' };

/** Sorts faces into what is laid as one: each by itself, or what hangs together or looks the same way. */
function sheetsOf(faces: readonly FoundFace[], asPiece: boolean | undefined): Piece[] {
  return asPiece ? unfold(faces, { parallel: true }) : faces.map((_, i) => ({ root: i, steps: [], seams: [] }));
}

/** What a piece covers of its picture when its first face has a frame. */
function covered(faces: readonly FoundFace[], piece: Piece, frame: TextureFrame): TexelBox {
  return texelBox([...layPiece(faces, piece, frame)].map(([i, f]) => ({ frame: f, points: faces[i]!.winding })));
}

/** Does one thing to the texture of faces. Throws `face.unknown`, `fit.repeats`, `region.none` or `frame.flat`, and changes nothing then. */
export function alignFaces(
  doc: MapDocument,
  refs: readonly FaceRef[],
  what: Alignment,
  { facts, asPiece }: AlignOptions,
): MapDocument {
  const faces = findFaces(doc, refs);
  const frames = new Map<number, TextureFrame>();
  for (const piece of sheetsOf(faces, asPiece)) {
    const root = faces[piece.root]!;
    const next = realigned(root, what, facts, (frame) => covered(faces, piece, frame), purposeOf(doc, root.brush));
    for (const [i, frame] of layPiece(faces, piece, next)) frames.set(i, frame);
  }
  return putFrames(doc, faces, frames);
}

function putFrames(
  doc: MapDocument,
  faces: readonly FoundFace[],
  frames: ReadonlyMap<number, TextureFrame>,
): MapDocument {
  const at = new Map(faces.map((f, i) => [`${f.ref.brush} ${f.ref.face}`, i]));
  return setFrames(
    doc,
    [...frames.keys()].map((i) => faces[i]!.ref),
    (f, _, ref) => frames.get(at.get(`${ref.brush} ${ref.face}`)!) ?? f.frame,
  );
}

/** The new frame of a piece's first face. */
function realigned(
  { face, plane, winding, frame }: FoundFace,
  what: Alignment,
  facts: MaterialLookup,
  box: (frame: TextureFrame) => TexelBox,
  use: string,
): TextureFrame {
  const material = facts(face.material) ?? UNKNOWN;
  const middle = windingCentroid(winding);
  switch (what.do) {
    case 'fit': {
      if (!what.repeats.every((n) => Number.isFinite(n) && n > 0))
        throw new EditError('fit.repeats', 'The picture repeats more than 0 times. Type a number like 1 or 0.5.');
      return changeTexels(frame, fitChange(box(frame), wholePicture(material), what.repeats));
    }
    case 'region': {
      const { region, turned } = regionFor(material.regions ?? [], what.name, box(naturalFrame(plane)), use);
      const straight = turned ? turnFrame(naturalFrame(plane), plane, 90, middle) : naturalFrame(plane);
      const laid = changeTexels(straight, fitChange(box(straight), region, [1, 1]));
      return what.mirrored ? changeTexels(laid, flipChange(box(laid), 'across')) : laid;
    }
    case 'edge': {
      const region = material.regions?.find((r) => r.name === what.region) ?? wholePicture(material);
      return changeTexels(frame, edgeChange(box(frame), region, what.side));
    }
    case 'turn':
      return turnFrame(frame, plane, what.degrees, middle);
    case 'flip':
      return changeTexels(frame, flipChange(box(frame), what.way));
    case 'nudge': {
      const { scale } = readFrame(frame, plane);
      // A mirrored picture goes to the right too when it is told to.
      const [cmAcross, cmDown] = what.unit === 'cm' ? scale : [Math.sign(scale[0]), 1];
      // The picture goes one way when the texels seen at a point go the other.
      return shiftFrame(frame, -what.across / cmAcross, -what.down / cmDown);
    }
    case 'natural':
      return naturalSize(frame, plane, material.texelsPerCm, middle);
    case 'world':
      return worldFrame(plane.normal, material.texelsPerCm);
    case 'face':
      return faceFrame(plane, material.texelsPerCm);
  }
}

/** What a brush is called, by itself and by its groups: what it is used for. */
const purposeOf = (doc: MapDocument, brush: Brush): string =>
  [brush.name, ...groupChain(doc, brush.group).map((g) => doc.groups.get(g)?.name)].filter(Boolean).join(' ');

function regionFor(regions: readonly Region[], name: string | undefined, { min, max }: TexelBox, use: string) {
  if (regions.length === 0)
    throw new EditError(
      'region.none',
      'This material has no regions. Name some on the Materials page, or fit the whole picture.',
    );
  const ranked = rankRegions(regions, max[0] - min[0], max[1] - min[1], use);
  const chosen = name === undefined ? ranked[0] : ranked.find((r) => r.region.name === name);
  if (!chosen) throw new EditError('region.none', `This material has no region called ${name}. Choose one of its own.`);
  return chosen;
}

/** The regions of a face's material in the order in which they suit it. */
export function regionsFor(doc: MapDocument, ref: FaceRef, facts: MaterialLookup) {
  const [face] = findFaces(doc, [ref]);
  const frame = naturalFrame(face!.plane);
  const { min, max } = texelBox([{ frame, points: face!.winding }]);
  return rankRegions(
    facts(face!.face.material)?.regions ?? [],
    max[0] - min[0],
    max[1] - min[1],
    purposeOf(doc, face!.brush),
  );
}

export interface FlowOptions extends Pick<UnfoldOptions, 'seam'> {
  readonly facts: MaterialLookup;
  /** Lay the picture a little larger or smaller, so that whole repeats close a ring. */
  readonly close?: boolean;
  /** Give the faces the first one's material as well. */
  readonly paint?: boolean;
}

/**
 * Continues the texture of one face over others, across the edges they share: along a run of walls, round a column, an arch
 * or a pipe. Faces that do not hang together with the first are left alone. Throws `flow.nothing` when that is all of them.
 */
export function flowFaces(
  doc: MapDocument,
  from: FaceRef,
  refs: readonly FaceRef[],
  { facts, seam, close, paint }: FlowOptions,
): MapDocument {
  const others = refs.filter((r) => r.brush !== from.brush || r.face !== from.face);
  const faces = findFaces(doc, [from, ...others]);
  const [piece] = unfold(faces, { root: 0, seam });
  if (!piece || piece.steps.length === 0)
    throw new EditError('flow.nothing', 'None of these faces shares an edge with the first. Select faces that meet.');
  const root = faces[0]!;
  const stretch = close ? closingStretch(faces, piece, root.frame, (facts(root.face.material) ?? UNKNOWN).width) : 1;
  const start = changeTexels(root.frame, { ku: stretch, kv: stretch, du: 0, dv: 0 });
  const out = putFrames(doc, faces, layPiece(faces, piece, start));
  const reached = piece.steps.map((s) => faces[s.face]!.ref);
  return paint ? paintFaces(out, reached, root.face.material) : out;
}

/** Lays faces as one face is laid: the very same picture on those that look the same way, else with the same numbers. */
export function copyAlignment(doc: MapDocument, from: FaceRef, refs: readonly FaceRef[]): MapDocument {
  const [model] = findFaces(doc, [from]);
  return setFrames(doc, refs, (f, plane, ref) =>
    ref.brush === from.brush && ref.face === from.face ? f.frame : copyFrame(model!.frame, model!.plane, plane),
  );
}

/** The mirror image across the plane halfway between a face and one that faces it. */
function mirrorBetween(a: Plane, b: Plane): Affine | null {
  if (dot(a.normal, b.normal) > -1 + 1e-6) return null;
  const axis = a.normal.findIndex((c) => Math.abs(c) > 1 - 1e-9);
  if (axis >= 0) return mirror(axis as 0, (a.distance * a.normal[axis]! + b.distance * b.normal[axis]!) / 2);
  // The halfway plane is n·p = m; a point goes to p − 2 (n·p − m) n.
  const [x, y, z] = a.normal;
  const m = a.distance - b.distance;
  return [
    1 - 2 * x * x,
    -2 * x * y,
    -2 * x * z,
    m * x,
    -2 * x * y,
    1 - 2 * y * y,
    -2 * y * z,
    m * y,
    -2 * x * z,
    -2 * y * z,
    1 - 2 * z * z,
    m * z,
  ];
}

/** Lays faces opposite one another alike in a mirror: each shows across the middle what the first shows. Throws `mirror.notOpposite`. */
export function mirrorAlignment(doc: MapDocument, from: FaceRef, refs: readonly FaceRef[]): MapDocument {
  const [model] = findFaces(doc, [from]);
  const rest = refs.filter((r) => r.brush !== from.brush || r.face !== from.face);
  // With nothing else selected it is the far side of the same brush that is meant.
  const others = findFaces(doc, rest.length ? rest : [farFace(doc, from)]);
  const opposite = others.filter((f) => mirrorBetween(model!.plane, f.plane));
  if (opposite.length === 0)
    throw new EditError(
      'mirror.notOpposite',
      'No selected face lies opposite the first. Select two that face one another or look away from one another.',
    );
  return setFrames(
    doc,
    opposite.map((f) => f.ref),
    (_, plane) => mirrorFrame(model!.frame, mirrorBetween(model!.plane, plane)!, plane),
  );
}

/** The face on the other side of a brush: the one that looks most the other way. */
export function farFace(doc: MapDocument, ref: FaceRef): FaceRef {
  const [near] = findFaces(doc, [ref]);
  const { brush, plane } = near!;
  const faces = findFaces(
    doc,
    brush.faces.map((f) => ({ brush: brush.id, face: f.id })),
  );
  return faces.reduce((a, b) => (dot(b.plane.normal, plane.normal) < dot(a.plane.normal, plane.normal) ? b : a)).ref;
}

/** Lets the far face of each brush show the near one's picture seen from behind, as on a sheet of cloth or a net. */
export function showBothSides(doc: MapDocument, refs: readonly FaceRef[]): MapDocument {
  let out = doc;
  for (const near of findFaces(doc, refs)) {
    const far = farFace(doc, near.ref);
    out = setFrames(paintFaces(out, [far], near.face.material), [far], (_, plane) => throughFrame(near.frame, plane));
  }
  return out;
}

/** Starts the picture of each face somewhere else, so that a row of alike pieces does not look copied. The same seed gives the same. */
export function scatterAlignment(
  doc: MapDocument,
  refs: readonly FaceRef[],
  seed: number,
  { facts, turn = false }: { readonly facts: MaterialLookup; readonly turn?: boolean },
): MapDocument {
  const faces = findFaces(doc, refs);
  const frames = new Map(
    faces.map((f, i) => {
      const { width, height } = facts(f.face.material) ?? UNKNOWN;
      const by = scattered(seed, i, [width, height]);
      const turned = turn ? turnFrame(f.frame, f.plane, by.turn, windingCentroid(f.winding)) : f.frame;
      return [i, shiftFrame(turned, by.du, by.dv)] as const;
    }),
  );
  return putFrames(doc, faces, frames);
}

/** Faces that lie in the plane of a face and go on from it, over any number of brushes. */
export function flushFaces(doc: MapDocument, ref: FaceRef): FaceRef[] {
  const [start] = findFaces(doc, [ref]);
  const all = [...doc.brushes.values()].flatMap((b) => b.faces.map((f) => ({ brush: b.id, face: f.id })));
  const inPlane = findFaces(doc, all).filter((f) => samePlane(f.plane, start!.plane));
  const root = inPlane.findIndex((f) => f.ref.brush === ref.brush && f.ref.face === ref.face);
  const [piece] = unfold(inPlane, { root });
  return [ref, ...(piece?.steps ?? []).map((s) => inPlane[s.face]!.ref)];
}

/** Where a face's picture has a point: the inverse of its frame on its plane. Null for frames that squash. */
export function pointOfTexel(frame: TextureFrame, plane: Plane, [u, v]: readonly [number, number]): Vec3 | null {
  const a: Vec3 = [frame.u[0], frame.u[1], frame.u[2]];
  const b: Vec3 = [frame.v[0], frame.v[1], frame.v[2]];
  const n = plane.normal;
  const [bn, na, ab] = [cross(b, n), cross(n, a), cross(a, b)];
  const det = dot(a, bn);
  if (Math.abs(det) < 1e-12) return null;
  return [0, 1, 2].map(
    (i) => (bn[i]! * (u - frame.u[3]) + na[i]! * (v - frame.v[3]) + ab[i]! * plane.distance) / det,
  ) as unknown as Vec3;
}
