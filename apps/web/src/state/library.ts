import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { MATERIALS, type Material, type Prop } from '@yesca/stock';
import {
  isDrawnAsIs,
  decalOf,
  modelOf,
  type Entity,
  type MapDocument,
  type MaterialLookup,
  type PropFacts,
  type PropLookup,
  type Substance,
} from '@yesca/core';
import type { SightKnowledge } from '../workers/sight.ts';
import { toggled, usedNow } from './lists.ts';

export interface LibraryState {
  /** All materials by name: those that ship, and the imported ones once the server told of them. */
  readonly materials: ReadonlyMap<string, Material>;
  /** All props by name; empty until the server told of them. */
  readonly props: ReadonlyMap<string, Prop>;
  /** Names of what was painted with last, newest first. */
  readonly recent: readonly string[];
  readonly favourites: readonly string[];
  /** Packs that are left out of the library here. */
  readonly packsOff: readonly string[];
  readonly largeThumbs: boolean;
  readonly setMaterials: (all: readonly Material[]) => void;
  readonly setProps: (all: readonly Prop[]) => void;
  readonly used: (name: string) => void;
  readonly toggleFavourite: (name: string) => void;
  readonly togglePack: (pack: string) => void;
  readonly setLargeThumbs: (large: boolean) => void;
}

/** The pack of what ships. */
export const WORKSHOP = 'workshop';

const RECENT = 12;

/** What is known of materials in this page, and what its user keeps of them in this browser. */
export const useLibrary = create<LibraryState>()(
  persist(
    (set, get) => ({
      materials: new Map(MATERIALS.map((m) => [m.name, m])),
      props: new Map(),
      recent: [],
      favourites: [],
      packsOff: [],
      largeThumbs: false,
      setMaterials: (all) => set({ materials: new Map(all.map((m) => [m.name, m])) }),
      setProps: (all) => set({ props: new Map(all.map((p) => [p.name, p])) }),
      used: (name) => set({ recent: usedNow(get().recent, name, RECENT) }),
      toggleFavourite: (name) => set({ favourites: toggled(get().favourites, name) }),
      togglePack: (pack) => set({ packsOff: toggled(get().packsOff, pack) }),
      setLargeThumbs: (largeThumbs) => set({ largeThumbs }),
    }),
    {
      name: 'yesca-library',
      partialize: ({ recent, favourites, packsOff, largeThumbs }) => ({ recent, favourites, packsOff, largeThumbs }),
    },
  ),
);

/** What is known of a material, for commands. */
export const materialFacts: MaterialLookup = (name) => useLibrary.getState().materials.get(name);

/** What is known of a prop. */
export const propFacts: PropLookup = (name) => useLibrary.getState().props.get(name);

/** What is known of materials, and of the props that stand in a map, for a worker. */
export function sightKnowledge({ entities }: Pick<MapDocument, 'entities'>): SightKnowledge {
  const { materials, props: all } = useLibrary.getState();
  const props = new Map<string, PropFacts>();
  for (const thing of entities.values()) {
    const facts = all.get(modelOf(thing)?.name ?? '');
    if (facts) props.set(facts.name, facts);
  }
  return { materials, props };
}

/** Whether a thing is a prop that is drawn as it is, and needs no symbol or mark. */
export function isDrawnProp(thing: Entity): boolean {
  return isDrawnAsIs(thing, propFacts, materialFacts);
}

/** Whether the Eye shows a thing as it is: a prop, or the picture of a decal where pictures are seen. */
export function isSeenInEye(thing: Entity, pictures: boolean): boolean {
  const decal = decalOf(thing);
  return decal ? pictures && materialFacts(decal.material) !== undefined : isDrawnProp(thing);
}

/** What a material is made of; null for none, or one that is not known. */
export const substanceOf = (name: string | null): Substance | null =>
  (name === null ? undefined : useLibrary.getState().materials.get(name)?.substance) ?? null;

export const materialLabel = (name: string): string => useLibrary.getState().materials.get(name)?.label ?? name;

/** Whether a prop did not come with Yesca. */
export const isImported = ({ pack }: Pick<Prop, 'pack'>): boolean => pack !== undefined;
