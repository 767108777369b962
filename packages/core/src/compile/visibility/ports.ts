import type { Structure } from '../structure/index.ts';

/**
 * Portals of the inside as flat arrays, each twice, as ports: a port is a portal seen in one direction. Port `2p` leads from the
 * first cell of a portal to its second, `2p + 1` back. Cells are rows of the visibility: the inside cells in the structure's order.
 */
export interface Ports {
  readonly cells: number;
  readonly count: number;
  readonly from: Int32Array;
  readonly to: Int32Array;
  /** Corner `first[g] … first[g + 1]` of each in `point`, three numbers a corner, counter-clockwise seen from where it leads. */
  readonly first: Int32Array;
  readonly point: Float64Array;
  /** Plane of each: normal into the cell it leads to, and distance. */
  readonly plane: Float64Array;
  /** A ball that holds each: its middle and radius. */
  readonly ball: Float64Array;
  /** Ports that lead out of a cell: `outFirst[c] … outFirst[c + 1]` in `out`. */
  readonly outFirst: Int32Array;
  readonly out: Int32Array;
}

/** Room for a port's corners, and for those that cuts add. */
export const roomFor = ({ count, first }: Ports): number => {
  let most = 0;
  for (let g = 0; g < count; g++) most = Math.max(most, first[g + 1]! - first[g]!);
  return Math.max(64, most + 32);
};

/** The port through the same portal the other way. */
export const reversed = (port: number): number => port ^ 1;

export function makePorts({ cells, portals }: Structure, rowOf: Int32Array): Ports {
  const inner = portals.filter((p) => cells[p.a]!.inside && cells[p.b]!.inside);
  const count = inner.length * 2;
  const [from, to] = [new Int32Array(count), new Int32Array(count)];
  const first = new Int32Array(count + 1);
  inner.forEach(({ winding }, p) => {
    first[2 * p + 1] = first[2 * p]! + winding.length;
    first[2 * p + 2] = first[2 * p + 1]! + winding.length;
  });
  const point = new Float64Array(first[count]! * 3);
  const plane = new Float64Array(count * 4);
  inner.forEach(({ a, b, winding, plane: { normal, distance } }, p) => {
    const [there, back] = [2 * p, 2 * p + 1];
    from[there] = to[back] = rowOf[a]!;
    to[there] = from[back] = rowOf[b]!;
    winding.forEach((corner, i) => {
      point.set(corner, (first[there]! + i) * 3);
      point.set(corner, (first[back + 1]! - 1 - i) * 3);
    });
    plane.set([...normal, distance], there * 4);
    plane.set([-normal[0], -normal[1], -normal[2], -distance], back * 4);
  });
  const rows = rowOf.reduce((n, row) => Math.max(n, row + 1), 0);
  const outFirst = new Int32Array(rows + 1);
  for (let g = 0; g < count; g++) outFirst[from[g]! + 1]!++;
  for (let c = 0; c < rows; c++) outFirst[c + 1]! += outFirst[c]!;
  const next = outFirst.slice();
  const out = new Int32Array(count);
  for (let g = 0; g < count; g++) out[next[from[g]!]!++] = g;
  const ball = new Float64Array(count * 4);
  for (let g = 0; g < count; g++) ball.set(ballOf(point, first[g]!, first[g + 1]!), g * 4);
  return { cells: rows, count, from, to, first, point, plane, ball, outFirst, out };
}

/** The mean of some corners and the farthest of them from it. */
function ballOf(point: Float64Array, from: number, to: number): [number, number, number, number] {
  const middle: [number, number, number] = [0, 0, 0];
  for (let i = from; i < to; i++) for (let c = 0; c < 3; c++) middle[c]! += point[i * 3 + c]! / (to - from);
  let far = 0;
  for (let i = from; i < to; i++) {
    const [x, y, z] = [0, 1, 2].map((c) => point[i * 3 + c]! - middle[c]!) as [number, number, number];
    far = Math.max(far, x * x + y * y + z * z);
  }
  return [...middle, Math.sqrt(far)];
}
