import { call, insideOutline, newId, boxOfRoom, type Call, type Point2, type Room } from '@yesca/core';
import { PLAIN_DRESS } from '@yesca/stock';
import { reveal } from '../commands/viewing.ts';
import { useEditor } from '../state/editor.ts';
import { selectionOf, selectOnly } from '../state/selection.ts';
import { keepWalls } from './keep-walls.ts';
import { optionsIn, samePixel, typedHere, typedOn, type PanePointer, type Tool } from './tool.ts';
import { options } from '../state/kept.ts';
import { params } from '@yesca/core';
import { IconSquareRoundedPlus } from '@tabler/icons-react';
import { useCamera } from '../state/camera.ts';
import { closesOutline, cornersLine } from './corners.ts';

/** What a room is made like, and what a footprint drawn inside one becomes. */
export const useRoomOptions = options('room', {
  height: params.length(272, { label: 'Height', help: 'Clear height from floor to ceiling', min: 8 }),
  wall: params.length(16, { label: 'Walls', help: 'Thickness of walls, floor and ceiling', min: 1 }),
  open: params.yesNo(false, { label: 'Open sky', help: 'No ceiling: the sky above' }),
  inset: params.choice(['platform', 'pillar', 'pit', 'pool'], 'platform', {
    label: 'Inside a room',
    help: 'What a footprint drawn inside a room becomes',
    names: { platform: 'Platform', pillar: 'Pillar', pit: 'Pit', pool: 'Pool' },
  }),
  insetHeight: params.length(32, {
    label: 'Rise or depth',
    help: 'How far it stands up or is sunk',
    min: 1,
    shownWhen: (values) => values.inset !== 'pillar',
  }),
});

/** The level that new things stand on. */
const floor = optionsIn(useCamera, {
  level: params.length(0, { label: 'Floor at', help: 'Height of the floor: the level things stand on', min: -100_000 }),
});

type State =
  | { readonly name: 'idle' }
  | { readonly name: 'pressed' | 'dragging'; readonly start: PanePointer }
  | { readonly name: 'polygon'; readonly corners: readonly Point2[]; readonly press: PanePointer | null }
  | {
      readonly name: 'ready';
      readonly corner: Point2;
      readonly size: Point2;
      readonly height: number;
      readonly typed: string;
      readonly press: PanePointer | null;
    };

const editor = () => useEditor.getState();

function hostAt(p: PanePointer): string | null {
  const { level } = useCamera.getState();
  const around = ({ footprint, floor, ceiling }: Room) =>
    floor <= level + 1 && ceiling > level && insideOutline(footprint, [p.raw[0], p.raw[1]]);
  return [...editor().doc.rooms.values()].find(around)?.id ?? null;
}

/** How high a footprint inside a room stands, or how deep it is sunk, and where a pool's surface is. */
function insetHeight(room: Room, typed: number | null): { height: number; fill?: number } {
  const { inset, insetHeight: usual } = useRoomOptions.getState();
  const size = Math.max(1, typed ?? usual);
  if (inset === 'pillar') return { height: room.ceiling - room.floor };
  if (inset === 'platform') return { height: size };
  return inset === 'pit' ? { height: -size } : { height: -size, fill: Math.min(16, size / 4) };
}

const rectangle = ([x, y]: Point2, [w, d]: Point2): Point2[] => [
  [x, y],
  [x + w, y],
  [x + w, y + d],
  [x, y + d],
];

/**
 * Where a room of a typed size goes: where it was drawn, or, where it then would reach into another room, moved the shortest
 * way off it until one wall stands between the two.
 */
