import type { Vec3 } from '../../math/index.ts';
import type { Level } from './level.ts';
import { levelCell } from './space.ts';

/** One stands on faces that rise less than this: the upward part of their normal. */
const FLAT = 0.7;
/** How far (cm) a face may lie above or below the feet. */
const ABOVE = 6;
const BELOW = 12;

/**
 * Tells the material of the face that somebody stands on, by where their feet are; null in the air and outside. A face of what moves
 * counts where it was drawn.
 */
export function makeUnderfoot(level: Level): (feet: Vec3) => string | null {
  /** The faces that one can stand on, by cell; made when first asked. */
  let byCell: Map<number, number[]> | null = null;
  const facesIn = (cell: number): readonly number[] => {
    if (!byCell) {
      byCell = new Map();
      for (let s = 0; s < level.surfaceMaterial.length; s++) {
        if (level.surfaceNormal[s * 3 + 2]! < FLAT) continue;
        for (let k = level.surfaceCellFirst[s]!; k < level.surfaceCellFirst[s + 1]!; k++) {
          const list = byCell.get(level.surfaceCell[k]!);
          if (list) list.push(s);
          else byCell.set(level.surfaceCell[k]!, [s]);
        }
      }
    }
    return byCell.get(cell) ?? [];
  };
  const heightAt = (s: number, x: number, y: number): number | null => {
    const { index, position } = level;
    for (let i = level.surfaceIndexFirst[s]!; i < level.surfaceIndexFirst[s + 1]!; i += 3) {
      const [a, b, c] = [index[i]! * 3, index[i + 1]! * 3, index[i + 2]! * 3];
      const cross = (p: number, q: number) =>
        (position[q]! - position[p]!) * (y - position[p + 1]!) -
        (position[q + 1]! - position[p + 1]!) * (x - position[p]!);
      if (cross(a, b) < 0 || cross(b, c) < 0 || cross(c, a) < 0) continue;
      const [nx, ny, nz] = [0, 1, 2].map((k) => level.surfaceNormal[s * 3 + k]!) as [number, number, number];
      return position[a + 2]! - (nx * (x - position[a]!) + ny * (y - position[a + 1]!)) / nz;
    }
    return null;
  };
  return ([x, y, z]) => {
    const cell = levelCell(level, [x, y, z + 20]);
    if (cell < 0) return null;
    let best: { at: number; surface: number } | null = null;
    for (const s of facesIn(cell)) {
      const at = heightAt(s, x, y);
      if (at === null || at > z + ABOVE || at < z - BELOW || (best && best.at >= at)) continue;
      best = { at, surface: s };
    }
    return best && level.meta.materials[level.surfaceMaterial[best.surface]!]!;
  };
}
