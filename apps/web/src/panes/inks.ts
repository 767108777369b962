import { useSyncExternalStore } from 'react';

/** The colours of a drawing, read from the theme's variables. */
export interface Inks {
  readonly paper: string;
  readonly sheet: string;
  readonly sunk: string;
  readonly ink: string;
  readonly soft: string;
  readonly indigo: string;
  readonly wash: string;
  readonly ember: string;
  readonly madder: string;
  readonly ochre: string;
  readonly verdigris: string;
  readonly minor: string;
  readonly major: string;
}

function readInks(): Inks {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string) => style.getPropertyValue(`--${name}`).trim();
  return {
    paper: of('paper'),
    sheet: of('sheet'),
    sunk: of('sunk'),
    ink: of('ink'),
    soft: of('ink-soft'),
    indigo: of('indigo'),
    wash: of('indigo-wash'),
    ember: of('ember'),
    madder: of('madder'),
    ochre: of('ochre'),
    verdigris: of('verdigris'),
    minor: of('grid-minor'),
    major: of('grid-major'),
  };
}

const known: { inks: Inks | null } = { inks: null };
const told = new Set<() => void>();

/** Reads the theme's colours once, and again whenever the theme is switched: asking the browser for them costs a layout. */
function currentInks(): Inks {
  if (known.inks) return known.inks;
  new MutationObserver(() => {
    known.inks = readInks();
    for (const tell of told) tell();
  }).observe(document.documentElement, { attributeFilter: ['data-mantine-color-scheme'] });
  return (known.inks = readInks());
}

function subscribe(tell: () => void): () => void {
  told.add(tell);
  return () => told.delete(tell);
}

/** The colours of a drawing in the theme that is on. */
export const useInks = (): Inks => useSyncExternalStore(subscribe, currentInks);

const patterns = new Map<string, CanvasPattern>();

/** A small repeating ink pattern: stipple for detail, diagonal hatch for clip, waves for liquid, rungs for ladders. */
export function inkPattern(
  ctx: CanvasRenderingContext2D,
  kind: 'stipple' | 'hatch' | 'waves' | 'rungs',
  ink: string,
  ground: string,
): CanvasPattern {
  const key = `${kind} ${ink} ${ground}`;
  const known = patterns.get(key);
  if (known) return known;
  const tile = document.createElement('canvas');
  tile.width = tile.height = 8;
  const t = tile.getContext('2d')!;
  t.fillStyle = ground;
  t.fillRect(0, 0, 8, 8);
  t.fillStyle = t.strokeStyle = ink;
  if (kind === 'stipple') {
    for (const [x, y] of [
      [1, 1],
      [5, 3],
      [3, 6],
      [7, 7],
    ] as const)
      t.fillRect(x, y, 1, 1);
  } else if (kind === 'waves') {
    t.beginPath();
    t.moveTo(0, 5);
    t.bezierCurveTo(2, 2, 6, 8, 8, 5);
    t.stroke();
  } else if (kind === 'rungs') t.fillRect(0, 3, 8, 1);
  else {
    t.lineWidth = 1;
    t.beginPath();
    for (const o of [-8, 0, 8]) {
      t.moveTo(o, 8);
      t.lineTo(o + 8, 0);
    }
    t.stroke();
  }
  const pattern = ctx.createPattern(tile, 'repeat')!;
  patterns.set(key, pattern);
  return pattern;
}
