import { useEffect } from 'react';
import { useDialogs, type DialogName } from '../state/dialogs.ts';
import { keepSelection } from './Assemblies.tsx';
import { openCopyCommands } from './CopyCommands.tsx';
import { openDrawing } from './Drawing.tsx';
import { openRevisions } from './Revisions.tsx';

const OPEN: Readonly<Record<DialogName, () => void>> = {
  revisions: openRevisions,
  copyCommands: openCopyCommands,
  keepAssembly: keepSelection,
  drawing: openDrawing,
};

/** Opens the dialogs that commands ask for. */
export function Dialogs() {
  const asked = useDialogs((s) => s.asked);
  const ask = useDialogs((s) => s.ask);
  useEffect(() => {
    if (!asked) return;
    ask(null);
    OPEN[asked]();
  }, [asked, ask]);
  return null;
}
