import './flat.css';
import { ActionIcon, Group, Text, Tooltip } from '@mantine/core';
import { useElementSize, useMergedRef } from '@mantine/hooks';
import { IconArrowsMaximize, IconX } from '@tabler/icons-react';
import { useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import {
  call,
  changeTexels,
  findFaces,
  texelAt,
  texelBox,
  type MapDocument,
  type TexelBox,
  type TexelChange,
} from '@yesca/core';
import { pictureUrl } from '../state/remote.ts';
import { Choice } from '../fields/Choice.tsx';
import { shownDocument, useEditor } from '../state/editor.ts';
import { materialFacts } from '../state/library.ts';
import { bordersOf, framesCall, scaleChange, snappedShift, type TextureGrip } from '../tools/texture-box.ts';
import { useInks } from './inks.ts';
import { useLaying } from '../state/laying.ts';
import { useLayout } from '../state/layout.ts';
import { angleStep } from '../state/work.ts';
import { HANDLES } from '../geometry/handle-places.ts';

/** What the flat view shows: where texel (0, 0) lies on screen, and pixels a texel. */
interface FlatFrame {
  readonly x: number;
  readonly y: number;
  readonly zoom: number;
}

type Drag =
  | { readonly kind: 'pan'; readonly x: number; readonly y: number; readonly frame: FlatFrame }
  | { readonly kind: 'offset'; readonly from: readonly [number, number]; readonly box: TexelBox }
  | { readonly kind: 'scale'; readonly grip: Extract<TextureGrip, { kind: 'scale' }>; readonly box: TexelBox };

const GRIP = 8;

/** Outlines of the selected faces in texels, those of other materials than the first one's left out. */
function outlinesOf(doc: MapDocument, refs: ReturnType<typeof useEditor.getState>['selection']['faces']) {
  const there = refs.filter((r) => doc.brushes.get(r.brush)?.faces.some((f) => f.id === r.face));
  const faces = findFaces(doc, there);
  return {
    material: faces[0]?.face.material ?? null,
    outlines: faces.map((f) => f.winding.map((p) => texelAt(f.frame, p))),
    box: faces.length ? texelBox(faces.map((f) => ({ frame: f.frame, points: f.winding }))) : null,
  };
}

const pictures = new Map<string, HTMLImageElement>();
/** A material's picture, loaded once; `ready` is called when it has arrived. */
function pictureOf(name: string, ready: () => void): HTMLImageElement {
  let image = pictures.get(name);
  if (!image) {
    image = new Image();
    image.src = pictureUrl(name, 'albedo');
    pictures.set(name, image);
  }
  if (!image.complete) image.addEventListener('load', ready, { once: true });
  return image;
}

/** The selected faces laid flat over their picture: the picture lies still, the faces are moved, scaled and turned on it. */
export function FlatView() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { ref, width, height } = useElementSize();
  const box = useRef<HTMLDivElement>(null);
  const merged = useMergedRef(ref, box);
  const doc = useEditor(shownDocument);
  const refs = useEditor((s) => s.selection.faces);
  const { texelStep } = useLaying();
  const inks = useInks();
  const [snap, setSnap] = useState<'edges' | 'texels' | 'off'>('edges');
  const [, redraw] = useState(0);
  const drag = useRef<Drag | null>(null);
  const flat = useMemo(() => outlinesOf(doc, refs), [doc, refs]);

  // Other faces come into view when they are selected; while they are dragged the picture lies still.
  const key = refs.map((r) => `${r.brush} ${r.face}`).join();
  const [held, setHeld] = useState<{ readonly key: string; readonly frame: FlatFrame } | null>(null);
  const frame = held?.key === key ? held.frame : fitted(flat.box, width, height);
  const setFrame = (next: FlatFrame) => setHeld({ key, frame: next });

  const toTexel = (x: number, y: number): [number, number] => [(x - frame.x) / frame.zoom, (y - frame.y) / frame.zoom];
  const toPixel = ([u, v]: readonly [number, number]): [number, number] => [
    u * frame.zoom + frame.x,
    v * frame.zoom + frame.y,
  ];

  useEffect(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx || width === 0) return;
    const ratio = Math.min(2, window.devicePixelRatio);
    canvas.current!.width = width * ratio;
    canvas.current!.height = height * ratio;
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    ctx.fillStyle = inks.sunk;
    ctx.fillRect(0, 0, width, height);
    const facts = flat.material ? materialFacts(flat.material) : undefined;
    if (flat.material && facts) {
      const image = pictureOf(flat.material, () => redraw((n) => n + 1));
      const [w, h] = [facts.width * frame.zoom, facts.height * frame.zoom];
      ctx.imageSmoothingEnabled = frame.zoom < 3;
      const start = (at: number, size: number) => at - Math.ceil(at / size) * size;
      if (image.complete && image.naturalWidth > 0)
        for (let y = start(frame.y, h); y < height; y += h)
          for (let x = start(frame.x, w); x < width; x += w) ctx.drawImage(image, x, y, w, h);
      ctx.strokeStyle = inks.ink;
      ctx.globalAlpha = 0.5;
      ctx.lineWidth = 1;
      ctx.beginPath();
      for (let x = start(frame.x, w); x < width; x += w) ctx.rect(x, -1, 0, height + 2);
      for (let y = start(frame.y, h); y < height; y += h) ctx.rect(-1, y, width + 2, 0);
      ctx.stroke();
      ctx.setLineDash([4, 3]);
      for (const r of facts.regions ?? [])
        ctx.strokeRect(...toPixel([r.x, r.y]), r.width * frame.zoom, r.height * frame.zoom);
      ctx.setLineDash([]);
      if (frame.zoom >= 6) {
        ctx.globalAlpha = 0.18;
        ctx.beginPath();
        for (let x = start(frame.x, frame.zoom); x < width; x += frame.zoom) ctx.rect(x, 0, 0, height);
        for (let y = start(frame.y, frame.zoom); y < height; y += frame.zoom) ctx.rect(0, y, width, 0);
        ctx.stroke();
      }
      ctx.globalAlpha = 1;
    }
    flat.outlines.forEach((points, i) => {
      ctx.beginPath();
      points.forEach((p, k) => (k === 0 ? ctx.moveTo(...toPixel(p)) : ctx.lineTo(...toPixel(p))));
      ctx.closePath();
      ctx.fillStyle = inks.wash;
      ctx.fill();
      ctx.strokeStyle = inks.sheet;
      ctx.lineWidth = i === 0 ? 5 : 4;
      ctx.stroke();
      ctx.strokeStyle = inks.indigo;
      ctx.lineWidth = i === 0 ? 2.5 : 1.5;
      ctx.stroke();
    });
    if (flat.box)
      for (const [u, v] of HANDLES) {
        const [x, y] = gripAt(flat.box, u, v, toPixel);
        ctx.fillStyle = inks.sheet;
        ctx.strokeStyle = inks.indigo;
        ctx.lineWidth = 1.5;
        ctx.fillRect(x - GRIP / 2, y - GRIP / 2, GRIP, GRIP);
        ctx.strokeRect(x - GRIP / 2, y - GRIP / 2, GRIP, GRIP);
      }
  });

  const apply = (change: TexelChange) =>
    framesCall(useEditor.getState().doc, refs, (f) => changeTexels(f.frame, change));
  const changeOf = (event: PointerEvent, d: Drag): { change: TexelChange; note: string } | null => {
    const bounds = box.current!.getBoundingClientRect();
    const at = toTexel(event.clientX - bounds.left, event.clientY - bounds.top);
    if (d.kind === 'offset') {
      const facts = flat.material ? materialFacts(flat.material) : undefined;
      const shift = ([0, 1] as const).map((axis) => {
        const raw = at[axis] - d.from[axis];
        if (snap === 'off' || event.altKey) return raw;
        if (snap === 'texels') return Math.round(raw);
        return snappedShift(
          raw,
          d.box.min[axis],
          d.box.max[axis],
          bordersOf(flat.material ?? '', axis),
          (axis === 0 ? facts?.width : facts?.height) ?? 512,
        );
      });
      return {
        change: { ku: 1, kv: 1, du: shift[0]!, dv: shift[1]! },
        note: `Moved ${Math.round(shift[0]!)}, ${Math.round(shift[1]!)} texels over the picture`,
      };
    }
    if (d.kind !== 'scale') return null;
    // Here the outline follows the pointer; in the room the picture does. One is the other turned round.
    const snapped = ([0, 1] as const).map((axis) => (snap === 'off' || event.altKey ? at[axis] : Math.round(at[axis])));
    const inverse = scaleChange(d.box, d.grip, snapped as [number, number], event.shiftKey);
    const [ku, kv] = [1 / inverse.ku, 1 / inverse.kv];
    return {
      change: { ku, kv, du: -inverse.du * ku, dv: -inverse.dv * kv },
      note: `Covers ${Math.round((d.box.max[0] - d.box.min[0]) * ku)} × ${Math.round((d.box.max[1] - d.box.min[1]) * kv)} texels`,
    };
  };

  const down = (event: PointerEvent) => {
    box.current!.focus({ preventScroll: true });
    const bounds = box.current!.getBoundingClientRect();
    const [x, y] = [event.clientX - bounds.left, event.clientY - bounds.top];
    event.currentTarget.setPointerCapture(event.pointerId);
    setFrame(frame);
    if (event.button !== 0 || !flat.box) {
      drag.current = { kind: 'pan', x: event.clientX, y: event.clientY, frame };
      return;
    }
    const grip = HANDLES.find(([u, v]) => {
      const [gx, gy] = gripAt(flat.box!, u, v, toPixel);
      return Math.hypot(gx - x, gy - y) <= GRIP;
    });
    const [u, v] = toTexel(x, y);
    const { min, max } = flat.box;
    const inside = u >= min[0] && u <= max[0] && v >= min[1] && v <= max[1];
    drag.current = grip
      ? { kind: 'scale', grip: { kind: 'scale', u: grip[0], v: grip[1] }, box: flat.box }
      : inside
        ? { kind: 'offset', from: [u, v], box: flat.box }
        : { kind: 'pan', x: event.clientX, y: event.clientY, frame };
  };
  const move = (event: PointerEvent) => {
    const d = drag.current;
    if (!d) return;
    if (d.kind === 'pan')
      return setFrame({ ...d.frame, x: d.frame.x + event.clientX - d.x, y: d.frame.y + event.clientY - d.y });
    const now = changeOf(event, d);
    if (!now) return;
    useEditor.getState().preview(apply(now.change));
    useEditor.getState().setOverlay({ note: now.note });
  };
  const up = (event: PointerEvent) => {
    const d = drag.current;
    drag.current = null;
    const now = d && d.kind !== 'pan' ? changeOf(event, d) : null;
    if (now) useEditor.getState().run(apply(now.change));
  };
  const frameNow = useRef(frame);
  const zoomTo = useRef(setFrame);
  useEffect(() => {
    frameNow.current = frame;
    zoomTo.current = setFrame;
  });
  useEffect(() => {
    const element = box.current!;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const bounds = element.getBoundingClientRect();
      const [x, y] = [event.clientX - bounds.left, event.clientY - bounds.top];
      const by = Math.exp(-event.deltaY * 0.0015);
      const f = frameNow.current;
      const zoom = Math.max(0.02, Math.min(32, f.zoom * by));
      const k = zoom / f.zoom;
      zoomTo.current({ zoom, x: x - (x - f.x) * k, y: y - (y - f.y) * k });
    };
    const escape = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || !drag.current) return;
      drag.current = null;
      useEditor.getState().preview(null);
      useEditor.getState().setOverlay({});
      event.stopImmediatePropagation();
    };
    element.addEventListener('wheel', wheel, { passive: false });
    window.addEventListener('keydown', escape, true);
    return () => {
      element.removeEventListener('wheel', wheel);
      window.removeEventListener('keydown', escape, true);
    };
  }, []);
  const turn = (degrees: number) =>
    useEditor
      .getState()
      .run(call('face.align', { faces: refs, align: { do: 'turn', degrees }, asPiece: useLaying.getState().asPiece }));

  return (
    <section className="flat" aria-label="Flat view of the selected faces">
      <Group className="flat-head" gap={8} wrap="nowrap">
        <Text size="xs" fw={620}>
          Flat view
        </Text>
        <Choice
          label="Snap"
          tip="What the faces catch on when they are moved over the picture; Alt lets go"
          value={snap}
          options={[
            ['edges', 'Borders'],
            ['texels', 'Texels'],
            ['off', 'Off'],
          ]}
          onChange={setSnap}
        />
        <Tooltip label="Turn the picture by the angle step; Shift the other way">
          <button type="button" className="link-button" onClick={(e) => turn((e.shiftKey ? -1 : 1) * angleStep())}>
            Turn
          </button>
        </Tooltip>
        <Text size="xs" c="dimmed" flex={1} truncate>
          {flat.box
            ? `Drag faces over the picture · Shift arrows: ${texelStep} tx`
            : 'Select faces: Ctrl-click in Paint, Alt-click in Pick.'}
        </Text>
        <Tooltip label="Fit the faces into the view">
          <ActionIcon size="sm" aria-label="Fit the faces into the view" onClick={() => setHeld(null)}>
            <IconArrowsMaximize size={14} stroke={1.5} />
          </ActionIcon>
        </Tooltip>
        <Tooltip label="Close the flat view — D">
          <ActionIcon size="sm" aria-label="Close the flat view" onClick={() => useLayout.setState({ flat: false })}>
            <IconX size={14} stroke={1.5} />
          </ActionIcon>
        </Tooltip>
      </Group>
      <div
        ref={merged}
        className="flat-body"
        data-testid="flat-view"
        data-flat={JSON.stringify({ ...frame, box: flat.box })}
        tabIndex={-1}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onContextMenu={(e) => e.preventDefault()}
      >
        <canvas ref={canvas} style={{ width, height }} />
      </div>
    </section>
  );
}

/** The faces in the middle, as large as they fit. */
function fitted(box: TexelBox | null, width: number, height: number): FlatFrame {
  if (!box || width === 0) return { x: 40, y: 40, zoom: 0.5 };
  const { min, max } = box;
  const zoom = Math.max(0.02, Math.min(16, (width - 90) / (max[0] - min[0]), (height - 90) / (max[1] - min[1])));
  return { zoom, x: width / 2 - ((min[0] + max[0]) / 2) * zoom, y: height / 2 - ((min[1] + max[1]) / 2) * zoom };
}

/** Where a handle of the covered part lies on screen. */
const gripAt = (
  { min, max }: TexelBox,
  u: number,
  v: number,
  toPixel: (t: [number, number]) => [number, number],
): [number, number] =>
  toPixel([(min[0] + max[0]) / 2 + ((max[0] - min[0]) / 2) * u, (min[1] + max[1]) / 2 + ((max[1] - min[1]) / 2) * v]);
