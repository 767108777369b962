import './pane.css';
import { useMantineColorScheme } from '@mantine/core';
import { Canvas, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef, type MutableRefObject, type PointerEvent as ReactPointerEvent } from 'react';
import { DoubleSide, Raycaster, Vector2, Vector3 } from 'three';
import {
  brushPlanes,
  firstHit,
  firstSpawn,
  makeTracer,
  solidAt,
  type MapDocument,
  type Tracer,
  type Vec3,
} from '@yesca/core';
import { shownDocument, useEditor } from '../state/editor.ts';
import { selectedBrushes } from '../state/selection.ts';
import { useView } from '../state/view.ts';
import { activeTool } from '../tools/index.ts';
import type { PanePointer } from '../tools/tool.ts';
import { batchBrushes, edgeGeometry, faceEdges, GHOST_BATCH, SKY_BATCH } from './eye-geometry.ts';
import { readInks } from './inks.ts';
import { isKnownMaterial, materialSize, materialTexture } from './textures.ts';
import { EyeCamera, type EyeControls } from './EyeCamera.tsx';
import { EyeMarks } from './EyeMarks.tsx';

const tracers = new WeakMap<ReadonlyMap<string, unknown>, Tracer>();
/** The ray tracer over all brushes of a document. */
function tracerOf(doc: MapDocument): Tracer {
  let tracer = tracers.get(doc.brushes);
  if (!tracer) tracers.set(doc.brushes, (tracer = makeTracer([...doc.brushes.values()])));
  return tracer;
}

/** Brushes, drawn by material: textured, or shaded as clay. */
function Brushes({ doc }: { doc: MapDocument }) {
  const { invalidate } = useThree();
  const { colorScheme } = useMantineColorScheme();
  const clay = useView((s) => s.eyeMode === 'clay');
  const inks = useMemo(() => (void colorScheme, readInks(document.documentElement)), [colorScheme]);
  const batches = useMemo(() => batchBrushes(doc.brushes.values(), materialSize), [doc.brushes]);
  useEffect(() => {
    invalidate();
    return () => batches.forEach((b) => b.geometry.dispose());
  }, [batches, invalidate]);
  return (
    <>
      {batches.map(({ material, geometry }) => (
        <mesh key={material} geometry={geometry}>
          {material === GHOST_BATCH ? (
            <meshBasicMaterial color={inks.soft} transparent opacity={0.22} depthWrite={false} side={DoubleSide} />
          ) : material === SKY_BATCH ? (
            <meshBasicMaterial color={doc.settings.skyColor} />
          ) : clay || !isKnownMaterial(material) ? (
            <meshLambertMaterial color="#d9cfbc" />
          ) : (
            <meshLambertMaterial map={materialTexture(material, invalidate)} />
          )}
        </mesh>
      ))}
    </>
  );
}

/** The selection's edges, drawn over everything. */
function Selected({ doc }: { doc: MapDocument }) {
  const selection = useEditor((s) => s.selection);
  const { colorScheme } = useMantineColorScheme();
  const ink = useMemo(() => (void colorScheme, readInks(document.documentElement).indigo), [colorScheme]);
  const edges = useMemo(
    () => edgeGeometry([...selectedBrushes(selection, doc)].flatMap((id) => doc.brushes.get(id) ?? [])),
    [selection, doc],
  );
  const faces = useMemo(() => faceEdges(doc, selection.faces), [selection.faces, doc]);
  return (
    <>
      {[edges, faces].map((geometry, i) => (
        <lineSegments key={i} geometry={geometry} renderOrder={2}>
          <lineBasicMaterial color={ink} depthTest={false} transparent opacity={i === 0 ? 0.75 : 1} />
        </lineSegments>
      ))}
    </>
  );
}

