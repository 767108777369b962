import './sky-dome.css';
import { Tooltip } from '@mantine/core';
import type { PointerEvent } from 'react';
import { wrapDegrees } from '@yesca/core';

/** Where something stands in the sky: degrees counter-clockwise from east, and above the horizon. */
export interface InSky {
  readonly turn: number;
  readonly height: number;
}

/** The sky from above, the horizon at the rim: its radius, and half of the drawing's width. */
const RADIUS = 46;
const HALF = 56;

/** How far arrow keys go, degrees; with Shift. */
const STEP = 1;
const LEAP = 15;

const pointOf = ({ turn, height }: InSky): [number, number] => {
  const r = RADIUS * (1 - height / 90);
  const angle = (turn * Math.PI) / 180;
  return [r * Math.cos(angle), -r * Math.sin(angle)];
};

/** The place in the sky at a point of the drawing; the way it turns stays as it is right overhead. */
function inSky(x: number, y: number, before: InSky, least: number): InSky {
  const r = Math.min(1, Math.hypot(x, y) / RADIUS);
  const turn = r < 0.02 ? before.turn : wrapDegrees((Math.atan2(-y, x) * 180) / Math.PI);
  return { turn: Math.round(turn), height: Math.max(least, Math.round(90 * (1 - r))) };
}

const KEYS: Readonly<Record<string, readonly [turn: number, height: number]>> = {
  ArrowLeft: [1, 0],
  ArrowRight: [-1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** Drags what stands in the sky over its dome, seen from above with north at the top. */
export function SkyDome({
  label,
  at,
  least,
  onMove,
  onChange,
}: {
  label: string;
  at: InSky;
  /** The lowest it may stand, degrees. */
  least: number;
  /** While it is dragged. */
  onMove: (at: InSky) => void;
  onChange: (at: InSky) => void;
}) {
  const under = ({ clientX, clientY, currentTarget }: PointerEvent<HTMLElement>): InSky => {
    const { left, top, width, height } = currentTarget.getBoundingClientRect();
    const [u, v] = [(clientX - left) / width, (clientY - top) / height];
    return inSky((u * 2 - 1) * HALF, (v * 2 - 1) * HALF, at, least);
  };
  const [x, y] = pointOf(at);
  return (
    <Tooltip label="Drag it over the sky: north is up, the rim is the horizon, the middle straight above — arrow keys turn and raise it, Shift by 15°">
      <div
        className="sky-dome"
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuemin={least}
        aria-valuemax={90}
        aria-valuenow={at.height}
        aria-valuetext={`${Math.round(at.height)}° high, ${Math.round(at.turn)}° from east`}
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          onMove(under(e));
        }}
        onPointerMove={(e) => e.buttons & 1 && onMove(under(e))}
        onPointerUp={(e) => e.button === 0 && onChange(under(e))}
        onKeyDown={(e) => {
          const way = KEYS[e.key];
          if (!way) return;
          e.preventDefault();
          e.stopPropagation();
          const by = e.shiftKey ? LEAP : STEP;
          onChange({
            turn: wrapDegrees(at.turn + way[0] * by),
            height: Math.max(least, Math.min(90, at.height + way[1] * by)),
          });
        }}
      >
        <svg viewBox={`${-HALF} ${-HALF} ${2 * HALF} ${2 * HALF}`} aria-hidden>
          {[1, 2 / 3, 1 / 3].map((part) => (
            <circle key={part} r={RADIUS * part} className="sky-dome-ring" />
          ))}
          <path d={`M${-RADIUS} 0H${RADIUS}M0 ${-RADIUS}V${RADIUS}`} className="sky-dome-ring" />
          <text y={-RADIUS - 2.5}>N</text>
          <text x={RADIUS + 5} y={3}>
            E
          </text>
          <line x2={x} y2={y} className="sky-dome-way" />
          <circle cx={x} cy={y} r={6} className="sky-dome-sun" />
        </svg>
      </div>
    </Tooltip>
  );
}
