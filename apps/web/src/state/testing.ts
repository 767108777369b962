import type { Call, MapDocument } from '@yesca/core';
import { callTo, useEditor } from './editor.ts';

/** For tests: a command that makes of the open document what a function makes of it. */
export const edited = (label: string, change: (doc: MapDocument) => MapDocument): Call =>
  callTo(change(useEditor.getState().doc), label);
