import {
  addScaled,
  call,
  changeTexels,
  dot,
  findFaces,
  pointOfTexel,
  sub,
  texelAt,
  texelBox,
  windingCentroid,
  cross,
  type Call,
  type FaceRef,
  type FoundFace,
  type MapDocument,
  type TexelBox,
  type TexelChange,
  type TextureFrame,
  type Vec3,
} from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { materialFacts } from '../state/library.ts';
import { handleUnder } from './handle-under.ts';
import { pointOn, type PanePointer } from './tool.ts';
import { useLaying } from '../state/laying.ts';
import { angleStep } from '../state/work.ts';
import { HANDLES } from '../geometry/handle-places.ts';

/** Where a handle sits: −1, 0 or 1 across and down the covered part of the picture; `turn` is the knob outside. */
export type TextureGrip =
  { readonly kind: 'scale'; readonly u: -1 | 0 | 1; readonly v: -1 | 0 | 1 } | { readonly kind: 'turn' };

/** The part of its picture that a face covers, as a box of handles in the face's plane. */
export interface TextureBox {
  readonly face: FoundFace;
  readonly box: TexelBox;
  /** Outline from the upper left corner of the picture round. */
  readonly corners: readonly Vec3[];
  readonly grips: readonly { readonly grip: TextureGrip; readonly at: Vec3 }[];
}

/** The knob stands out of the box by this part of its height. */
const KNOB = 0.18;

const at = (face: FoundFace, { min, max }: TexelBox, u: number, v: number): Vec3 | null =>
  pointOfTexel(face.frame, face.plane, [
    (min[0] + max[0]) / 2 + ((max[0] - min[0]) / 2) * u,
    (min[1] + max[1]) / 2 + ((max[1] - min[1]) / 2) * v,
  ]);

/** The handles of the first of some faces; null when it is gone or its frame is of no use. */
export function textureBox(doc: MapDocument, refs: readonly FaceRef[]): TextureBox | null {
  const ref = refs[0];
  if (!ref || !doc.brushes.get(ref.brush)?.faces.some((f) => f.id === ref.face)) return null;
  const [face] = findFaces(doc, [ref]);
  const box = texelBox([{ frame: face!.frame, points: face!.winding }]);
  const places = HANDLES.map(([u, v]) => ({ grip: { kind: 'scale', u, v } as const, at: at(face!, box, u, v) }));
  const knob = at(face!, box, 0, -1 - KNOB * 2);
  if (!knob || places.some((p) => !p.at)) return null;
  // A hair off the face, so that lines on it are seen.
  const off = (p: Vec3): Vec3 => addScaled(p, face!.plane.normal, 0.2);
  const grips = [
    ...places.map((p) => ({ grip: p.grip, at: off(p.at!) })),
    { grip: { kind: 'turn' } as const, at: off(knob) },
  ];
  return { face: face!, box, corners: [0, 2, 4, 6].map((i) => grips[i]!.at), grips };
}

/** The handle under the pointer of the Eye. */
export function textureGripUnder(p: PanePointer): TextureGrip | null {
  if (!p.ray) return null;
  const { doc, selection } = useEditor.getState();
  const shown = textureBox(doc, selection.faces);
  if (!shown) return null;
  return handleUnder(p, shown.grips)?.grip ?? null;
}

export interface TextureDrag {
  readonly what: TextureGrip | { readonly kind: 'offset' };
  readonly shown: TextureBox;
  readonly from: Vec3;
}

/** Begins a drag of the picture on the first selected face; null where the pointer does not meet its plane. */
export function startTextureDrag(p: PanePointer, what: TextureDrag['what']): TextureDrag | null {
  const { doc, selection } = useEditor.getState();
  const shown = textureBox(doc, selection.faces);
  const from = shown && pointOn(p, shown.face.plane);
  return from ? { what, shown, from } : null;
}

/** Borders of pictures catch borders of faces within this part of the face's width. */
const CATCH = 0.03;

/** The nearest shift by which a border of the picture comes to lie on a border of what is covered; else whole texels. */
export function snappedShift(
  shift: number,
  min: number,
  max: number,
  borders: readonly number[],
  size: number,
): number {
  let best = Math.round(shift);
  let bestOff = Math.max(2, (max - min) * CATCH);
  for (const edge of [min, max])
    for (const border of borders) {
      const want = border - edge;
      const nearest = want + Math.round((shift - want) / size) * size;
      if (Math.abs(nearest - shift) < bestOff) [best, bestOff] = [nearest, Math.abs(nearest - shift)];
    }
  return best;
}

