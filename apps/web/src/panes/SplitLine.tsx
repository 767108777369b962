import type { KeyboardEvent, PointerEvent } from 'react';
import { useLit, useLitOptions } from '../state/lit.ts';
import { useShownLit } from './EyeLit.tsx';

/** How far an arrow moves the line, and how near to the edges it comes, as a share of the pane. */
const STEP = 0.02;
const EDGE = 0.02;

const put = (split: number): void => useLit.setState({ split: Math.max(EDGE, Math.min(1 - EDGE, split)) });

/** Between the light of two builds: dragged, or moved by arrows. */
export function SplitLine() {
  const lit = useShownLit();
  const beside = useLit((s) => s.beside);
  const split = useLit((s) => s.split);
  const difference = useLitOptions((s) => s.difference);
  if (!lit || !beside || difference) return null;
  const drag = (event: PointerEvent<HTMLDivElement>) => {
    event.stopPropagation();
    if (event.type === 'pointerdown') event.currentTarget.setPointerCapture(event.pointerId);
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const { left, width } = event.currentTarget.parentElement!.getBoundingClientRect();
    put((event.clientX - left) / width);
  };
  const key = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
    if (!by) return;
    put(split + by);
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <>
      <span className="split-name" data-side="left" style={{ right: `${(1 - split) * 100}%` }}>
        {beside.lit.preset} build
      </span>
      <span className="split-name" data-side="right" style={{ left: `${split * 100}%` }}>
        {lit.from === 'live' ? 'live' : `${lit.preset} build`}
      </span>
      <div
        className="split-line"
        style={{ left: `${split * 100}%` }}
        role="slider"
        tabIndex={0}
        aria-label="Between the two builds: arrows move it"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(split * 100)}
        onPointerDown={drag}
        onPointerMove={drag}
        onPointerUp={(event) => event.stopPropagation()}
        onKeyDown={key}
      />
    </>
  );
}
