import type { Leak, Finding } from '../checks/index.ts';
import type { Entity } from '../entity/index.ts';
import { litPlaces, type MapDocument } from '../map/index.ts';
import type { Fineness } from './fineness.ts';
import { verticesLit, type FiledProp, type Level } from './level/index.ts';
import type { Lighting } from './lighting/index.ts';
import { messagesOf, type Heard } from './messages.ts';
import type { Structure } from './structure/index.ts';
import { countBits, provenShare } from './visibility/index.ts';

/** What a build found out, for people and for `report.json`. */
export interface BuildReport {
  readonly map: string;
  readonly preset: Fineness;
  readonly sealed: boolean;
  readonly leak: Leak | null;
  readonly messages: readonly Finding[];
  readonly counts: {
    readonly brushes: number;
    readonly surfaces: number;
    readonly triangles: number;
    readonly cells: number;
    readonly portals: number;
    readonly luxels: number;
    readonly pages: number;
    readonly bytes: number;
    /** Mean share of the inside cells that a cell sees, 0 to 1. */
    readonly seen: number;
    /** Share of the pairs of cells in sight of one another that a line proves; absent of old builds and where none were looked for. */
    readonly proven?: number;
  };
  /** After each bounce how much of the light could still come, as a share of what was given off at first. Absent of old builds. */
  readonly bounces?: readonly number[];
  /** From how many places reflections are seen, and what they take in the level file. Absent of old builds. */
  readonly reflections?: { readonly places: number; readonly bytes: number };
  /** How many props stand there, how many triangles they are together, and at how many places their light is found. Absent of old builds. */
  readonly props?: { readonly count: number; readonly triangles: number; readonly lit: number };
  /** Luxels on faces of each material, the most first, by what the faces are part of. Absent of old builds. */
  readonly light?: readonly LightShare[];
}

/** What of the lightmaps goes to one material. */
export interface LightShare {
  readonly material: string;
  readonly structure: number;
  readonly detail: number;
  readonly moving: number;
}

/** All that a report tells of. */
export interface Reported extends Heard {
  readonly preset: Fineness;
  readonly level: Level;
  readonly filed: readonly FiledProp[];
  /** Of the level file. */
  readonly bytes: number;
}

/** What is told of a build. */
export function makeReport(made: Reported): BuildReport {
  const { doc, preset, structure, visibility, lighting, reflections, level, filed, bytes } = made;
  const inside = structure.cells.filter((c) => c.inside).length;
  return {
    map: doc.name,
    preset,
    sealed: visibility !== null,
    leak: structure.leak,
    messages: messagesOf(made),
    counts: {
      brushes: doc.brushes.size,
      surfaces: structure.surfaces.length,
      triangles: level.index.length / 3,
      cells: inside,
      portals: level.portalCells.length / 2,
      luxels: lighting.luxels,
      pages: lighting.pages.length,
      bytes,
      seen: visibility && inside ? countBits(visibility.rows) / (inside * inside) : 1,
      ...(visibility?.searched ? { proven: provenShare(visibility) } : {}),
    },
    bounces: lighting.left,
    reflections: {
      places: reflections.places.length,
      bytes: reflections.texels.byteLength + reflections.ofSurface.byteLength,
    },
    props: {
      count: filed.length,
      triangles: filed.reduce((sum, p) => sum + p.triangles, 0),
      lit: filed.reduce((sum, { thing }, k) => sum + litOf(level, k, doc.entities.get(thing)!), 0),
    },
    light: lightShares(doc, structure, lighting),
  };
}

/** At how many places the light of a prop was found. */
const litOf = (level: Level, k: number, thing: Entity): number => verticesLit(level, k) || litPlaces(thing).length;

function lightShares({ brushes }: MapDocument, { surfaces, bodyFirst }: Structure, { places }: Lighting): LightShare[] {
  const shares = new Map<string, { structure: number; detail: number; moving: number }>();
  surfaces.forEach(({ material, brush }, i) => {
    const place = places[i];
    if (!place) return;
    let share = shares.get(material);
    if (!share) shares.set(material, (share = { structure: 0, detail: 0, moving: 0 }));
    const part = i >= bodyFirst[0]! ? 'moving' : brushes.get(brush)?.role === 'structure' ? 'structure' : 'detail';
    share[part] += place.chart.width * place.chart.height;
  });
  const all = (s: Omit<LightShare, 'material'>) => s.structure + s.detail + s.moving;
  return [...shares]
    .map(([material, share]) => ({ material, ...share }))
    .sort((a, b) => all(b) - all(a) || (a.material < b.material ? -1 : 1));
}