/** Borders of a material's picture and of its regions along one direction, texels. */
export function bordersOf(material: string, axis: 0 | 1): number[] {
  const facts = materialFacts(material);
  const regions = facts?.regions ?? [];
  return [0, ...regions.flatMap((r) => (axis === 0 ? [r.x, r.x + r.width] : [r.y, r.y + r.height]))];
}

/** How texels change when the point that showed `from` is dragged to where `to` is shown now. */
export function scaleChange(
  box: TexelBox,
  { u, v }: { u: -1 | 0 | 1; v: -1 | 0 | 1 },
  to: readonly [number, number],
  even: boolean,
): TexelChange {
  const factor = (side: -1 | 0 | 1, axis: 0 | 1): number => {
    if (side === 0) return 1;
    const [anchor, handle] = side > 0 ? [box.min[axis], box.max[axis]] : [box.max[axis], box.min[axis]];
    const k = (handle - anchor) / (to[axis] - anchor);
    // Through the anchor the picture would vanish: it stops short of that.
    return Number.isFinite(k) && k > 0 ? Math.max(0.02, Math.min(50, k)) : 50;
  };
  let [ku, kv] = [factor(u, 0), factor(v, 1)];
  if (even) ku = kv = u === 0 ? kv : v === 0 ? ku : Math.min(ku, kv);
  const anchor = (side: -1 | 0 | 1, axis: 0 | 1): number =>
    side > 0 ? box.min[axis] : side < 0 ? box.max[axis] : (box.min[axis] + box.max[axis]) / 2;
  const [a, b] = [anchor(u, 0), anchor(v, 1)];
  return { ku, kv, du: a * (1 - ku), dv: b * (1 - kv) };
}

/** The command that gives faces the frames they have after a change of their texels. */
export const framesCall = (
  doc: MapDocument,
  refs: readonly FaceRef[],
  frame: (face: FoundFace) => TextureFrame,
): Call => call('face.frames', { frames: findFaces(doc, refs).map((f) => ({ face: f.ref, frame: frame(f) })) });

/** The command of a drag so far, with what it does in words. */
export function textureDrag(drag: TextureDrag, p: PanePointer): { call: Call; note: string } | null {
  const { shown, what, from } = drag;
  const { face, box } = shown;
  const to = pointOn(p, face.plane);
  if (!to) return null;
  const { doc, selection } = useEditor.getState();
  const faces = selection.faces;
  const change = (c: TexelChange) => framesCall(doc, faces, (f) => changeTexels(f.frame, c));
  const facts = materialFacts(face.face.material);
  if (what.kind === 'turn') {
    const centre = windingCentroid(face.winding);
    const [a, b] = [sub(from, centre), sub(to, centre)];
    const raw = (Math.atan2(dot(cross(a, b), face.plane.normal), dot(a, b)) * 180) / Math.PI;
    const step = angleStep();
    const degrees = p.alt ? raw : Math.round(raw / step) * step;
    const { asPiece } = useLaying.getState();
    return {
      call: call('face.align', { faces, align: { do: 'turn', degrees }, asPiece }),
      note: `Turned ${Math.round(degrees * 10) / 10}°`,
    };
  }
  if (what.kind === 'scale') {
    const c = scaleChange(box, what, texelAt(face.frame, to), p.shift);
    return { call: change(c), note: `Scaled ${Math.round(100 / c.ku)} % across, ${Math.round(100 / c.kv)} % down` };
  }
  const [start, now] = [texelAt(face.frame, from), texelAt(face.frame, to)];
  const shift = ([0, 1] as const).map((axis) => {
    const raw = start[axis] - now[axis];
    const size = facts ? (axis === 0 ? facts.width : facts.height) : 512;
    return p.alt ? raw : snappedShift(raw, box.min[axis], box.max[axis], bordersOf(face.face.material, axis), size);
  });
  const [du, dv] = [shift[0]!, shift[1]!];
  return { call: change({ ku: 1, kv: 1, du, dv }), note: `Moved ${Math.round(-du)}, ${Math.round(-dv)} texels` };
}
