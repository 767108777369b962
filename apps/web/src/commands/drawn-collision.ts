import { mutate } from 'swr';
import { drawnCollision } from '@yesca/core';
import { api } from '../api/client.ts';
import { useEditor } from '../state/editor.ts';
import { isImported, useLibrary } from '../state/library.ts';
import { notify, notifyError } from '../state/notify.ts';
import { asPicked } from '../state/selection.ts';

/** Lets the selected prop collide as the selected brushes, wherever it stands; the brushes stay in the map. Why it cannot is told. */
export async function collideAsDrawn(): Promise<void> {
  const { doc, selection } = useEditor.getState();
  try {
    const { model, corners } = drawnCollision(doc, asPicked(selection));
    const known = useLibrary.getState().props.get(model);
    if (known && !isImported(known)) {
      notifyError(
        new Error(
          `${known.label} comes with Yesca and stays as it is. In Particulars let it collide as nothing, and give the brushes the role Clip.`,
        ),
      );
      return;
    }
    await api('PATCH', `/api/props/${model}`, { drawn: corners.map((c) => ({ corners: c })) });
    await mutate('/api/stock/props');
    const as = corners.length === 1 ? 'the brush' : `the ${corners.length} brushes`;
    notify(
      `${known?.label ?? model} collides as ${as} drawn for it, in every map. Delete what you drew, if it is not wanted here; the Props page lets it collide otherwise.`,
      'import',
    );
  } catch (error) {
    notifyError(error);
  }
}
