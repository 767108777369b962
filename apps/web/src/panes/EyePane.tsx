import './pane.css';
import { Canvas, useThree } from '@react-three/fiber';
import {
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent as ReactKeyboardEvent,
  type PointerEvent as ReactPointerEvent,
} from 'react';
import {
  brushPlanes,
  endsOf,
  entityKind,
  NATURAL_TEXELS_PER_CM,
  propOfBrush,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import { goToSpawn } from '../commands/viewing.ts';
import { lastPane, paneInUse } from '../state/last-pane.ts';
import { useEditor } from '../state/editor.ts';
import { isEmptySelection, selectedBrushes } from '../state/selection.ts';
import { pickable, useShown } from '../state/shown.ts';
import { turnsPlaced } from '../tools/place.ts';
import { type PanePointer } from '../tools/tool.ts';
import { SplitLine } from './SplitLine.tsx';
import { snapHere } from '../geometry/snap.ts';
import { edgeGeometry, faceEdges, figureLines } from './eye-geometry.ts';
import { usePanePointer, type PaneDrag } from './use-pane-pointer.ts';
import { modifiers, type PointerKeys } from './pointer.ts';
import { entityThings, thingsAt, type SheetHit } from '../geometry/sheet-geometry.ts';
import { useInks } from './inks.ts';
import { PickTracer } from './pick-tracer.ts';
import { DENSITY_COLORS } from '../scene/surface-shader.ts';
import { EyeCells } from './EyeCells.tsx';
import { EyeBrushes } from './EyeBrushes.tsx';
import { EyeCamera } from './EyeCamera.tsx';
import { EyeCollision } from './EyeCollision.tsx';
import { EyeController } from './eye-controller.ts';
import { EyeOverlay } from './EyeOverlay.tsx';
import { EyeDecals } from './EyeDecals.tsx';
import { EyeDifference } from './EyeDifference.tsx';
import { EyeBeside, EyeLit, unlit, useShownLit } from './EyeLit.tsx';
import { EyeMarks } from './EyeMarks.tsx';
import { EyeProps } from './EyeProps.tsx';
import { useCamera } from '../state/camera.ts';
import { useDisplay } from '../state/display.ts';
import { CellsNotice } from './CellsNotice.tsx';
import { PaneNotice } from './PaneNotice.tsx';
import { eyeMemory } from '../state/eye.ts';
import { useLit, useLitOptions } from '../state/lit.ts';
import { pointMeter } from '../state/meter.ts';
import { withPropSolids } from '../state/prop-solids.ts';
import { decalsAt } from '../state/decal-pieces.ts';
import { propFacts } from '../state/library.ts';
import { useTrial } from '../state/trial.ts';
import { endTrial } from '../scene/trial.ts';

/** An entity nearer than this (pixels) is under the pointer. */
const TAKEN_WITHIN = 14;

const picks = new PickTracer();
/** What a line of sight meets in a document. */
function sightIn(doc: MapDocument): PickTracer {
  picks.update(withPropSolids(doc));
  return picks;
}

/** The player's figure where the Plan and the Section meet, as a box with the heights of a step and a jump. */
function Figure() {
  const { invalidate } = useThree();
  const shown = useDisplay((s) => s.figure);
  const crouching = useDisplay((s) => s.crouching);
  const centre = useCamera((s) => s.centre);
  const level = useCamera((s) => s.level);
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
  const trying = useTrial((s) => s.running);
  const edges = useMemo(
    () => edgeGeometry([...selectedBrushes(selection, doc)].flatMap((id) => doc.brushes.get(id) ?? [])),
    [selection, doc],
  );
  const faces = useMemo(() => faceEdges(doc, selection.faces), [selection.faces, doc]);
  const ends = useMemo(
    () => edgeGeometry(trying ? [] : [...selection.entities].flatMap((id) => endsOf(doc, id, propFacts))),
    [selection.entities, doc, trying],
  );
  return (
    <>
      {[edges, faces, ends].map((geometry, i) => (
        <lineSegments key={i} geometry={geometry} renderOrder={2}>
          <lineBasicMaterial color={ink} depthTest={false} transparent opacity={[0.75, 1, 0.4][i]!} />
        </lineSegments>
      ))}
    </>
  );
}

/** What is seen. Apart from the pane, so that a gesture draws it anew and nothing round it. */
function Scene() {
  const { doc, still, live, thingsStill, thingsLive } = useShown('eye', paneInUse);
  const lit = useShownLit();
  const beside = useLit((s) => s.beside);
  const difference = useLitOptions((s) => s.difference);
  const differs = lit && beside && difference;
  const rest = lit ? unlit(lit, still, live) : { still, live };
  return (
    <>
      {!differs && <EyeBrushes {...rest} sky={doc.settings} />}
      {!differs && <EyeDecals {...rest} things={doc.entities} />}
      {lit && !differs && <EyeLit lit={lit} doc={doc} still={still} live={live} />}
      {lit && beside && !differs && <EyeBeside lit={beside.lit} />}
      {differs && <EyeDifference lit={lit} beside={beside.lit} />}
      <EyeProps doc={doc} things={thingsStill} />
      <EyeProps doc={doc} things={thingsLive} />
      <EyeCollision doc={doc} />
      <EyeCells />
      <Selected doc={doc} />
      <EyeOverlay doc={doc} />
      <Figure />
      <EyeMarks doc={doc} still={thingsStill} live={thingsLive} />
    </>
  );
}

/** The 3D view. Right button: look round and fly with W A S D Q E; middle button: slide; wheel: forward and back. */
export function EyePane({ onMenu }: { onMenu?: (p: PanePointer, x: number, y: number) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const mapId = useEditor((s) => s.mapId);
  const [eye] = useState(() => new EyeController());
  const settled = useSettled();

  const pointerAt = (event: PointerKeys): PanePointer | null => {
    const { left, top, width, height } = box.current!.getBoundingClientRect();
    const x = event.clientX - left;
    const y = event.clientY - top;
    const ray = eye.rayThrough(x / width, y / height);
    if (!ray) return null;
    const base = pickable(useEditor.getState().doc);
    const { at, normal, hits, brush } = lookAlong(base, ray.from, ray.towards);
    pointMeter(brush ? { brush, at } : null);
    for (const e of base.entities.values()) {
      const place = eye.placeOf([e.at[0], e.at[1], e.at[2] + (entityKind(e.kind)?.grip ?? 0)]);
      if (place && Math.hypot(place[0] * width - x, place[1] * height - y) < TAKEN_WITHIN)
        hits.unshift({ thing: { type: 'entity', id: e.id }, face: -1 });
    }
    return { pane: 'eye', raw: at, snapped: snapHere(at), hits, normal, ray, x, y, ...modifiers(event) };
  };

  /** The right button looks round, the middle one slides; a right click that does not move opens the menu. */
  const grab = (event: ReactPointerEvent): PaneDrag | null => {
    if (event.button === 0) return null;
    const looks = event.button === 2;
    eye.looking = looks;
    // With Alt the camera goes round what is under the pointer.
    eye.orbit = looks && event.altKey ? (pointerAt(event)?.raw ?? null) : null;
    let [x, y] = [event.clientX, event.clientY];
    let moved = false;
    return {
      move: (to) => {
        const [dx, dy] = [to.clientX - x, to.clientY - y];
        moved ||= Math.hypot(dx, dy) > 3;
        if (!moved) return;
        [x, y] = [to.clientX, to.clientY];
        if (looks) eye.turn(-dx * 0.005, -dy * 0.005);
        else eye.slide(-dx * 1.2, dy * 1.2, 0);
      },
      end: (at) => {
        eye.looking = false;
        eye.keys.clear();
        const p = looks && !moved ? pointerAt(at) : null;
        if (p) onMenu?.(p, at.clientX, at.clientY);
      },
    };
  };
  const { handlers } = usePanePointer({ ref: box, pointerAt, grab });
  useEffect(() => {
    const element = box.current!;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      if (turnsPlaced(event)) return;
      eye.slide(0, 0, -event.deltaY * 0.6);
    };
    const key = (event: KeyboardEvent) => {
      if (!eye.looking) return;
      if (event.type === 'keydown') eye.keys.add(event.code);
      else eye.keys.delete(event.code);
      event.stopPropagation();
      eye.aim();
    };
    // Where the camera is, for who reads the page rather than the picture.
    const stop = eye.listen(() => (element.dataset.eye = JSON.stringify(eyeMemory)));
    element.addEventListener('wheel', wheel, { passive: false });
    window.addEventListener('keydown', key, true);
    window.addEventListener('keyup', key, true);
    return () => {
      stop();
      element.removeEventListener('wheel', wheel);
      window.removeEventListener('keydown', key, true);
      window.removeEventListener('keyup', key, true);
    };
  }, [eye]);

  /** Arrows look round and, with Shift, move the camera, where nothing is selected that they would nudge. */
  const key = (event: ReactKeyboardEvent) => {
    const way = { ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (!way || event.ctrlKey || event.altKey || event.metaKey || event.target !== box.current) return;
    if (!isEmptySelection(useEditor.getState().selection)) return;
    if (event.shiftKey) eye.slide(-way[0]! * 32, 0, way[1]! * 32);
    else eye.turn(way[0]! * 0.12, way[1]! * 0.08);
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
      {...handlers}
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
          <EyeCamera eye={eye} mapId={mapId} />
        </Canvas>
      )}
      <EyeNotice eye={eye} />
      <TrialNotice />
      <CellsNotice />
      <DensityLegend />
      <SplitLine />
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

/** What a line of sight meets first. Solids the camera stands in are looked out of, not at. */
function lookAlong(
  doc: MapDocument,
  from: Vec3,
  d: Vec3,
): { at: Vec3; normal?: Vec3; hits: SheetHit[]; brush?: string } {
  const hits: SheetHit[] = [];
  let start = from;
  for (let k = 0; k < 12; k++) {
    const hit = sightIn(doc).firstHit(start, d, 200_000);
    if (!hit) break;
    if (hit.face >= 0) {
      const at: Vec3 = [start[0] + d[0] * hit.at, start[1] + d[1] * hit.at, start[2] + d[2] * hit.at];
      const prop = propOfBrush(hit.brush);
      const normal = brushPlanes(hit.brush)[hit.face]!.normal;
      for (const id of decalsAt(doc, { brush: hit.brush, prop }, at, normal))
        hits.push(...entityThings(doc, id).map((thing) => ({ thing, face: -1 })));
      const things = prop ? entityThings(doc, prop) : thingsAt(doc, hit.brush, new Set());
      for (const thing of things) hits.push({ thing, face: prop ? -1 : hit.face });
      return { at, normal, hits, brush: hit.brush.id };
    }
    const step = 8;
    start = [start[0] + d[0] * step, start[1] + d[1] * step, start[2] + d[2] * step];
  }
  return { at: [from[0] + d[0] * 300, from[1] + d[1] * 300, from[2] + d[2] * 300], hits };
}

/** What the colours of the density view mean. */
function DensityLegend() {
  const shown = useDisplay((s) => s.eyeMode === 'density');
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

/** Says that something is being tried, and how that ends. */
function TrialNotice() {
  const running = useTrial((s) => s.running);
  const walking = useDisplay((s) => s.walking);
  if (!running || walking) return null;
  return (
    <PaneNotice className="trial-notice" id="trying">
      Trying it on the map as it stands.{' '}
      <button type="button" className="link-button" onClick={endTrial}>
        Put everything back
      </button>{' '}
      <kbd>Esc</kbd>
    </PaneNotice>
  );
}

const SOON = 250;

/** Says when the camera is inside a solid or outside the map, and offers the way back to a spawn. */
function EyeNotice({ eye }: { eye: EyeController }) {
  // Not the draft: the tracer is made anew for every other document.
  const doc = useEditor((s) => s.doc);
  const [where, setWhere] = useState<'solid' | 'outside' | null>(null);
  useEffect(() => {
    const look = () => {
      const { at } = eye;
      if (!at) return;
      const inside = sightIn(doc).solidAt(at);
      // Something on four of six sides is inside the map, for a quick look: a room with a hole still is. The live check knows better but later.
      const open = inside ? 0 : SIX.filter((way) => !sightIn(doc).firstHit(at, way, 200_000)).length;
      const out = doc.rooms.size > 0 && open >= 3;
      setWhere(inside ? 'solid' : out ? 'outside' : null);
    };
    // An edit is drawn first; where the camera stands can be said a moment later.
    const soon = setTimeout(look, SOON);
    const stop = eye.listen(look);
    return () => {
      clearTimeout(soon);
      stop();
    };
  }, [doc, eye]);
  if (!where) return null;
  return (
    <PaneNotice>
      {where === 'solid' ? 'The camera is inside a solid.' : 'The camera is outside the map.'}{' '}
      <button type="button" className="link-button" onClick={goToSpawn}>
        Stand at the spawn
      </button>{' '}
      <kbd>Home</kbd>
    </PaneNotice>
  );
}

const SIX: readonly Vec3[] = [[1, 0, 0], [-1, 0, 0], [0, 1, 0], [0, -1, 0], [0, 0, 1], [0, 0, -1]]; // prettier-ignore
