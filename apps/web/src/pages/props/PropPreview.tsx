import { Group } from '@mantine/core';
import { Canvas, useThree } from '@react-three/fiber';
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { GridHelper, type PerspectiveCamera } from 'three';
import { boxCenter, boxSize, IDENTITY, propSolids, type PropCollision } from '@yesca/core';
import type { Prop } from '@yesca/stock';
import { Choice } from '../../fields/Choice.tsx';
import { Toggle } from '../../fields/Toggle.tsx';
import { CollisionShape } from '../../panes/CollisionShape.tsx';
import { solidEdges, solidFaces } from '../../panes/eye-geometry.ts';
import { useInks } from '../../panes/inks.ts';
import { makeProps, type PlacedProp } from '../../scene/props.ts';
import { keptStore } from '../../state/kept.ts';
import { Person, PERSON_WIDTH } from './Person.tsx';
import { PREVIEW_LIGHTS, type PreviewLight } from './preview-light.ts';
import { makeTurntable, type Turntable } from './turntable.ts';

/** How previews of props are shown, kept in this browser. */
const usePreview = keptStore<{ light: PreviewLight; person: boolean; collides: boolean }>(
  'prop-preview',
  { light: 'noon', person: true, collides: false },
  ['light', 'person', 'collides'],
);

/** A prop on a floor ruled by metres, lit, beside a person; dragging or the arrow keys turn it, the wheel comes nearer. */
export function PropPreview({ prop }: { prop: Prop }) {
  const { light, person, collides } = usePreview();
  const table = useRef<Turntable | null>(null);
  const ready = useCallback((made: Turntable) => void (table.current = made), []);
  return (
    <div>
      <div
        className="stock-preview prop-preview"
        data-testid="prop-preview"
        tabIndex={0}
        role="img"
        aria-label={`${prop.label}, lit; drag or use the arrow keys to turn it`}
        onKeyDown={(e) => {
          const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
          if (!by) return;
          e.preventDefault();
          table.current?.turn(by[0]!, by[1]!);
        }}
      >
        <Canvas
          key={`${prop.name} ${prop.content ?? ''}`}
          frameloop="demand"
          dpr={1}
          camera={{ fov: 35, near: 1, far: 200_000 }}
        >
          <Floor size={Math.max(...boxSize(prop.bounds))} at={prop.bounds.min[2]} />
          <Standing prop={prop} light={light} />
          <Turned prop={prop} person={person} ready={ready} />
          {person && <Person at={[prop.bounds.max[0] + PERSON_WIDTH, 0, prop.bounds.min[2]]} />}
          {collides && <Collides prop={prop} as={prop.collision} />}
        </Canvas>
      </div>
      <Group gap={12} mt={6}>
        <Choice
          label="Light"
          tip="By what light it is seen here"
          value={light}
          options={[
            ['noon', 'Noon'],
            ['dusk', 'Dusk'],
            ['lamp', 'Lamp'],
            ['workroom', 'Workroom'],
          ]}
          onChange={(v) => usePreview.setState({ light: v })}
        />
        <Toggle
          label="Person"
          tip="Somebody as tall as the player stands beside it"
          value={person}
          onChange={(v) => usePreview.setState({ person: v })}
        />
        <Toggle
          label="Collision"
          tip="What of it holds people and shots back, over the picture"
          value={collides}
          onChange={(v) => usePreview.setState({ collides: v })}
        />
      </Group>
    </div>
  );
}

/** The prop itself, drawn as it is in a map. */
function Standing({ prop, light }: { prop: Prop; light: PreviewLight }) {
  const { invalidate } = useThree();
  const scene = useMemo(() => makeProps({}, invalidate), [invalidate]);
  useEffect(() => () => scene.dispose(), [scene]);
  useEffect(() => {
    const placed: PlacedProp = {
      thing: prop.name,
      picture: null,
      model: prop.name,
      pose: IDENTITY,
      box: prop.bounds,
      litAt: [boxCenter(prop.bounds)],
    };
    scene.show([placed]);
    scene.light(prop.name, PREVIEW_LIGHTS[light]);
    invalidate();
  }, [scene, prop, light, invalidate]);
  return <primitive object={scene.group} />;
}

/** Lines by the metre, and by the 10 cm for what is small. */
function Floor({ size, at }: { size: number; at: number }) {
  const inks = useInks();
  const grid = useMemo(() => {
    const step = size < 60 ? 10 : 100;
    const lines = Math.max(8, Math.ceil((size * 1.6 + 400) / step / 2) * 2);
    const made = new GridHelper(Math.min(lines, 400) * step, Math.min(lines, 400), inks.soft, inks.soft);
    made.rotateX(Math.PI / 2);
    made.position.z = at;
    made.material.transparent = true;
    made.material.opacity = 0.35;
    return made;
  }, [size, at, inks]);
  useEffect(() => () => grid.dispose(), [grid]);
  return <primitive object={grid} />;
}

/** Looks at the prop, and goes round it. */
function Turned({ prop, person, ready }: { prop: Prop; person: boolean; ready: (table: Turntable) => void }) {
  const { camera, gl, invalidate } = useThree();
  const table = useRef<Turntable | null>(null);
  useEffect(() => {
    const made = makeTurntable(camera as PerspectiveCamera, gl.domElement, invalidate);
    table.current = made;
    ready(made);
    return () => made.dispose();
  }, [camera, gl, invalidate, ready]);
  useEffect(() => table.current?.look(prop.bounds, person), [prop, person]);
  return null;
}

/** What of it holds people back. */
function Collides({ prop, as }: { prop: Prop; as: PropCollision }) {
  const inks = useInks();
  const { invalidate } = useThree();
  const shape = useMemo(() => {
    const solids = propSolids(prop, as);
    return { faces: solidFaces(solids), edges: solidEdges(solids) };
  }, [prop, as]);
  useEffect(() => {
    invalidate();
    return () => {
      shape.faces.dispose();
      shape.edges.dispose();
      invalidate();
    };
  }, [shape, invalidate]);
  return <CollisionShape {...shape} ink={inks.indigo} opacity={0.32} />;
}
