import {
  applyAffine,
  arcTangent2,
  boxSolid,
  cosSin,
  hullOf,
  rotationAbout,
  shapeSolids,
  translation,
  type Affine,
  type PropFacts,
  type PropSocket,
  type ShapeKind,
  type ShapeValue,
  type Solid,
  type Vec3,
} from '@yesca/core';

/** A convex piece of a prop, of one material. */
export interface Piece {
  readonly solid: Solid;
  readonly material: string;
  /** Neighbouring faces that bend little are shaded as one. */
  readonly smooth?: true;
}

/** How a prop is made: cm, z up, standing on the origin unless it hangs from it. */
export interface PropRecipe extends Pick<PropFacts, 'name' | 'label' | 'collision' | 'substance'> {
  readonly tags: readonly string[];
  readonly pieces: readonly Piece[];
  readonly lights?: PropFacts['lights'];
  readonly sockets?: PropFacts['sockets'];
}

/** Sockets of a name at the ends of something that is so long from west to east. */
export const ends = (name: string, long: number, height = 0): PropSocket[] =>
  [-1, 1].map((s) => ({ name, at: [(s * long) / 2, 0, height], way: [s, 0, 0] }));

export const box = (min: Vec3, max: Vec3, material: string): Piece[] => [{ solid: boxSolid({ min, max }), material }];

/** One of the shapes that are drawn in maps, too. */
export const shape = (
  kind: ShapeKind,
  min: Vec3,
  max: Vec3,
  material: string,
  params: Readonly<Record<string, ShapeValue>> = {},
): Piece[] => shapeSolids({ kind, box: { min, max }, params }).map((solid) => ({ solid, material }));

/** Turned on a lathe about the upright: radius and height of each ring, from the bottom up. */
export const lathe = (
  rings: readonly (readonly [radius: number, height: number])[],
  sides: number,
  material: string,
): Piece[] =>
  rings.slice(1).map(([r, z], i) => {
    const [below, bottom] = rings[i]!;
    const ring = (radius: number, height: number): Vec3[] =>
      Array.from({ length: sides }, (_, k) => {
        const [c, s] = cosSin((360 * k) / sides);
        return [c * radius, s * radius, height];
      });
    return { solid: hullOf([...ring(below, bottom), ...ring(r, z)]), material, smooth: true };
  });

/** A round bar from one place to another. */
export function bar(from: Vec3, to: Vec3, radius: number, material: string, sides = 8): Piece[] {
  const way: Vec3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  const long = Math.hypot(...way);
  const flat = Math.hypot(way[0], way[1]);
  const standing = lathe(
    [
      [radius, 0],
      [radius, long],
    ],
    sides,
    material,
  );
  const lean = (arcTangent2(flat, way[2]) * 180) / Math.PI;
  const axis: Vec3 = flat > 1e-9 ? [-way[1] / flat, way[0] / flat, 0] : [1, 0, 0];
  return moved(turned(standing, axis, lean), from);
}

const placed = (pieces: readonly Piece[], m: Affine): Piece[] =>
  pieces.map((p) => ({ ...p, solid: { ...p.solid, vertices: p.solid.vertices.map((v) => applyAffine(m, v)) } }));

export const moved = (pieces: readonly Piece[], by: Vec3): Piece[] => placed(pieces, translation(by));

export const turned = (pieces: readonly Piece[], axis: Vec3, degrees: number, about: Vec3 = [0, 0, 0]): Piece[] =>
  placed(pieces, rotationAbout(axis, degrees, about));

/** So many copies, each from its number. */
export const times = (count: number, of: (k: number) => readonly Piece[]): Piece[] =>
  Array.from({ length: count }, (_, k) => of(k)).flat();

/** So many copies round the upright. */
export const around = (count: number, pieces: readonly Piece[], from = 0): Piece[] =>
  times(count, (k) => turned(pieces, [0, 0, 1], from + (360 * k) / count));
