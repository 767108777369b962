import { call, dominantAxis, newId, type Box, type Plane, type Point2, type ShapeRecipe, type Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { selectionOf, selectOnly } from '../state/selection.ts';
import { snapTo } from '../geometry/projection.ts';
import { surfaceUnder } from '../geometry/surface-under.ts';
import {
  optionsIn,
  pointOn,
  samePixel,
  typedHere,
  typedOn,
  type OptionGroup,
  type PanePointer,
  type Tool,
} from './tool.ts';
import { snapHere } from '../geometry/snap.ts';
import { options } from '../state/kept.ts';
import { params } from '@yesca/core';
import { SHAPES, SHAPE_KINDS, shapeSpec } from '@yesca/core';
import { IconCube } from '@tabler/icons-react';
import { useCamera } from '../state/camera.ts';
import { useCurrent } from '../state/current.ts';
import { useShapes, shapeNow } from '../state/shapes.ts';
import { closesOutline, cornersLine } from './corners.ts';

/** What is drawn. */
export const useDrawOptions = options('draw', {
  shape: params.choice(SHAPE_KINDS, 'box', {
    label: 'Shape',
    help: 'What is drawn — Shift B takes the next',
    names: Object.fromEntries(SHAPES.map((s) => [s.kind, s.label])),
  }),
  height: params.length(128, { label: 'Height', help: 'Height of what is drawn on the Plan', min: 1 }),
  role: params.choice(['structure', 'detail', 'clip', 'hint', 'gate', 'liquid', 'ladder', 'zone'], 'detail', {
    label: 'Role',
    help: 'What drawn brushes are for',
    names: {
      structure: 'Structure',
      detail: 'Detail',
      clip: 'Clip',
      hint: 'Hint',
      gate: 'Gate',
      liquid: 'Liquid',
      ladder: 'Ladder',
      zone: 'Zone',
    },
  }),
});
const { shape, height, role } = useDrawOptions.specs;

/** What can be set on the shape that is drawn. */
const shapeOptions: OptionGroup = {
  watch: [useDrawOptions, useShapes],
  now: () => {
    const kind = useDrawOptions.getState().shape;
    return { specs: shapeSpec(kind).params, values: shapeNow(kind) };
  },
  put: (key, value) => {
    const kind = useDrawOptions.getState().shape;
    useShapes.setState({ [kind]: { ...shapeNow(kind), [key]: value } });
  },
};

type State =
  | { readonly name: 'idle' }
  | { readonly name: 'pressed' | 'dragging'; readonly start: PanePointer; readonly floor: number }
  | {
      readonly name: 'outline';
      readonly corners: readonly Point2[];
      readonly floor: number;
      readonly press: PanePointer | null;
    }
  | {
      readonly name: 'ready';
      readonly box: Box;
      readonly outline: readonly Point2[] | null;
      readonly typed: string;
      readonly press: PanePointer | null;
    };

const editor = () => useEditor.getState();

const recipe = (box: Box, outline: readonly Point2[] | null): ShapeRecipe => {
  const kind = useDrawOptions.getState().shape;
  return { kind, box, params: shapeNow(kind), ...(outline ? { outline } : {}) };
};

/** What stands in a room without being part of its walls is usually detail: it neither seals nor cuts the space into cells. */
function drawCall(box: Box, outline: readonly Point2[] | null) {
  const { material } = useCurrent.getState();
  const { role: drawRole } = useDrawOptions.getState();
  return call('brush.draw', { shape: recipe(box, outline), material, role: drawRole });
}

/** The box between two corners of a drag; the missing direction has the height set in the options. */
function boxBetween(start: PanePointer, now: PanePointer, floor: number): Box {
  const { height } = useDrawOptions.getState();
  const { section } = useCamera.getState();
  const { grid } = editor().doc.settings;
  if (start.pane === 'eye') return boxOnSurface(start, now, height);
  const [a, b] = [start.snapped, now.snapped];
  const min: [number, number, number] = [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.min(a[2], b[2])];
  const max: [number, number, number] = [Math.max(a[0], b[0]), Math.max(a[1], b[1]), Math.max(a[2], b[2])];
  if (start.pane === 'plan') {
    min[2] = floor;
    max[2] = floor + height;
  } else if (start.view!.square) {
    // In the Section the depth of the new brush is centred on the section line.
    const depth = Math.max(grid, snapTo(height, grid));
    const axis = start.view!.d as 0 | 1;
    min[axis] = snapTo(section.at[axis] - depth / 2, grid);
    max[axis] = min[axis] + depth;
  }
  return { min, max };
}

/** In Eye the base is drawn on the surface where the drag began, and grows out of it. */
function boxOnSurface(start: PanePointer, now: PanePointer, height: number): Box {
  const normal = start.normal ?? [0, 0, 1];
  const axis = dominantAxis(normal);
  const out = Math.sign(normal[axis]) || 1;
  const flat: [number, number, number] = [0, 0, 0];
  flat[axis] = 1;
  const plane: Plane = { normal: flat as Vec3, distance: start.raw[axis] };
  const [a, b] = [snapHere(start.raw), snapHere(pointOn(now, plane) ?? start.raw)];
  const min: [number, number, number] = [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.min(a[2], b[2])];
  const max: [number, number, number] = [Math.max(a[0], b[0]), Math.max(a[1], b[1]), Math.max(a[2], b[2])];
  const base = Math.round(start.raw[axis] * 100) / 100;
  min[axis] = out > 0 ? base : base - height;
  max[axis] = out > 0 ? base + height : base;
  return { min, max };
}

const floorUnder = (p: PanePointer): number => (p.pane === 'plan' ? surfaceUnder(editor().doc, p.raw) : 0);

const isFlat = (box: Box): boolean => [0, 1, 2].some((i) => box.max[i]! - box.min[i]! <= 0);

/** Drag the base, adjust or type sizes, Enter or click commits. A free polygon is clicked corner by corner on the Plan. */
export function drawTool(): Tool {
  let state: State = { name: 'idle' };
  /** What the ids of the ghost follow from: what is kept then is what was seen. */
  let seed = newId();
  function show(box: Box, outline: readonly Point2[] | null, typed: string): void {
    const { preview, setOverlay, select } = editor();
    const done = preview(drawCall(box, outline), seed);
    if (done) select(selectionOf(done.made!));
    setOverlay({
      sizes: box,
      typed,
      ...(done ? {} : { note: 'These numbers make no valid shape yet. Enter says why.' }),
    });
  }
  function showOutline(corners: readonly Point2[], floor: number, pointer: Point2 | null): void {
    editor().setOverlay({ lines: [cornersLine(corners, pointer, floor)] });
  }
  /** Ends the outline of a free polygon: its height is then adjusted or typed. */
  function closeOutline(corners: readonly Point2[], floor: number): void {
    if (corners.length < 3) return void tool.cancel();
    const xs = corners.map((c) => c[0]);
    const ys = corners.map((c) => c[1]);
    const box: Box = {
      min: [Math.min(...xs), Math.min(...ys), floor],
      max: [Math.max(...xs), Math.max(...ys), floor + useDrawOptions.getState().height],
    };
    state = { name: 'ready', box, outline: corners, typed: '', press: null };
    show(box, corners, '');
  }
  /** The options changed while a shape is being drawn: its ghost follows. */
  function redrawGhost(): void {
    if (state.name === 'ready') show(state.box, state.outline, state.typed);
  }
  for (const store of [useDrawOptions, useShapes]) store.subscribe(redrawGhost);
  const tool: Tool = {
    name: 'draw',
    label: 'Draw',
    hint: 'Drag the base in any pane; type sizes like 128 64 96; Enter keeps it.',
    key: 'b',
    icon: IconCube,
    options: [optionsIn(useDrawOptions, { shape, height }), shapeOptions, optionsIn(useDrawOptions, { role })],

    down: (p) => {
      if (state.name === 'ready' || state.name === 'outline') {
        state = { ...state, press: p };
        return;
      }
      state = { name: 'pressed', start: p, floor: floorUnder(p) };
    },
    move: (p) => {
      const polygon = useDrawOptions.getState().shape === 'polygon';
      if (state.name === 'ready' && state.press && !samePixel(state.press, p)) {
        // A new drag keeps what is there and starts the next one.
        const { press } = state;
        tool.commit();
        state = { name: 'pressed', start: press, floor: floorUnder(press) };
      }
      if (state.name === 'outline') return showOutline(state.corners, state.floor, [p.snapped[0], p.snapped[1]]);
      if (state.name === 'pressed' && !polygon && !samePixel(state.start, p)) {
        seed = newId();
        state = { ...state, name: 'dragging' };
      }
      if (state.name === 'dragging') show(boxBetween(state.start, p, state.floor), null, '');
    },
    up: (p) => {
      const at: Point2 = [p.snapped[0], p.snapped[1]];
      if (state.name === 'dragging') {
        const box = boxBetween(state.start, p, state.floor);
        if (isFlat(box)) return void tool.cancel();
        state = { name: 'ready', box, outline: null, typed: '', press: null };
        show(box, null, '');
      } else if (state.name === 'ready' && state.press) tool.commit();
      else if (state.name === 'outline' && state.press) {
        if (closesOutline(state.corners, at)) return closeOutline(state.corners, state.floor);
        state = { ...state, corners: [...state.corners, at], press: null };
        showOutline(state.corners, state.floor, null);
      } else if (state.name === 'pressed' && useDrawOptions.getState().shape === 'polygon' && p.pane === 'plan') {
        seed = newId();
        state = { name: 'outline', corners: [at], floor: state.floor, press: null };
        showOutline(state.corners, state.floor, null);
      } else state = { name: 'idle' };
    },
    cancel: () => {
      const had = state.name !== 'idle';
      if (state.name === 'outline' && state.corners.length > 1) {
        // One Esc takes back one corner.
        state = { ...state, corners: state.corners.slice(0, -1), press: null };
        showOutline(state.corners, state.floor, null);
        return true;
      }
      state = { name: 'idle' };
      const { preview, setOverlay, select, selection } = editor();
      preview(null);
      setOverlay({});
      if (had)
        select(
          selectOnly(
            [...selection.brushes].filter((id) => editor().doc.brushes.has(id)).map((id) => ({ type: 'brush', id })),
          ),
        );
      return had;
    },
    commit: () => {
      if (state.name === 'outline') {
        closeOutline(state.corners, state.floor);
        return true;
      }
      if (state.name !== 'ready') return false;
      const { box, outline } = state;
      // A refused shape stays to be corrected.
      if (!editor().run(drawCall(box, outline), seed)) {
        show(box, outline, state.typed);
        return true;
      }
      state = { name: 'idle' };
      seed = newId();
      return true;
    },
    type: (text) => {
      if (state.name !== 'ready') return false;
      const typed = typedOn(state.typed, text);
      const sizes = typedHere(typed);
      const { min, max } = state.box;
      // Of a free polygon only the height can be typed.
      const size = [0, 1, 2].map(
        (i) => (state.name === 'ready' && state.outline ? (i === 2 ? sizes[0] : null) : sizes[i]) ?? max[i]! - min[i]!,
      );
      const box: Box = { min, max: [min[0] + size[0]!, min[1] + size[1]!, min[2] + size[2]!] as Vec3 };
      state = { ...state, box: size.every((s) => s > 0) ? box : state.box, typed };
      show(state.box, state.outline, typed);
      return true;
    },
    cursor: () => 'crosshair',
  };
  return tool;
}
