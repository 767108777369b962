/**
 * Adds a closed outline to a path that may hold many. Closing by name takes longer the more a path holds: two seconds for
 * twenty thousand outlines, against five milliseconds by a line to the start and a hair beyond, where the corners join.
 */
export function traceOutline(
  path: Pick<Path2D, 'moveTo' | 'lineTo'>,
  points: readonly (readonly [number, number])[],
): void {
  points.forEach(([x, y], i) => (i === 0 ? path.moveTo(x, y) : path.lineTo(x, y)));
  const [[x, y], [x1, y1]] = [points[0]!, points[1]!];
  path.lineTo(x, y);
  path.lineTo(x + (x1 - x) * 1e-3, y + (y1 - y) * 1e-3);
}
