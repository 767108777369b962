import { Canvas, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { DoubleSide, EdgesGeometry, FrontSide, type PerspectiveCamera } from 'three';
import type { Sight, Vec3 } from '@yesca/core';
import { useInks } from '../../panes/inks.ts';
import { seenSurfaces, sightGeometry } from '../../scene/sight-geometry.ts';
import { cellAt, useSight } from '../../state/sight.ts';

/** Height of the eyes over a pin that stands on a floor, cm. */
const EYES = 160;

/** What is drawn for whoever stands at the pin, and behind it as ghosts what is not. */
export function SightView() {
  const sight = useSight((s) => s.sight);
  const pin = useSight((s) => s.pin);
  const [look, setLook] = useState({ yaw: 0, pitch: 0 });
  const from = useRef<readonly [number, number] | null>(null);
  const turn = (dx: number, dy: number) =>
    setLook(({ yaw, pitch }) => ({ yaw: yaw + dx, pitch: Math.max(-1.5, Math.min(1.5, pitch + dy)) }));
  const move = (e: PointerEvent) => {
    if (!from.current) return;
    turn((e.clientX - from.current[0]) * 0.005, (e.clientY - from.current[1]) * 0.005);
    from.current = [e.clientX, e.clientY];
  };
  const key = (e: KeyboardEvent) => {
    const way = { ArrowLeft: [0.1, 0], ArrowRight: [-0.1, 0], ArrowUp: [0, 0.1], ArrowDown: [0, -0.1] }[e.key];
    if (!way) return;
    turn(way[0]!, way[1]!);
    e.preventDefault();
  };
  if (!sight || !pin)
    return (
      <p className="sight-hint quiet">
        Press on the Plan to look from there. What would be drawn appears here, and behind it as ghosts what would not.
      </p>
    );
  return (
    <div
      className="sight-view"
      tabIndex={0}
      role="application"
      aria-label="View from the pin: drag or arrows look round"
      onPointerDown={(e) => {
        from.current = [e.clientX, e.clientY];
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={move}
      onPointerUp={() => (from.current = null)}
      onKeyDown={key}
    >
      <Canvas frameloop="demand" camera={{ fov: 75, near: 2, far: 60_000, up: [0, 0, 1] }}>
        <Looking at={pin} {...look} />
        <Drawn sight={sight} pin={pin} />
      </Canvas>
    </div>
  );
}

function Looking({ at, yaw, pitch }: { at: Vec3; yaw: number; pitch: number }) {
  const camera = useThree((s) => s.camera) as PerspectiveCamera;
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => {
    const [x, y, z] = [at[0], at[1], at[2]];
    camera.up.set(0, 0, 1);
    camera.position.set(x, y, z);
    camera.lookAt(x + Math.cos(yaw) * Math.cos(pitch), y + Math.sin(yaw) * Math.cos(pitch), z + Math.sin(pitch));
    invalidate();
  }, [camera, at, yaw, pitch, invalidate]);
  return null;
}

/** The height of eyes above a point of the Plan's level, kept under the cell's ceiling. */
export function eyesAt(sight: Sight, p: Vec3): Vec3 {
  for (const up of [EYES, EYES / 2, 40, 8]) {
    const at: Vec3 = [p[0], p[1], p[2] + up];
    if (cellAt(sight, at) >= 0) return at;
  }
  return p;
}

function Drawn({ sight, pin }: { sight: Sight; pin: Vec3 }) {
  const inks = useInks();
  const invalidate = useThree((s) => s.invalidate);
  const { drawn, ghost, edges } = useMemo(() => {
    const marks = seenSurfaces(sight, cellAt(sight, pin));
    const drawn = sightGeometry(sight, marks, 1);
    return { drawn, ghost: sightGeometry(sight, marks, 0), edges: new EdgesGeometry(drawn, 20) };
  }, [sight, pin]);
  useEffect(() => {
    invalidate();
    return () => {
      drawn.dispose();
      ghost.dispose();
      edges.dispose();
    };
  }, [drawn, ghost, edges, invalidate]);
  return (
    <>
      <color attach="background" args={[inks.sunk]} />
      <mesh geometry={drawn}>
        <meshBasicMaterial vertexColors side={FrontSide} polygonOffset polygonOffsetFactor={1} polygonOffsetUnits={1} />
      </mesh>
      <lineSegments geometry={edges}>
        <lineBasicMaterial color="#3a3530" transparent opacity={0.55} />
      </lineSegments>
      <mesh geometry={ghost} renderOrder={2}>
        <meshBasicMaterial color={inks.madder} transparent opacity={0.1} depthTest={false} side={DoubleSide} />
      </mesh>
      <mesh geometry={ghost} renderOrder={3}>
        <meshBasicMaterial color={inks.madder} wireframe transparent opacity={0.22} depthTest={false} />
      </mesh>
    </>
  );
}
