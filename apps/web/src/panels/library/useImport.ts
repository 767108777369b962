import { useRef, useState } from 'react';
import type { ImportReport } from '@yesca/contract';
import { upload } from '../../api/client.ts';
import { useMaterials, usePacks } from '../../state/remote.ts';
import { notifyError } from '../../state/notify.ts';

/** Sends files to the library; says while it works, can be stopped, and gives what became of each file. */
export function useImport(): {
  readonly busy: string | null;
  readonly stop: () => void;
  /** Null when nothing was taken: the reason was shown. */
  readonly take: (files: readonly File[], pack?: string) => Promise<ImportReport | null>;
} {
  const { mutate: reloadMaterials } = useMaterials();
  const { mutate: reloadPacks } = usePacks();
  const [busy, setBusy] = useState<string | null>(null);
  const abort = useRef<AbortController | null>(null);
  return {
    busy,
    stop: () => abort.current?.abort(),
    take: async (files, pack) => {
      if (files.length === 0) return null;
      setBusy(`Reading ${files.length === 1 ? files[0]!.name : `${files.length} files`} …`);
      abort.current = new AbortController();
      const form = new FormData();
      if (pack) form.append('pack', pack);
      // A dropped folder keeps its folders in the names.
      for (const file of files)
        form.append('files', file, (file as { path?: string }).path?.replace(/^\.?\//, '') ?? file.name);
      try {
        const report = await upload<ImportReport>('/api/packs/import', form, abort.current.signal);
        await Promise.all([reloadMaterials(), reloadPacks()]);
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

/** What became of an import in a sentence or two. */
export function importWords({ added, same, refused, pack }: ImportReport): string {
  const parts = [
    added.length ? `${added.length} imported into ${pack.name}.` : '',
    same.length ? `${same.length} ${same.length === 1 ? 'was' : 'were'} there already.` : '',
    refused[0] ? `${refused.length} refused. ${refused[0].file}: ${refused[0].message}` : '',
  ];
  return parts.filter(Boolean).join(' ');
}
