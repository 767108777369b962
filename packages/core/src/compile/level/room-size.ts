import type { Vec3 } from '../../math/index.ts';
import { NO_PAGE, type Level } from './level.ts';

/** How large the room is round a cell, by the cell's own bounds (cm); null in the open, where a face of it shows the sky, and outside. */
export function makeRoomSize(level: Level): (cell: number) => Vec3 | null {
  const open = new Set<number>();
  for (let s = 0; s < level.surfaceMaterial.length; s++)
    if (level.surfacePage[s] === NO_PAGE)
      for (let k = level.surfaceCellFirst[s]!; k < level.surfaceCellFirst[s + 1]!; k++) open.add(level.surfaceCell[k]!);
  return (cell) => {
    if (cell < 0 || open.has(cell)) return null;
    const b = level.cellBounds.subarray(cell * 6, cell * 6 + 6);
    return [b[3]! - b[0]!, b[4]! - b[1]!, b[5]! - b[2]!];
  };
}
