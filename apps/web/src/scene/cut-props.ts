import {
  boxesOverlap,
  decalOnMesh,
  meshBounds,
  movedBox,
  type Box,
  type DecalThrow,
  type MeshDecal,
} from '@yesca/core';
import type { PropDecal, PropDecals } from './prop-decals.ts';
import { knownMesh } from './prop-meshes.ts';
import { propModel, type PropPiece } from './prop-models.ts';
import type { PlacedProp } from './props.ts';

/** A decal that may fall on props, with the props that may take it. */
export interface FallingDecal {
  readonly ready: DecalThrow;
  readonly takes: (prop: PlacedProp) => boolean;
}

/** Decals that are cut to props as those are loaded. */
export interface CutProps {
  /** Sticks these decals on these props and no others; those that lie beneath come first. */
  readonly show: (props: readonly PlacedProp[], decals: readonly FallingDecal[]) => void;
  readonly dispose: () => void;
}

const bounds = new WeakMap<PlacedProp, Box>();

/** What a prop fills in the map. */
function boundsOf(prop: PlacedProp, pieces: readonly PropPiece[]): Box {
  let known = bounds.get(prop);
  if (!known) {
    known = movedBox(prop.pose, meshBounds(knownMesh(pieces)));
    bounds.set(prop, known);
  }
  return known;
}

/** One decal on one prop, and its place among all decals. */
interface OnProp {
  readonly place: number;
  readonly decal: PropDecal;
}

/** `changed` is called when a model came in that had to be loaded. */
export function makeCutProps(
  stuck: Pick<PropDecals, 'stick'>,
  changed: () => void = () => undefined,
  load: (model: string) => Promise<readonly PropPiece[]> = propModel,
): CutProps {
  /** What was cut before: while one decal is dragged all others have theirs. */
  const cuts = new WeakMap<DecalThrow, WeakMap<PlacedProp, MeshDecal | null>>();
  /** What sticks on each prop, and the places of the decals among all: of those that fall now. */
  let known = new WeakMap<PlacedProp, readonly OnProp[]>();
  const models = new Map<string, readonly PropPiece[]>();
  const asked = new Set<string>();
  let now: { readonly props: readonly PlacedProp[]; readonly decals: readonly FallingDecal[] } = {
    props: [],
    decals: [],
  };
  let gone = false;

  const cutOf = (ready: DecalThrow, prop: PlacedProp, pieces: readonly PropPiece[]): MeshDecal | null => {
    let ofDecal = cuts.get(ready);
    if (!ofDecal) cuts.set(ready, (ofDecal = new WeakMap()));
    let cut = ofDecal.get(prop);
    if (cut === undefined) ofDecal.set(prop, (cut = decalOnMesh(ready, prop.pose, knownMesh(pieces))));
    return cut;
  };
  const onProp = (prop: PlacedProp): readonly OnProp[] => {
    const own = known.get(prop);
    const pieces = models.get(prop.model);
    if (own || !pieces) return own ?? [];
    const found = now.decals.flatMap(({ ready, takes }, place): OnProp | [] => {
      if (!boxesOverlap(ready.bounds, boundsOf(prop, pieces)) || !takes(prop)) return [];
      const cut = cutOf(ready, prop, pieces);
      return cut ? { place, decal: { prop, material: ready.decal.material, cut } } : [];
    });
    known.set(prop, found);
    return found;
  };
  const put = (): void =>
    stuck.stick(
      now.props
        .flatMap(onProp)
        .sort((a, b) => a.place - b.place)
        .map(({ decal }) => decal),
    );
  const ask = (model: string): void => {
    if (asked.has(model)) return;
    asked.add(model);
    load(model).then(
      (pieces) => {
        if (gone) return;
        models.set(model, pieces);
        put();
        changed();
      },
      // That the prop itself cannot be drawn is told already.
      () => asked.delete(model),
    );
  };
  return {
    show: (props, decals) => {
      if (decals.length === 0 && now.decals.length === 0) return;
      const { decals: before } = now;
      if (decals.length !== before.length || decals.some(({ ready }, k) => ready !== before[k]!.ready))
        known = new WeakMap();
      now = { props, decals };
      if (decals.length > 0) for (const { model, picture } of props) if (!picture) ask(model);
      put();
    },
    dispose: () => {
      gone = true;
    },
  };
}
