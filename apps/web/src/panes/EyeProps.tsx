import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { litAtFirst, makeLevelProbes, shines, type Entity, type MapDocument } from '@yesca/core';
import { lookOf } from '../scene/looks.ts';
import { picturePages } from '../scene/picture-pages.ts';
import { makeCutProps } from '../scene/cut-props.ts';
import { litProps, type LitProps } from '../scene/lit-props.ts';
import { makePropDecals } from '../scene/prop-decals.ts';
import {
  lightOfProp,
  makeProps,
  meanLight,
  NONE,
  placedProps,
  type PlacedProp,
  type PropScene,
} from '../scene/props.ts';
import { decalsIn, propDecals } from '../state/decal-pieces.ts';
import { useLibrary } from '../state/library.ts';
import { useDisplay } from '../state/display.ts';
import { useLitOptions, type Lit } from '../state/lit.ts';
import { useShownLit } from './EyeLit.tsx';

/** By which light props were lit: what did not change is not lit again. */
const litBy = new WeakMap<PropScene, WeakMap<PlacedProp, unknown>>();

interface OwnLight {
  readonly onThemselves: LitProps;
  /** Lamps that play can switch, as they shine when it begins. */
  readonly shares: ReadonlyMap<string, number>;
}
const ownLights = new WeakMap<Lit, OwnLight>();

/** The light of a level on its props themselves, read once. */
function ownLight(lit: Lit): OwnLight {
  let own = ownLights.get(lit);
  if (!own) {
    const lamps = lit.level.meta.entities.filter(shines);
    const shares = new Map(lamps.map((lamp) => [lamp.id, litAtFirst(lamp)]));
    ownLights.set(lit, (own = { onThemselves: litProps(lit.level), shares }));
  }
  return own;
}

/** The props among some things in the Eye: plain, as they look, or by the light that was found. */
export function EyeProps({ doc, things }: { doc: MapDocument; things: readonly Entity[] }) {
  const { invalidate } = useThree();
  const { settings, entities } = doc;
  const mode = useDisplay((s) => s.eyeMode);
  const lit = useShownLit();
  const library = useLibrary((s) => s.props);
  const materials = useLibrary((s) => s.materials);
  const props = useMemo(
    () => placedProps(things).filter((p) => (p.picture ? materials.has(p.picture.material) : library.has(p.model))),
    [things, library, materials],
  );
  const scene = useMemo(() => makeProps(settings, invalidate), [settings, invalidate]);
  useEffect(() => () => scene.dispose(), [scene]);
  useEffect(() => {
    scene.show(props);
    invalidate();
  }, [scene, props, invalidate]);
  useEffect(() => {
    scene.textured(mode !== 'clay');
    invalidate();
  }, [scene, mode, invalidate]);
  const { gl } = useThree();
  const stuck = useMemo(() => {
    const pages = picturePages(gl, invalidate);
    return makePropDecals(pages, settings, (name) => lookOf(pages, name, materials.get(name)));
  }, [gl, settings, materials, invalidate]);
  const cut = useMemo(() => makeCutProps(stuck, invalidate), [stuck, invalidate]);
  useEffect(
    () => () => {
      cut.dispose();
      stuck.dispose();
      // Others have to be lit anew.
      litBy.delete(scene);
    },
    [scene, cut, stuck],
  );
  const decals = decalsIn(doc);
  const details = useLitOptions((s) => s.details);
  useEffect(() => {
    cut.show(props, mode === 'clay' ? [] : propDecals(decals, entities, details || !lit));
    invalidate();
  }, [cut, props, decals, entities, mode, details, lit, invalidate]);
  useEffect(() => {
    if (!lit) {
      if (litBy.delete(scene)) for (const { thing } of props) stuck.light(thing, null);
      scene.unlit();
      scene.litOnThemselves(NONE);
    } else {
      const probes = makeLevelProbes(lit.level);
      const { onThemselves, shares } = ownLight(lit);
      scene.litOnThemselves(onThemselves.of);
      const known = litBy.get(scene) ?? new WeakMap<PlacedProp, unknown>();
      litBy.set(scene, known);
      for (const prop of props) {
        if (known.get(prop) === lit) continue;
        known.set(prop, lit);
        const light = lightOfProp(prop, probes, shares);
        if (!light) continue;
        scene.light(prop.thing, light, onThemselves.falls(prop, shares));
        stuck.light(prop.thing, meanLight(light));
      }
    }
    invalidate();
  }, [scene, stuck, props, lit, invalidate]);
  return (
    <>
      <primitive object={scene.group} />
      <primitive object={stuck.group} />
    </>
  );
}
