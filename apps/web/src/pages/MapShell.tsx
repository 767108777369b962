import './shell.css';
import { ActionIcon, Button, Tooltip, UnstyledButton } from '@mantine/core';
import { modals } from '@mantine/modals';
import { IconArrowBackUp, IconArrowForwardUp, IconKeyboard, IconPlayerPlay, IconSearch } from '@tabler/icons-react';
import { useEffect, useState } from 'react';
import { NavLink, Outlet, useBlocker, useLocation, useNavigate, useParams } from 'react-router';
import type { MapBody } from '@yesca/contract';
import { firstSpawn } from '@yesca/core';
import { parseMapFromServer } from '../api/document.ts';
import { get } from '../api/client.ts';
import { useMaterials, useProps } from '../state/remote.ts';
import { ChecksMenu } from '../panels/ChecksMenu.tsx';
import { ConflictPanel } from '../panels/ConflictPanel.tsx';
import { SEAL_WORDS } from '../panels/seal-words.ts';
import { Dialogs } from '../panels/Dialogs.tsx';
import { Palette, openPalette } from '../palette/Palette.tsx';
import { openShortcuts } from '../palette/Shortcuts.tsx';
import { frameAll, goToLeak } from '../commands/viewing.ts';
import { keepChecked } from '../state/checking.ts';
import { whenLaidOut } from '../state/pane-sizes.ts';
import { TOOLS } from '../tools/index.ts';
import { useEditor } from '../state/editor.ts';
import { keepSaved, saveBeforeLeaving, saveNow } from '../state/saving.ts';
import { keepUndo, recallUndo } from '../state/undo-memory.ts';
import { Loading } from './RouteState.tsx';
import { HomeMark } from './HomeMark.tsx';
import { ThemeSwitch } from './ThemeSwitch.tsx';
import { usePlayKey } from './usePlayKey.ts';
import { useCamera } from '../state/camera.ts';
import { useCurrent } from '../state/current.ts';
import { useLayout } from '../state/layout.ts';

const SAVE_WORDS = {
  saved: 'Saved',
  unsaved: 'Saving…',
  saving: 'Saving…',
  offline: 'Not saved – retrying',
  stale: 'Changed elsewhere',
  gone: 'Deleted elsewhere',
} as const;

/** The frame of a map's pages: loads the document once, keeps it saved and checked, and shows its state on top. */
export function MapShell() {
  const { mapId = '' } = useParams();
  const loaded = useEditor((s) => s.mapId === mapId);
  const [error, setError] = useState<Error | null>(null);
  useEffect(() => {
    let gone = false;
    const now = useEditor.getState();
    // Edits that are still on their way are newer than what the server would give.
    if (now.mapId === mapId && now.save !== 'saved') return void saveNow();
    if (now.mapId === mapId) useEditor.setState({ mapId: null });
    get<MapBody>(`/api/maps/${mapId}`)
      .then((body) => {
        if (gone) return;
        const doc = parseMapFromServer(body.document);
        useEditor.getState().load(mapId, body.version, doc, body.projectId);
        void recallUndo(mapId);
        const spawn = firstSpawn(doc.entities.values());
        const floor = spawn?.at[2] ?? 0;
        useCurrent.setState({ tool: TOOLS[0]!.name, pivot: null });
        useLayout.setState({ full: null });
        useCamera.setState({
          level: floor,
          section: { at: [0, spawn ? Math.round(spawn.at[1]) : 0], looks: 90 },
        });
        whenLaidOut(frameAll);
      })
      .catch((problem: Error) => !gone && setError(problem));
    return () => {
      gone = true;
    };
  }, [mapId]);
  useEffect(() => {
    const stopSaving = keepSaved();
    const stopChecking = keepChecked();
    const stopUndo = keepUndo();
    return () => {
      stopSaving();
      stopChecking();
      stopUndo();
    };
  }, []);
  // A map may use imported materials whether or not Stock is open; without the list it is shown all the same.
  const { data: materials, error: noMaterials } = useMaterials();
  useProps();
  useLeaving(mapId);
  usePlayKey(mapId);
  if (error) throw error;
  return (
    <div className="shell">
      <Head mapId={mapId} />
      <ConflictPanel />
      <div className="shell-page">{loaded && (materials || noMaterials) ? <Outlet /> : <Loading />}</div>
      <Palette />
      <Dialogs />
    </div>
  );
}

