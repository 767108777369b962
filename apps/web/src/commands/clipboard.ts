import { copyPicked, pasteText, removePicked } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { asPicked, isEmptySelection, NOTHING, type Selection } from '../state/selection.ts';

/** Puts what is selected on the clipboard as the text of a small map file, and takes it away when cut. Gives whether anything was selected. */
export function copyHere(clipboard: DataTransfer | null, cut: boolean): boolean {
  const { doc, selection, run } = useEditor.getState();
  if (!clipboard || isEmptySelection(selection)) return false;
  clipboard.setData('text/plain', copyPicked(doc, asPicked(selection)));
  if (cut) run('Cut', (d) => removePicked(d, asPicked(selection)));
  return true;
}

/** Pastes one grid step beside where it was copied and selects it; other text is refused with a notice. */
export function pasteHere(text: string): boolean {
  const { run, select, doc } = useEditor.getState();
  const { grid } = doc.settings;
  let made: Selection | null = null;
  const done = run('Paste', (d) => {
    const result = pasteText(d, text, [grid, -grid, 0]);
    made = { ...NOTHING, ...result.picked };
    return result.doc;
  });
  if (done && made) select(made);
  return true;
}
