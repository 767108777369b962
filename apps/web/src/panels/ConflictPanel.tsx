import './conflict.css';
import { Button, Group, SegmentedControl, Text, Tooltip } from '@mantine/core';
import { modals } from '@mantine/modals';
import { useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { MapBody } from '@yesca/contract';
import { compareMaps, mergeMaps, writeMap, type Conflict, type MapDocument } from '@yesca/core';
import { api, get } from '../api/client.ts';
import { parseMapFromServer } from '../api/document.ts';
import { fileName, saveFile } from '../api/save-file.ts';
import { callTo, useEditor } from '../state/editor.ts';
import { notify, notifyError } from '../state/notify.ts';
import { saveNow } from '../state/saving.ts';
import { ComparePlan, Summary } from './Revisions.tsx';

interface Theirs {
  readonly version: number;
  readonly doc: MapDocument;
}

/** Stays while a map was saved or deleted elsewhere, with every way on: nothing is lost until somebody chooses. */
export function ConflictPanel() {
  const save = useEditor((s) => s.save);
  const mapId = useEditor((s) => s.mapId);
  if (!mapId) return null;
  if (save === 'stale') return <Stale key={mapId} mapId={mapId} />;
  if (save === 'gone') return <Gone mapId={mapId} />;
  return null;
}

function Stale({ mapId }: { mapId: string }) {
  const [theirs, setTheirs] = useState<Theirs | null>(null);
  const [merging, setMerging] = useState(false);
  useEffect(() => {
    get<MapBody>(`/api/maps/${mapId}`)
      .then((body) => setTheirs({ version: body.version, doc: parseMapFromServer(body.document) }))
      .catch(notifyError);
  }, [mapId]);
  const takeTheirs = () => {
    if (!theirs) return;
    goOn(theirs, 'Take theirs', theirs.doc);
    notify('Theirs is on screen. Undo brings yours back.', 'conflict');
  };
  return (
    <section className="conflict" role="alert" aria-label="This map was changed elsewhere" data-testid="conflict">
      <Text size="sm">
        <b>This map was saved from elsewhere</b> (version {theirs?.version ?? '…'}). What you see is only here; choose
        what becomes of it.
      </Text>
      <Group gap={6} mt={6}>
        <Tooltip label="The plan with what is only here, only there, and different">
          <Button variant="default" size="xs" disabled={!theirs} onClick={() => theirs && seeBoth(theirs.doc)}>
            See both on the Plan
          </Button>
        </Tooltip>
        <Tooltip label="Puts their changes and yours together; what both touched is asked">
          <Button className="act" size="xs" disabled={!theirs} onClick={() => setMerging(true)}>
            Merge
          </Button>
        </Tooltip>
        <CopyButton />
        <Tooltip label="Shows theirs in place of yours; Undo brings yours back">
          <Button variant="default" size="xs" disabled={!theirs} onClick={takeTheirs}>
            Take theirs
          </Button>
        </Tooltip>
        <FileButton />
      </Group>
      {merging && theirs && <Merge theirs={theirs} onClose={() => setMerging(false)} />}
    </section>
  );
}

/** What both touched, one choice each; what only one touched needs none. */
function Merge({ theirs, onClose }: { theirs: Theirs; onClose: () => void }) {
  const base = useEditor((s) => s.base);
  const mine = useEditor((s) => s.doc);
  const [choices, setChoices] = useState<ReadonlyMap<string, 'mine' | 'theirs'>>(new Map());
  const merged = useMemo(() => mergeMaps(base, mine, theirs.doc, choices), [base, mine, theirs, choices]);
  const { preview } = useEditor.getState();
  useEffect(() => {
    preview(callTo(merged.doc, 'Merge'));
    return () => void preview(null);
  }, [merged, preview]);
  const take = () => {
    preview(null);
    goOn(theirs, 'Merge', merged.doc);
    const left = merged.dropped.length
      ? ` ${merged.dropped.length} opening(s) of rooms that are gone were left out.`
      : '';
    notify(`Merged.${left} Undo brings yours back.`, 'conflict');
    onClose();
  };
  const word = (c: Conflict, side: 'mine' | 'theirs') => `${side === 'mine' ? 'Mine' : 'Theirs'} · ${c[side]}`;
  return (
    <div className="conflict-merge" data-testid="conflict-merge">
      <Text size="xs" c="dimmed">
        {merged.conflicts.length === 0
          ? 'You and they changed different things. The panes show both together.'
          : `Both changed ${merged.conflicts.length === 1 ? 'this' : 'these'}; the panes show what you choose.`}
      </Text>
      <div className="conflict-list">
        {merged.conflicts.map((c) => (
          <Group key={c.key} gap={8} wrap="nowrap" justify="space-between">
            <Text size="xs">{c.label}</Text>
            <SegmentedControl
              size="xs"
              aria-label={`Whose ${c.label}`}
              value={choices.get(c.key) ?? 'theirs'}
              onChange={(v) => setChoices(new Map(choices).set(c.key, v as 'mine'))}
              data={[
                { value: 'mine', label: word(c, 'mine') },
                { value: 'theirs', label: word(c, 'theirs') },
              ]}
            />
          </Group>
        ))}
      </div>
      <Group gap={6}>
        <Button className="act" size="xs" onClick={take}>
          Take the merged map
        </Button>
        <Button variant="default" size="xs" onClick={onClose}>
          Back
        </Button>
      </Group>
    </div>
  );
}

function Gone({ mapId }: { mapId: string }) {
  const bringBack = () => {
    api('POST', `/api/maps/${mapId}/restore`)
      .then(() => {
        useEditor.getState().set({ save: 'unsaved' });
        return saveNow();
      })
      .catch(notifyError);
  };
  return (
    <section className="conflict" role="alert" aria-label="This map was deleted elsewhere" data-testid="conflict">
      <Text size="sm">
        <b>This map was deleted elsewhere.</b> What you see is only here; choose what becomes of it.
      </Text>
      <Group gap={6} mt={6}>
        <Tooltip label="Puts the map back on the Shelf, with your changes">
          <Button className="act" size="xs" onClick={bringBack}>
            Bring it back
          </Button>
        </Tooltip>
        <CopyButton />
        <FileButton />
      </Group>
    </section>
  );
}

/** Goes on from somebody else's version with a document that one step of undo takes back. */
function goOn(theirs: Theirs, label: string, doc: MapDocument): void {
  const { run } = useEditor.getState();
  useEditor.getState().set({ base: theirs.doc, version: theirs.version, save: 'unsaved' });
  run(callTo(doc, label));
  void saveNow();
}

function seeBoth(theirs: MapDocument): void {
  const { doc } = useEditor.getState();
  const comparison = compareMaps(theirs, doc);
  modals.open({
    title: 'Theirs, and what is different in yours',
    size: '92vw',
    classNames: { body: 'revisions' },
    closeButtonProps: { 'aria-label': 'Close the comparison' },
    children: (
      <div className="revisions-compare">
        <Summary comparison={comparison} />
        <ComparePlan before={theirs} after={doc} comparison={comparison} />
      </div>
    ),
  });
}

/** Stores the map as it is on screen under another name, and goes on there. */
function CopyButton() {
  const navigate = useNavigate();
  const keep = () => {
    const { doc, projectId } = useEditor.getState();
    const name = `${doc.name.slice(0, 190)} (mine)`;
    api<MapBody>('POST', '/api/maps', { projectId, name, document: writeMap(doc) })
      .then((copy) => {
        // This map is left as it is elsewhere.
        useEditor.getState().set({ save: 'saved' });
        notify(`Yours is now ${copy.name}.`, 'conflict');
        return navigate(`/maps/${copy.id}/shape`);
      })
      .catch(notifyError);
  };
  return (
    <Tooltip label="Stores yours as a map of its own beside this one, and goes on there">
      <Button variant="default" size="xs" onClick={keep}>
        Keep mine as a copy
      </Button>
    </Tooltip>
  );
}

function FileButton() {
  const write = () => {
    const { doc } = useEditor.getState();
    saveFile(fileName(doc.name, '.yesca.json'), writeMap(doc));
  };
  return (
    <Tooltip label="Writes yours into a file that can be imported on the Shelf">
      <Button variant="default" size="xs" onClick={write}>
        Save mine as a file
      </Button>
    </Tooltip>
  );
}
