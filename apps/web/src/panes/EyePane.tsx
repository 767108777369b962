import './pane.css';
import { Canvas, useThree } from '@react-three/fiber';
import {
  useEffect,
  useMemo,
  useRef,
  useState,
  type MutableRefObject,
  type KeyboardEvent as ReactKeyboardEvent,
  type PointerEvent as ReactPointerEvent,
} from 'react';
import { Raycaster, Vector2, Vector3, type PerspectiveCamera } from 'three';
import { brushPlanes, cross, dot, entityKind, NATURAL_TEXELS_PER_CM, type MapDocument, type Vec3 } from '@yesca/core';
import { goToSpawn } from '../commands/viewing.ts';
import { lastPane, paneInUse } from '../state/last-pane.ts';
import { useEditor } from '../state/editor.ts';
import { isEmptySelection, selectedBrushes } from '../state/selection.ts';
import { pickable, useShown } from '../state/shown.ts';
import { useView } from '../state/view.ts';
import { pointerTool } from '../tools/index.ts';
import { reshapeHandles, useReshape } from '../tools/reshape.ts';
import { thingHandles } from '../tools/thing-handles.ts';
import { type PanePointer } from '../tools/tool.ts';
import { snapHere } from '../geometry/snap.ts';
import { edgeGeometry, faceEdges, figureLines, pointGeometry } from './eye-geometry.ts';
import { allowMaterial, dropMaterial } from './drop-material.ts';
import { modifiers, type PointerKeys } from './pointer.ts';
import { thingsAt, type SheetHit } from '../geometry/sheet-geometry.ts';
import { useInks } from './inks.ts';
import { PickTracer } from './pick-tracer.ts';
import { DENSITY_COLORS } from './page-shader.ts';
import { EyeBrushes } from './EyeBrushes.tsx';
import { EyeCamera, type EyeControls } from './EyeCamera.tsx';
import { RimmedPoints } from './RimmedPoints.tsx';
import { EyeTexture } from './EyeTexture.tsx';
import { EyeMarks } from './EyeMarks.tsx';

const picks = new PickTracer();
/** What a line of sight meets in a document. */
function sightIn(doc: MapDocument): PickTracer {
  picks.update(doc.brushes);
  return picks;
}

/** The handles of Reshape as points of a fixed size on screen. */
function Handles({ doc }: { doc: MapDocument }) {
  const { invalidate } = useThree();
  const selection = useEditor((s) => s.selection);
  const kind = useView((s) => s.handles);
  const shown = useView((s) => s.tool === 'reshape');
  const chosen = useReshape((s) => s.chosen);
  const inks = useInks();
  const points = useMemo(() => {
    const all = shown ? reshapeHandles(doc, selection, kind, chosen) : [];
    return [false, true].map((which) => pointGeometry(all.filter((h) => h.chosen === which).map((h) => h.at)));
  }, [doc, selection, kind, shown, chosen]);
  useEffect(() => {
    invalidate();
    return () => points.forEach((p) => p.dispose());
  }, [points, invalidate]);
  if (!shown) return null;
  return (
    <>
      {points.map((geometry, i) => (
        // Free ones are paper with an indigo rim; chosen ones indigo all through.
        <RimmedPoints key={i} geometry={geometry} rim={inks.indigo} fill={i === 0 ? inks.sheet : inks.indigo} />
      ))}
    </>
  );
}

/** The handles of the selected thing, with lines from it where they say so. */
function ThingHandles({ doc }: { doc: MapDocument }) {
  const { invalidate } = useThree();
  const selection = useEditor((s) => s.selection);
  const picking = useView((s) => s.tool === 'pick');
  const inks = useInks();
  const { points, lines } = useMemo(() => {
    const all = picking ? thingHandles(doc, selection) : [];
    return {
      points: pointGeometry(all.map((h) => h.at)),
      lines: pointGeometry(all.filter((h) => h.handle.line).flatMap((h) => [h.from, h.at])),
    };
  }, [doc, selection, picking]);
  useEffect(() => {
    invalidate();
    return () => [points, lines].forEach((g) => g.dispose());
  }, [points, lines, invalidate]);
  return (
    <>
      <lineSegments geometry={lines} renderOrder={3}>
        <lineBasicMaterial color={inks.indigo} depthTest={false} transparent opacity={0.7} />
      </lineSegments>
      <RimmedPoints geometry={points} rim={inks.indigo} fill={inks.sheet} />
    </>
  );
}

