import { brushBounds, type Brush, type Face } from '../../brush/index.ts';
import { boxOf, buildBvh, dot, eachSwept, type Box, type Bvh, type Vec3 } from '../../math/index.ts';
import { linearColor, LUMINANCE } from '../../surface/index.ts';
import { coverAt, texelAt, type MaterialFacts, type MaterialLookup } from '../../surface/index.ts';
import { enterBrush, makeRays, type Rays } from '../tracing/index.ts';

/** A brush that lets some of the light through which meets it, with what is known of its materials. Plain data: threads are sent it. */
export interface Veil {
  readonly brush: Brush;
  /** By name. */
  readonly facts: Readonly<Record<string, Pick<MaterialFacts, 'width' | 'height' | 'solidity' | 'mask' | 'average'>>>;
}

const isSeen = (face: Face): boolean => face.show !== 'unseen';

/** What a brush is as a veil: one of detail whose faces that are seen all have holes or are seen through; null for any other. */
export function veilOf(brush: Brush, materials: MaterialLookup): Veil | null {
  if (brush.role !== 'detail' || brush.shadow === false) return null;
  const facts: Record<string, MaterialFacts> = {};
  for (const face of brush.faces) {
    if (!isSeen(face)) continue;
    const known = materials(face.material);
    if (face.show === 'sky' || !known || known.solidity === 'solid') return null;
    const { width, height, solidity, mask, average } = known;
    const tints = solidity === 'seeThrough' && average !== undefined;
    facts[face.material] = {
      width,
      height,
      solidity,
      ...(mask && { mask }),
      ...(tints && { average }),
    } as MaterialFacts;
  }
  return Object.keys(facts).length > 0 ? { brush, facts } : null;
}

const WHOLE: Vec3 = [1, 1, 1];

/** Where a ray ends that coloured glass swallows. */
export const LOST = 'lost';

/** Glass that covers half of what is behind it tints all that comes through; clearer glass as much less. */
const TINTS = 2;

const tints = new Map<string, Vec3>();

/** A colour by its brightest part, which passes whole. */
function tintOf(color: string): Vec3 {
  let known = tints.get(color);
  if (!known) {
    const [r, g, b] = linearColor(color);
    const most = Math.max(r, g, b, 1e-6);
    tints.set(color, (known = [r / most, g / most, b / most]));
  }
  return known;
}

/** A veil that a ray meets. */
export interface MetVeil {
  /** Its place in the list. */
  readonly veil: number;
  readonly at: number;
  /** How much it covers there of what is behind it, 0 to 1. */
  readonly cover: number;
  /** What it leaves of the light that it does not cover. */
  readonly tint: Vec3;
}

/** What light comes through on its way: leaves, nets, bars and panes. */
export class Veils {
  private readonly boxes: readonly Box[];
  private readonly tree: Bvh;
  private rays: Rays | null = null;

  constructor(readonly veils: readonly Veil[]) {
    this.boxes = veils.map((v) => brushBounds(v.brush));
    this.tree = buildBvh(this.boxes);
  }

  get none(): boolean {
    return this.veils.length === 0;
  }

  /** Whether a ray may meet any before `far`, told fast: for many rays of which few do. */
  mayMeet(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, far: number): boolean {
    if (this.none) return false;
    this.rays ??= makeRays(this.veils.map((v) => v.brush));
    return this.rays.anyHit(ox, oy, oz, dx, dy, dz, far);
  }

  /** Those that a search among their boxes takes. */
  among(search: (tree: Bvh, boxes: readonly Box[], take: (item: number) => void) => void): Veils {
    const taken = new Set<Veil>();
    search(this.tree, this.boxes, (item) => taken.add(this.veils[item]!));
    return taken.size === this.veils.length ? this : new Veils([...taken]);
  }

  /**
   * The part of the light that comes from `o` along `d` to `far`, of red, green and blue, 0 to 1, but for the brush `except`. What lies on
   * the start is left out: a face does not veil itself. What is seen through tints by its colour, the more the more it covers.
   */
  through(o: Vec3, d: Vec3, far: number, except?: string): Vec3 {
    let part: Vec3 = WHOLE;
    this.eachMet(o, d, far, ({ veil, cover, tint: [r, g, b] }) => {
      if (this.veils[veil]!.brush.id !== except)
        part = [part[0] * (1 - cover) * r, part[1] * (1 - cover) * g, part[2] * (1 - cover) * b];
    });
    return part;
  }

  /** What a ray meets before `far`, the nearest first. */
  along(o: Vec3, d: Vec3, far: number): MetVeil[] {
    const met: MetVeil[] = [];
    this.eachMet(o, d, far, (one) => met.push(one));
    return met.sort((a, b) => a.at - b.at || a.veil - b.veil);
  }

  /**
   * Where a ray ends by a chance from 0 to 1: on a veil, as often as that covers what is behind it; {@link LOST} as often as it swallows
   * what it does not cover; null for a ray that comes through.
   */
  ends(o: Vec3, d: Vec3, far: number, chance: number): MetVeil | typeof LOST | null {
    let left = 1;
    for (const met of this.along(o, d, far)) {
      left *= 1 - met.cover;
      if (chance >= left) return met;
      left *= dot(LUMINANCE, met.tint);
      if (chance >= left) return LOST;
    }
    return null;
  }

  private eachMet(o: Vec3, d: Vec3, far: number, take: (met: MetVeil) => void): void {
    const way: Vec3 = [d[0] * far, d[1] * far, d[2] * far];
    eachSwept(this.tree, this.boxes, boxOf([o]), way, (veil) => {
      const { brush, facts } = this.veils[veil]!;
      const hit = enterBrush(brush, o, d, far);
      const face = hit && hit.face >= 0 ? brush.faces[hit.face]! : null;
      if (!hit || !face || !isSeen(face)) return;
      const { width, height, ...known } = facts[face.material]! as MaterialFacts;
      const [x, y] = texelAt(face.frame, [o[0] + d[0] * hit.at, o[1] + d[1] * hit.at, o[2] + d[2] * hit.at]);
      const cover = coverAt(known, x / width, y / height);
      const tint = known.average === undefined ? WHOLE : tintOf(known.average);
      const tinted = Math.min(1, TINTS * cover);
      const leaves = (c: 0 | 1 | 2) => 1 - tinted + tinted * tint[c];
      take({ veil, at: hit.at, cover, tint: [leaves(0), leaves(1), leaves(2)] });
    });
  }
}
