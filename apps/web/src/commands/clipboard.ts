import { call, copyPicked } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { asPicked, isEmptySelection, pickedIds } from '../state/selection.ts';

/** Puts what is selected on the clipboard as the text of a small map file, and takes it away when cut. Gives whether anything was selected. */
export function copyHere(clipboard: DataTransfer | null, cut: boolean): boolean {
  const { doc, selection, run } = useEditor.getState();
  if (!clipboard || isEmptySelection(selection)) return false;
  clipboard.setData('text/plain', copyPicked(doc, asPicked(selection)));
  if (cut) run(call('pick.remove', { picked: pickedIds(selection), as: 'cut' }));
  return true;
}

/** Pastes one grid step beside where it was copied and selects it; other text is refused with a notice. */
export function pasteHere(text: string): boolean {
  const { run, doc } = useEditor.getState();
  const { grid } = doc.settings;
  run(call('pick.paste', { text, by: [grid, -grid, 0] }));
  return true;
}
