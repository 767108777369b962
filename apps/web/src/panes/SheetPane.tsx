import { acrossOf, upOf, looksTo, wrapDegrees } from '@yesca/core';
import './pane.css';
import { useElementSize, useMergedRef } from '@mantine/hooks';
import {
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent as ReactKeyboardEvent,
  type PointerEvent as ReactPointerEvent,
} from 'react';
import type { Vec3 } from '@yesca/core';
import { Stage } from 'react-konva';
import { lastPane } from '../state/last-pane.ts';
import { useEditor } from '../state/editor.ts';
import { isEmptySelection } from '../state/selection.ts';
import { pickable } from '../state/shown.ts';
import { pointerTool } from '../tools/index.ts';
import { turnsPlaced } from '../tools/place.ts';
import type { PanePointer } from '../tools/tool.ts';
import { sectionGrips } from './draw-overlay.ts';
import { usePanePointer, type PaneDrag } from './use-pane-pointer.ts';
import { isHeld } from '../state/held-keys.ts';
import { modifiers, type PointerKeys } from './pointer.ts';
import {
  sheetView,
  slid,
  snapPoint,
  snapTo,
  toScreen,
  toWorld,
  workingPoint,
  zoomAt,
  type SheetKind,
} from '../geometry/projection.ts';
import { hitSheet } from '../geometry/sheet-geometry.ts';
import { SheetLayers } from './SheetLayers.tsx';
import { useCamera } from '../state/camera.ts';
import { useCurrent } from '../state/current.ts';
import { setPointed } from '../state/pointed.ts';
import { useWork } from '../state/work.ts';
import { setPaneSize } from '../state/pane-sizes.ts';

/** A drag this near to the border (pixels) makes the drawing pan along, by so much a frame. */
const EDGE = 18;
const EDGE_SPEED = 7;

