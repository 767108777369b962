import { boxSolid, brushPlanes, type Brush } from '../brush/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import { arcTangent2, rotation, translation, type Vec3 } from '../math/index.ts';
import {
  changeTexels,
  dressSolid,
  fitChange,
  texelBox,
  throughFrame,
  transformBrush,
  wholePicture,
  worldFrame,
  type MaterialFacts,
} from '../surface/index.ts';
import { addBrushes, transformPicked } from './brushes.ts';
import { EditError } from './errors.ts';
import { groupPicked } from './groups.ts';

/** Thickness of a sheet of leaves or netting, cm. */
export const SHEET_THICKNESS = 1;

/** Surfaces steeper than this (upward part of their normal) are walls to hang things on. */
const WALL = 0.7;

export interface Foliage {
  readonly material: MaterialFacts;
  /** A point on a surface, and which way the surface looks. */
  readonly at: Vec3;
  readonly normal: Vec3;
  /** Size of the sheet, cm. Absent: the picture's natural size. */
  readonly width?: number;
  readonly height?: number;
  /** Turn about the upright in degrees, of one that stands or hangs from a ceiling. */
  readonly turn?: number;
  /** A second sheet square to the first. */
  readonly crosswise?: boolean;
}

/** An upright sheet over the origin: the picture on both wide faces as one seen from both sides, the rims Unseen. */
function sheet(material: MaterialFacts, width: number, height: number): Brush {
  // Its back goes through the origin, so that it keeps whole centimetres and lies flat against a wall.
  const brush = dressSolid(
    boxSolid({ min: [-width / 2, -SHEET_THICKNESS, 0], max: [width / 2, 0, height] }),
    newId(),
    material.name,
    { role: 'detail', stops: [] },
  );
  const planes = brushPlanes(brush);
  const front = worldFrame([0, -1, 0]);
  const points: Vec3[] = [
    [-width / 2, 0, 0],
    [width / 2, 0, height],
  ];
  const frame = changeTexels(front, fitChange(texelBox([{ frame: front, points }]), wholePicture(material), [1, 1]));
  const faces = brush.faces.map((f, i) =>
    planes[i]!.normal[1] === 0 ? { ...f, show: 'unseen' as const } : { ...f, frame: throughFrame(frame, planes[i]!) },
  );
  return { ...brush, faces };
}

/**
 * Puts a thin sheet of leaves, netting or the like on a surface: flat against a wall, standing on a floor, or hanging from a
 * ceiling. It is detail, and everything passes through it. Throws `foliage.size`.
 */
export function addFoliage(doc: MapDocument, spec: Foliage): { doc: MapDocument; brushes: ReadonlySet<string> } {
  const { material, at, normal, turn = 0, crosswise = false } = spec;
  const width = spec.width ?? material.width / material.texelsPerCm;
  const height = spec.height ?? material.height / material.texelsPerCm;
  if (!(width >= SHEET_THICKNESS && height >= SHEET_THICKNESS && width <= 4096 && height <= 4096))
    throw new EditError('foliage.size', 'A sheet is 1 to 4096 cm wide and high. Type other sizes.');
  const onWall = Math.abs(normal[2]) < WALL;
  const facing = onWall ? (arcTangent2(normal[1], normal[0]) * 180) / Math.PI + 90 : turn;
  const low = onWall ? at[2] - height / 2 : normal[2] < 0 ? at[2] - height : at[2];
  const place: Vec3 = [at[0], at[1], low];
  const turns = crosswise && !onWall ? [facing, facing + 90] : [facing];
  const made = turns.map((degrees) => {
    const upright = transformBrush(sheet(material, width, height), rotation(2, degrees, [0, 0, 0]), true);
    return transformBrush(upright, translation(place), true);
  });
  const brushes = new Set(made.map((b) => b.id));
  const added = addBrushes(doc, made);
  return { doc: made.length > 1 ? groupPicked(added, { brushes }) : added, brushes };
}

/** Adds to each picked sheet another one square to it, through its middle. */
export function crossSheets(
  doc: MapDocument,
  ids: ReadonlySet<string>,
): { doc: MapDocument; brushes: ReadonlySet<string> } {
  let out = doc;
  const all = new Set<string>();
  for (const id of ids) {
    const brush = doc.brushes.get(id);
    if (!brush) continue;
    const twin: Brush = { ...brush, id: newId() };
    const middle = brush.vertices.reduce(
      (s, v): Vec3 => [s[0] + v[0] / brush.vertices.length, s[1] + v[1] / brush.vertices.length, 0],
      [0, 0, 0] as Vec3,
    );
    out = transformPicked(addBrushes(out, [twin]), { brushes: new Set([twin.id]) }, rotation(2, 90, middle));
    all.add(id).add(twin.id);
  }
  if (all.size === 0) throw new EditError('select.brushes', 'Select one or more brushes first.');
  return { doc: out, brushes: all };
}
