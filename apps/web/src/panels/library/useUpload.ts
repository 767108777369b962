import { useRef, useState } from 'react';
import { upload } from '../../api/client.ts';
import { notifyError } from '../../state/notify.ts';

/** Sends files to an address; says while it works, can be stopped, and gives what became of them. `reload` is waited for before that. */
export function useUpload<Report>(
  path: string,
  reload: () => Promise<unknown>,
): {
  readonly busy: string | null;
  readonly stop: () => void;
  /** Null when nothing was taken: the reason was shown. */
  readonly take: (files: readonly File[], fields?: Readonly<Record<string, string>>) => Promise<Report | null>;
} {
  const [busy, setBusy] = useState<string | null>(null);
  const abort = useRef<AbortController | null>(null);
  return {
    busy,
    stop: () => abort.current?.abort(),
    take: async (files, fields = {}) => {
      if (files.length === 0) return null;
      setBusy(`Reading ${files.length === 1 ? files[0]!.name : `${files.length} files`} …`);
      abort.current = new AbortController();
      const form = new FormData();
      for (const [name, value] of Object.entries(fields)) form.append(name, value);
      // A dropped folder keeps its folders in the names.
      for (const file of files)
        form.append('files', file, (file as { path?: string }).path?.replace(/^\.?\//, '') ?? file.name);
      try {
        const report = await upload<Report>(path, form, abort.current.signal);
        await reload();
        return report;
      } catch (error) {
        notifyError(error);
        return null;
      } finally {
        setBusy(null);
      }
    },
  };
}
