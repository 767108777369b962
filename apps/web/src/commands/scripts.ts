import { isRefusal, parseScript, runScript } from '@yesca/core';
import { callTo, useEditor } from '../state/editor.ts';
import { reportFault } from '../state/fault.tsx';
import { materialFacts } from '../state/library.ts';
import { notify, notifyError } from '../state/notify.ts';
import { selectionOf } from '../state/selection.ts';

/** Does the commands that are on the clipboard as one undoable step, and selects what the last of them made. */
export async function runCopiedCommands(): Promise<void> {
  const text = await navigator.clipboard.readText().catch(() => null);
  if (text === null)
    return notify('The browser does not let this page read the clipboard. Allow it, then run them again.');
  runCommands(text);
}

export function runCommands(text: string): void {
  const { doc, run, select } = useEditor.getState();
  try {
    const commands = parseScript(text);
    const { doc: after, made } = runScript(doc, commands, { materials: materialFacts });
    if (!run(callTo(after, `${commands.length} commands`))) return;
    if (made) select(selectionOf(made));
    notify(`${commands.length} ${commands.length === 1 ? 'command' : 'commands'} done.`, 'run-commands');
  } catch (error) {
    if (isRefusal(error)) notifyError(error);
    else reportFault(error, { name: 'Run copied commands', args: text });
  }
}
