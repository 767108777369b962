import {
  brushPlanes,
  call,
  cross,
  distance,
  modelOf,
  normalize,
  addScaled,
  type Call,
  type Dab,
  type Vec3,
} from '@yesca/core';
import { surfaceUnder } from '../geometry/surface-under.ts';
import { useEditor } from '../state/editor.ts';
import { usePlaceOptions } from './place-options.ts';
import { pointOn, type PanePointer } from './tool.ts';

const editor = () => useEditor.getState();

/** Places of a stroke lie this share of the brush's radius apart. */
const STEP = 0.4;
const SEEDS = 1_000_000;
const RING = 32;

type State =
  | { readonly name: 'idle' }
  | { readonly name: 'strewing'; readonly seed: number; dabs: Dab[] }
  | { readonly name: 'taking'; readonly gone: Set<string> };

/** The surface of a brush under the pointer, through props that stand before it. */
function dabAt(p: PanePointer): Dab | null {
  const { doc } = editor();
  if (p.pane !== 'eye') {
    const [x, y] = p.raw;
    return { at: [x, y, surfaceUnder(doc, p.raw)], normal: [0, 0, 1] };
  }
  const hit = p.hits.find((h) => h.thing.type === 'brush' && h.face >= 0);
  const brush = hit && doc.brushes.get(hit.thing.id);
  const plane = brush && brushPlanes(brush)[hit.face];
  const at = plane && pointOn(p, plane);
  return at ? { at, normal: plane.normal } : null;
}

/** The brush of props as it lies on a surface. */
function ringOn({ at, normal }: Dab, radius: number): Vec3[] {
  const s = normalize(cross(Math.abs(normal[2]) > 0.9 ? [0, 1, 0] : [0, 0, 1], normal));
  const t = cross(normal, s);
  return Array.from({ length: RING + 1 }, (_, k) => {
    const a = (k / RING) * 2 * Math.PI;
    return addScaled(addScaled(at, s, Math.cos(a) * radius), t, Math.sin(a) * radius);
  });
}

function strewCall({ dabs, seed }: { readonly dabs: readonly Dab[]; readonly seed: number }): Call {
  const { prop, radius, spacing, spread, density, aligned } = usePlaceOptions.getState();
  return call('prop.strew', { dabs, radius, models: prop ? [prop] : [], spacing, seed, spread, density, aligned });
}

/** The props of the kind in hand that stand within the brush. */
function standingIn({ at }: Dab): string[] {
  const { prop, radius } = usePlaceOptions.getState();
  return [...editor().doc.entities.values()]
    .filter((e) => modelOf(e)?.name === prop && distance(e.at, at) <= radius)
    .map((e) => e.id);
}

const removal = (ids: ReadonlySet<string>): Call => call('pick.remove', { picked: { entities: [...ids] } });

/** A brush of props: a drag strews them, with Shift it takes those of their kind away. */
export function strewGesture() {
  let state: State = { name: 'idle' };
  const ring = (dab: Dab | null, note?: string): void =>
    editor().setOverlay({
      lines: dab
        ? [
            {
              points: ringOn(dab, usePlaceOptions.getState().radius),
              ink: state.name === 'taking' ? 'ember' : 'indigo',
            },
          ]
        : [],
      ...(note ? { note } : {}),
    });
  const go = (p: PanePointer): void => {
    const dab = dabAt(p);
    if (state.name === 'idle' || !dab) return ring(dab, 'Drag to strew; with Shift to take away.');
    if (state.name === 'taking') {
      for (const id of standingIn(dab)) state.gone.add(id);
      if (state.gone.size > 0) editor().preview(removal(state.gone));
      return ring(dab, `${state.gone.size} taken away`);
    }
    const last = state.dabs.at(-1);
    if (!last || distance(last.at, dab.at) >= usePlaceOptions.getState().radius * STEP) {
      state.dabs = [...state.dabs, dab];
      const before = editor().doc.entities.size;
      const shown = editor().preview(strewCall(state));
      return ring(dab, shown ? `${shown.doc.entities.size - before} strewn` : undefined);
    }
    ring(dab, editor().overlay.note);
  };
  return {
    down: (p: PanePointer): void => {
      state = p.shift
        ? { name: 'taking', gone: new Set() }
        : { name: 'strewing', seed: Math.floor(Math.random() * SEEDS), dabs: [] };
      go(p);
    },
    move: go,
    up: (p: PanePointer): void => {
      const was = state;
      state = { name: 'idle' };
      editor().preview(null);
      const { selection, select } = editor();
      if (was.name === 'strewing' && was.dabs.length > 0) editor().run(strewCall(was));
      if (was.name === 'taking' && was.gone.size > 0) editor().run(removal(was.gone));
      // What was selected stays so: it is a brush.
      if (was.name === 'strewing') select(selection);
      ring(dabAt(p));
    },
    cancel: (): boolean => {
      const had = state.name !== 'idle';
      state = { name: 'idle' };
      editor().preview(null);
      editor().setOverlay({});
      return had;
    },
  };
}