/** Leaving a map first saves it; when that cannot be done, a person decides. */
function useLeaving(mapId: string): void {
  const blocker = useBlocker(
    ({ nextLocation }) => !nextLocation.pathname.startsWith(`/maps/${mapId}/`) && useEditor.getState().save !== 'saved',
  );
  useEffect(() => {
    if (blocker.state !== 'blocked') return;
    void saveBeforeLeaving().then((saved) => {
      if (saved) return blocker.proceed();
      let leaving = false;
      const { save } = useEditor.getState();
      const choice = save === 'stale' || save === 'gone';
      modals.openConfirmModal({
        title: 'Not everything is saved',
        children: choice
          ? 'This map was changed elsewhere, and your last changes are only here. Stay and choose what becomes of them, or leave and lose them.'
          : 'The last changes to this map could not be saved. Stay until the server is back, or leave and lose them.',
        labels: { confirm: 'Leave and lose them', cancel: choice ? 'Stay and choose' : 'Stay' },
        onConfirm: () => {
          leaving = true;
          blocker.proceed();
        },
        // Cancel, Esc and the cross all end here.
        onClose: () => leaving || blocker.reset(),
      });
    });
  }, [blocker]);
}

function Head({ mapId }: { mapId: string }) {
  const name = useEditor((s) => s.doc.name);
  const save = useEditor((s) => s.save);
  const sealing = useEditor((s) => s.sealing.state);
  const undo = useEditor((s) => s.undo.at(-1));
  const redo = useEditor((s) => s.redo.at(-1));
  const findings = useEditor((s) => s.findings);
  const { undoOne, redoOne } = useEditor.getState();
  const preset = useCurrent((s) => s.preset);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  if (pathname.endsWith('/play')) return null;
  return (
    <header className="shell-head">
      <HomeMark />
      <span className="shell-map">{name}</span>
      <Tooltip
        label={
          save === 'stale' || save === 'gone' ? 'Choose below what becomes of it' : 'Every change is saved by itself'
        }
      >
        <span className="save-state" data-state={save} data-testid="save-state">
          {SAVE_WORDS[save]}
        </span>
      </Tooltip>
      <nav className="shell-tabs" aria-label="Pages of the map">
        {(['shape', 'build', 'sight', 'play'] as const).map((page) => (
          <NavLink
            key={page}
            to={`/maps/${mapId}/${page}`}
            className={({ isActive }) => `shell-tab${isActive ? ' active' : ''}`}
          >
            {page[0]!.toUpperCase() + page.slice(1)}
          </NavLink>
        ))}
      </nav>
      <span className="shell-grow" />
      {sealing === 'leaking' ? (
        <Tooltip label="Go to the hole; the checks beside offer ways to close it">
          <UnstyledButton className="badge" data-state={sealing} data-testid="sealing" onClick={goToLeak}>
            {SEAL_WORDS[sealing]}
          </UnstyledButton>
        </Tooltip>
      ) : (
        <span className="badge" data-state={sealing} data-testid="sealing">
          {SEAL_WORDS[sealing]}
        </span>
      )}
      <ChecksMenu findings={findings} />
      <Tooltip label={undo ? `Undo: ${undo.label} — Ctrl Z` : 'Nothing to undo'}>
        <ActionIcon aria-label="Undo" disabled={!undo} onClick={undoOne}>
          <IconArrowBackUp size={18} stroke={1.5} />
        </ActionIcon>
      </Tooltip>
      <Tooltip label={redo ? `Redo: ${redo.label} — Ctrl Shift Z` : 'Nothing to redo'}>
        <ActionIcon aria-label="Redo" disabled={!redo} onClick={redoOne}>
          <IconArrowForwardUp size={18} stroke={1.5} />
        </ActionIcon>
      </Tooltip>
      <Tooltip label="Find a command — Ctrl K">
        <ActionIcon aria-label="Find a command" onClick={openPalette}>
          <IconSearch size={17} stroke={1.5} />
        </ActionIcon>
      </Tooltip>
      <Tooltip label="Shortcuts — ?">
        <ActionIcon aria-label="Shortcuts" onClick={openShortcuts}>
          <IconKeyboard size={18} stroke={1.5} />
        </ActionIcon>
      </Tooltip>
      <ThemeSwitch />
      <Tooltip label={`Walk the last build; Ctrl B builds it anew first (${preset})`}>
        <Button
          className="act"
          leftSection={<IconPlayerPlay size={14} />}
          onClick={() => void navigate(`/maps/${mapId}/play`)}
        >
          Play
        </Button>
      </Tooltip>
    </header>
  );
}