function beside([x, y]: Point2, [w, d]: Point2): Point2 {
  const { wall, height: roomHeight } = useRoomOptions.getState();
  const { level } = useCamera.getState();
  let at: [number, number] = [x, y];
  for (const room of editor().doc.rooms.values()) {
    const { min, max } = boxOfRoom(room);
    const gap = Math.max(wall, room.wall);
    if (max[2] <= level || min[2] >= level + roomHeight) continue;
    if (at[0] >= max[0] || at[0] + w <= min[0] || at[1] >= max[1] || at[1] + d <= min[1]) continue;
    const ways = [
      [max[0] + gap - at[0], 0],
      [min[0] - gap - w - at[0], 0],
      [0, max[1] + gap - at[1]],
      [0, min[1] - gap - d - at[1]],
    ] as const;
    const [dx, dy] = ways.reduce((p, q) => (Math.abs(q[0] + q[1]) < Math.abs(p[0] + p[1]) ? q : p));
    at = [at[0] + dx, at[1] + dy];
  }
  return at;
}

function showPolygon(corners: readonly Point2[], pointer: Point2 | null): void {
  const { level } = useCamera.getState();
  editor().setOverlay({ lines: [cornersLine(corners, pointer, level)] });
}

/** Drag a rectangle or click corners; type width, depth and height; Enter or a click commits. */
export function roomTool(): Tool {
  let state: State = { name: 'idle' };
  /** What the id of the room follows from: what is kept then is what was seen. */
  let seed = newId();
  /** The room of the active level that the gesture began in: a footprint drawn there stands up from its floor or is sunk into it. */
  let host: string | null = null;
  function roomCall(footprint: readonly Point2[], height: number): Call {
    const { level } = useCamera.getState();
    const { wall, open, height: roomHeight } = useRoomOptions.getState();
    const room = host ? editor().doc.rooms.get(host) : undefined;
    if (room)
      return call('inset.add', {
        room: room.id,
        footprint,
        ...insetHeight(room, height === roomHeight ? null : height),
      });
    return call('room.add', { footprint, floor: level, ceiling: level + height, wall, open, dress: PLAIN_DRESS });
  }
  function show(footprint: readonly Point2[], height: number, typed: string): void {
    const { preview, setOverlay, select } = editor();
    const { level } = useCamera.getState();
    const done = preview(roomCall(footprint, height), seed);
    if (done) select(selectionOf(done.made!));
    const xs = footprint.map((p) => p[0]);
    const ys = footprint.map((p) => p[1]);
    setOverlay({
      sizes: {
        min: [Math.min(...xs), Math.min(...ys), level],
        max: [Math.max(...xs), Math.max(...ys), level + height],
      },
      typed,
    });
  }
  /** The rectangle of a drag, held off from the rooms beside it so that one wall stays between. */
  function dragged(start: PanePointer, now: PanePointer): { corner: Point2; size: Point2 } {
    const [a, b] = [start.snapped, now.snapped];
    const { wall, height: roomHeight } = useRoomOptions.getState();
    const { level } = useCamera.getState();
    if (host) {
      const min: Point2 = [Math.min(a[0], b[0]), Math.min(a[1], b[1])];
      return { corner: min, size: [Math.max(a[0], b[0]) - min[0], Math.max(a[1], b[1]) - min[1]] };
    }
    const box = keepWalls(
      { min: [Math.min(a[0], b[0]), Math.min(a[1], b[1])], max: [Math.max(a[0], b[0]), Math.max(a[1], b[1])] },
      editor().doc.rooms.values(),
      { wall, floor: level, ceiling: level + roomHeight },
    );
    return { corner: box.min, size: [box.max[0] - box.min[0], box.max[1] - box.min[1]] };
  }
  function closePolygon(corners: readonly Point2[]): void {
    state = { name: 'idle' };
    if (corners.length < 3) return void editor().setOverlay({});
    editor().run(roomCall(corners, useRoomOptions.getState().height));
  }
  const tool: Tool = {
    name: 'room',
    label: 'Room',
    hint: 'Drag on the Plan, or click corners and Enter. Inside a room: a platform, pillar, pit or pool.',
    key: 'r',
    icon: IconSquareRoundedPlus,
    options: [floor, optionsIn(useRoomOptions, useRoomOptions.specs)],

    down: (p) => {
      if (p.pane !== 'plan') return;
      if (state.name === 'ready' || state.name === 'polygon') state = { ...state, press: p };
      else {
        host = hostAt(p);
        state = { name: 'pressed', start: p };
      }
    },
    move: (p) => {
      if (state.name === 'ready' && state.press && !samePixel(state.press, p)) {
        const { press } = state;
        tool.commit();
        host = hostAt(press);
        state = { name: 'pressed', start: press };
      }
      if (state.name === 'pressed' && !samePixel(state.start, p)) {
        seed = newId();
        state = { name: 'dragging', start: state.start };
      }
      if (state.name === 'dragging') {
        const { corner, size } = dragged(state.start, p);
        if (size[0] > 0 && size[1] > 0) show(rectangle(corner, size), useRoomOptions.getState().height, '');
      } else if (state.name === 'polygon') showPolygon(state.corners, [p.snapped[0], p.snapped[1]]);
    },
    up: (p) => {
      const at: Point2 = [p.snapped[0], p.snapped[1]];
      if (state.name === 'dragging') {
        const { corner, size } = dragged(state.start, p);
        if (!(size[0] > 0 && size[1] > 0)) return void tool.cancel();
        state = { name: 'ready', corner, size, height: useRoomOptions.getState().height, typed: '', press: null };
        show(rectangle(corner, size), state.height, '');
      } else if (state.name === 'ready' && state.press) tool.commit();
      else if (state.name === 'pressed') {
        state = { name: 'polygon', corners: [at], press: null };
        showPolygon([at], null);
      } else if (state.name === 'polygon' && state.press) {
        if (closesOutline(state.corners, at)) closePolygon(state.corners);
        else {
          state = { name: 'polygon', corners: [...state.corners, at], press: null };
          showPolygon(state.corners, null);
        }
      }
    },
    cancel: () => {
      const had = state.name !== 'idle';
      if (state.name === 'polygon' && state.corners.length > 1) {
        // One Esc takes back one corner.
        state = { ...state, corners: state.corners.slice(0, -1), press: null };
        showPolygon(state.corners, null);
        return true;
      }
      state = { name: 'idle' };
      const { preview, setOverlay, select, selection } = editor();
      preview(null);
      setOverlay({});
      if (had)
        select(
          selectOnly(
            [...selection.rooms].filter((id) => editor().doc.rooms.has(id)).map((id) => ({ type: 'room', id })),
          ),
        );
      return had;
    },
    commit: () => {
      if (state.name === 'polygon') {
        closePolygon(state.corners);
        return true;
      }
      if (state.name !== 'ready') return false;
      const { corner, size, height } = state;
      state = { name: 'idle' };
      const done = editor().run(roomCall(rectangle(corner, size), height), seed);
      const room = editor().doc.rooms.get(done?.made?.rooms?.[0] ?? '');
      if (room) reveal(boxOfRoom(room));
      return true;
    },
    start: (p) => {
      if (p.pane !== 'plan' || state.name === 'ready') return;
      tool.cancel();
      seed = newId();
      host = hostAt(p);
      const size: Point2 = host ? [64, 64] : [512, 384];
      const height = useRoomOptions.getState().height;
      const at: Point2 = [p.snapped[0], p.snapped[1]];
      state = { name: 'ready', corner: host ? at : beside(at, size), size, height, typed: '', press: null };
      show(rectangle(state.corner, size), height, '');
    },
    type: (text) => {
      if (state.name !== 'ready') return false;
      const typed = typedOn(state.typed, text);
      const sizes = typedHere(typed);
      const positive = (value: number | null | undefined, old: number) => (value && value > 0 ? value : old);
      state = {
        ...state,
        typed,
        size: [positive(sizes[0], state.size[0]), positive(sizes[1], state.size[1])],
        height: positive(sizes[2], state.height),
      };
      if (!host) state = { ...state, corner: beside(state.corner, state.size) };
      show(rectangle(state.corner, state.size), state.height, typed);
      return true;
    },
    cursor: () => 'crosshair',
  };
  return tool;
}
