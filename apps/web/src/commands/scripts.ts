import { isRefusal, parseScript } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { reportFault } from '../state/fault.tsx';
import { notify, notifyError } from '../state/notify.ts';

/** Does the commands that are on the clipboard as one undoable step, and selects what the last of them made. */
export async function runCopiedCommands(): Promise<void> {
  const text = await navigator.clipboard.readText().catch(() => null);
  if (text === null)
    return notify('The browser does not let this page read the clipboard. Allow it, then run them again.');
  runCommands(text);
}

export function runCommands(text: string): void {
  try {
    const commands = parseScript(text);
    if (useEditor.getState().runAll(commands))
      notify(`${commands.length} ${commands.length === 1 ? 'command' : 'commands'} done.`, 'run-commands');
  } catch (error) {
    if (isRefusal(error)) notifyError(error);
    else reportFault(error, { name: 'Run copied commands', args: text });
  }
}
