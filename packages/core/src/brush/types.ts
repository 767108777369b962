import type { Vec3 } from '../math/index.ts';
import type { Part } from './part.ts';

/** What a brush is for. */
export const ROLES = ['structure', 'detail', 'clip', 'hint', 'gate', 'liquid', 'ladder', 'zone'] as const;
export type Role = (typeof ROLES)[number];

/** What a brush can hold back. */
export const STOPPABLE = ['players', 'opponents', 'shots', 'loose', 'sight'] as const;
export type Stoppable = (typeof STOPPABLE)[number];

/** The roles whose faces a build draws. */
export const DRAWN_ROLES: ReadonlySet<Role> = new Set(['structure', 'detail', 'liquid']);

/** The roles that hold a player back. */
const SOLID_ROLES: ReadonlySet<Role> = new Set(['structure', 'detail', 'clip']);

/** Whether players cannot pass a brush. */
export const stopsPlayers = ({
  role,
  stops,
}: {
  readonly role: Role;
  readonly stops?: readonly Stoppable[];
}): boolean => SOLID_ROLES.has(role) && (stops?.includes('players') ?? true);

/**
 * Two affine maps world → texel: `u = a·p + a₀`, `v = b·p + b₀`, each as `[a.x, a.y, a.z, a₀]` in texels per cm and texels.
 * Any edit of a face composes exactly with it; scale, offset and turn are read from it only for display.
 */
export interface TextureFrame {
  readonly u: readonly [number, number, number, number];
  readonly v: readonly [number, number, number, number];
}

export interface Face {
  /** Unique within its brush; survives every operation. */
  readonly id: number;
  /** Indices into the brush's vertices, counter-clockwise seen from outside. */
  readonly loop: readonly number[];
  readonly material: string;
  readonly frame: TextureFrame;
  /** `sky`: shows the sky, seals, lets sun in. `unseen`: never drawn. */
  readonly show?: 'sky' | 'unseen';
  /** How much of the light it reflects as a mirror, above 0 up to 1. Absent: none. */
  readonly mirror?: number;
  /** The place whose reflections it shows. Absent: the nearest. */
  readonly reflection?: string;
  /** Edge of a lightmap luxel against the build preset's: 0.5 is twice as fine. Absent: 1. */
  readonly grain?: number;
}

/** The geometry of a brush without its dressing: a closed convex polyhedron. */
export interface Solid {
  readonly vertices: readonly Vec3[];
  readonly loops: readonly (readonly number[])[];
}

/** A closed convex polyhedron of shared corners (cm) and faces. Never changed in place. */
export interface Brush {
  readonly id: string;
  readonly role: Role;
  readonly vertices: readonly Vec3[];
  readonly faces: readonly Face[];
  readonly name?: string;
  /** The room that made this brush, and as which part. Released: shaped by hand, and left alone by its room. */
  readonly room?: { readonly id: string; readonly part: Part; readonly released?: true };
  /** The thing that this brush is a part of: the leaf of a door, the car of a lift. */
  readonly owner?: {
    readonly id: string;
    /** Which of its parts, from 0. Absent: the first. */ readonly part?: number;
  };
  readonly group?: string;
  readonly layer?: string;
  /** What it holds back, where that is not what its role does. None of them: everything passes. */
  readonly stops?: readonly Stoppable[];
  /** Light goes through it as if it were not there. Absent: it casts a shadow. */
  readonly shadow?: false;
}

/** Dresses a solid made from other brushes: faces take what lay in their plane. The first source gives id and role. */
export type DressLike = (solid: Solid, sources: readonly Brush[]) => Brush;
