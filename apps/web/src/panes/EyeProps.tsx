import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import {
  boxCenter,
  makeLevelProbes,
  propBrushes,
  brushBounds,
  propOfBrush,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import { makeProps, placedProps } from '../scene/props.ts';
import { propFacts, useLibrary } from '../state/library.ts';
import { useDisplay } from '../state/display.ts';
import { notify } from '../state/notify.ts';
import { useShownLit } from './EyeLit.tsx';

/** Light is looked up so far above the middle of a prop, cm: not in what it stands on. */
const ABOVE = 8;

/** Props in the Eye: plain, as they look, or by the light that was found. */
export function EyeProps({ doc }: { doc: MapDocument }) {
  const { invalidate } = useThree();
  const { settings, entities } = doc;
  const mode = useDisplay((s) => s.eyeMode);
  const lit = useShownLit();
  const library = useLibrary((s) => s.props);
  const props = useMemo(() => placedProps(entities.values()).filter((p) => library.has(p.model)), [entities, library]);
  const scene = useMemo(
    () => makeProps(settings, invalidate, (model) => notify(`The prop ${model} could not be loaded.`, `prop ${model}`)),
    [settings, invalidate],
  );
  useEffect(() => () => scene.dispose(), [scene]);
  useEffect(() => {
    scene.show(props);
    invalidate();
  }, [scene, props, invalidate]);
  useEffect(() => {
    scene.textured(mode !== 'clay');
    invalidate();
  }, [scene, mode, invalidate]);
  useEffect(() => {
    if (!lit) {
      scene.unlit();
      invalidate();
      return;
    }
    const probes = makeLevelProbes(lit.level);
    const middles = new Map<string, Vec3>();
    for (const brush of propBrushes(doc, propFacts)) middles.set(propOfBrush(brush)!, boxCenter(brushBounds(brush)));
    const light = new Float32Array(27);
    for (const { thing, pose } of props) {
      const [x, y, z] = middles.get(thing) ?? [pose[3], pose[7], pose[11]];
      if (probes.lightAt([x, y, z + ABOVE], new Map(), light)) scene.light(thing, light);
    }
    invalidate();
  }, [scene, props, lit, doc, invalidate]);
  return <primitive object={scene.group} />;
}
