import {
  add,
  applyAffine,
  arcTangent2,
  cross,
  dot,
  length,
  normalize,
  rotationAbout,
  scale,
  type Vec3,
} from '../math/index.ts';
import { rounded, type Handle, type ThingChange } from './handles.ts';

/** The ways that span a box about a thing. */
export interface SpannedBox {
  readonly across: Vec3;
  readonly upward: Vec3;
  readonly through: Vec3;
}

/** No side of a box is shorter, cm. */
const LEAST_SIDE = 1;

/** Drags a side of a box: the one over against it goes as far the other way. */
function sideHandle(key: keyof SpannedBox, label: string, way: Vec3): Handle {
  const along = normalize(way);
  const change = (long: number): ThingChange => ({
    params: { [key]: rounded(scale(along, Math.max(LEAST_SIDE, long))) },
  });
  return {
    id: key,
    label,
    at: scale(way, 0.5),
    line: false,
    onGrid: true,
    moved: (to) => change(2 * dot(to, along)),
    measure: { unit: 'cm', now: length(way), typed: ([long]) => (long === undefined ? null : change(long)) },
  };
}

/** A box turned about its way through. */
export function turnedBox({ across, upward, through }: SpannedBox, degrees: number): SpannedBox {
  const m = rotationAbout(normalize(through), degrees, [0, 0, 0]);
  return { across: rounded(applyAffine(m, across)), upward: rounded(applyAffine(m, upward)), through };
}

/** The handles of a box that lies on a surface: its width, its height, its depth, and its turn by a corner. */
export function boxHandles(box: SpannedBox): Handle[] {
  const { across, upward, through } = box;
  if ([across, upward, through].some((way) => length(way) < 1e-6)) return [];
  const corner = add(scale(across, 0.5), scale(upward, 0.5));
  const axis = normalize(through);
  const turned = (degrees: number): ThingChange => {
    const now = turnedBox(box, degrees);
    return { params: { across: now.across, upward: now.upward } };
  };
  return [
    sideHandle('across', 'Width', across),
    sideHandle('upward', 'Height', upward),
    sideHandle('through', 'Depth', through),
    {
      id: 'spin',
      label: 'Turn',
      at: corner,
      line: true,
      moved: (to) => {
        const flat = (p: Vec3): Vec3 => add(p, scale(axis, -dot(p, axis)));
        const [a, b] = [flat(corner), flat(to)];
        if (length(b) < 1) return {};
        return turned(Math.round(((arcTangent2(dot(cross(a, b), axis), dot(a, b)) * 180) / Math.PI) * 10) / 10);
      },
      measure: { unit: '°', now: 0, typed: ([degrees]) => (degrees === undefined ? null : turned(degrees)) },
    },
  ];
}
