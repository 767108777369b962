import { flipPlane, samePlane, type Plane } from '../../math/index.ts';

/** Planes by number; two that are the same within tolerance, whichever way they look, have one number. */
export class PlaneTable {
  readonly planes: Plane[] = [];
  private readonly near = new Map<string, number[]>();

  /** A plane's number, and whether it looks the way the table's does. */
  indexOf(plane: Plane): { index: number; along: boolean } {
    const n = plane.normal;
    const along = n[0] > 1e-9 || (Math.abs(n[0]) <= 1e-9 && (n[1] > 1e-9 || (Math.abs(n[1]) <= 1e-9 && n[2] > 0)));
    const facing = along ? plane : flipPlane(plane);
    // Neighbouring keys are searched too: two almost equal planes may round to different sides.
    const at = Math.round(facing.distance);
    for (let k = at - 1; k <= at + 1; k++)
      for (const i of this.near.get(keyOf(facing, k)) ?? [])
        if (samePlane(this.planes[i]!, facing)) return { index: i, along };
    this.planes.push(facing);
    const key = keyOf(facing, at);
    const list = this.near.get(key);
    if (list) list.push(this.planes.length - 1);
    else this.near.set(key, [this.planes.length - 1]);
    return { index: this.planes.length - 1, along };
  }
}

const keyOf = (p: Plane, distance: number): string =>
  `${Math.round(p.normal[0] * 1000)},${Math.round(p.normal[1] * 1000)},${Math.round(p.normal[2] * 1000)},${distance}`;
