import { useCamera } from '../state/camera.ts';
import { brushContains, brushPlanes, enterBrush, stopsPlayers, type MapDocument, type Vec3 } from '@yesca/core';

/** How far up from the active level things may stand on what is there, cm: tables and crates, not the storey above. */
const REACH = 150;

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
