import './plan-picture.css';
import useSWRImmutable from 'swr/immutable';
import type { PlanDrawing } from '@yesca/core';
import { get } from '../api/client.ts';

/** A plan at its address, which never changes: what was drawn once is not asked for again. */
export function PlanAt({ address, empty }: { address: string | null; empty?: string }) {
  const { data } = useSWRImmutable(address, get<PlanDrawing>);
  return <PlanPicture drawing={data ?? null} empty={empty} />;
}

/** The plan of a map in ink. */
export function PlanPicture({ drawing, empty = 'empty sheet' }: { drawing: PlanDrawing | null; empty?: string }) {
  if (!drawing) return <span className="quiet plan-empty">{empty}</span>;
  const [x, y, w, h] = drawing.viewBox;
  const edge = Math.max(w, h) * 0.09;
  return (
    <svg viewBox={`${x - edge} ${y - edge} ${w + 2 * edge} ${h + 2 * edge}`} aria-hidden>
      <path d={drawing.below} className="plan-below" vectorEffect="non-scaling-stroke" />
      <path d={drawing.cut} className="plan-cut" vectorEffect="non-scaling-stroke" />
    </svg>
  );
}
