import './decal-sheet.css';
import { Button, Group, SegmentedControl, Text, Tooltip } from '@mantine/core';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { call, decalOf, outlineOf, pictureRegion, type DecalInk, type Entity, type Point2 } from '@yesca/core';
import { Color } from '../../fields/Color.tsx';
import { LengthField } from '../../fields/LengthField.tsx';
import { pictureUrl } from '../../state/remote.ts';
import { useLibrary } from '../../state/library.ts';
import { run } from './shared.tsx';

const AS_IS: DecalInk = { color: '#ffffff', opacity: 1 };
/** Corners are moved by keys so far, in parts of the picture. */
const STEP = 0.01;
/** A pointer that moved no farther than this (pixels) stood still. */
const STILL = 3;
/** Dragged less far than this (parts of the picture) a rectangle is none. */
const LEAST = 0.03;

type Way = 'rectangle' | 'outline';

const clamp = (x: number): number => Math.round(Math.max(0, Math.min(1, x)) * 1000) / 1000;

const between = ([ax, ay]: Point2, [bx, by]: Point2): Point2[] => {
  const [x0, x1, y0, y1] = [Math.min(ax, bx), Math.max(ax, bx), Math.min(ay, by), Math.max(ay, by)];
  return [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
};

/** What of its picture a decal shows: cut by a rectangle or an outline, its corners moved, tinted and faded. */
export function DecalSheet({ thing }: { thing: Entity }) {
  const decal = decalOf(thing)!;
  const facts = useLibrary((s) => s.materials.get(decal.material));
  const box = useRef<HTMLDivElement>(null);
  /** Where a corner was taken hold of, in pixels. */
  const pressed = useRef<readonly [number, number]>([0, 0]);
  const [way, setWay] = useState<Way>('rectangle');
  const [chosen, setChosen] = useState<number | null>(null);
  /** The corner that is dragged, with where it is by then. */
  const [dragged, setDragged] = useState<{ corner: number; to: Point2 } | null>(null);
  const [drawn, setDrawn] = useState<readonly Point2[]>([]);
  if (!facts) return null;
  const region = pictureRegion(decal, facts);
  const outline = outlineOf(decal);
  const shown = outline.map((p, k) => (dragged?.corner === k ? dragged.to : p));
  const inks = outline.map((_, k) => decal.inks[k] ?? AS_IS);
  const put = (corners: readonly Point2[], tints: readonly DecalInk[], label: string) =>
    run(call('decal.cut', { things: [thing.id], label, outline: corners, inks: tints }));
  const at = (e: PointerEvent): Point2 => {
    const b = box.current!.getBoundingClientRect();
    return [clamp((e.clientX - b.left) / b.width), clamp(1 - (e.clientY - b.top) / b.height)];
  };
  const move = (corner: number, to: Point2) =>
    put(
      outline.map((p, k) => (k === corner ? to : p)),
      inks,
      'Move corner',
    );
  const remove = (corner: number) => {
    setChosen(null);
    put(
      outline.filter((_, k) => k !== corner),
      inks.filter((_, k) => k !== corner),
      'Remove corner',
    );
  };
  const insert = (after: number) => {
    const [a, b] = [outline[after]!, outline[(after + 1) % outline.length]!];
    const [ink, next] = [inks[after]!, inks[(after + 1) % inks.length]!];
    const middle: Point2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    const tint = { color: ink.color, opacity: (ink.opacity + next.opacity) / 2 };
    put(outline.toSpliced(after + 1, 0, middle), inks.toSpliced(after + 1, 0, tint), 'Add corner');
    setChosen(after + 1);
  };
  const close = (corners: readonly Point2[]) => {
    setDrawn([]);
    if (corners.length >= 3) put(corners, [], 'Cut decal');
  };
  const tint = (change: Partial<DecalInk>) =>
    chosen !== null &&
    put(
      outline,
      inks.map((ink, k) => (k === chosen ? { ...ink, ...change } : ink)),
      'Tint corner',
    );
  const keys = (e: KeyboardEvent) => {
    if (e.key === 'Enter' && drawn.length >= 3) close(drawn);
    else if (e.key === 'Escape' && drawn.length > 0) setDrawn([]);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const cornerKeys = (corner: number) => (e: KeyboardEvent) => {
    const [x, y] = outline[corner]!;
    const by = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, STEP], ArrowDown: [0, -STEP] }[e.key];
    if (by) move(corner, [clamp(x + by[0]!), clamp(y + by[1]!)]);
    else if (e.key === 'Delete' && outline.length > 3) remove(corner);
    else if (e.key === 'Insert') insert(corner);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const percent = ([x, y]: Point2): string => `${x * 100},${(1 - y) * 100}`;
  const place = ([x, y]: Point2) => ({ left: `${x * 100}%`, top: `${(1 - y) * 100}%` });
  const selected = chosen !== null && chosen < outline.length ? chosen : null;
  return (
    <>
      <SegmentedControl
        size="xs"
        fullWidth
        aria-label="How it is cut"
        value={way}
        data={[
          { value: 'rectangle', label: 'Cut a rectangle' },
          { value: 'outline', label: 'Cut an outline' },
        ]}
        onChange={(value) => {
          setWay(value as Way);
          setDrawn([]);
        }}
      />
      <div
        ref={box}
        className="decal-sheet"
        tabIndex={0}
        role="application"
        aria-label="What of the picture is there: drag a rectangle, or click the corners of an outline and press Enter"
        style={{
          aspectRatio: `${region.width} / ${region.height}`,
          backgroundImage: `url(${pictureUrl(facts.name, 'albedo')})`,
          backgroundSize: `${(facts.width / region.width) * 100}% ${(facts.height / region.height) * 100}%`,
          backgroundPosition: `${share(region.x, facts.width - region.width)}% ${share(region.y, facts.height - region.height)}%`,
        }}
        onKeyDown={keys}
        onPointerDown={(e) => {
          if (way === 'outline') {
            const p = at(e);
            const first = drawn[0];
            if (first && drawn.length >= 3 && Math.hypot(p[0] - first[0], p[1] - first[1]) < LEAST) close(drawn);
            else setDrawn([...drawn, p]);
            return;
          }
          e.currentTarget.setPointerCapture(e.pointerId);
          setDrawn([at(e), at(e)]);
        }}
        onPointerMove={(e) => {
          if (dragged) setDragged({ ...dragged, to: at(e) });
          else if (way === 'rectangle' && drawn.length === 2) setDrawn([drawn[0]!, at(e)]);
        }}
        onPointerUp={(e) => {
          // Where it is let go is told by the event: what was drawn last may not have been put down yet.
          const to = at(e);
          if (dragged) {
            setDragged(null);
            const [x, y] = pressed.current;
            if (Math.hypot(e.clientX - x, e.clientY - y) > STILL) move(dragged.corner, to);
          } else if (way === 'rectangle' && drawn.length === 2) {
            const [from] = drawn as [Point2, Point2];
            setDrawn([]);
            if (Math.abs(from[0] - to[0]) > LEAST && Math.abs(from[1] - to[1]) > LEAST) close(between(from, to));
          }
        }}
      >
        <svg viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden>
          <path
            className="decal-sheet-away"
            fillRule="evenodd"
            d={`M0 0H100V100H0Z M${shown.map(percent).join(' L')}Z`}
          />
          <polygon className="decal-sheet-outline" points={shown.map(percent).join(' ')} />
          {drawn.length > 1 && (
            <polyline
              className="decal-sheet-drawn"
              points={(way === 'rectangle' ? [...between(drawn[0]!, drawn[1]!), drawn[0]!] : drawn)
                .map(percent)
                .join(' ')}
            />
          )}
        </svg>
        {drawn.length === 0 &&
          shown.map((p, k) => (
            <button
              key={k}
              type="button"
              className="decal-sheet-corner"
              aria-label={`Corner ${k + 1}: arrows move it, Insert adds one after it, Delete removes it`}
              aria-pressed={selected === k}
              style={{ ...place(p), background: inks[k]!.color, opacity: 0.35 + 0.65 * inks[k]!.opacity }}
              onPointerDown={(e) => {
                e.stopPropagation();
                box.current!.setPointerCapture(e.pointerId);
                pressed.current = [e.clientX, e.clientY];
                setChosen(k);
                setDragged({ corner: k, to: p });
              }}
              onFocus={() => setChosen(k)}
              onKeyDown={cornerKeys(k)}
            />
          ))}
      </div>
      {selected !== null ? (
        <Group gap={4} align="end" className="decal-sheet-chosen">
          <Color label={`Corner ${selected + 1}`} value={inks[selected]!.color} onChange={(color) => tint({ color })} />
          <LengthField
            label="Its opacity"
            tip="How much of the picture is there: 0 to 100 %"
            unit="%"
            value={Math.round(inks[selected]!.opacity * 100)}
            onChange={(to) => tint({ opacity: Math.max(0, Math.min(100, to)) / 100 })}
          />
          <Tooltip label="A corner half way to the next — Insert">
            <Button size="compact-xs" variant="default" onClick={() => insert(selected)}>
              Add
            </Button>
          </Tooltip>
          <Tooltip label="Takes the corner away — Delete">
            <Button size="compact-xs" variant="default" disabled={outline.length <= 3} onClick={() => remove(selected)}>
              Remove
            </Button>
          </Tooltip>
        </Group>
      ) : (
        <Text size="xs" c="dimmed">
          {way === 'rectangle'
            ? 'Drag on the picture to keep that part of it. Drag a corner to shape it; choose one to tint or fade it.'
            : 'Click corner after corner; Enter or the first one closes the outline.'}
        </Text>
      )}
      {(decal.outline.length > 0 || decal.inks.length > 0) && (
        <Tooltip label="All of the picture is there again, as it is">
          <Button
            size="compact-xs"
            variant="default"
            onClick={() => run(call('decal.cut', { things: [thing.id], label: 'Whole picture' }))}
          >
            Whole picture
          </Button>
        </Tooltip>
      )}
    </>
  );
}

/** Where a background has to be put so that it begins at a place: its part of the way that is left over. */
const share = (at: number, room: number): number => (room <= 0 ? 0 : (at / room) * 100);
