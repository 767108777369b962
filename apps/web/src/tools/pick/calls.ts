import { call, idsOf, type Call } from '@yesca/core';
import { boxToBox } from '../../geometry/own-axes.ts';
import { useEditor } from '../../state/editor.ts';
import { pickedIds } from '../../state/selection.ts';
import { movedPicked } from '../../state/moved.ts';
import { rowAlong } from '../../geometry/row.ts';
import { useWork } from '../../state/work.ts';
import { usePickOptions } from './options.ts';
import type { Gesture } from './state.ts';
import { turnMap, skewMap } from './guides.ts';

const editor = () => useEditor.getState();

/** What a drag of what is selected does: moves it, copies it, or fills the way with copies. */
export function movedCall({ box, by, copy, row }: Gesture<'moving'>): Call {
  const { doc, selection } = editor();
  const along = copy && row ? rowAlong(box, by) : null;
  if (along) return call('pick.repeat', { picked: pickedIds(selection), ...along, carry: useWork.getState().carry });
  if (copy) return call('pick.duplicate', { picked: pickedIds(selection), by });
  return call('pick.move', { picked: idsOf(movedPicked(doc, selection)), by, carry: useWork.getState().carry });
}

/** Resizes by scaling, or, with slopes kept, by moving only the faces on the sides that moved. */
export function resizeCall({ box, to, turn }: Gesture<'resizing'>): Call {
  const { selection } = editor();
  const picked = pickedIds(selection);
  const { resize } = usePickOptions.getState();
  const { carry } = useWork.getState();
  if (turn !== 0) return call('pick.transform', { picked, map: boxToBox(box, to, turn), carry, as: 'resize' });
  const { brushes = [], ...others } = picked;
  return resize === 'slopes' && brushes.length && Object.keys(others).length === 0
    ? call('pick.stretch', { brushes, to, carry })
    : call('pick.resize', { picked, to, carry });
}

/** What turning or skewing what is selected does. */
export function mapCall(s: Gesture<'turning' | 'skewing'>): Call {
  const { doc, selection } = editor();
  const view = s.start.view!;
  const { carry } = useWork.getState();
  if (s.name === 'skewing')
    return call('pick.transform', {
      picked: pickedIds(selection),
      map: skewMap(view, s.box, s.along, s.by),
      carry,
      as: 'skew',
    });
  return call('pick.transform', { picked: idsOf(movedPicked(doc, selection)), map: turnMap(view, s.box, s.by), carry });
}
