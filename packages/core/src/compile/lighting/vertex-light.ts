import { brushPlanes, type Brush } from '../../brush/index.ts';
import { Cancelled, type StageControl } from '../../jobs/index.ts';
import {
  addScaled,
  applyAffine,
  dot,
  length,
  normalize,
  sub,
  type Affine,
  type Plane,
  type Vec3,
} from '../../math/index.ts';
import type { PropMesh } from '../../prop/index.ts';
import type { Leaving, LightFinder } from './light-finder.ts';
import type { MeshCharts } from './mesh-charts.ts';
import { LUX_SCALE } from './pages.ts';
import { packRgb9e5 } from './rgb9e5.ts';

/** A prop that is lit at its vertices, or all over. */
export interface VertexLit {
  /** Its vertices, or the luxels of its charts: what has no normal is not lit. */
  readonly mesh: Pick<PropMesh, 'places' | 'normals'>;
  /** Of one that is lit all over. */
  readonly charts: MeshCharts | null;
  /** Where its own space lies in the map. */
  readonly pose: Affine;
  /** Its own solids, of those that shade. */
  readonly solids: readonly Brush[];
}

/** The light that falls on the vertices of props, or the luxels of their charts. */
export interface VertexLight {
  /** Of the vertices or luxels of each prop the first; those of one without any are none. */
  readonly first: Uint32Array;
  /** Lux by `LUX_SCALE` as shared-exponent colours. */
  readonly light: Uint32Array;
  /** What lamps that play can switch add, by the order of `lamps`: of lamp `i` those of `lampFirst[i] … lampFirst[i + 1]`. */
  readonly lamps: readonly string[];
  readonly lampFirst: Uint32Array;
  /** The vertex that a lamp adds to. */
  readonly lampVertex: Uint32Array;
  /** At full strength, as if its light were white: lux. */
  readonly lampLight: Float32Array;
}

/** A vertex is looked from so far in front of where it is, and towards the middle of its prop: not in the floor that it stands on. cm */
const IN_FRONT = 0.5;
/** Beyond its own solids light comes from so much farther on, cm. */
const BEYOND = 0.05;
/** What lamps add counts from here, lux. */
const WEAK = 0.01;
/** After so many vertices it is asked whether to stop. */
const TURN = 64;

/** Finds the light on each vertex of each prop. Those that stick in a solid take that of the nearest which does not. Throws `Cancelled`. */
export function vertexLight(
  props: readonly (VertexLit | null)[],
  finder: () => LightFinder,
  control: StageControl = {},
): VertexLight {
  const first = [0];
  for (const prop of props) first.push(first.at(-1)! + (prop ? prop.mesh.places.length / 3 : 0));
  const count = first.at(-1)!;
  const light = new Uint32Array(count);
  const lamps = count > 0 ? finder().lamps : [];
  const added: { vertex: number; lux: number }[][] = lamps.map(() => []);
  props.forEach((prop, n) => {
    if (!prop) return;
    const found = litVertices(prop, finder(), (done) => {
      if (control.signal?.aborted) throw new Cancelled();
      control.progress?.((first[n]! + done) / count);
    });
    found.forEach(({ lux, lamps: own }, k) => {
      const vertex = first[n]! + k;
      light[vertex] = packRgb9e5(lux[0] / LUX_SCALE, lux[1] / LUX_SCALE, lux[2] / LUX_SCALE);
      own.forEach((l, lamp) => {
        if (l >= WEAK) added[lamp]!.push({ vertex, lux: l });
      });
    });
  });
  const lampFirst = [0];
  for (const own of added) lampFirst.push(lampFirst.at(-1)! + own.length);
  return {
    first: Uint32Array.from(first),
    light,
    lamps,
    lampFirst: Uint32Array.from(lampFirst),
    lampVertex: Uint32Array.from(added.flat(), (a) => a.vertex),
    lampLight: Float32Array.from(added.flat(), (a) => a.lux),
  };
}

interface LitVertex {
  readonly lux: Vec3;
  readonly lamps: readonly number[];
}

const DARK: LitVertex = { lux: [0, 0, 0], lamps: [] };

function litVertices(
  { mesh, pose, solids }: VertexLit,
  finder: LightFinder,
  tell: (done: number) => void,
): LitVertex[] {
  const leave = leavingAll(solids.map(brushPlanes));
  const count = mesh.places.length / 3;
  const places = Array.from({ length: count }, (_, k) => applyAffine(pose, at(mesh.places, k)));
  const origin = applyAffine(pose, [0, 0, 0]);
  const normals = Array.from({ length: count }, (_, k): Vec3 | null => {
    const way = at(mesh.normals, k);
    return length(way) > 0 ? normalize(sub(applyAffine(pose, way), origin)) : null;
  });
  const middle = places.reduce((sum, p) => addScaled(sum, p, 1 / count), [0, 0, 0] as Vec3);
  const known = new Map<string, LitVertex | null>();
  const lit = places.map((place, k) => {
    if (k % TURN === 0) tell(k);
    const normal = normals[k]!;
    if (!normal) return DARK;
    // Corners of several triangles lie in one place and face the same way.
    const key = [...place, ...normal].map((c) => Math.round(c * 1000)).join(' ');
    let found = known.get(key);
    if (found === undefined) {
      const inwards = sub(middle, place);
      const far = length(inwards);
      const p = addScaled(addScaled(place, normal, IN_FRONT), inwards, far > 0 ? Math.min(IN_FRONT, far) / far : 0);
      const lux = finder.onFace(p, normal, leave);
      found = lux && { lux, lamps: finder.lampsOnFace(p, normal, leave) };
      known.set(key, found);
    }
    return found;
  });
  return lit.map((own, k) => own ?? nearestLit(lit, places, normals, k) ?? DARK);
}

/** Of the vertices with light the one that lies nearest, and rather faces the same way. */
function nearestLit(
  lit: readonly (LitVertex | null)[],
  places: readonly Vec3[],
  normals: readonly (Vec3 | null)[],
  k: number,
): LitVertex | null {
  let least = Infinity;
  let best: LitVertex | null = null;
  lit.forEach((other, j) => {
    if (!other || !normals[j]) return;
    const far = length(sub(places[j]!, places[k]!)) * (2 - dot(normals[j], normals[k]!));
    if (far < least) [least, best] = [far, other];
  });
  return best;
}

/** Along which way a place is out of all solids that hold it, one after another. */
function leavingAll(solids: readonly (readonly Plane[])[]): Leaving {
  return (p, way) => {
    let off = 0;
    for (let turn = 0; turn < solids.length; turn++) {
      const before = off;
      const q = addScaled(p, way, off);
      for (const planes of solids) {
        const out = wayOut(planes, q, way);
        if (out !== null) off = Math.max(off, before + out + BEYOND);
      }
      if (off === before) break;
    }
    return off;
  };
}

/** How far it is out of a convex solid; null from outside. */
function wayOut(planes: readonly Plane[], p: Vec3, way: Vec3): number | null {
  let out = Infinity;
  for (const { normal, distance } of planes) {
    const left = distance - dot(normal, p);
    if (left < 0) return null;
    const along = dot(normal, way);
    if (along > 0) out = Math.min(out, left / along);
  }
  return out;
}

const at = (list: Float32Array, k: number): Vec3 => [list[k * 3]!, list[k * 3 + 1]!, list[k * 3 + 2]!];
