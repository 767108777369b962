import { brushPlanes, type Face, type TextureFrame } from '../brush/index.ts';
import type { MapDocument } from '../map/index.ts';
import { isUsableFrame } from '../surface/index.ts';
import type { Plane } from '../math/index.ts';
import { EditError } from './errors.ts';

/** One face of one brush. */
export interface FaceRef {
  readonly brush: string;
  readonly face: number;
}

/** Changes faces one by one; painting a room's brush keeps it a room's brush. */
function changeFaces(
  doc: MapDocument,
  refs: readonly FaceRef[],
  change: (face: Face, plane: Plane) => Face,
): MapDocument {
  const byBrush = new Map<string, Set<number>>();
  for (const { brush, face } of refs) byBrush.set(brush, (byBrush.get(brush) ?? new Set()).add(face));
  const brushes = new Map(doc.brushes);
  for (const [id, faces] of byBrush) {
    const brush = doc.brushes.get(id);
    if (!brush) throw new EditError('face.unknown', 'That brush is no longer in the map.');
    const planes = brushPlanes(brush);
    brushes.set(id, { ...brush, faces: brush.faces.map((f, i) => (faces.has(f.id) ? change(f, planes[i]!) : f)) });
  }
  return { ...doc, brushes };
}

/** Puts a material on faces; their frames stay. */
export function paintFaces(doc: MapDocument, refs: readonly FaceRef[], material: string): MapDocument {
  if (!/^[\w-]{1,128}$/.test(material))
    throw new EditError('material.name', 'That is no material name. Pick a material from Stock.');
  return changeFaces(doc, refs, (f) => ({ ...f, material }));
}

export const allFaces = (doc: MapDocument, brushIds: Iterable<string>): FaceRef[] =>
  [...brushIds].flatMap((id) => doc.brushes.get(id)?.faces.map((f) => ({ brush: id, face: f.id })) ?? []);

/** Lays the texture of faces anew: `frame` gives each face its frame from its plane and old frame. */
export function setFrames(
  doc: MapDocument,
  refs: readonly FaceRef[],
  frame: (face: Face, plane: Plane) => TextureFrame,
): MapDocument {
  return changeFaces(doc, refs, (f, plane) => {
    const next = frame(f, plane);
    if (!isUsableFrame(next, plane.normal))
      throw new EditError('frame.flat', 'This would squash the picture to a line. Type a scale other than 0.');
    return { ...f, frame: next };
  });
}

/** Lets faces show the sky, be unseen, or be drawn as usual. */
export function setShow(doc: MapDocument, refs: readonly FaceRef[], show: Face['show'] | null): MapDocument {
  return changeFaces(doc, refs, ({ show: _, ...f }) => (show ? { ...f, show } : f));
}
