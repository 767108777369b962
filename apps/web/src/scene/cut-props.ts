import {
  applyAffine,
  boxCorners,
  boxesOverlap,
  boxOf,
  decalOnMesh,
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
    const corners = pieces.flatMap(({ geometry }) => {
      if (!geometry.boundingBox) geometry.computeBoundingBox();
      const { min, max } = geometry.boundingBox!;
      return boxCorners({ min: min.toArray(), max: max.toArray() }).map((p) => applyAffine(prop.pose, p));
    });
    bounds.set(prop, (known = boxOf(corners)));
  }
  return known;
}

/** `changed` is called when a model came in that had to be loaded. */
export function makeCutProps(stuck: PropDecals, changed: () => void = () => undefined): CutProps {
  const known = new WeakMap<DecalThrow, WeakMap<PlacedProp, MeshDecal | null>>();
  const models = new Map<string, readonly PropPiece[]>();
  const asked = new Set<string>();
  let now: { readonly props: readonly PlacedProp[]; readonly decals: readonly FallingDecal[] } = {
    props: [],
    decals: [],
  };
  let gone = false;

  const cutOf = (ready: DecalThrow, prop: PlacedProp, pieces: readonly PropPiece[]): MeshDecal | null => {
    let ofDecal = known.get(ready);
    if (!ofDecal) known.set(ready, (ofDecal = new WeakMap()));
    let cut = ofDecal.get(prop);
    if (cut === undefined) ofDecal.set(prop, (cut = decalOnMesh(ready, prop.pose, knownMesh(pieces))));
    return cut;
  };
  const put = (): void => {
    const found = now.decals.flatMap(({ ready, takes }) =>
      now.props.flatMap((prop): PropDecal | [] => {
        const pieces = models.get(prop.model);
        if (!pieces || !takes(prop) || !boxesOverlap(ready.bounds, boundsOf(prop, pieces))) return [];
        const cut = cutOf(ready, prop, pieces);
        return cut ? { prop, material: ready.decal.material, cut } : [];
      }),
    );
    stuck.stick(found);
  };
  const ask = (model: string): void => {
    if (asked.has(model)) return;
    asked.add(model);
    propModel(model).then(
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
      now = { props, decals };
      if (decals.length > 0) for (const { model, picture } of props) if (!picture) ask(model);
      put();
    },
    dispose: () => {
      gone = true;
    },
  };
}