/** The player's figure where the Plan and the Section meet, as a box with the heights of a step and a jump. */
function Figure() {
  const { invalidate } = useThree();
  const shown = useView((s) => s.figure);
  const crouching = useView((s) => s.crouching);
  const centre = useView((s) => s.centre);
  const level = useView((s) => s.level);
  const ink = useInks().verdigris;
  const geometry = useMemo(() => figureLines([centre[0], centre[1], level], crouching), [centre, level, crouching]);
  useEffect(() => {
    invalidate();
    return () => geometry.dispose();
  }, [geometry, shown, invalidate]);
  if (!shown) return null;
  return (
    <lineSegments geometry={geometry}>
      <lineBasicMaterial color={ink} />
    </lineSegments>
  );
}

/** The selection's edges, drawn over everything. */
function Selected({ doc }: { doc: MapDocument }) {
  const selection = useEditor((s) => s.selection);
  const ink = useInks().indigo;
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

/** What is seen. Apart from the pane, so that a gesture draws it anew and nothing round it. */
function Scene() {
  const { doc, still, live } = useShown('eye', paneInUse);
  const { skyColor } = doc.settings;
  return (
    <>
      <EyeBrushes still={still} live={live} sky={skyColor} />
      <Selected doc={doc} />
      <Handles doc={doc} />
      <ThingHandles doc={doc} />
      <EyeTexture doc={doc} />
      <Figure />
      <EyeMarks doc={doc} />
    </>
  );
}

/** The 3D view. Right button: look round and fly with W A S D Q E; middle button: slide; wheel: forward and back. */
export function EyePane({ onMenu }: { onMenu?: (p: PanePointer, x: number, y: number) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const mapId = useEditor((s) => s.mapId);
  const controls = useRef<EyeControls>({
    camera: null,
    yaw: 0,
    pitch: 0,
    keys: new Set(),
    looking: false,
    orbit: null,
  });
  const press = useRef<{ button: number; x: number; y: number; moved: boolean } | null>(null);
  const settled = useSettled();
  const aim = () => box.current?.dispatchEvent(new Event('yesca-aim'));

  const pointerAt = (event: PointerKeys): PanePointer | null => {
    const camera = controls.current.camera;
    const bounds = box.current?.getBoundingClientRect();
    if (!camera || !bounds) return null;
    const x = event.clientX - bounds.left;
    const y = event.clientY - bounds.top;
    const ray = new Raycaster();
    // What was aimed since the last frame counts already.
    camera.updateMatrixWorld();
    ray.setFromCamera(new Vector2((x / bounds.width) * 2 - 1, 1 - (y / bounds.height) * 2), camera);
    const from = ray.ray.origin.toArray() as Vec3;
    const towards = ray.ray.direction.toArray() as Vec3;
    const base = pickable(useEditor.getState().doc);
    const { at, normal, hits } = lookAlong(base, from, towards);
    for (const e of base.entities.values()) {
      const lift = entityKind(e.kind)?.grip ?? 0;
      const p = new Vector3(e.at[0], e.at[1], e.at[2] + lift).project(camera);
      if (p.z < 1 && Math.hypot(((p.x + 1) / 2) * bounds.width - x, ((1 - p.y) / 2) * bounds.height - y) < 14)
        hits.unshift({ thing: { type: 'entity', id: e.id }, face: -1 });
    }
    return {
      pane: 'eye',
      raw: at,
      snapped: snapHere(at),
      hits,
      normal,
      ray: { from, towards },
      x,
      y,
      ...modifiers(event),
    };
  };

  const down = (event: ReactPointerEvent) => {
    box.current?.focus({ preventScroll: true });
    press.current = { button: event.button, x: event.clientX, y: event.clientY, moved: false };
    if (event.button === 2) {
      controls.current.looking = true;
      // With Alt the camera goes round what is under the pointer.
      controls.current.orbit = event.altKey ? (pointerAt(event)?.raw ?? null) : null;
    }
    event.currentTarget.setPointerCapture(event.pointerId);
    if (event.button === 0) {
      const p = pointerAt(event);
      if (p) pointerTool().down(p);
    }
  };
  const move = (event: ReactPointerEvent) => {
    const pressed = press.current;
    if (!pressed || pressed.button === 0) {
      const p = pointerAt(event);
      if (!p) return;
      lastPane.at = p.raw;
      lastPane.normal = p.normal;
      return pointerTool().move(p);
    }
    const [dx, dy] = [event.clientX - pressed.x, event.clientY - pressed.y];
    if (Math.hypot(dx, dy) > 3) pressed.moved = true;
    if (!pressed.moved) return;
    pressed.x = event.clientX;
    pressed.y = event.clientY;
    const c = controls.current;
    if (pressed.button === 2) {
      const before = forward(c);
      c.yaw -= dx * 0.005;
      c.pitch = Math.max(-1.55, Math.min(1.55, c.pitch - dy * 0.005));
      if (c.orbit && c.camera) orbit(c.camera, c.orbit, before, forward(c), c.yaw, dx * 0.005);
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
    if (event.button === 0 && p) pointerTool().up(p);
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

  /** Arrows look round and, with Shift, move the camera, where nothing is selected that they would nudge. */
  const key = (event: ReactKeyboardEvent) => {
    const c = controls.current;
    const way = { ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (!way || !c.camera || event.ctrlKey || event.altKey || event.metaKey || event.target !== box.current) return;
    if (!isEmptySelection(useEditor.getState().selection)) return;
    if (event.shiftKey) {
      c.camera.translateX(-way[0]! * 32);
      c.camera.translateZ(-way[1]! * 32);
    } else {
      c.yaw += way[0]! * 0.12;
      c.pitch = Math.max(-1.5, Math.min(1.5, c.pitch + way[1]! * 0.08));
    }
    aim();
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div
      ref={box}
      className="pane eye-pane"
      data-pane="eye"
      tabIndex={0}
      role="application"
      aria-label="Eye: with nothing selected arrows look round, with Shift they walk"
      onFocus={() => (lastPane.kind = 'eye')}
      onKeyDown={key}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onDragOver={allowMaterial}
      onDrop={(event) => dropMaterial(event, pointerAt(event))}
      onContextMenu={(e) => e.preventDefault()}
    >
      {settled && (
        <Canvas
          frameloop="demand"
          dpr={[0.5, 1.5]}
          camera={{ fov: 75, near: 2, far: 60_000 }}
          gl={{ antialias: true, preserveDrawingBuffer: true }}
        >
          <Scene />
          <EyeCamera controls={controls} mapId={mapId} />
        </Canvas>
      )}
      <EyeNotice controls={controls} />
      <DensityLegend />
    </div>
  );
}

/** Frames after which the sheets beside have been drawn; each waits for the graphics card to be done with the last. */
const FRAMES_TO_SETTLE = 6;

/** Whether what opened with the pane has been drawn: beginning a 3D picture waits for all that was asked for before. */
function useSettled(): boolean {
  const [frames, setFrames] = useState(0);
  const settled = frames >= FRAMES_TO_SETTLE;
  useEffect(() => {
    if (settled) return;
    const next = requestAnimationFrame(() => setFrames((n) => n + 1));
    return () => cancelAnimationFrame(next);
  }, [frames, settled]);
  return settled;
}

/** Which way the camera looks. */
const forward = ({ yaw, pitch }: EyeControls): Vec3 => [
  Math.cos(yaw) * Math.cos(pitch),
  Math.sin(yaw) * Math.cos(pitch),
  Math.sin(pitch),
];

/** Keeps a point where it is on screen while the camera turns: the camera goes round it. */
function orbit(camera: PerspectiveCamera, about: Vec3, before: Vec3, after: Vec3, yaw: number, turned: number): void {
  const to: Vec3 = [about[0] - camera.position.x, about[1] - camera.position.y, about[2] - camera.position.z];
  const old = yaw + turned;
  const side = (a: number): Vec3 => [Math.sin(a), -Math.cos(a), 0];
  const basis = (f: Vec3, s: Vec3): [Vec3, Vec3, Vec3] => [f, s, cross(s, f)];
  const [was, is] = [basis(before, side(old)), basis(after, side(yaw))];
  const parts = was.map((axis) => dot(to, axis));
  const now = [0, 1, 2].map((i) => is[0]![i]! * parts[0]! + is[1]![i]! * parts[1]! + is[2]![i]! * parts[2]!);
  camera.position.set(about[0] - now[0]!, about[1] - now[1]!, about[2] - now[2]!);
}

/** What a line of sight meets first. Solids the camera stands in are looked out of, not at. */
function lookAlong(doc: MapDocument, from: Vec3, d: Vec3): { at: Vec3; normal?: Vec3; hits: SheetHit[] } {
  const hits: SheetHit[] = [];
  let start = from;
  for (let k = 0; k < 12; k++) {
    const hit = sightIn(doc).firstHit(start, d, 200_000);
    if (!hit) break;
    if (hit.face >= 0) {
      const at: Vec3 = [start[0] + d[0] * hit.at, start[1] + d[1] * hit.at, start[2] + d[2] * hit.at];
      for (const thing of thingsAt(doc, hit.brush, new Set())) hits.push({ thing, face: hit.face });
      return { at, normal: brushPlanes(hit.brush)[hit.face]!.normal, hits };
    }
    const step = 8;
    start = [start[0] + d[0] * step, start[1] + d[1] * step, start[2] + d[2] * step];
  }
  return { at: [from[0] + d[0] * 300, from[1] + d[1] * 300, from[2] + d[2] * 300], hits };
}

/** What the colours of the density view mean. */
function DensityLegend() {
  const shown = useView((s) => s.eyeMode === 'density');
  const wanted = useEditor((s) => s.doc.settings.texelsPerCm ?? NATURAL_TEXELS_PER_CM);
  if (!shown) return null;
  const { coarse, right, fine } = DENSITY_COLORS;
  return (
    <div className="density-legend" aria-label="Density of textures">
      <span style={{ background: `linear-gradient(90deg, ${coarse}, ${right}, ${fine})` }} />
      <div className="mono">
        {[1 / 4, 1, 4].map((k) => (
          <b key={k}>{Math.round(wanted * 100 * k)}</b>
        ))}
      </div>
      texels a metre; striped where more than twice off
    </div>
  );
}

const SOON = 250;

/** Says when the camera is inside a solid or outside the map, and offers the way back to a spawn. */
function EyeNotice({ controls }: { controls: MutableRefObject<EyeControls> }) {
  // Not the draft: the tracer is made anew for every other document.
  const doc = useEditor((s) => s.doc);
  const [where, setWhere] = useState<'solid' | 'outside' | null>(null);
  useEffect(() => {
    const pane = document.querySelector('[data-pane=eye]')!;
    const look = () => {
      const camera = controls.current.camera;
      if (!camera) return;
      const at = camera.position.toArray() as Vec3;
      const inside = sightIn(doc).solidAt(at);
      // Sealed in on all six sides by something is inside the map, for a quick look; the live check knows better but later.
      const out = !inside && doc.rooms.size > 0 && SIX.some((way) => !sightIn(doc).firstHit(at, way, 200_000));
      setWhere(inside ? 'solid' : out ? 'outside' : null);
    };
    // An edit is drawn first; where the camera stands can be said a moment later.
    const soon = setTimeout(look, SOON);
    pane.addEventListener('yesca-aim', look);
    return () => {
      clearTimeout(soon);
      pane.removeEventListener('yesca-aim', look);
    };
  }, [doc, controls]);
  if (!where) return null;
  return (
    <div className="pane-notice" role="status">
      {where === 'solid' ? 'The camera is inside a solid.' : 'The camera is outside the map.'}{' '}
      <button type="button" className="link-button" onClick={goToSpawn}>
        Stand at the spawn
      </button>{' '}
      <kbd>Home</kbd>
    </div>
  );
}

const SIX: readonly Vec3[] = [[1, 0, 0], [-1, 0, 0], [0, 1, 0], [0, -1, 0], [0, 0, 1], [0, 0, -1]]; // prettier-ignore