/** Plan or Section: a drawing of the map, and the place where the drawing tools work. */
export function SheetPane({
  kind,
  onMenu,
  points,
}: {
  kind: SheetKind;
  onMenu?: (p: PanePointer, x: number, y: number) => void;
  /** Takes the place of the tool: told of presses and drags, and of the pointer that hovers. */
  points?: { readonly press: (p: PanePointer) => void; readonly hover: (p: PanePointer | null) => void };
}) {
  const ref = useRef<HTMLDivElement>(null);
  const { ref: measure, width, height } = useElementSize();
  const merged = useMergedRef(ref, measure);
  const centre = useCamera((s) => s.centre);
  const zoom = useCamera((s) => s.zoom);
  const cutHeight = useCamera((s) => s.cutHeight);
  const level = useCamera((s) => s.level);
  const section = useCamera((s) => s.section);
  const panning = useRef(0);
  const frame = useMemo(() => ({ centre, zoom, cutHeight, level, section }), [centre, zoom, cutHeight, level, section]);
  const view = useMemo(
    () => sheetView(kind, frame, Math.max(1, width), Math.max(1, height)),
    [kind, frame, width, height],
  );
  useEffect(() => {
    if (width > 0) setPaneSize(kind, [width, height]);
    return () => setPaneSize(kind, null);
  }, [kind, width, height]);
  /** The drawing as it is now: events may come between two renderings. */
  const viewNow = () => sheetView(kind, useCamera.getState(), Math.max(1, width), Math.max(1, height));

  const pointerAt = (event: PointerKeys): PanePointer => {
    const bounds = ref.current!.getBoundingClientRect();
    const v = viewNow();
    const x = event.clientX - bounds.left;
    const y = event.clientY - bounds.top;
    const at = toWorld(v, x, y, workingPoint(kind, useCamera.getState()));
    const { doc: base } = useEditor.getState();
    const step = useWork.getState().snap ? base.settings.grid : null;
    let hits: PanePointer['hits'] | null = null;
    return {
      pane: kind,
      raw: at,
      snapped: snapPoint(at, step),
      // Only who asks pays: a drag does not.
      get hits() {
        return (hits ??= hitSheet(pickable(base), v, at));
      },
      view: v,
      x,
      y,
      ...modifiers(event),
    };
  };

  /** Which grip of the section line or the cut is under the pointer. */
  const gripUnder = (p: PanePointer): 'line' | 'turn' | null => {
    if (kind === 'section') {
      const y = toScreen(p.view!, [0, 0, level + cutHeight])[1];
      return Math.abs(p.y - y) < 6 && (p.x < 24 || p.x > width - 24) ? 'line' : null;
    }
    const grips = sectionGrips(p.view!, section);
    if (!grips) return null;
    const near = ([x, y]: readonly [number, number], within: number) => Math.hypot(p.x - x, p.y - y) < within;
    return near(grips.knob, 8) ? 'turn' : grips.ends.some((e) => near(e, 12)) ? 'line' : null;
  };

  /** Where the keyboard points; null until an arrow was pressed, and again when the pointer is used. */
  const [crosshair, setCrosshair] = useState<Vec3 | null>(null);
  const keysAt = (at: Vec3): PointerKeys => {
    const bounds = ref.current!.getBoundingClientRect();
    const [x, y] = toScreen(viewNow(), at);
    return {
      clientX: bounds.left + x,
      clientY: bounds.top + y,
      shiftKey: false,
      ctrlKey: false,
      metaKey: false,
      altKey: false,
    };
  };
  /** Arrows move a crosshair where nothing is selected that they would nudge; Enter clicks there, a number begins there. */
  const key = (event: ReactKeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.target !== ref.current) return;
    const v = viewNow();
    const { tool } = useCurrent.getState();
    const { snap } = useWork.getState();
    const { doc, selection, overlay } = useEditor.getState();
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    const here = crosshair ?? snapPoint(workingPoint(kind, useCamera.getState()), snap ? doc.settings.grid : null);
    if (way && (points || tool !== 'pick' || isEmptySelection(selection)) && !overlay.typed) {
      const by = doc.settings.grid * (event.shiftKey ? 8 : 1);
      const to = here.map((c, i) => c + v.right[i]! * way[0]! * by + v.up[i]! * way[1]! * by) as unknown as Vec3;
      const [x, y] = toScreen(v, to);
      // It stays in sight: the paper slides along.
      if (x < 20 || y < 20 || x > width - 20 || y > height - 20)
        useCamera.setState({ centre: slid(v, -way[0]! * by * v.zoom, way[1]! * by * v.zoom) });
      setCrosshair(to);
      lastPane.kind = kind;
      lastPane.at = to;
      const p = pointerAt(keysAt(to));
      if (points) points.hover(p);
      else pointerTool().move(p);
    } else if (event.key === 'Enter' && crosshair) {
      const p = pointerAt({ ...keysAt(crosshair), shiftKey: event.shiftKey });
      if (points) points.press(p);
      else {
        pointerTool().down(p);
        pointerTool().up(p);
      }
    } else if (/^[0-9]$/.test(event.key) && !points && pointerTool().start) {
      pointerTool().start!(pointerAt(keysAt(here)));
      pointerTool().type?.(event.key);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const dragLine = (p: PanePointer, what: 'line' | 'turn') => {
    const { section: line, level: floor } = useCamera.getState();
    const { snap } = useWork.getState();
    const set = useCamera.setState;
    const step = snap ? useEditor.getState().doc.settings.grid : 1;
    if (kind === 'section') return set({ cutHeight: Math.max(8, snapTo(p.raw[2] - floor, step)) });
    if (what === 'line') return set({ section: { ...line, at: [snapTo(p.raw[0], step), snapTo(p.raw[1], step)] } });
    // The line turns about the middle of the drawing, where one is looking; it looks square to itself.
    const grips = sectionGrips(p.view!, line);
    if (!grips) return;
    const pivot = [(grips.ends[0]![0] + grips.ends[1]![0]) / 2, (grips.ends[0]![1] + grips.ends[1]![1]) / 2] as const;
    const about = toWorld(p.view!, pivot[0], pivot[1], p.raw);
    const angle = (Math.atan2(p.raw[1] - about[1], p.raw[0] - about[0]) * 180) / Math.PI + 90;
    const by = snap ? 15 : 1;
    const looks = wrapDegrees(Math.round(angle / by) * by);
    set({ section: { ...line, at: [about[0], about[1]], looks } });
  };

  const grab = (event: ReactPointerEvent): PaneDrag | null => {
    setCrosshair(null);
    lastPane.kind = kind;
    if (event.button === 1 || (event.button === 0 && isHeld('Space'))) {
      let [x, y] = [event.clientX, event.clientY];
      return {
        move: (to) => {
          useCamera.setState({ centre: slid(viewNow(), to.clientX - x, to.clientY - y) });
          [x, y] = [to.clientX, to.clientY];
        },
      };
    }
    const grip = event.button === 0 ? gripUnder(pointerAt(event)) : null;
    if (grip) return { move: (to) => dragLine(pointerAt(to), grip) };
    if (!points || event.button !== 0) return null;
    points.press(pointerAt(event));
    return { move: (to) => points.press(pointerAt(to)) };
  };

  const { toolHolds, handlers } = usePanePointer({
    ref,
    pointerAt,
    grab,
    toolDrags: ({ clientX, clientY, shiftKey, ctrlKey, metaKey, altKey }) =>
      panAlong({ clientX, clientY, shiftKey, ctrlKey, metaKey, altKey }),
    hover: (p) => {
      setPointed(p.hits.find((h) => h.thing.type === 'entity')?.thing.id ?? null);
      points?.hover(p);
      const grip = gripUnder(p);
      const cursor = points ? 'crosshair' : pointerTool().cursor(p);
      ref.current!.style.cursor = grip === 'turn' ? 'grab' : grip ? 'move' : cursor;
    },
  });

  /** While a tool drags near the border the drawing moves along, and the tool with it. */
  const panAlong = (event: PointerKeys) => {
    cancelAnimationFrame(panning.current);
    const bounds = ref.current!.getBoundingClientRect();
    const push = (at: number, low: number, high: number) => (at < low + EDGE ? 1 : at > high - EDGE ? -1 : 0);
    const dx = push(event.clientX, bounds.left, bounds.right) * EDGE_SPEED;
    const dy = push(event.clientY, bounds.top, bounds.bottom) * EDGE_SPEED;
    if (dx === 0 && dy === 0) return;
    panning.current = requestAnimationFrame(() => {
      if (!toolHolds()) return;
      useCamera.setState({ centre: slid(viewNow(), dx, dy) });
      pointerTool().move(pointerAt(event));
      panAlong(event);
    });
  };

  useEffect(() => {
    const element = ref.current!;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      if (turnsPlaced(event)) return;
      const v = sheetView(kind, useCamera.getState(), element.clientWidth, element.clientHeight);
      const bounds = element.getBoundingClientRect();
      useCamera.setState(
        zoomAt(v, event.clientX - bounds.left, event.clientY - bounds.top, Math.exp(-event.deltaY * 0.0015)),
      );
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [kind, ref]);

  return (
    <div
      ref={merged}
      className="pane sheet-pane"
      data-pane={kind}
      tabIndex={0}
      role="application"
      aria-label={`${kind === 'plan' ? 'Plan' : 'Section'}: arrows move a crosshair, Enter clicks there, numbers type sizes`}
      onKeyDown={key}
      onFocus={() => (lastPane.kind = kind)}
      data-view={JSON.stringify({ centre: view.centre, zoom: view.zoom })}
      {...handlers}
      onPointerLeave={() => points?.hover(null)}
      onContextMenu={(event) => {
        event.preventDefault();
        // The context-menu key has no pointer: it means the crosshair, or the middle.
        const byKey = event.button !== 2;
        const at = byKey ? keysAt(crosshair ?? workingPoint(kind, useCamera.getState())) : event;
        onMenu?.(pointerAt(at), at.clientX, at.clientY);
      }}
    >
      {/* Nothing is drawn before there is paper to draw on. */}
      {width > 0 && (
        <Stage width={width} height={height} listening={false}>
          <SheetLayers view={view} />
        </Stage>
      )}
      {crosshair && (
        <div className="crosshair" style={{ left: toScreen(view, crosshair)[0], top: toScreen(view, crosshair)[1] }}>
          <span className="mono" aria-live="polite">
            {Math.round(acrossOf(view, crosshair))} {Math.round(upOf(view, crosshair))}
          </span>
        </div>
      )}
      <span className="pane-name">
        {kind === 'plan'
          ? `Plan · cut at ${Math.round(level + cutHeight)}`
          : `Section · ${looksTo(section.looks)}${section.depth ? ` · ${Math.round(section.depth)} deep` : ''}`}
      </span>
    </div>
  );
}
