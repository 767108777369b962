import { brushPlanes, faceWinding, type Brush, type Face, type TextureFrame } from '../brush/index.ts';
import { reflects } from '../entity/index.ts';
import type { MapDocument } from '../map/index.ts';
import { densifyFrame, isUsableFrame, type Facet, type MaterialLookup } from '../surface/index.ts';
import type { Plane } from '../math/index.ts';
import { EditError } from './errors.ts';

/** One face of one brush. */
export interface FaceRef {
  readonly brush: string;
  readonly face: number;
}

/** A face with its brush, its place in it and its plane. */
export interface FoundFace extends Facet {
  readonly ref: FaceRef;
  readonly brush: Brush;
  readonly face: Face;
}

/** The faces of references, in their order. Throws `face.unknown` when one is gone. */
export function findFaces(doc: MapDocument, refs: readonly FaceRef[]): FoundFace[] {
  return refs.map((ref) => {
    const brush = doc.brushes.get(ref.brush);
    const i = brush?.faces.findIndex((f) => f.id === ref.face) ?? -1;
    if (!brush || i < 0) throw new EditError('face.unknown', 'That face is no longer in the map. Select it again.');
    const face = brush.faces[i]!;
    return { ref, brush, face, plane: brushPlanes(brush)[i]!, winding: faceWinding(brush, i), frame: face.frame };
  });
}

/** Changes faces one by one; painting a room's brush keeps it a room's brush. */
function changeFaces(
  doc: MapDocument,
  refs: readonly FaceRef[],
  change: (face: Face, plane: Plane, ref: FaceRef) => Face,
): MapDocument {
  const byBrush = new Map<string, Map<number, FaceRef>>();
  for (const ref of refs) {
    const faces = byBrush.get(ref.brush) ?? new Map<number, FaceRef>();
    byBrush.set(ref.brush, faces.set(ref.face, ref));
  }
  const brushes = new Map(doc.brushes);
  for (const [id, faces] of byBrush) {
    const brush = doc.brushes.get(id);
    if (!brush) throw new EditError('face.unknown', 'That brush is no longer in the map.');
    const planes = brushPlanes(brush);
    brushes.set(id, {
      ...brush,
      faces: brush.faces.map((f, i) => (faces.has(f.id) ? change(f, planes[i]!, faces.get(f.id)!) : f)),
    });
  }
  return { ...doc, brushes };
}

/** The name of a material as it may stand in a map. Throws `material.name`. */
function checkMaterialName(material: string): void {
  if (!/^[\w-]{1,128}$/.test(material))
    throw new EditError('material.name', 'That is no material name. Pick a material from Stock.');
}

/** A face with another material at the size of the old one: a picture of twice the density gets frames of twice the density. */
function withMaterial(face: Face, material: string, facts?: MaterialLookup): Face {
  const [was, is] = [facts?.(face.material)?.texelsPerCm, facts?.(material)?.texelsPerCm];
  return { ...face, material, frame: was && is ? densifyFrame(face.frame, is / was) : face.frame };
}

/** Puts a material on faces; their frames stay, at the new picture's density where `facts` know both. */
export function paintFaces(
  doc: MapDocument,
  refs: readonly FaceRef[],
  material: string,
  facts?: MaterialLookup,
): MapDocument {
  checkMaterialName(material);
  return changeFaces(doc, refs, (f) => withMaterial(f, material, facts));
}

/**
 * Puts down what somebody paints with: a material, which then shows, or one of the tool materials Sky and Unseen, which
 * change how faces are shown. `wholes` leaves faces Unseen that are, as when a whole brush is painted.
 */
export function dressFaces(
  doc: MapDocument,
  refs: readonly FaceRef[],
  material: string,
  facts: MaterialLookup,
  wholes = false,
): MapDocument {
  const tool = facts(material)?.tool;
  if (tool === 'sky' || tool === 'unseen') return setShow(doc, refs, tool);
  const painted = paintFaces(doc, refs, material, facts);
  return wholes ? painted : setShow(painted, refs, null);
}

