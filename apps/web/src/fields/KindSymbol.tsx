import { createElement, memo } from 'react';
import { svgElements, symbolDrawing } from '@yesca/core';

/** The symbol of a kind of thing, as the drawings show it; a plain square for a kind of a newer version. */
export const KindSymbol = memo(function KindSymbol({ kind, size = 16 }: { kind: string; size?: number }) {
  const drawing = symbolDrawing(kind);
  const [x, y, w, h] = drawing?.viewBox ?? [-8, -8, 16, 16];
  return (
    <svg
      className="kind-symbol"
      data-kind={kind}
      width={size}
      height={size}
      viewBox={`${x} ${y} ${w} ${h}`}
      fill="none"
      stroke="currentColor"
      strokeWidth={(1.3 * w) / size}
      strokeLinejoin="round"
      aria-hidden
    >
      {drawing ? (
        // Numbers are too small to be read here.
        svgElements(drawing.strokes.filter((stroke) => !('text' in stroke))).map(({ name, attributes }, key) =>
          createElement(name, { key, ...attributes }),
        )
      ) : (
        <rect x={-5} y={-5} width={10} height={10} />
      )}
    </svg>
  );
});
