import { useCamera } from '../state/camera.ts';
import {
  brushBounds,
  brushContains,
  brushPlanes,
  enterBrush,
  stopsPlayers,
  type MapDocument,
  type Vec3,
} from '@yesca/core';

/** How far up from the active level things may stand on what is there, cm: tables and crates, not the storey above. */
const REACH = 150;

/** The material of the face that somebody stands on, by where their feet are; null in the air. */
export function materialUnder(doc: MapDocument, [x, y, z]: Vec3): string | null {
  const from: Vec3 = [x, y, z + 20];
  let best: { at: number; material: string } | null = null;
  for (const brush of doc.brushes.values()) {
    const { min, max } = brushBounds(brush);
    if (x < min[0] || x > max[0] || y < min[1] || y > max[1] || max[2] < z - 12 || min[2] > z) continue;
    if (!stopsPlayers(brush)) continue;
    const hit = enterBrush(brush, from, [0, 0, -1], 32);
    if (hit && hit.face >= 0 && (!best || hit.at < best.at))
      best = { at: hit.at, material: brush.faces[hit.face]!.material };
  }
  return best?.material ?? null;
}

/** The height a new thing stands on at a place of the Plan: the top of what lies under the pointer near the active level. */
export function surfaceUnder(doc: MapDocument, p: Vec3): number {
  const { level } = useCamera.getState();
  let best = level;
  const from: Vec3 = [p[0], p[1], level + REACH];
  for (const brush of doc.brushes.values()) {
    if (!stopsPlayers(brush) || brushContains(brush, from)) continue;
    const hit = enterBrush(brush, from, [0, 0, -1], REACH);
    if (hit && hit.face >= 0 && brushPlanes(brush)[hit.face]!.normal[2] > 0.7) best = Math.max(best, from[2] - hit.at);
  }
  return Math.round(best * 100) / 100;
}
