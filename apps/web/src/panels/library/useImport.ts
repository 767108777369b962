import type { ImportReport, PropImportReport } from '@yesca/contract';
import { useMaterials, usePacks, useProps } from '../../state/remote.ts';
import { useUpload } from './useUpload.ts';

/** Sends pictures to the library, into a pack where one is named. */
export function useImport() {
  const { mutate: reloadMaterials } = useMaterials();
  const { mutate: reloadPacks } = usePacks();
  const { take, ...rest } = useUpload<ImportReport>('/api/packs/import', () =>
    Promise.all([reloadMaterials(), reloadPacks()]),
  );
  return { ...rest, take: (files: readonly File[], pack?: string) => take(files, pack ? { pack } : {}) };
}

/** Sends models to the library. */
export function useModelImport() {
  const { mutate: reloadProps } = useProps();
  const { mutate: reloadPacks } = usePacks();
  return useUpload<PropImportReport>('/api/props/import', () => Promise.all([reloadProps(), reloadPacks()]));
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