/** Puts one material in the place of another through the whole map. Throws `material.notUsed` when no face has it. */
export function replaceMaterial(doc: MapDocument, from: string, to: string, facts?: MaterialLookup): MapDocument {
  const refs = facesWith(doc, from);
  if (refs.length === 0) throw new EditError('material.notUsed', 'No face of this map has that material.');
  return paintFaces(doc, refs, to, facts);
}

/** All faces that have a material. */
export const facesWith = (doc: MapDocument, material: string): FaceRef[] =>
  [...doc.brushes.values()].flatMap((b) =>
    b.faces.flatMap((f) => (f.material === material ? [{ brush: b.id, face: f.id }] : [])),
  );

/** How many faces have each material. */
export function materialCounts(doc: Pick<MapDocument, 'brushes'>): Map<string, number> {
  const counts = new Map<string, number>();
  for (const b of doc.brushes.values())
    for (const f of b.faces) counts.set(f.material, (counts.get(f.material) ?? 0) + 1);
  return counts;
}

export const allFaces = (doc: MapDocument, brushIds: Iterable<string>): FaceRef[] =>
  [...brushIds].flatMap((id) => doc.brushes.get(id)?.faces.map((f) => ({ brush: id, face: f.id })) ?? []);

/** Lays the texture of faces anew: `frame` gives each face its frame from its plane and old frame. */
export function setFrames(
  doc: MapDocument,
  refs: readonly FaceRef[],
  frame: (face: Face, plane: Plane, ref: FaceRef) => TextureFrame,
): MapDocument {
  return changeFaces(doc, refs, (f, plane, ref) => {
    const next = frame(f, plane, ref);
    if (!isUsableFrame(next, plane.normal))
      throw new EditError('frame.flat', 'This would squash the picture to a line. Type a scale other than 0.');
    return { ...f, frame: next };
  });
}

/** Lets faces show the sky, be unseen, or be drawn as usual. */
export function setShow(doc: MapDocument, refs: readonly FaceRef[], show: Face['show'] | null): MapDocument {
  return changeFaces(doc, refs, ({ show: _, ...f }) => (show ? { ...f, show } : f));
}

/** Lets faces show the reflections seen from a thing, or (null) the nearest. Throws `face.reflection`. */
export function setReflection(doc: MapDocument, refs: readonly FaceRef[], thing: string | null): MapDocument {
  const found = thing === null ? null : doc.entities.get(thing);
  if (thing !== null && !(found && reflects(found)))
    throw new EditError(
      'face.reflection',
      'That is no reflection probe of this map. Choose one that is listed, or the nearest.',
    );
  return changeFaces(doc, refs, ({ reflection: _, ...f }) => (thing === null ? f : { ...f, reflection: thing }));
}

/** Sets how much faces mirror, 0 to 1. Throws `face.mirror`. */
export function setMirror(doc: MapDocument, refs: readonly FaceRef[], mirror: number): MapDocument {
  if (!(mirror >= 0 && mirror <= 1))
    throw new EditError('face.mirror', 'The mirror strength is a part of the light, 0 to 1. Type 0 for none.');
  return changeFaces(doc, refs, ({ mirror: _, ...f }) => (mirror > 0 ? { ...f, mirror } : f));
}

/** Sets how coarse the lightmap is on faces against the rest of the map, 0.125 to 8. Throws `face.grain`. */
export function setGrain(doc: MapDocument, refs: readonly FaceRef[], grain: number): MapDocument {
  if (!(grain >= 0.125 && grain <= 8))
    throw new EditError('face.grain', 'The grain is 0.125 (eight times as fine) to 8 (eight times as coarse).');
  return changeFaces(doc, refs, ({ grain: _, ...f }) => (grain === 1 ? f : { ...f, grain }));
}
