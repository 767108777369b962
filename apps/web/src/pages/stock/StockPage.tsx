import './stock-page.css';
import { Button, Text, Tooltip } from '@mantine/core';
import { IconUpload } from '@tabler/icons-react';
import type { ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { UploadBusy } from '../../panels/library/UploadBusy.tsx';
import { PageHead } from '../PageHead.tsx';
import { ImportReport, type Outcome } from './ImportReport.tsx';

/** A page of Stock: what there is on the left, the chosen one in the middle, packs on the right; files are imported from all of it. */
export function StockPage({
  title,
  about,
  files,
  importing,
  onFiles,
  list,
  report,
  onReport,
  onShow,
  name,
  detail,
  packs,
}: {
  title: string;
  about: string;
  /** What can be imported, as in "PNG pictures, or a ZIP of them". */
  files: string;
  importing: { readonly busy: string | null; readonly stop: () => void };
  onFiles: (files: readonly File[]) => void;
  list: ReactNode;
  /** What became of the last import, until it is closed. */
  report: Outcome | null;
  onReport: (report: Outcome | null) => void;
  onShow: (name: string) => void;
  /** What is chosen; null while nobody knows what there is. */
  name: string | null;
  /** What is known of it; nothing where nothing is called that. */
  detail: ReactNode;
  packs: ReactNode;
}) {
  const { busy, stop } = importing;
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: onFiles,
    noClick: true,
    noKeyboard: true,
    useFsAccessApi: false,
  });
  return (
    <div {...getRootProps({ className: 'stock-page' })}>
      <input
        {...getInputProps({ 'aria-label': 'Files to import', style: { display: 'none' } })}
        data-testid="import-files"
      />
      <PageHead title={title} about={about}>
        {busy && <UploadBusy busy={busy} stop={stop} />}
        <Tooltip label={`${files}; they can also be dropped anywhere here`}>
          <Button className="act" leftSection={<IconUpload size={14} />} onClick={open} disabled={busy !== null}>
            Import …
          </Button>
        </Tooltip>
      </PageHead>
      <aside className="stock-page-list">{list}</aside>
      <main className="stock-page-detail">
        {report && <ImportReport report={report} onClose={() => onReport(null)} onShow={onShow} />}
        {detail ??
          (name !== null && (
            <Text c="dimmed">
              Nothing in Stock is called {name}. Choose another one on the left, or import its pack.
            </Text>
          ))}
      </main>
      <aside className="stock-page-packs">{packs}</aside>
      {isDragActive && <div className="stock-page-drop">Drop files to import them</div>}
    </div>
  );
}