/** The 3D view. Right button: look round and fly with W A S D Q E; middle button: slide; wheel: forward and back. */
export function EyePane({ onMenu }: { onMenu?: (p: PanePointer, x: number, y: number) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const doc = useEditor(shownDocument);
  const mapId = useEditor((s) => s.mapId);
  const controls = useRef<EyeControls>({ camera: null, yaw: 0, pitch: 0, keys: new Set(), looking: false });
  const press = useRef<{ button: number; x: number; y: number; moved: boolean } | null>(null);
  const first = firstSpawn(doc.entities.values());
  const aim = () => box.current?.dispatchEvent(new Event('yesca-aim'));

  const pointerAt = (event: {
    clientX: number;
    clientY: number;
    shiftKey: boolean;
    ctrlKey: boolean;
    metaKey: boolean;
    altKey: boolean;
  }): PanePointer | null => {
    const camera = controls.current.camera;
    const bounds = box.current?.getBoundingClientRect();
    if (!camera || !bounds) return null;
    const x = event.clientX - bounds.left;
    const y = event.clientY - bounds.top;
    const ray = new Raycaster();
    ray.setFromCamera(new Vector2((x / bounds.width) * 2 - 1, 1 - (y / bounds.height) * 2), camera);
    const o = ray.ray.origin.toArray() as Vec3;
    const d = ray.ray.direction.toArray() as Vec3;
    const { doc: base } = useEditor.getState();
    const hits: PanePointer['hits'][number][] = [];
    // Solids the camera stands in are looked out of, not at.
    let start = o;
    let at: Vec3 = [o[0] + d[0] * 300, o[1] + d[1] * 300, o[2] + d[2] * 300];
    let normal: Vec3 | undefined;
    for (let k = 0; k < 12; k++) {
      const hit = firstHit(tracerOf(base), start, d, 200_000);
      if (!hit) break;
      if (hit.face >= 0) {
        if (!normal) {
          at = [start[0] + d[0] * hit.at, start[1] + d[1] * hit.at, start[2] + d[2] * hit.at];
          normal = brushPlanes(hit.brush)[hit.face]!.normal;
        }
        if (hit.brush.room && !hits.some((h) => h.thing.id === hit.brush.room!.id))
          hits.push({ thing: { type: 'room', id: hit.brush.room.id }, face: hit.face });
        hits.push({ thing: { type: 'brush', id: hit.brush.id }, face: hit.face });
        break;
      }
      const step = 8;
      start = [start[0] + d[0] * step, start[1] + d[1] * step, start[2] + d[2] * step];
    }
    for (const e of base.entities.values()) {
      const lift = e.kind === 'spawn' ? 60 : 0;
      const p = new Vector3(e.at[0], e.at[1], e.at[2] + lift).project(camera);
      if (p.z < 1 && Math.hypot(((p.x + 1) / 2) * bounds.width - x, ((1 - p.y) / 2) * bounds.height - y) < 14)
        hits.unshift({ thing: { type: 'entity', id: e.id }, face: -1 });
    }
    return {
      pane: 'eye',
      raw: at,
      snapped: at,
      hits,
      normal,
      x,
      y,
      shift: event.shiftKey,
      ctrl: event.ctrlKey || event.metaKey,
      alt: event.altKey,
    };
  };

  const down = (event: ReactPointerEvent) => {
    box.current?.focus({ preventScroll: true });
    press.current = { button: event.button, x: event.clientX, y: event.clientY, moved: false };
    if (event.button === 2) controls.current.looking = true;
    event.currentTarget.setPointerCapture(event.pointerId);
    if (event.button === 0) {
      const p = pointerAt(event);
      if (p) activeTool().down(p);
    }
  };
  const move = (event: ReactPointerEvent) => {
    const pressed = press.current;
    if (!pressed || pressed.button === 0) return;
    const [dx, dy] = [event.clientX - pressed.x, event.clientY - pressed.y];
    if (Math.hypot(dx, dy) > 3) pressed.moved = true;
    if (!pressed.moved) return;
    pressed.x = event.clientX;
    pressed.y = event.clientY;
    const c = controls.current;
    if (pressed.button === 2) {
      c.yaw -= dx * 0.005;
      c.pitch = Math.max(-1.55, Math.min(1.55, c.pitch - dy * 0.005));
    } else if (c.camera) {
      c.camera.translateX(-dx * 1.2);
      c.camera.translateY(dy * 1.2);
    }
    aim();
  };
  const up = (event: ReactPointerEvent) => {
    const pressed = press.current;
    press.current = null;
    controls.current.looking = false;
    controls.current.keys.clear();
    const p = pointerAt(event);
    if (event.button === 0 && p) activeTool().up(p);
    if (event.button === 2 && pressed && !pressed.moved && p) onMenu?.(p, event.clientX, event.clientY);
  };
  useEffect(() => {
    const element = box.current!;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      controls.current.camera?.translateZ(event.deltaY * 0.6);
      element.dispatchEvent(new Event('yesca-aim'));
    };
    const key = (event: KeyboardEvent) => {
      const { keys, looking } = controls.current;
      if (!looking) return;
      if (event.type === 'keydown') keys.add(event.code);
      else keys.delete(event.code);
      event.stopPropagation();
      element.dispatchEvent(new Event('yesca-aim'));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    window.addEventListener('keydown', key, true);
    window.addEventListener('keyup', key, true);
    return () => {
      element.removeEventListener('wheel', wheel);
      window.removeEventListener('keydown', key, true);
      window.removeEventListener('keyup', key, true);
    };
  }, []);

  return (
    <div
      ref={box}
      className="pane eye-pane"
      data-pane="eye"
      tabIndex={-1}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onContextMenu={(e) => e.preventDefault()}
    >
      <Canvas
        frameloop="demand"
        dpr={[0.5, 1.5]}
        camera={{ fov: 75, near: 2, far: 60_000 }}
        gl={{ antialias: true, preserveDrawingBuffer: true }}
      >
        <hemisphereLight args={['#ffffff', '#d9d0c2', 2.2]} position={[0, 0, 1]} />
        <directionalLight position={[-0.6, -0.9, 1.4]} intensity={1.5} />
        <Brushes doc={doc} />
        <Selected doc={doc} />
        <EyeMarks doc={doc} />
        <EyeCamera controls={controls} mapId={mapId} spawn={first ? { at: first.at, turn: first.turn } : null} />
      </Canvas>
      <EyeNotice doc={doc} controls={controls} />
    </div>
  );
}

/** Says when the camera is inside a solid, and offers the way back to a spawn. */
function EyeNotice({ doc, controls }: { doc: MapDocument; controls: MutableRefObject<EyeControls> }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const pane = document.querySelector('[data-pane=eye]')!;
    const look = () => {
      const camera = controls.current.camera;
      const inside = camera && solidAt(tracerOf(doc), camera.position.toArray() as Vec3);
      if (box.current) box.current.hidden = !inside;
    };
    look();
    pane.addEventListener('yesca-aim', look);
    return () => pane.removeEventListener('yesca-aim', look);
  }, [doc, controls]);
  return (
    <div ref={box} className="pane-notice" hidden>
      The camera is inside a solid. Press <kbd>Home</kbd> to stand at the spawn.
    </div>
  );
}
